import { defineFormula, type SymbolSpec } from '../define.ts';
import { capacitance, current, energy, positiveVoltage, power, time, voltage } from '../symbol.ts';

const subject = 'Tank';

const rate: SymbolSpec = { title: 'break rate', unit: 'Hz', min: 0, max: 1e6, open: true };

export const doublerMeanResistance = defineFormula({
  id: 'doubler-mean-resistance',
  title: 'Output resistance of a doubler',
  subject,
  result: { symbol: 'Rd', title: 'mean resistance', unit: 'Ω', min: 0, max: 1e16, open: true, display: 'R_d' },
  inputs: {
    f: { title: 'frequency of the supply', unit: 'Hz', min: 0, max: 1e8, open: true },
    Cd: { ...capacitance('each of its capacitors'), display: 'C_d' },
  },
  expression: '1/({f}·{Cd})',
  source:
    'charge balance: each half is filled once a cycle and falls by I/(f·Cd) till the next; its mean by half of that, both halves',
  assumptions: ['each half is filled in a short part of the cycle', 'a small sag against the voltage'],
  compute: ({ f, Cd }) => 1 / (f * Cd),
  inverse: { f: ({ Rd = 0, Cd = 0 }) => 1 / (Rd * Cd), Cd: ({ Rd = 0, f = 0 }) => 1 / (Rd * f) },
});

export const doublerSag = defineFormula({
  id: 'doubler-sag',
  title: 'Sag of a doubler under a mean current',
  subject,
  result: { symbol: 'Vd', ...voltage('sag of the mean'), display: 'V_d' },
  inputs: { I: current('mean current'), Rd: { ...doublerMeanResistance.result } },
  expression: '{I}·{Rd}',
  source: "Ohm's law on the mean",
  assumptions: ['its transformer holds its peak'],
  compute: ({ I, Rd }) => I * Rd,
  inverse: { I: ({ Vd = 0, Rd = 0 }) => Vd / Rd, Rd: ({ Vd = 0, I = 0 }) => Vd / I },
});

export const doublerRipple = defineFormula({
  id: 'doubler-ripple',
  title: 'Ripple of a doubler under a mean current',
  subject,
  result: { symbol: 'dV', ...voltage('ripple from peak to peak'), display: 'ΔV' },
  inputs: { I: current('mean current'), Rd: { ...doublerMeanResistance.result } },
  expression: '{I}·{Rd}/2',
  source: 'charge balance: two saw teeth of I/(f·Cd), half a cycle apart, have half of that together',
  assumptions: ['each half is filled in a short part of the cycle'],
  compute: ({ I, Rd }) => (I * Rd) / 2,
  inverse: { I: ({ dV = 0, Rd = 0 }) => (2 * dV) / Rd, Rd: ({ dV = 0, I = 0 }) => (2 * dV) / I },
});

export const breakPower = defineFormula({
  id: 'break-power',
  title: 'Mean power at a repetition rate',
  subject,
  result: { symbol: 'P', ...power('mean power') },
  inputs: { E: energy('energy of each'), n: { ...rate, max: 1e9 } },
  expression: '{E}·{n}',
  source: 'definition of a mean power',
  assumptions: [],
  compute: ({ E, n }) => E * n,
  inverse: { E: ({ P = 0, n = 0 }) => P / n, n: ({ P = 0, E = 0 }) => P / E },
});

export const energyOfEach = defineFormula({
  id: 'energy-of-each',
  title: 'Energy per pulse at a repetition rate',
  subject,
  result: { symbol: 'E', ...energy('energy of each') },
  inputs: { P: power('mean power'), n: { ...rate, max: 1e9 } },
  expression: '{P}/{n}',
  source: 'definition of a mean power',
  assumptions: [],
  compute: ({ P, n }) => P / n,
  inverse: { P: ({ E = 0, n = 0 }) => E * n, n: ({ E = 0, P = 0 }) => P / E },
});

