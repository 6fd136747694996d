import { defineFormula, type SymbolSpec } from '../define.ts';
import {
  capacitance,
  charge,
  count,
  current,
  energy,
  fraction,
  inductance,
  length,
  positiveVoltage,
  power,
  ratio,
  resistance,
  resistanceFromZero,
  time,
  voltage,
} from '../symbol.ts';

const subject = 'Source';

const positiveCurrent = (title = 'current'): SymbolSpec => ({ ...current(title), open: true });
const efficiency = (title = 'efficiency'): SymbolSpec => ({ ...fraction(title), open: true, display: 'η' });

export const repetitionRate = defineFormula({
  id: 'repetition-rate',
  title: 'Repetition rate that a current can feed',
  subject,
  result: { symbol: 'N', title: 'charges a second', unit: 'Hz', min: 0, max: 1e12 },
  inputs: { I: current('mean charging current'), C: capacitance(), V: positiveVoltage('charge voltage') },
  expression: '{I}/({C}·{V})',
  source: 'charge balance: each charge takes C·V',
  assumptions: ['the supply charges all the time between shots', 'each shot empties the store'],
  compute: ({ I, C, V }) => I / (C * V),
  inverse: {
    I: ({ N = 0, C = 0, V = 0 }) => N * C * V,
    C: ({ N = 0, I = 0, V = 0 }) => I / (N * V),
    V: ({ N = 0, I = 0, C = 0 }) => I / (N * C),
  },
});

export const meanChargingCurrent = defineFormula({
  id: 'mean-charging-current',
  title: 'Mean current of a charge',
  subject,
  result: { symbol: 'I', ...current('mean charging current') },
  inputs: { Q: charge('charge brought in'), t: { ...time('charge time'), open: true } },
  expression: '{Q}/{t}',
  source: 'definition of a mean current',
  assumptions: ['leakage during the charge is left out'],
  compute: ({ Q, t }) => Q / t,
  inverse: { Q: ({ I = 0, t = 0 }) => I * t, t: ({ I = 0, Q = 0 }) => Q / I },
});

export const meanPower = defineFormula({
  id: 'mean-power',
  title: 'Mean power over a time',
  subject,
  result: { symbol: 'P', ...power('mean power') },
  inputs: { E: energy(), t: { ...time(), open: true } },
  expression: '{E}/{t}',
  source: 'definition of a mean power',
  assumptions: [],
  compute: ({ E, t }) => E / t,
  inverse: { E: ({ P = 0, t = 0 }) => P * t, t: ({ P = 0, E = 0 }) => E / P },
});

export const powerLimitedRate = defineFormula({
  id: 'power-limited-rate',
  title: 'Repetition rate that a mean power allows',
  subject,
  result: { symbol: 'N', title: 'charges a second', unit: 'Hz', min: 0, max: 1e12 },
  inputs: { P: power('mean power rating'), E: { ...energy('heat per charge'), open: true } },
  expression: '{P}/{E}',
  source: 'definition of a mean power',
  assumptions: ['it is warm throughout: many charges one after another'],
  compute: ({ P, E }) => P / E,
  inverse: { P: ({ N = 0, E = 0 }) => N * E, E: ({ N = 0, P = 0 }) => P / N },
});

export const energySum = defineFormula({
  id: 'energy-sum',
  title: 'Two energies together',
  subject,
  result: { symbol: 'Et', ...energy('energy of both'), display: 'E_t' },
  inputs: { E1: energy('first energy'), E2: energy('second energy') },
  expression: '{E1} + {E2}',
  source: 'energy is conserved',
  assumptions: [],
  compute: ({ E1, E2 }) => E1 + E2,
  inverse: { E1: ({ Et = 0, E2 = 0 }) => Et - E2, E2: ({ Et = 0, E1 = 0 }) => Et - E1 },
});

export const chargingEfficiency = defineFormula({
  id: 'charging-efficiency',
  title: 'Share of the energy that ends in the store',
  subject,
  result: { symbol: 'eta', ...fraction('charging efficiency'), display: 'η' },
  inputs: { E: { ...energy('energy stored'), open: true }, El: energy('energy lost on the way') },
  expression: '{E}/({E} + {El})',
  source: 'energy is conserved',
  assumptions: [],
  compute: ({ E, El }) => E / (E + El),
  inverse: { E: ({ eta = 0, El = 0 }) => (eta * El) / (1 - eta), El: ({ eta = 0, E = 0 }) => E / eta - E },
});

