import { boundsOf, ruled, storeFormulas, work, type Worked } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';
import type { RigContext } from './context.ts';
import { ifKnown } from './known.ts';

/** The voltage a store is bled below. Source: NFPA 70 (NEC), article 460, residual voltage of capacitors; from memory. */
export const residualVoltage = ruled('residual voltage to fall below', 50, 'V', 'NFPA 70 (NEC), article 460: 50 V; from memory');

/** The voltage that was set, whether a gap fires below it or not. */
export const setVoltage = (rig: RigContext): Worked => rig.offers('store').setTo ?? rig.offer('chargedTo');

/** What the store comes to at worst if the charge is not stopped, V; nought where that cannot be told. */
const reached = (rig: RigContext): number => ifKnown(() => boundsOf(rig.figure('charge-towards')).high) ?? 0;

/**
 * The highest voltage, V, that can stand on the store at the worst corner of the tolerances: what the supply gives if it is left on, what a choke swings it to, or
 * what is set if that is more.
 */
export const highestVoltage = (rig: RigContext): number =>
  Math.max(boundsOf(rig.offer('sourceVoltage')).high, reached(rig), boundsOf(setVoltage(rig)).high);

/** What bleeding aims at: 50 V, or a tenth of the charge (1 % of the energy) in a store that is never above 50 V. */
export interface BleedGoal {
  readonly voltage: Worked;
  readonly text: string;
  readonly figures: { readonly bleeder: string; readonly open: string; readonly tool: string };
}

export function bleedGoal(rig: RigContext): BleedGoal {
  const charged = rig.offer('chargedTo');
  if (charged.value > residualVoltage.value) {
    return {
      voltage: residualVoltage,
      text: '50 V',
      figures: { bleeder: 'bleed-time', open: 'bleed-time-open', tool: 'tool-time' },
    };
  }
  const ten = ruled('a tenth of the charge, 1 % of the energy', 10, '1', 'common practice, no source');
  const voltage = work(storeFormulas.shareOfString, { V: charged, n: ten }, 'a tenth of the charge voltage');
  const figures = { bleeder: 'bleed-time-tenth', open: 'bleed-time-open-tenth', tool: 'tool-time-tenth' };
  return { voltage, text: printQuantity(voltage.value, 'V'), figures };
}

/** The voltage a bleed to 50 V ends at: the charge itself where it is not above 50 V, so that the time is nought. */
export const residualOf = (charged: Worked): Worked => (charged.value > residualVoltage.value ? residualVoltage : charged);
