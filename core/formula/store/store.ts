import { defineFormula } from '../define.ts';
import {
  capacitance,
  charge,
  count,
  energy,
  fraction,
  inductanceFromZero,
  positiveVoltage,
  resistance,
  resistanceFromZero,
  spread,
  time,
  voltage,
} from '../symbol.ts';

const subject = 'Store';

export const storedEnergy = defineFormula({
  id: 'stored-energy',
  title: 'Energy stored in a capacitor',
  subject,
  result: { symbol: 'E', ...energy('stored energy') },
  inputs: { C: capacitance(), V: voltage() },
  expression: '½·{C}·{V}²',
  source: 'definition of capacitance: E = ∫ v dq',
  assumptions: ['capacitance does not change with voltage (ceramics of class 2 lose some)'],
  compute: ({ C, V }) => 0.5 * C * V * V,
  inverse: { C: ({ E = 0, V = 0 }) => (2 * E) / (V * V), V: ({ E = 0, C = 0 }) => Math.sqrt((2 * E) / C) },
});

export const storedCharge = defineFormula({
  id: 'stored-charge',
  title: 'Charge on a capacitor',
  subject,
  result: { symbol: 'Q', ...charge('stored charge') },
  inputs: { C: capacitance(), V: voltage() },
  expression: '{C}·{V}',
  source: 'definition of capacitance',
  assumptions: ['capacitance does not change with voltage'],
  compute: ({ C, V }) => C * V,
  inverse: { C: ({ Q = 0, V = 0 }) => Q / V, V: ({ Q = 0, C = 0 }) => Q / C },
});

export const seriesParallelCapacitance = defineFormula({
  id: 'series-parallel-capacitance',
  title: 'Capacitance of equal capacitors in series and parallel',
  subject,
  result: { symbol: 'Cb', ...capacitance('bank capacitance'), display: 'C_b' },
  inputs: { C: capacitance('capacitance, each'), ns: count('number in series'), np: count('number in parallel') },
  expression: '{C}·{np}/{ns}',
  source: "Kirchhoff's laws on equal capacitors",
  assumptions: ['all capacitors are equal'],
  compute: ({ C, ns, np }) => (C * np) / ns,
  inverse: {
    C: ({ Cb = 0, ns = 0, np = 0 }) => (Cb * ns) / np,
    ns: ({ Cb = 0, C = 0, np = 0 }) => (C * np) / Cb,
    np: ({ Cb = 0, C = 0, ns = 0 }) => (Cb * ns) / C,
  },
});

export const seriesElementVoltage = defineFormula({
  id: 'series-element-voltage',
  title: 'Worst voltage share in a series string',
  subject,
  result: { symbol: 'Ve', ...voltage('voltage on the smallest capacitor'), display: 'V_e' },
  inputs: {
    V: voltage('voltage across the string'),
    ns: count('number in series'),
    m: spread('capacitance tolerance, minus side', 0.99),
    p: spread('capacitance tolerance, plus side', 100),
  },
  expression: '{V}·(1 + {p})/((1 + {p}) + ({ns} − 1)·(1 − {m}))',
  source: "charge is common to capacitors in series: each voltage is in inverse proportion to its capacitance (Kirchhoff's laws)",
  assumptions: [
    'worst case: one capacitor at the bottom of its tolerance, all others at the top',
    'sharing by capacitance while charging; leakage shifts it over hours unless balancing resistors hold it',
  ],
  compute: ({ V, ns, m, p }) => (V * (1 + p)) / (1 + p + (ns - 1) * (1 - m)),
});

export const highestResistorShare = defineFormula({
  id: 'highest-resistor-share',
  title: 'Voltage on the highest of several series resistors',
  subject,
  result: { symbol: 'Vh', ...voltage('voltage on the highest resistor'), display: 'V_h' },
  inputs: {
    V: voltage('voltage across all'),
    ns: count('number in series'),
    m: spread('resistance tolerance, minus side', 0.99),
    p: spread('resistance tolerance, plus side', 100),
  },
  expression: '{V}·(1 + {p})/((1 + {p}) + ({ns} − 1)·(1 − {m}))',
  source: "one current through all: each voltage is in proportion to its resistance (Ohm's and Kirchhoff's laws)",
  assumptions: [
    'worst case: one resistor at the top of its tolerance, all others at the bottom',
    'what leaks beside them is far less',
  ],
  compute: ({ V, ns, m, p }) => (V * (1 + p)) / (1 + p + (ns - 1) * (1 - m)),
});

