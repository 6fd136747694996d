import { defineFormula, type Values } from '../define.ts';
import { capacitance, energy, fraction, inductance, positiveVoltage, ratio, time } from '../symbol.ts';

const subject = 'Transfer';

const C1 = { ...capacitance('capacitance that is discharged'), display: 'C_1' };
const C2 = { ...capacitance('capacitance that is charged'), display: 'C_2' };
const V = positiveVoltage('charge voltage');
const k = fraction('voltage reversal of the loop of both in series');
const charges = "charge is kept; Kirchhoff's laws on a loop of two capacitors, resistance and inductance";

export const loopOfTwoCapacitors = defineFormula({
  id: 'series-of-two-capacitances',
  title: 'Two capacitances in series',
  subject,
  result: { symbol: 'C', ...capacitance('capacitance of the loop') },
  inputs: { C1, C2 },
  expression: '{C1}·{C2}/({C1} + {C2})',
  source: "Kirchhoff's laws",
  assumptions: [],
  compute: (v) => (v.C1 * v.C2) / (v.C1 + v.C2),
  inverse: {
    C1: ({ C = 0, C2: other = 0 }) => (C * other) / (other - C),
    C2: ({ C = 0, C1: other = 0 }) => (C * other) / (other - C),
  },
});

export const parallelOfTwoCapacitances = defineFormula({
  id: 'capacitance-sum',
  title: 'Two capacitances in parallel',
  subject,
  result: { symbol: 'C', ...capacitance('both together') },
  inputs: {
    C1: { ...capacitance('first capacitance'), display: 'C_1' },
    C2: { ...capacitance('second capacitance'), display: 'C_2' },
  },
  expression: '{C1} + {C2}',
  source: "Kirchhoff's laws",
  assumptions: [],
  compute: (v) => v.C1 + v.C2,
  inverse: { C1: ({ C = 0, C2: other = 0 }) => C - other, C2: ({ C = 0, C1: other = 0 }) => C - other },
});

export const transferPeakVoltage = defineFormula({
  id: 'transfer-peak-voltage',
  title: 'Peak voltage of a capacitor charged from another',
  subject,
  result: { symbol: 'V2', ...positiveVoltage('peak voltage'), display: 'V_2' },
  inputs: { V, C1, C2, k },
  expression: '{V}·{C1}/({C1} + {C2})·(1 + {k})',
  source: charges,
  assumptions: ['the peaking capacitor is empty at first', 'nothing in parallel draws current meanwhile'],
  compute: (v) => (v.V * v.C1 * (1 + v.k)) / (v.C1 + v.C2),
  inverse: { V: (v) => ((v.V2 ?? 0) * ((v.C1 ?? 0) + (v.C2 ?? 0))) / ((v.C1 ?? 0) * (1 + (v.k ?? 0))) },
});

export const transferTimeTo = defineFormula({
  id: 'transfer-time-to',
  title: 'Time until a peaking capacitor has come to a voltage',
  subject,
  result: { symbol: 't', ...time('time') },
  inputs: {
    V,
    C1,
    C2,
    L: inductance('inductance between them'),
    V2: { ...positiveVoltage('voltage that it comes to'), display: 'V_2' },
  },
  expression: '√({L}·{C1}·{C2}/({C1} + {C2}))·acos(1 − {V2}·({C1} + {C2})/({C1}·{V}))',
  source: 'two capacitors through an inductance: v2 = V·C1/(C1 + C2)·(1 − cos ωt)',
  assumptions: ['no damping: with some it comes later, or not at all'],
  relation: ({ V, C1, C2, V2 }) =>
    V2 * (C1 + C2) <= 2 * C1 * V ? null : { symbol: 'V2', reason: 'the peaking capacitor does not come to so much' },
  compute: ({ V, C1, C2, L, V2 }) =>
    Math.sqrt((L * C1 * C2) / (C1 + C2)) * Math.acos(Math.max(-1, 1 - (V2 * (C1 + C2)) / (C1 * V))),
  inverse: {
    V: ({ t = 0, C1 = 0, C2 = 0, L = 0, V2 = 0 }) =>
      (V2 * (C1 + C2)) / (C1 * (1 - Math.cos(t / Math.sqrt((L * C1 * C2) / (C1 + C2))))),
    L: ({ t = 0, C1 = 0, C2 = 0, V = 0, V2 = 0 }) =>
      (t / Math.acos(Math.max(-1, 1 - (V2 * (C1 + C2)) / (C1 * V)))) ** 2 / ((C1 * C2) / (C1 + C2)),
    V2: ({ t = 0, C1 = 0, C2 = 0, L = 0, V = 0 }) =>
      ((C1 * V) / (C1 + C2)) * (1 - Math.cos(t / Math.sqrt((L * C1 * C2) / (C1 + C2)))),
  },
});