export const meanOfBreaks = defineFormula({
  id: 'mean-of-breaks',
  title: 'Mean current of a DC supply at a break rate',
  subject,
  result: { symbol: 'I', ...current('mean current') },
  inputs: { E: energy('energy for a break'), V: positiveVoltage('voltage of the supply'), n: { ...rate, max: 1e9 } },
  expression: '{E}·{n}/{V}',
  source: 'definition of a mean power',
  assumptions: ['the supply holds its voltage'],
  compute: ({ E, V, n }) => (E * n) / V,
  inverse: {
    E: ({ I = 0, V = 0, n = 0 }) => (I * V) / n,
    V: ({ I = 0, E = 0, n = 0 }) => (E * n) / I,
    n: ({ I = 0, E = 0, V = 0 }) => (I * V) / E,
  },
});

export const gapsInRow = defineFormula({
  id: 'gaps-in-row',
  title: 'Breakdown voltage of equal gaps in series',
  subject,
  result: { symbol: 'Vk', ...voltage('breakdown of the row'), display: 'V_k' },
  inputs: {
    Vb: { ...voltage('breakdown, each'), display: 'V_b' },
    k: { title: 'gaps in series', unit: '1', min: 1, max: 100, integer: true },
    u: { title: 'series-gap breakdown factor', unit: '1', min: 0.1, max: 1 },
  },
  expression: '{u}·{k}·{Vb}',
  source:
    'they share the voltage by their strays and not evenly: the row goes before all have their own; common practice, no source',
  assumptions: [],
  compute: ({ Vb, k, u }) => u * k * Vb,
  inverse: {
    Vb: ({ Vk = 0, k = 0, u = 0 }) => Vk / (u * k),
    k: ({ Vk = 0, Vb = 0, u = 0 }) => Vk / (u * Vb),
    u: ({ Vk = 0, Vb = 0, k = 0 }) => Vk / (k * Vb),
  },
});

export const breakRms = defineFormula({
  id: 'break-rms',
  title: 'RMS value of a pulsed current',
  subject,
  result: { symbol: 'I', ...current('current, rms') },
  inputs: { S: { title: 'action of each pulse', unit: 'A²s', min: 0, max: 1e18 }, n: { ...rate, max: 1e9 } },
  expression: '√({S}·{n})',
  source: 'definition of an rms value',
  assumptions: ['between the pulses it is zero'],
  compute: ({ S, n }) => Math.sqrt(S * n),
  inverse: { S: ({ I = 0, n = 0 }) => (I * I) / n, n: ({ I = 0, S = 0 }) => (I * I) / S },
});

export const capacitorSlope = defineFormula({
  id: 'capacitor-slope',
  title: 'Steepest slope of the voltage of a capacitor',
  subject,
  result: { symbol: 'S', title: 'slope', unit: 'V/s', min: 0, max: 1e25 },
  inputs: { I: current('greatest current'), C: capacitance() },
  expression: '{I}/{C}',
  source: 'i = C·dv/dt',
  assumptions: [],
  compute: ({ I, C }) => I / C,
  inverse: { I: ({ S = 0, C = 0 }) => S * C, C: ({ S = 0, I = 0 }) => I / S },
});

export const timeToHeat = defineFormula({
  id: 'time-to-heat',
  title: 'Time for a power to heat a body',
  subject,
  result: { symbol: 't', ...time('time') },
  inputs: {
    m: { title: 'mass', unit: 'kg', min: 0, max: 1e5, open: true },
    c: { title: 'specific heat', unit: 'J/(kg·K)', min: 1, max: 1e5 },
    dT: { title: 'permitted temperature rise', unit: 'K', min: 0, max: 5000, open: true, display: 'ΔT' },
    P: { ...power(), open: true },
  },
  expression: '{m}·{c}·{dT}/{P}',
  source: 'energy balance',
  assumptions: ['all of the heat stays in the body: cooling is left out, so the time is on the short side'],
  compute: ({ m, c, dT, P }) => (m * c * dT) / P,
  inverse: {
    m: ({ t = 0, c = 0, dT = 0, P = 0 }) => (t * P) / (c * dT),
    dT: ({ t = 0, m = 0, c = 0, P = 0 }) => (t * P) / (m * c),
    P: ({ t = 0, m = 0, c = 0, dT = 0 }) => (m * c * dT) / t,
  },
});

