import { coupledModes, coupledRing, type CoupledLoops } from '../../model/index.ts';
import { defineFormula, type Formula, type SymbolSpec } from '../define.ts';
import { capacitance, current, positiveVoltage, time, voltage } from '../symbol.ts';

const subject = 'Secondary';

export const energyVoltage = defineFormula({
  id: 'energy-voltage',
  title: 'Secondary voltage from a share of the tank energy',
  subject,
  result: { symbol: 'V2', ...voltage('voltage of the secondary'), display: 'V_2' },
  inputs: {
    V: positiveVoltage('voltage of the tank'),
    C1: { ...capacitance('of the tank'), display: 'C_1' },
    C2: { ...capacitance('of the secondary with its top'), display: 'C_2' },
    q: { title: 'share of the energy', unit: '1', min: 0, max: 1 },
  },
  expression: '{V}·√({q}·{C1}/{C2})',
  source: 'energy balance: turns do not enter',
  assumptions: ['all of that energy is in the capacitance at one instant'],
  compute: ({ V, C1, C2, q }) => V * Math.sqrt((q * C1) / C2),
  inverse: {
    V: ({ V2 = 0, C1 = 0, C2 = 0, q = 0 }) => V2 / Math.sqrt((q * C1) / C2),
    C1: ({ V2 = 0, V = 0, C2 = 0, q = 0 }) => ((V2 / V) ** 2 * C2) / q,
    C2: ({ V2 = 0, V = 0, C1 = 0, q = 0 }) => (q * C1) / (V2 / V) ** 2,
    q: ({ V2 = 0, V = 0, C1 = 0, C2 = 0 }) => ((V2 / V) ** 2 * C2) / C1,
  },
});

/** Two circuits that ring together, within what can be followed: neither lasts for more than some thousand cycles. */
const loops = {
  R1: { title: 'resistance of the tank’s loop', unit: 'Ω', min: 1e-6, max: 1e6, display: 'R_1' },
  L1: { title: 'inductance of the tank’s loop', unit: 'H', min: 1e-9, max: 10, display: 'L_1' },
  C1: { title: 'capacitance of the tank', unit: 'F', min: 1e-13, max: 1e-2, display: 'C_1' },
  R2: { title: 'resistance of the secondary', unit: 'Ω', min: 1e-6, max: 1e9, display: 'R_2' },
  L2: { title: 'inductance of the secondary', unit: 'H', min: 1e-9, max: 1e3, display: 'L_2' },
  C2: { title: 'capacitance of the secondary with its top', unit: 'F', min: 1e-15, max: 1e-2, display: 'C_2' },
  k: { title: 'coupling', unit: '1', min: 5e-3, max: 0.98 },
  V: { title: 'voltage of the tank', unit: 'V', min: 1e-3, max: 1e7 },
} as const satisfies Record<string, SymbolSpec>;

const values = (of: Readonly<Record<keyof typeof loops, number>>): CoupledLoops => of;

type Ring = ReturnType<typeof coupledRing>;

const ringFormula = (
  id: string,
  title: string,
  result: Formula['result'],
  pick: (ring: Ring) => number,
  /** The power of the voltage that it goes with. */
  order: 0 | 1 | 2,
): Formula<keyof typeof loops> =>
  defineFormula({
    id,
    title,
    subject,
    result,
    inputs: loops,
    expression:
      'from {L1}·di1/dt + M·di2/dt + {R1}·i1 = v1, {L2}·di2/dt + M·di1/dt + {R2}·i2 + v2 = 0, {C1}·dv1/dt = −i1, {C2}·dv2/dt = i2, M = {k}·√({L1}·{L2}), v1 = {V} at first',
    source: 'Kirchhoff’s laws on two coupled circuits, solved exactly from sample to sample',
    assumptions: [
      'the gap conducts until the ring is over; one that opens at the first low leaves more in the secondary',
      'no spark from the top takes energy meanwhile',
    ],
    tuned: true,
    compute: (of) => pick(coupledRing(values(of))),
    ...(order > 0
      ? {
          inverse: {
            V: (of: Readonly<Record<string, number>>) =>
              ((of[result.symbol] ?? 0) / pick(coupledRing({ ...(of as unknown as CoupledLoops), V: 1 }))) ** (1 / order),
          },
        }
      : {}),
  });

