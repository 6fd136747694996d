import { bleedFormulas, boundsOf, ruled, work, type Worked } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';
import type { RigContext } from './context.ts';
import { ifKnown } from './known.ts';

/** The voltage a store is bled below. Source: NFPA 70 (NEC), article 460, residual voltage of capacitors; from memory. */
export const residualVoltage = ruled('residual voltage to fall below', 50, 'V', 'NFPA 70 (NEC), article 460: 50 V; from memory');

/** The voltage that was set, whether a gap fires below it or not. */
export const setVoltage = (rig: RigContext): Worked => rig.offers('store').setTo ?? rig.offer('chargedTo');

/** What the store comes to in the worst case if the charge is not stopped, V; nought where that cannot be told. */
const reached = (rig: RigContext): number => ifKnown(() => boundsOf(rig.figure('charge-towards')).high) ?? 0;

/**
 * The highest voltage, V, that can stand on the store at the worst corner of the tolerances: what the supply gives if it is left on, what a choke swings it to, or
 * what is set if that is more. Of several channels the highest of all: one meter and one tool go from store to store.
 */
export const highestVoltage = (rig: RigContext): number => Math.max(...rig.channels().map(highestOn));

const highestOn = (rig: RigContext): number =>
  Math.max(boundsOf(rig.offer('sourceVoltage')).high, reached(rig), boundsOf(setVoltage(rig)).high);

/** J of all that is connected, at the voltage it is charged to. */
const allEnergy = (rig: RigContext): Worked => rig.figure('stored-energy');

/** What may be left in whatever is touched next. */
const leftEnergy = ruled(
  'energy that may be left',
  1,
  'J',
  'the lowest published line for a shock, IEC TS 60479-2: about 1 J through 1 kΩ; from memory',
);

/** Voltage at which the strap takes the first current it bears; the residual voltage where that is not entered. */
function strapVoltage(rig: RigContext): Worked {
  const I = rig.own('tool').optional('Is');
  const R = rig.offers('store').ladder ? undefined : rig.offers('store').loopResistance;
  return I && R && R.value > 0 ? work(bleedFormulas.firstStrapVoltage, { I, R }) : residualVoltage;
}

/** What a bleed goes below before anybody straps: a voltage, and how it is written. */
export interface BleedGoal {
  readonly voltage: Worked;
  readonly text: string;
}

/**
 * The one goal of every bleed, tool, reading and strap of the store: the lowest of 50 V, the voltage at which all that is connected
 * holds 1 J, and what the strap bears as a first current.
 */
export function bleedGoal(rig: RigContext): BleedGoal {
  const voltage = work(bleedFormulas.bleedGoal, {
    V0: rig.offer('chargedTo'),
    E: allEnergy(rig),
    Vr: residualVoltage,
    E1: leftEnergy,
    Vs: strapVoltage(rig),
  });
  return { voltage, text: printQuantity(voltage.value, 'V', { trim: true }) };
}

/** The same for what keeps a charge beside the store: a group, a stage, a capacitor of a doubler. J is what one of them holds. */
export const goalBeside = (V0: Worked, E: Worked): Worked =>
  work(bleedFormulas.bleedGoal, { V0, E, Vr: residualVoltage, E1: leftEnergy, Vs: residualVoltage });

/** s that people stay and wait for a bleeder; a slower one is no way for them. Common practice, no source. */
export const longestBleed = 1800;

const shortestHold = ruled('shortest hold', 10, 's', 'common practice, no source');

/** How long a tool stays on: as long as is calculated, and never less than a person can keep. */
export const holdOf = (calculated: Worked): Worked =>
  work(bleedFormulas.leastHold, { tb: calculated, tm: shortestHold }, 'time that the stick stays on');