export const sparkOfPower = defineFormula({
  id: 'spark-of-power',
  title: 'Spark length of a secondary from its mean power',
  subject,
  result: { symbol: 'l', title: 'spark length', unit: 'm', min: 0, max: 1e9 },
  inputs: { P: power('mean power of the tank'), q: { title: 'share of the best', unit: '1', min: 0, max: 2 } },
  expression: '{q}·0.043 m·√({P}/1 W)',
  source:
    'common practice, no source: 1.7 inches for the root of a watt from a coil in good tune with a fast gap, some 0.4 of that from others',
  assumptions: ['sparks that grow from break to break, in free air; single long ones among many'],
  compute: ({ P, q }) => q * 0.0432 * Math.sqrt(P),
  inverse: { P: ({ l = 0, q = 0 }) => (l / (q * 0.0432)) ** 2, q: ({ l = 0, P = 0 }) => l / (0.0432 * Math.sqrt(P)) },
});

/** One of several like parts that share something evenly. */
const evenShare = (id: string, title: string, whole: SymbolSpec, one: string) =>
  defineFormula({
    id,
    title,
    subject,
    result: { symbol: 'x1', ...whole, title: one, display: 'x_1' },
    inputs: { x: whole, n: { title: 'parts that share it', unit: '1', min: 1, max: 10_000, integer: true } },
    expression: '{x}/{n}',
    source: 'like parts share evenly',
    assumptions: ['all parts are alike'],
    compute: ({ x, n }) => x / n,
    inverse: { x: ({ x1 = 0, n = 0 }) => x1 * n, n: ({ x1 = 0, x = 0 }) => x / x1 },
  });
export const powerOfOne = evenShare('power-of-one', 'Heat per part, of several alike', power('heat of all'), 'heat, each');
export const currentOfOne = evenShare(
  'current-of-one',
  'Current per part, of several alike',
  current('current of all'),
  'current, each',
);
export const slopeOfOne = evenShare(
  'slope-of-one',
  'Slope per part, of several alike',
  { title: 'slope of all', unit: 'V/s', min: 0, max: 1e25 },
  'slope, each',
);

export const pathHeatShare = defineFormula({
  id: 'path-heat-share',
  title: 'Heat in one resistance of a path',
  subject,
  result: { symbol: 'P1', ...power('heat of this resistance'), display: 'P_1' },
  inputs: {
    P: power('heat of the whole path'),
    R: { title: 'this resistance', unit: 'Ω', min: 0, max: 1e12 },
    Rt: { title: 'resistance of the whole path', unit: 'Ω', min: 0, max: 1e12, open: true, display: 'R_t' },
  },
  expression: '{P}·{R}/{Rt}',
  source: "Joule's law: one current through all",
  assumptions: [],
  relation: ({ R, Rt }) => (R <= Rt ? null : { symbol: 'R', reason: 'this resistance must not be above that of the whole path' }),
  compute: ({ P, R, Rt }) => (P * R) / Rt,
  inverse: {
    P: ({ P1 = 0, R = 0, Rt = 0 }) => (P1 * Rt) / R,
    R: ({ P1 = 0, P = 0, Rt = 0 }) => (P1 * Rt) / P,
    Rt: ({ P1 = 0, P = 0, R = 0 }) => (P * R) / P1,
  },
});