export const ringingGain = defineFormula({
  id: 'ringing-gain',
  title: 'Ringing gain of a transfer',
  subject,
  result: { symbol: 'g', ...ratio('peak voltage over charge voltage', 2) },
  inputs: { C1, C2, k },
  expression: '{C1}/({C1} + {C2})·(1 + {k})',
  source: charges,
  assumptions: ['the peaking capacitor is empty at first', 'at most 2, for a small peaking capacitor and no loss'],
  compute: (v) => (v.C1 * (1 + v.k)) / (v.C1 + v.C2),
});

export const transferFinalVoltage = defineFormula({
  id: 'transfer-final-voltage',
  title: 'Voltage left on both capacitors after a transfer',
  subject,
  result: { symbol: 'Ve', ...positiveVoltage('voltage left on both'), display: 'V_e' },
  inputs: { V, C1, C2 },
  expression: '{V}·{C1}/({C1} + {C2})',
  source: 'charge is kept',
  assumptions: ['the ring has died out in the loop; nothing in parallel has bled it'],
  compute: (v) => (v.V * v.C1) / (v.C1 + v.C2),
  inverse: { V: (v) => ((v.Ve ?? 0) * ((v.C1 ?? 0) + (v.C2 ?? 0))) / (v.C1 ?? 1) },
});

export const transferLoss = defineFormula({
  id: 'transfer-loss',
  title: 'Heat of a charge transfer',
  subject,
  result: { symbol: 'E', ...energy('heat') },
  inputs: { V, C1, C2 },
  expression: '½·{C1}·{C2}/({C1} + {C2})·{V}²',
  source: charges,
  assumptions: ['however small the resistance is: it decides how long, not how much'],
  compute: (v) => (0.5 * v.C1 * v.C2 * v.V * v.V) / (v.C1 + v.C2),
});

/** The larger of the two capacitances at which a transfer comes to its efficiency, or the smaller where that is past any. */
function matched(C: number, { eta = 0, k = 0 }: Values): number {
  const a = (1 + k) ** 2 / eta;
  const ratio = (a - 2 + Math.sqrt(Math.max(0, a * a - 4 * a))) / 2;
  return C * ratio <= C1.max ? C * ratio : C / ratio;
}

export const transferEfficiency = defineFormula({
  id: 'transfer-efficiency',
  title: 'Share of the energy on the peaking capacitor at the peak',
  subject,
  result: { symbol: 'eta', ...fraction('energy at the peak over stored energy'), display: 'η' },
  inputs: { C1, C2, k },
  expression: '{C1}·{C2}·((1 + {k})/({C1} + {C2}))²',
  source: charges,
  assumptions: ['all of it for two like capacitors without loss; a quarter where it does not ring'],
  compute: (v) => v.C1 * v.C2 * ((1 + v.k) / (v.C1 + v.C2)) ** 2,
  inverse: {
    C1: (v) => matched(v.C2 ?? 0, v),
    C2: (v) => matched(v.C1 ?? 0, v),
    k: (v) => ((v.C1 ?? 0) + (v.C2 ?? 0)) * Math.sqrt((v.eta ?? 0) / ((v.C1 ?? 0) * (v.C2 ?? 0))) - 1,
  },
});

export const transferReversal = defineFormula({
  id: 'transfer-reversal',
  title: 'Reversal of a capacitor discharged into another',
  subject,
  result: { symbol: 'k1', ...fraction('voltage reversal'), display: 'k_1' },
  inputs: { C1, C2, k },
  expression: 'max(0, {C2}/({C1} + {C2})·(1 + {k}) − 1)',
  source: charges,
  assumptions: ['at the first zero of the current'],
  compute: (v) => Math.max(0, (v.C2 / (v.C1 + v.C2)) * (1 + v.k) - 1),
});
