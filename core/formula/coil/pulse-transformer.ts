import { defineFormula } from '../define.ts';
import { capacitance, count, current, fraction, inductance, positiveVoltage, ratio, resistance, voltage } from '../symbol.ts';

const subject = 'Pulse transformer';
const turnsRatio = { ...ratio('turns of the secondary over those of the primary', 1e5), min: 1e-5 };
/** What the first half of a discharge puts across a load, over time: the charge that passes times the resistance. */
const firstHalf = {
  C: capacitance('capacitance of the discharge'),
  V: positiveVoltage('voltage of the discharge'),
  k: fraction('reversal of the loop'),
  R: resistance('resistance of the load, seen from the primary'),
};
const halfSource = 'integral of voltage over the first half of the discharge: the charge C·V·(1 + k) times R';

export const reflectedResistance = defineFormula({
  id: 'reflected-resistance',
  title: 'Resistance of a load, seen from the primary',
  subject,
  result: { symbol: 'R1', ...resistance('resistance seen from the primary'), display: 'R_1' },
  inputs: { R: resistance('resistance of the load'), n: turnsRatio },
  expression: '{R}/{n}²',
  source: 'ideal transformer: voltage times n, current over n',
  assumptions: [],
  compute: ({ R, n }) => R / (n * n),
  inverse: { R: ({ R1 = 0, n = 0 }) => R1 * n * n, n: ({ R1 = 0, R = 0 }) => Math.sqrt(R / R1) },
});

export const transformedVoltage = defineFormula({
  id: 'transformed-voltage',
  title: 'Peak voltage at the secondary',
  subject,
  result: { symbol: 'V2', ...voltage('voltage at the secondary'), display: 'V_2' },
  inputs: { I: current('peak current of the primary'), R: resistance('resistance of the load'), n: turnsRatio },
  expression: '{I}·{R}/{n}',
  source: 'ideal transformer, Ohm’s law at the secondary',
  assumptions: ['the magnetising current and the capacitance of the secondary are left out: they take from it'],
  compute: ({ I, R, n }) => (I * R) / n,
  inverse: {
    I: ({ V2 = 0, R = 0, n = 0 }) => (V2 * n) / R,
    R: ({ V2 = 0, I = 0, n = 0 }) => (V2 * n) / I,
    n: ({ V2 = 0, I = 0, R = 0 }) => (I * R) / V2,
  },
});

export const coreFluxDensity = defineFormula({
  id: 'core-flux-density',
  title: 'Flux density that a pulse drives a core to',
  subject,
  result: { symbol: 'B', title: 'flux density', unit: 'T', min: -100, max: 1e6 },
  inputs: {
    ...firstHalf,
    N: count('turns of the primary'),
    A: { title: 'iron of the core, in section', unit: 'm²', min: 0, max: 100, open: true },
    B0: { title: 'flux density it begins at', unit: 'T', min: -3, max: 3, display: 'B_0' },
  },
  expression: '{B0} + {R}·{C}·{V}·(1 + {k})/({N}·{A})',
  source: `Faraday’s law; ${halfSource}`,
  assumptions: [
    'all of the discharge stands across the load: leakage and resistance of the windings take from it, so it is an upper bound',
  ],
  compute: ({ C, V, k, R, N, A, B0 }) => B0 + (R * C * V * (1 + k)) / (N * A),
  inverse: {
    C: ({ B = 0, V = 0, k = 0, R = 0, N = 0, A = 0, B0 = 0 }) => ((B - B0) * N * A) / (R * V * (1 + k)),
    V: ({ B = 0, C = 0, k = 0, R = 0, N = 0, A = 0, B0 = 0 }) => ((B - B0) * N * A) / (R * C * (1 + k)),
    R: ({ B = 0, C = 0, k = 0, V = 0, N = 0, A = 0, B0 = 0 }) => ((B - B0) * N * A) / (V * C * (1 + k)),
    A: ({ B = 0, C = 0, k = 0, V = 0, N = 0, R = 0, B0 = 0 }) => (R * C * V * (1 + k)) / ((B - B0) * N),
    B0: ({ B = 0, C = 0, k = 0, V = 0, N = 0, A = 0, R = 0 }) => B - (R * C * V * (1 + k)) / (N * A),
    k: ({ B = 0, C = 0, V = 0, N = 0, A = 0, R = 0, B0 = 0 }) => ((B - B0) * N * A) / (R * C * V) - 1,
  },
});

export const magnetisingCurrent = defineFormula({
  id: 'magnetising-current',
  title: 'Magnetising current at the end of the first half',
  subject,
  result: { symbol: 'Im', ...current('magnetising current'), display: 'I_m' },
  inputs: { ...firstHalf, Lm: { ...inductance('magnetising inductance of the primary'), display: 'L_m' } },
  expression: '{R}·{C}·{V}·(1 + {k})/{Lm}',
  source: `definition of inductance; ${halfSource}`,
  assumptions: ['the core does not saturate: beyond that it is a short'],
  compute: ({ C, V, k, R, Lm }) => (R * C * V * (1 + k)) / Lm,
  inverse: {
    C: ({ Im = 0, V = 0, k = 0, R = 0, Lm = 0 }) => (Im * Lm) / (R * V * (1 + k)),
    V: ({ Im = 0, C = 0, k = 0, R = 0, Lm = 0 }) => (Im * Lm) / (R * C * (1 + k)),
    R: ({ Im = 0, C = 0, k = 0, V = 0, Lm = 0 }) => (Im * Lm) / (V * C * (1 + k)),
    Lm: ({ Im = 0, C = 0, k = 0, V = 0, R = 0 }) => (R * C * V * (1 + k)) / Im,
    k: ({ Im = 0, C = 0, V = 0, R = 0, Lm = 0 }) => (Im * Lm) / (R * C * V) - 1,
  },
});