export const limitedPeak = defineFormula({
  id: 'limited-peak',
  title: 'Peak current of a transformer into a short',
  subject,
  result: { symbol: 'I', ...current('peak current') },
  inputs: {
    Vp: { ...positiveVoltage('peak of the transformer without load'), display: 'V_p' },
    R: { title: 'resistance of the path', unit: 'Ω', min: 1e-6, max: 1e12 },
    X: { title: 'reactance of its leakage', unit: 'Ω', min: 0, max: 1e12 },
  },
  expression: '{Vp}/√({R}² + {X}²)',
  source: 'a series circuit on a sine, steady',
  assumptions: ['the iron does not saturate'],
  compute: ({ Vp, R, X }) => Vp / Math.hypot(R, X),
  inverse: { Vp: ({ I = 0, R = 0, X = 0 }) => I * Math.hypot(R, X) },
});

export const mainsResonantCapacitance = defineFormula({
  id: 'mains-resonant-capacitance',
  title: 'Capacitance that resonates with a transformer’s leakage at the mains',
  subject,
  result: { symbol: 'Cm', ...capacitance('capacitance'), display: 'C_m' },
  inputs: {
    L: { title: 'leakage inductance, seen from the secondary', unit: 'H', min: 0, max: 1e6, open: true },
    f: { title: 'mains frequency', unit: 'Hz', min: 0, max: 1e5, open: true },
  },
  expression: '1/((2π·{f})²·{L})',
  source: 'series resonance, f = 1/(2π·√(LC))',
  assumptions: ['the iron does not saturate; at the resonance it does, and that alone ends the rise'],
  compute: ({ L, f }) => 1 / ((2 * Math.PI * f) ** 2 * L),
  inverse: {
    L: ({ Cm = 0, f = 0 }) => 1 / ((2 * Math.PI * f) ** 2 * Cm),
    f: ({ Cm = 0, L = 0 }) => 1 / (2 * Math.PI * Math.sqrt(L * Cm)),
  },
});

export const tankOverResonance = defineFormula({
  id: 'tank-over-resonance',
  title: 'Tank capacitance over the one resonant at the mains',
  subject,
  result: { symbol: 'k', title: 'ratio', unit: '1', min: 0, max: 1e12, open: true },
  inputs: { C: capacitance('tank capacitance'), Cm: { ...capacitance('resonant capacitance'), display: 'C_m' } },
  expression: '{C}/{Cm}',
  source: 'definition of a ratio',
  assumptions: [],
  compute: ({ C, Cm }) => C / Cm,
  inverse: { C: ({ k = 0, Cm = 0 }) => k * Cm, Cm: ({ k = 0, C = 0 }) => C / k },
});

export const acReach = defineFormula({
  id: 'ac-reach',
  title: 'Peak voltage of a capacitor behind a transformer on AC',
  subject,
  result: { symbol: 'Vr', ...voltage('peak voltage'), display: 'V_r' },
  inputs: {
    Vp: { ...positiveVoltage('peak of the transformer without load'), display: 'V_p' },
    R: { title: 'resistance of the path', unit: 'Ω', min: 1e-3, max: 1e12 },
    L: { title: 'inductance of the path', unit: 'H', min: 0, max: 1e6 },
    C: capacitance(),
    f: { title: 'frequency', unit: 'Hz', min: 0, max: 1e8, open: true },
  },
  expression: '{Vp}/√((1 − (2π{f})²·{L}·{C})² + (2π{f}·{R}·{C})²)',
  source: 'a series circuit on a sine, steady',
  assumptions: ['no gap fires on the way', 'near resonance it takes many cycles, and the iron may saturate before'],
  compute: ({ Vp, R, L, C, f }) => {
    const w = 2 * Math.PI * f;
    return Vp / Math.hypot(1 - w * w * L * C, w * R * C);
  },
  inverse: {
    Vp: ({ Vr = 0, R = 0, L = 0, C = 0, f = 0 }) => Vr * Math.hypot(1 - (2 * Math.PI * f) ** 2 * L * C, 2 * Math.PI * f * R * C),
  },
});