export const coupledPeakVoltage = ringFormula(
  'coupled-peak-voltage',
  'Peak voltage of a secondary',
  { symbol: 'V2', ...voltage('peak voltage of the secondary'), display: 'V_2' },
  ({ peak }) => peak,
  1,
);
export const coupledPeakTime = ringFormula(
  'coupled-peak-time',
  'Time to the peak voltage of a secondary',
  { symbol: 't', ...time('time to the peak') },
  ({ at }) => at,
  0,
);
export const coupledPrimaryCurrent = ringFormula(
  'coupled-primary-current',
  'Peak tank current with its secondary',
  { symbol: 'I1', ...current('greatest current of the tank'), display: 'I_1' },
  ({ I1 }) => I1,
  1,
);
export const coupledSecondaryCurrent = ringFormula(
  'coupled-secondary-current',
  'Peak base current of a secondary',
  { symbol: 'I2', ...current('greatest current of the secondary'), display: 'I_2' },
  ({ I2 }) => I2,
  1,
);
export const coupledPrimaryAction = ringFormula(
  'coupled-primary-action',
  'Action integral of a tank over a ring',
  { symbol: 'S1', title: 'action of the tank', unit: 'A²s', min: 0, max: 1e18, display: 'S_1' },
  ({ S1 }) => S1,
  2,
);
export const coupledSecondaryAction = ringFormula(
  'coupled-secondary-action',
  'Action integral of a secondary over a ring',
  { symbol: 'S2', title: 'action of the secondary', unit: 'A²s', min: 0, max: 1e18, display: 'S_2' },
  ({ S2 }) => S2,
  2,
);
const modes = { L1: loops.L1, C1: loops.C1, L2: loops.L2, C2: loops.C2, k: loops.k };
const frequency: SymbolSpec = { title: 'frequency', unit: 'Hz', min: 0, max: 1e15, open: true };

export const coupledLowMode = defineFormula({
  id: 'coupled-low-mode',
  title: 'Lower of the two frequencies of coupled circuits',
  subject,
  result: { symbol: 'fl', ...frequency, display: 'f_l' },
  inputs: modes,
  expression: '√((f1² + f2² − √((f1² − f2²)² + 4·{k}²·f1²·f2²))/(2·(1 − {k}²))), f1 of {L1}, {C1}, f2 of {L2}, {C2}',
  source: 'two coupled circuits without losses, exactly',
  assumptions: ['little loss'],
  compute: (of) => coupledModes(of).low,
});
export const coupledHighMode = defineFormula({
  id: 'coupled-high-mode',
  title: 'Higher of the two frequencies of coupled circuits',
  subject,
  result: { symbol: 'fh', ...frequency, display: 'f_h' },
  inputs: modes,
  expression: '√((f1² + f2² + √((f1² − f2²)² + 4·{k}²·f1²·f2²))/(2·(1 − {k}²))), f1 of {L1}, {C1}, f2 of {L2}, {C2}',
  source: 'two coupled circuits without losses, exactly',
  assumptions: ['little loss'],
  compute: (of) => coupledModes(of).high,
});

export const transferTime = defineFormula({
  id: 'transfer-time',
  title: 'Energy transfer time, half a beat',
  subject,
  result: { symbol: 't', ...time('time of the transfer') },
  inputs: {
    fl: { ...frequency, title: 'lower frequency', display: 'f_l' },
    fh: { ...frequency, title: 'higher frequency', display: 'f_h' },
  },
  expression: '1/(2·({fh} − {fl}))',
  source: 'beat of two oscillations',
  assumptions: ['both circuits in tune: out of tune not all of the energy is transferred'],
  relation: ({ fl, fh }) => (fh > fl ? null : { symbol: 'fh', reason: 'must be above the lower one' }),
  compute: ({ fl, fh }) => 1 / (2 * (fh - fl)),
  inverse: { fh: ({ t = 0, fl = 0 }) => fl + 1 / (2 * t), fl: ({ t = 0, fh = 0 }) => fh - 1 / (2 * t) },
});
