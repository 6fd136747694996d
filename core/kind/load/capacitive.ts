import { ruled, storeFormulas, transferFormulas, work, type Worked } from '../../formula/index.ts';
import type { FigureSpec, RigContext } from '../../block/context.ts';
import type { CircuitPart, Terminals } from '../../block/define.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'load-peak-voltage': true;
    'ringing-gain': true;
    'transfer-efficiency': true;
    'transfer-final-voltage': true;
    'transfer-loss': true;
    'transfer-peak-energy': true;
  }
}

/** What a load that is a capacitor has in common: a second store, or a terminal that nothing is connected to. */

const loadOf = (rig: RigContext): Worked =>
  rig.offers('load').loadCapacitance ?? ruled('capacitance of the load', 0, 'F', 'it is no capacitor');

const pair = (rig: RigContext) => ({ C1: rig.figure('discharge-capacitance'), C2: loadOf(rig) });
const ringing = (rig: RigContext) => ({ ...pair(rig), k: rig.figure('loop-reversal') });
const across = (rig: RigContext) => rig.figure('discharge-voltage');

export const peakFigure: FigureSpec = {
  id: 'load-peak-voltage',
  title: 'Peak voltage of the load',
  slot: 'load',
  leads: true,
  compute: (rig) => work(transferFormulas.transferPeakVoltage, { V: across(rig), ...ringing(rig) }, 'peak voltage of the load'),
};

export const gainFigure: FigureSpec = {
  id: 'ringing-gain',
  title: 'Ringing gain',
  slot: 'load',
  compute: (rig) => work(transferFormulas.ringingGain, ringing(rig)),
};

export const transferFigures: readonly FigureSpec[] = [
  peakFigure,
  gainFigure,
  {
    id: 'transfer-efficiency',
    title: 'Energy in the load at the peak, share of stored',
    slot: 'load',
    compute: (rig) => work(transferFormulas.transferEfficiency, ringing(rig)),
  },
  {
    id: 'transfer-final-voltage',
    title: 'Voltage left on store and load after the ring',
    slot: 'load',
    compute: (rig) => work(transferFormulas.transferFinalVoltage, { V: across(rig), ...pair(rig) }),
  },
  {
    id: 'transfer-loss',
    title: 'Heat of the whole transfer',
    slot: 'load',
    compute: (rig) => work(transferFormulas.transferLoss, { V: across(rig), ...pair(rig) }),
  },
  {
    id: 'transfer-peak-energy',
    title: 'Energy in the load at the peak',
    slot: 'load',
    compute: (rig) =>
      work(storeFormulas.storedEnergy, { C: loadOf(rig), V: rig.figure('load-peak-voltage') }, 'energy in the load at the peak'),
  },
];

/** Path and capacitor in series. */
export const capacitiveParts = (
  { plus, minus, tag }: Terminals,
  { R, L, C, says }: { readonly R: number; readonly L: number; readonly C: number; readonly says: string },
): CircuitPart[] => {
  const inside = `${tag}c`;
  return [
    {
      element:
        L > 0
          ? { kind: 'inductor', name: `L${tag}`, nodes: [plus, inside], L, R }
          : { kind: 'resistor', name: `R${tag}`, nodes: [plus, inside], R: Math.max(R, 1e-6) },
      says: `lead to ${says}`,
    },
    { element: { kind: 'capacitor', name: `C${tag}`, nodes: [inside, minus], C }, says },
  ];
};