export const inputCurrent = defineFormula({
  id: 'converter-input-current',
  title: 'Input current of a converter from a source with internal resistance',
  subject,
  result: { symbol: 'Iin', ...current('input current'), display: 'I_in' },
  inputs: {
    P: power('output power'),
    eta: efficiency(),
    E: positiveVoltage('source voltage without load'),
    Ri: resistanceFromZero('internal resistance of the source'),
  },
  expression: '2·({P}/{eta})/({E} + √({E}² − 4·{Ri}·{P}/{eta}))',
  source: 'P/η = I·(E − I·Ri), the smaller root',
  assumptions: ['the efficiency does not depend on the load'],
  relation: ({ P, eta, E, Ri }) =>
    4 * Ri * (P / eta) <= E * E
      ? null
      : {
          symbol: 'P',
          reason: 'the source cannot give this power: at most E²/(4·Ri) comes out of it, and then its voltage is half',
        },
  compute: ({ P, eta, E, Ri }) => (2 * (P / eta)) / (E + Math.sqrt(E * E - 4 * Ri * (P / eta))),
});

export const powerBefore = defineFormula({
  id: 'power-before',
  title: 'Power that goes into what gives a power out',
  subject,
  result: { symbol: 'Pin', ...power('power in'), display: 'P_in' },
  inputs: { P: power('power out'), eta: efficiency() },
  expression: '{P}/{eta}',
  source: 'definition of efficiency',
  assumptions: [],
  compute: ({ P, eta }) => P / eta,
  inverse: { P: ({ Pin = 0, eta = 0 }) => Pin * eta, eta: ({ Pin = 0, P = 0 }) => P / Pin },
});

export const powerThroughDrive = defineFormula({
  id: 'power-through-drive',
  title: 'Power that a source gives through a drive, at most',
  subject,
  result: { symbol: 'P', ...power('power out of the drive') },
  inputs: {
    eta: efficiency(),
    E: positiveVoltage('voltage of the source without load'),
    I: { ...current('current that it gives at most'), open: true },
    Ri: resistanceFromZero('resistance of the source with its leads'),
  },
  expression: '{eta}·i·({E} − i·{Ri}),  i = min({I}, {E}/(2·{Ri}))',
  source: 'power of a voltage behind a resistance: the most at half its short-circuit current',
  assumptions: ['the efficiency is that at full power'],
  compute: ({ eta, E, I, Ri }) => {
    const i = Math.min(I, E / (2 * Ri));
    return eta * i * (E - i * Ri);
  },
  inverse: {
    eta: ({ P = 0, E = 0, I = 0, Ri = 0 }) => {
      const i = Math.min(I, E / (2 * Ri));
      return P / (i * (E - i * Ri));
    },
  },
});

export const loadedVoltage = defineFormula({
  id: 'loaded-voltage',
  title: 'Voltage of a source under load',
  subject,
  result: { symbol: 'Vl', ...voltage('voltage under load'), display: 'V_l' },
  inputs: { E: voltage('voltage without load'), I: current(), Ri: resistanceFromZero('internal resistance') },
  expression: '{E} − {I}·{Ri}',
  source: "Ohm's law",
  assumptions: [],
  relation: ({ E, I, Ri }) =>
    I * Ri <= E ? null : { symbol: 'I', reason: 'the source cannot give more than its short-circuit current' },
  compute: ({ E, I, Ri }) => E - I * Ri,
  inverse: { E: ({ Vl = 0, I = 0, Ri = 0 }) => Vl + I * Ri, I: ({ Vl = 0, E = 0, Ri = 0 }) => (E - Vl) / Ri },
});

export const batteryCharges = defineFormula({
  id: 'battery-charges',
  title: 'Charges per battery',
  subject,
  result: { symbol: 'N', ...ratio('charges') },
  inputs: {
    Q: charge('capacity of the battery'),
    V: voltage('voltage under load'),
    eta: efficiency(),
    E: { ...energy('energy per charge, out of the converter'), open: true },
  },
  expression: '{Q}·{V}·{eta}/{E}',
  source: 'energy balance',
  assumptions: ['the whole capacity is used at the loaded voltage', 'nothing is taken between charges'],
  compute: ({ Q, V, eta, E }) => (Q * V * eta) / E,
  inverse: {
    Q: ({ N = 0, V = 0, eta = 0, E = 0 }) => (N * E) / (V * eta),
    E: ({ N = 0, V = 0, eta = 0, Q = 0 }) => (Q * V * eta) / N,
  },
});