export const seriesResistance = defineFormula({
  id: 'series-resistance',
  title: 'Resistance of equal resistors in series',
  subject,
  result: { symbol: 'Rs', ...resistance('resistance of the string'), display: 'R_s' },
  inputs: { R: resistance('resistance, each'), n: count('number in series') },
  expression: '{n}·{R}',
  source: "Ohm's and Kirchhoff's laws",
  assumptions: ['all resistors are equal'],
  compute: ({ R, n }) => n * R,
  inverse: { R: ({ Rs = 0, n = 0 }) => Rs / n, n: ({ Rs = 0, R = 0 }) => Rs / R },
});

export const shareOfString = defineFormula({
  id: 'series-share',
  title: 'Share per part',
  subject,
  result: { symbol: 'Vp', ...voltage('voltage on one'), display: 'V_p' },
  inputs: { V: positiveVoltage('voltage across all'), n: count('number in series') },
  expression: '{V}/{n}',
  source: "Kirchhoff's voltage law on equal parts",
  assumptions: ['all parts are equal'],
  compute: ({ V, n }) => V / n,
  inverse: { V: ({ Vp = 0, n = 0 }) => Vp * n, n: ({ Vp = 0, V = 0 }) => V / Vp },
});

export const bankRating = defineFormula({
  id: 'bank-voltage-rating',
  title: 'Voltage rating of capacitors in series',
  subject,
  result: { symbol: 'Vb', ...voltage('voltage rating of the bank'), display: 'V_b' },
  inputs: { V: positiveVoltage('voltage rating, each'), ns: count('number in series') },
  expression: '{ns}·{V}',
  source: "Kirchhoff's voltage law on equal capacitors",
  assumptions: ['the voltage shares evenly; the worst share is a limit of its own'],
  compute: ({ V, ns }) => ns * V,
  inverse: { V: ({ Vb = 0, ns = 0 }) => Vb / ns, ns: ({ Vb = 0, V = 0 }) => Vb / V },
});

export const bankResistance = defineFormula({
  id: 'bank-resistance',
  title: 'Resistance of equal elements in series and parallel',
  subject,
  result: { symbol: 'Rb', ...resistanceFromZero('resistance of the bank'), display: 'R_b' },
  inputs: { R: resistanceFromZero('resistance, each'), ns: count('number in series'), np: count('number in parallel') },
  expression: '{R}·{ns}/{np}',
  source: "Ohm's and Kirchhoff's laws",
  assumptions: ['all elements are equal; bus bars are left out'],
  compute: ({ R, ns, np }) => (R * ns) / np,
  inverse: {
    R: ({ Rb = 0, ns = 0, np = 0 }) => (Rb * np) / ns,
    ns: ({ Rb = 0, R = 0, np = 0 }) => (Rb * np) / R,
    np: ({ Rb = 0, R = 0, ns = 0 }) => (R * ns) / Rb,
  },
});

export const bankInductance = defineFormula({
  id: 'bank-inductance',
  title: 'Inductance of equal elements in series and parallel',
  subject,
  result: { symbol: 'Lb', ...inductanceFromZero('inductance of the bank'), display: 'L_b' },
  inputs: { L: inductanceFromZero('inductance, each'), ns: count('number in series'), np: count('number in parallel') },
  expression: '{L}·{ns}/{np}',
  source: "Kirchhoff's laws",
  assumptions: ['all elements are equal and do not couple; bus bars are left out'],
  compute: ({ L, ns, np }) => (L * ns) / np,
  inverse: {
    L: ({ Lb = 0, ns = 0, np = 0 }) => (Lb * np) / ns,
    ns: ({ Lb = 0, L = 0, np = 0 }) => (Lb * np) / L,
    np: ({ Lb = 0, L = 0, ns = 0 }) => (L * ns) / Lb,
  },
});

