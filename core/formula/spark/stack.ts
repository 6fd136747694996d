import { defineFormula, type SymbolSpec } from '../define.ts';
import { current, inductance, positiveVoltage, resistance, time } from '../symbol.ts';

const subject = 'Switches in series';

const count: SymbolSpec = { title: 'switches in series', unit: '1', min: 2, max: 1000, integer: true };
const rated = { ...positiveVoltage('voltage rating, each'), display: 'V_1' };
const tooFew = 'that many in series do not hold the voltage even with even sharing';

export const sharingResistor = defineFormula({
  id: 'sharing-resistor',
  title: 'Largest sharing resistor across each switch of a stack',
  subject,
  result: { symbol: 'R', ...resistance('sharing resistor') },
  inputs: {
    n: count,
    V1: rated,
    V: positiveVoltage('voltage across all of them'),
    dI: { ...current('by how much their leakage may differ'), open: true, display: 'ΔI' },
  },
  expression: '({n}·{V1} − {V})/(({n} − 1)·{dI})',
  source: 'Rashid, Power Electronics, series operation of thyristors; from memory',
  assumptions: [
    'worst case: one leaks nothing, all others differ from it by the whole',
    'tolerance of the resistors comes on top',
  ],
  relation: ({ n, V1, V }) => (n * V1 > V ? null : { symbol: 'n', reason: tooFew }),
  compute: ({ n, V1, V, dI }) => (n * V1 - V) / ((n - 1) * dI),
  inverse: {
    V1: ({ R = 0, n = 0, V = 0, dI = 0 }) => (R * (n - 1) * dI + V) / n,
    V: ({ R = 0, n = 0, V1 = 0, dI = 0 }) => n * V1 - R * (n - 1) * dI,
    dI: ({ R = 0, n = 0, V1 = 0, V = 0 }) => (n * V1 - V) / ((n - 1) * R),
  },
});

export const lateSwitchCapacitance = defineFormula({
  id: 'late-switch-capacitance',
  title: 'Least capacitor across each switch of a stack, for the one that turns on last',
  subject,
  result: { symbol: 'C', title: 'capacitor of its snubber', unit: 'F', min: 0, max: 1e3, open: true },
  inputs: {
    n: count,
    V1: rated,
    V: positiveVoltage('voltage across all of them'),
    L: inductance('inductance of the loop'),
    dt: { ...time('by how much they turn on apart'), open: true, display: 'Δt' },
  },
  expression: '({V}/{L})·{dt}²/(2·({V1} − {V}/{n}))',
  source: 'the charge that a current rising evenly at V/L brings while the last one waits',
  assumptions: [
    'all others have turned on, the whole voltage stands across the inductance',
    'far shorter than the rise of the discharge',
    'a resistor in series with it, so that it does not empty into its own thyristor at once',
  ],
  relation: ({ n, V1, V }) => (n * V1 > V ? null : { symbol: 'n', reason: tooFew }),
  compute: ({ n, V1, V, L, dt }) => ((V / L) * dt * dt) / (2 * (V1 - V / n)),
  inverse: {
    L: ({ C = 0, n = 0, V1 = 0, V = 0, dt = 0 }) => (V * dt * dt) / (2 * C * (V1 - V / n)),
    V1: ({ C = 0, n = 0, V = 0, L = 0, dt = 0 }) => V / n + (V * dt * dt) / (2 * C * L),
    dt: ({ C = 0, n = 0, V1 = 0, V = 0, L = 0 }) => Math.sqrt((2 * C * L * (V1 - V / n)) / V),
  },
});