export const flybackPower = defineFormula({
  id: 'flyback-power',
  title: 'Power of a flyback converter',
  subject,
  result: { symbol: 'P', ...power('output power') },
  inputs: {
    L: inductance('primary inductance'),
    I: current('peak primary current'),
    f: { title: 'cycles a second', unit: 'Hz', min: 0, max: 1e9, open: true },
    eta: efficiency(),
  },
  expression: '½·{L}·{I}²·{f}·{eta}',
  source: 'energy of the primary at each cycle',
  assumptions: ['discontinuous: the core is empty at the end of each cycle'],
  compute: ({ L, I, f, eta }) => 0.5 * L * I * I * f * eta,
  inverse: {
    L: ({ P = 0, I = 0, f = 0, eta = 0 }) => P / (0.5 * I * I * f * eta),
    f: ({ P = 0, I = 0, L = 0, eta = 0 }) => P / (0.5 * I * I * L * eta),
    I: ({ P = 0, L = 0, f = 0, eta = 0 }) => Math.sqrt(P / (0.5 * L * f * eta)),
  },
});

export const flybackReverseVoltage = defineFormula({
  id: 'flyback-reverse-voltage',
  title: 'Reverse voltage on the diode of a flyback converter',
  subject,
  result: { symbol: 'Vr', ...voltage('reverse voltage'), display: 'V_r' },
  inputs: { V: voltage('output voltage'), Vin: voltage('input voltage'), N: ratio('turns ratio, secondary to primary', 1e6) },
  expression: '{V} + {N}·{Vin}',
  source: 'transformer action while the switch conducts',
  assumptions: ['ringing with the leakage comes on top: measure it'],
  compute: ({ V, Vin, N }) => V + N * Vin,
  inverse: { V: ({ Vr = 0, Vin = 0, N = 0 }) => Vr - N * Vin },
});

/** Next of the R10 numbers in which fuses are made. */
const nextPreferred = (value: number): number => {
  const series = [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8, 10];
  const decade = 10 ** Math.floor(Math.log10(value));
  return decade * (series.find((x) => x * decade >= value * (1 - 1e-12)) ?? 10);
};

export const fuseRating = defineFormula({
  id: 'fuse-rating',
  title: 'Rating of an input fuse',
  subject,
  result: { symbol: 'If', ...current('fuse rating'), display: 'I_f' },
  inputs: {
    I: positiveCurrent('greatest steady input current'),
    k: { title: 'margin over the input current', unit: '1', min: 1, max: 10, default: 1.5 },
  },
  expression: 'next R10 number above {k}·{I}',
  source: 'common practice, no source: 1.25 to 1.6 times the running current, slow-blow; ratings in the R10 series',
  assumptions: ['a hint for the first trial: inrush and breaking capacity are not in it'],
  compute: ({ I, k }) => nextPreferred(k * I),
  // Many currents have one fuse; asked backwards it is the greatest of them.
  inverse: { I: ({ If = 0, k = 1 }) => If / k, k: ({ If = 0, I = 0 }) => If / I },
});

export const seriesShare = defineFormula({
  id: 'series-energy-share',
  title: 'Share of the heat of a path in one resistance',
  subject,
  result: { symbol: 'E1', ...energy('heat in this resistance'), display: 'E_1' },
  inputs: {
    E: energy('heat of the whole path'),
    R: resistanceFromZero('this resistance'),
    Rt: resistance('resistance of the whole path'),
  },
  expression: '{E}·{R}/{Rt}',
  source: "Joule's law: one current through all",
  assumptions: [],
  relation: ({ R, Rt }) => (R <= Rt ? null : { symbol: 'R', reason: 'this resistance must not be above that of the whole path' }),
  compute: ({ E, R, Rt }) => (E * R) / Rt,
  inverse: { E: ({ E1 = 0, R = 0, Rt = 0 }) => (E1 * Rt) / R, R: ({ E1 = 0, E = 0, Rt = 0 }) => (E1 * Rt) / E },
});

export const stringDrop = defineFormula({
  id: 'string-drop',
  title: 'Forward drop of diodes in series',
  subject,
  result: { symbol: 'Vt', ...voltage('drop of the string'), display: 'V_t' },
  inputs: { n: count('diodes in series'), Vf: voltage('drop, each') },
  expression: '{n}·{Vf}',
  source: "Kirchhoff's voltage law",
  assumptions: ['a constant forward drop'],
  compute: ({ n, Vf }) => n * Vf,
  inverse: { Vf: ({ Vt = 0, n = 0 }) => Vt / n },
});

export const impedanceCurrent = defineFormula({
  id: 'impedance-current',
  title: 'AC current through resistance and reactance',
  subject,
  result: { symbol: 'I', ...current() },
  inputs: { V: voltage(), R: resistanceFromZero('resistance'), X: resistanceFromZero('reactance') },
  expression: '{V}/√({R}² + {X}²)',
  source: "Ohm's law for AC; peak in gives peak, rms gives rms",
  assumptions: ['steady state: the first cycle of a half-wave rectifier through a reactance reaches up to twice this'],
  relation: ({ R, X }) => (R > 0 || X > 0 ? null : { symbol: 'R', reason: 'resistance and reactance must not both be zero' }),
  compute: ({ V, R, X }) => V / Math.hypot(R, X),
  inverse: { V: ({ I = 0, R = 0, X = 0 }) => I * Math.hypot(R, X) },
});

