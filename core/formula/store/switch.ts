import { defineFormula } from '../define.ts';
import {
  action,
  charge,
  current,
  energy,
  fraction,
  inductanceFromZero,
  positiveVoltage,
  resistanceFromZero,
  time,
  voltage,
} from '../symbol.ts';

const subject = 'Switch';

export const switchCharge = defineFormula({
  id: 'switch-charge',
  title: 'Charge through a switch that conducts both ways, one shot',
  subject,
  result: { symbol: 'Qs', ...charge('charge through the switch'), display: 'Q_s' },
  inputs: { Q: charge('charge of the store'), k: { ...fraction('voltage reversal'), max: 0.999 } },
  expression: '{Q}·(1 + {k})/(1 − {k})',
  source: 'every half cycle moves the charge that its swing of voltage stands for: Q·(1 + k)·(1 + k + k² + …)',
  assumptions: ['each half cycle is smaller than the last by the same share'],
  compute: ({ Q, k }) => (Q * (1 + k)) / (1 - k),
  inverse: { Q: ({ Qs = 0, k = 0 }) => (Qs * (1 - k)) / (1 + k), k: ({ Qs = 0, Q = 0 }) => (Qs - Q) / (Qs + Q) },
});

export const switchHalfCharge = defineFormula({
  id: 'switch-half-charge',
  title: 'Charge through a switch that conducts one way, one shot',
  subject,
  result: { symbol: 'Qs', ...charge('charge through the switch'), display: 'Q_s' },
  inputs: { Q: charge('charge of the store'), k: fraction('voltage reversal') },
  expression: '{Q}·(1 + {k})',
  source: 'the first half cycle takes the store from its voltage to the reversed one',
  assumptions: ['it opens at the first zero of the current'],
  compute: ({ Q, k }) => Q * (1 + k),
  inverse: { Q: ({ Qs = 0, k = 0 }) => Qs / (1 + k), k: ({ Qs = 0, Q = 0 }) => Qs / Q - 1 },
});

export const conductionHeat = defineFormula({
  id: 'conduction-heat',
  title: 'Heat in a switch, one shot',
  subject,
  result: { symbol: 'E', ...energy('heat in the switch') },
  inputs: {
    VT: voltage('threshold or arc voltage'),
    Q: charge('charge through it'),
    R: resistanceFromZero('slope resistance'),
    A: action(),
  },
  expression: '{VT}·{Q} + {R}·{A}',
  source: 'V·i integrated over a voltage of V_T + R·i',
  assumptions: ['what it takes while it turns on is not counted'],
  compute: ({ VT, Q, R, A }) => VT * Q + R * A,
  inverse: {
    VT: ({ E = 0, Q = 0, R = 0, A = 0 }) => (E - R * A) / Q,
    Q: ({ E = 0, VT = 0, R = 0, A = 0 }) => (E - R * A) / VT,
    R: ({ E = 0, VT = 0, Q = 0, A = 0 }) => (E - VT * Q) / A,
    A: ({ E = 0, VT = 0, Q = 0, R = 0 }) => (E - VT * Q) / R,
  },
});

export const closingScatter = defineFormula({
  id: 'closing-scatter',
  title: 'Time before touch at which a closing contact is struck through',
  subject,
  result: { symbol: 't', ...time('time before touch') },
  inputs: {
    V: positiveVoltage('voltage across it'),
    E: { title: 'field that it is struck through at', unit: 'V/m', min: 0, max: 1e10, open: true },
    v: { title: 'closing speed', unit: 'm/s', min: 0, max: 1e3, open: true },
  },
  expression: '{V}/({E}·{v})',
  source: 'the gap that the voltage strikes through, over the speed that it closes with',
  assumptions: ['the moment of the shot scatters by about as much; a worn contact strikes earlier'],
  compute: ({ V, E, v }) => V / (E * v),
  inverse: {
    V: ({ t = 0, E = 0, v = 0 }) => t * E * v,
    E: ({ t = 0, V = 0, v = 0 }) => V / (t * v),
    v: ({ t = 0, V = 0, E = 0 }) => V / (t * E),
  },
});

export const parallelShare = defineFormula({
  id: 'parallel-share',
  title: 'Current in the worst of devices in parallel',
  subject,
  result: { symbol: 'I1', ...current('current in the one that takes most'), display: 'I_1' },
  inputs: {
    I: current('current of all'),
    n: { title: 'in parallel', unit: '1', min: 1, max: 10_000, integer: true },
    s: { ...fraction('excess over the others'), max: 10 },
  },
  expression: '{I}·(1 + {s})/({n} + {s})',
  source: 'one takes 1 + s times the share of each of the others',
  assumptions: ['one off, all others alike'],
  compute: ({ I, n, s }) => (I * (1 + s)) / (n + s),
  inverse: { I: ({ I1 = 0, n = 0, s = 0 }) => (I1 * (n + s)) / (1 + s) },
});

export const turnOffVoltage = defineFormula({
  id: 'turn-off-voltage',
  title: 'Voltage across a transistor that switches a current off',
  subject,
  result: { symbol: 'Vp', ...voltage('voltage across it'), display: 'V_p' },
  inputs: {
    V: voltage('voltage that it switches off'),
    L: inductanceFromZero('stray inductance'),
    I: current('current that it switches off'),
    tf: { ...time('fall time of the current'), open: true, display: 't_f' },
  },
  expression: '{V} + {L}·{I}/{tf}',
  source: 'v = L·di/dt over the fall of the current',
  assumptions: ['the current falls in a straight line; at its steepest it is more'],
  compute: ({ V, L, I, tf }) => V + (L * I) / tf,
  inverse: {
    V: ({ Vp = 0, L = 0, I = 0, tf = 0 }) => Vp - (L * I) / tf,
    L: ({ Vp = 0, V = 0, I = 0, tf = 0 }) => ((Vp - V) * tf) / I,
    I: ({ Vp = 0, V = 0, L = 0, tf = 0 }) => ((Vp - V) * tf) / L,
    tf: ({ Vp = 0, V = 0, L = 0, I = 0 }) => (L * I) / (Vp - V),
  },
});