export const reverseVoltageOfOne = defineFormula({
  id: 'element-reverse-voltage',
  title: 'Reverse voltage on one capacitor of a bank',
  subject,
  result: { symbol: 'Vr', ...voltage('reverse voltage on one'), display: 'V_r' },
  inputs: { k: fraction('voltage reversal'), V: voltage('initial voltage of the bank'), ns: count('number in series') },
  expression: '{k}·{V}/{ns}',
  source: "Kirchhoff's voltage law on equal capacitors",
  assumptions: ['the voltage shares evenly'],
  compute: ({ k, V, ns }) => (k * V) / ns,
  inverse: {
    k: ({ Vr = 0, V = 0, ns = 0 }) => (Vr * ns) / V,
    V: ({ Vr = 0, k = 0, ns = 0 }) => (Vr * ns) / k,
    ns: ({ Vr = 0, k = 0, V = 0 }) => (k * V) / Vr,
  },
});

/** What an aluminium electrolytic bears the wrong way round: for good, and for no longer than so many seconds. */
const polarSteps = [
  { t: 0.1, V: 2 },
  { t: 1, V: 1.5 },
] as const;
const polarForGood = 1;
/** By charge: in a pulse of up to 10 ms it may be carried back so much of what it holds at its rating. */
const polarPulse = { t: 0.01, share: 0.02 } as const;

export const polarReverseRating = defineFormula({
  id: 'polar-reverse-rating',
  title: 'Reverse voltage withstood by an electrolytic for a time',
  subject,
  result: { symbol: 'Vp', ...voltage('permitted reverse voltage'), display: 'V_p' },
  inputs: { t: time('how long it is reversed'), Vr: voltage('its rated voltage') },
  expression:
    '1 V; up to 1 s 1.5 V; up to 0.1 s 2 V; up to 10 ms also 2 % of {Vr}, the charge carried back being 2 % of that at its rating ({t})',
  source:
    'makers’ notes on aluminium electrolytics for what is steady, a second and a tenth, from memory; the charge in a pulse: common practice, no source',
  assumptions: ['reversed now and then, and cold in between', 'an entered rating of its maker goes before this'],
  onlyForwards: 'it steps from one time to the next, so no one value of the others belongs to a voltage',
  compute: ({ t, Vr }) => {
    const steady = polarSteps.find((step) => t <= step.t)?.V ?? polarForGood;
    return t <= polarPulse.t ? Math.max(steady, polarPulse.share * Vr) : steady;
  },
});

export const usableVoltage = defineFormula({
  id: 'usable-voltage',
  title: 'Bank voltage at which a group in series reaches its rating',
  subject,
  result: { symbol: 'Vu', ...positiveVoltage('usable voltage of the bank'), display: 'V_u' },
  inputs: {
    Vr: { ...positiveVoltage('rating of the group'), display: 'V_r' },
    s: { ...fraction('its share of the bank voltage'), open: true },
  },
  expression: '{Vr}/{s}',
  source: "Kirchhoff's laws: groups in series share the voltage in inverse proportion to their capacitance",
  assumptions: ['charged from empty, so that all groups have passed the same charge; leakage moves the shares later'],
  compute: ({ Vr, s }) => Vr / s,
  inverse: { Vr: ({ Vu = 0, s = 0 }) => Vu * s, s: ({ Vu = 0, Vr = 0 }) => Vr / Vu },
});

export const groupVoltage = defineFormula({
  id: 'group-voltage',
  title: 'Voltage on the worst group',
  subject,
  result: { symbol: 'Vg', ...voltage('voltage of that group'), display: 'V_g' },
  inputs: { V: voltage('bank voltage'), s: { ...fraction('highest share of the bank voltage'), open: true } },
  expression: '{s}·{V}',
  source: "Kirchhoff's laws: groups in series share the voltage in inverse proportion to their capacitance",
  assumptions: ['charged from empty, so that all groups have passed the same charge; leakage moves the shares later'],
  compute: ({ V, s }) => s * V,
  inverse: { V: ({ Vg = 0, s = 0 }) => Vg / s, s: ({ Vg = 0, V = 0 }) => Vg / V },
});

export const capacitanceOfEnergy = defineFormula({
  id: 'capacitance-of-energy',
  title: 'Capacitance for an energy at a voltage',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: { E: energy('stored energy'), V: positiveVoltage() },
  expression: '2·{E}/{V}²',
  source: 'E = ½CV², solved for C',
  assumptions: [],
  compute: ({ E, V }) => (2 * E) / (V * V),
  inverse: { E: ({ C = 0, V = 0 }) => 0.5 * C * V * V, V: ({ C = 0, E = 0 }) => Math.sqrt((2 * E) / C) },
});