export const primaryCurrent = defineFormula({
  id: 'primary-current',
  title: 'Current on the mains side of a transformer',
  subject,
  result: { symbol: 'I1', ...current('primary current, rms'), display: 'I_1' },
  inputs: {
    I2: current('secondary current, rms'),
    V2: voltage('secondary voltage, rms'),
    V1: positiveVoltage('mains voltage, rms'),
  },
  expression: '{I2}·{V2}/{V1}',
  source: 'ideal transformer: volt-amperes in are volt-amperes out',
  assumptions: ['magnetising current and inrush are left out'],
  compute: ({ I2, V2, V1 }) => (I2 * V2) / V1,
  inverse: {
    I2: ({ I1 = 0, V2 = 0, V1 = 0 }) => (I1 * V1) / V2,
    V2: ({ I1 = 0, I2 = 0, V1 = 0 }) => (I1 * V1) / I2,
    V1: ({ I1 = 0, I2 = 0, V2 = 0 }) => (I2 * V2) / I1,
  },
});

export const adiabaticRise = defineFormula({
  id: 'adiabatic-rise',
  title: 'Temperature rise of a body without cooling',
  subject,
  result: { symbol: 'dT', title: 'temperature rise', unit: 'K', min: 0, max: 1e9, display: 'ΔT' },
  inputs: {
    E: energy('heat'),
    m: { title: 'mass', unit: 'kg', min: 0, max: 1e6, open: true },
    c: { title: 'specific heat', unit: 'J/(kg·K)', min: 1, max: 1e5, default: 800 },
  },
  expression: '{E}/({m}·{c})',
  source: 'heat balance; 800 J/(kg·K) for ceramic and carbon resistors, from memory',
  assumptions: ['no heat is lost meanwhile', 'the body warms evenly; a thin wire or film gets far hotter than its core'],
  compute: ({ E, m, c }) => E / (m * c),
  inverse: { E: ({ dT = 0, m = 0, c = 800 }) => dT * m * c, m: ({ E = 0, dT = 0, c = 800 }) => E / (dT * c) },
});

export const surfaceStress = defineFormula({
  id: 'surface-stress',
  title: 'Mean field along a body',
  subject,
  result: { symbol: 'Es', title: 'field along the surface', unit: 'V/m', min: 0, max: 1e12, display: 'E_s' },
  inputs: { V: voltage('voltage from end to end'), l: length('length of the body') },
  expression: '{V}/{l}',
  source: 'definition of a mean field',
  assumptions: ['an even field; at the caps it is higher'],
  compute: ({ V, l }) => V / l,
  inverse: { V: ({ Es = 0, l = 0 }) => Es * l, l: ({ V = 0, Es = 0 }) => V / Es },
});

export const surfaceStrength = defineFormula({
  id: 'surface-strength',
  title: 'Permissible field along a surface, as it is',
  subject,
  result: { symbol: 'Ek', title: 'permissible field', unit: 'V/m', min: 0, max: 1e12, display: 'E_k' },
  inputs: {
    Es: { title: 'permissible field, clean and dry', unit: 'V/m', min: 0, max: 1e12, display: 'E_s' },
    k: { ...ratio('factor of its condition', 10), display: 'k_s' },
  },
  expression: '{Es}·{k}',
  source: 'definition of the factor; its values are common practice, no source',
  assumptions: [],
  compute: ({ Es, k }) => Es * k,
  inverse: { Es: ({ Ek = 0, k = 0 }) => Ek / k, k: ({ Ek = 0, Es = 0 }) => Ek / Es },
});

export const stringShare = defineFormula({
  id: 'string-worst-share',
  title: 'Reverse voltage on the worst diode of a string',
  subject,
  result: { symbol: 'V1', ...voltage('voltage of the worst one'), display: 'V_1' },
  inputs: {
    V: voltage('voltage of the string'),
    n: { title: 'in series', unit: '1', min: 1, max: 10_000, integer: true },
    s: { ...fraction('excess over the others'), max: 10 },
  },
  expression: '{V}·(1 + {s})/({n} + {s})',
  source: 'one sees 1 + s times the share of each of the others',
  assumptions: ['one off, all others alike'],
  compute: ({ V, n, s }) => (V * (1 + s)) / (n + s),
  inverse: { V: ({ V1 = 0, n = 0, s = 0 }) => (V1 * (n + s)) / (1 + s) },
});
