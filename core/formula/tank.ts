import { defineFormula, type Formula, type SymbolSpec } from './define.ts';
import { rotaryBreaks, steadyAcBreaks, steadyBreaks, swingPeak, type BreakPath, type SteadyBreaks } from './break-cycle.ts';
import { capacitance, charge, current, energy, positiveVoltage, power, time, voltage } from './symbol.ts';

const subject = 'Tank';

const rate: SymbolSpec = { title: 'breaks a second', unit: 'Hz', min: 0, max: 1e6, open: true };

/** What lies between the supply and the tank capacitor: narrower than what any block takes, so that a cycle can be followed. */
const path = {
  Vs: { title: 'voltage of the supply', unit: 'V', min: 1, max: 1e6, display: 'V_s' },
  R: { title: 'resistance of the charging path', unit: 'Ω', min: 1e-3, max: 1e9 },
  L: { title: 'inductance of the charging path', unit: 'H', min: 0, max: 1e4 },
  Ct: { title: 'tank capacitance', unit: 'F', min: 1e-12, max: 1e-2, display: 'C_t' },
  td: { title: 'time the gap conducts at a break', unit: 's', min: 0, max: 0.1, display: 't_d' },
} as const satisfies Record<string, SymbolSpec>;
const breakdown = {
  Vb: { title: 'breakdown of the gap', unit: 'V', min: 1, max: 1e6, display: 'V_b' },
} as const satisfies Record<string, SymbolSpec>;
const opened = { n: { title: 'breaks a second', unit: 'Hz', min: 0.1, max: 1e5 } } as const satisfies Record<string, SymbolSpec>;
const mains = { f: { title: 'frequency of the supply', unit: 'Hz', min: 1, max: 1000 } } as const satisfies Record<
  string,
  SymbolSpec
>;

type Values = Readonly<Record<string, number>>;
const pathOf = ({ Vs = 0, R = 0, L = 0, Ct = 0, td = 0, f = 0 }: Values): BreakPath => ({ Vs, f, R, L, C: Ct, td });

/** The last row of breaks of each sort: all that is told of one is asked for in a row. */
function lastOf(of: (values: Values) => SteadyBreaks | null): (values: Values) => SteadyBreaks | null {
  let key = '';
  let row: SteadyBreaks | null = null;
  return (values) => {
    const asked = `${values['Vs']} ${values['R']} ${values['L']} ${values['Ct']} ${values['td']} ${values['Vb']} ${values['n']} ${values['f']}`;
    if (asked !== key) {
      row = of(values);
      key = asked;
    }
    return row;
  };
}

const recent = new Map<string, SteadyBreaks | null>();

/** A row that was worked out lately, by what it rests on: every corner of a rig asks for the same few. */
function remembered(of: (values: Values) => SteadyBreaks | null, name: string): (values: Values) => SteadyBreaks | null {
  return lastOf((values) => {
    const key = `${name} ${values['Vs']} ${values['R']} ${values['L']} ${values['Ct']} ${values['td']} ${values['Vb']} ${values['n']} ${values['f']}`;
    const known = recent.get(key);
    if (known !== undefined) return known;
    const made = of(values);
    if (recent.size >= 500) recent.clear();
    recent.set(key, made);
    return made;
  });
}

interface Sort {
  readonly id: string;
  readonly words: string;
  readonly inputs: Readonly<Record<string, SymbolSpec>>;
  readonly row: (values: Values) => SteadyBreaks | null;
  readonly refused: (values: Values) => { readonly symbol: string; readonly reason: string };
  readonly how: string;
  readonly assumptions: readonly string[];
}

const alone = [
  'the tank is empty after each break, and the gap is open again when it has conducted for its time: see the current that is left',
  'the supply holds its voltage',
];

const sorts: readonly Sort[] = [
  {
    id: 'tank',
    words: 'from a direct supply',
    inputs: { ...path, ...breakdown },
    row: remembered((values) => steadyBreaks(pathOf(values), values['Vb'] ?? 0), 'static'),
    refused: (values) => ({
      symbol: 'Vb',
      reason: `the gap never fires at this supply: the first swing comes to ${swingPeak(pathOf(values)).toPrecision(3)} V and no further`,
    }),
    how: '{L}·di/dt + {R}·i + v = {Vs}, {Ct}·dv/dt = i from v = 0 to {Vb}; then {L}·di/dt + {R}·i = {Vs} for {td}; over and over until it stays',
    assumptions: alone,
  },
  {
    id: 'tank-rotary',
    words: 'from a direct supply through a rotary gap',
    inputs: { ...path, ...opened },
    row: remembered((values) => rotaryBreaks(pathOf(values), values['n'] ?? 0), 'rotary'),
    refused: () => ({ symbol: 'n', reason: 'the breaks follow each other before the gap has stopped conducting' }),
    how: '{L}·di/dt + {R}·i + v = {Vs}, {Ct}·dv/dt = i from v = 0 for 1/{n} − {td}; then {L}·di/dt + {R}·i = {Vs} for {td}; over and over until it stays',
    assumptions: alone,
  },
  {
    id: 'tank-ac',
    words: 'from an alternating supply',
    inputs: { ...path, ...breakdown, ...mains },
    row: remembered((values) => steadyAcBreaks(pathOf(values), values['Vb'] ?? 0), 'ac'),
    refused: () => ({ symbol: 'Vb', reason: 'the gap never fires at this supply, or hardly ever' }),
    how: '{L}·di/dt + {R}·i + v = {Vs}·sin 2π·{f}·t, {Ct}·dv/dt = i from v = 0 to ±{Vb}; then without v for {td}; means over 25 cycles from rest',
    assumptions: [...alone, 'the transformer is a voltage behind its leakage; its iron does not saturate'],
  },
];

type Told = 'rate' | 'Vb' | 'atBreak' | 'left' | 'given' | 'heat' | 'rms' | 'peak';

const results: { readonly [K in Told]: SymbolSpec & { readonly symbol: string; readonly says: string } } = {
  rate: { symbol: 'fb', ...rate, display: 'f_b', says: 'Breaks a second' },
  Vb: { symbol: 'Vk', ...voltage('voltage at the break'), display: 'V_k', says: 'Voltage at the break' },
  atBreak: {
    symbol: 'i1',
    ...current('current at the break'),
    min: -1e9,
    display: 'i_1',
    says: 'Current in the path at the break',
  },
  left: {
    symbol: 'il',
    ...current('current left in the gap'),
    min: -1e9,
    display: 'i_l',
    says: 'Current that the supply leaves in the gap after a break',
  },
  given: {
    symbol: 'Es',
    ...energy('energy from the supply'),
    min: -1e12,
    display: 'E_s',
    says: 'Energy the supply gives for a break',
  },
  heat: { symbol: 'Er', ...energy('heat in the path'), display: 'E_r', says: 'Heat in the charging path for a break' },
  rms: { symbol: 'ir', ...current('current, rms'), display: 'i_r', says: 'Current of the charging path, rms' },
  peak: { symbol: 'ip', ...current('greatest current'), display: 'i_p', says: 'Greatest current of the charging path' },
};

const names: { readonly [K in Told]: string } = {
  rate: 'break-rate',
  Vb: 'break-voltage',
  atBreak: 'break-current',
  left: 'left-current',
  given: 'given-energy',
  heat: 'path-heat',
  rms: 'path-rms',
  peak: 'path-peak',
};

function breakFormula({ id, words, inputs, row, refused, how, assumptions }: Sort, told: Told): Formula {
  const { says, ...result } = results[told];
  return defineFormula({
    id: `${id}-${names[told]}`,
    title: `${says}, ${words}`,
    subject,
    result,
    inputs,
    expression: how,
    source: 'Kirchhoff’s laws, integrated from break to break to the row that repeats itself',
    assumptions,
    relation: (values) => (row(values) ? null : refused(values)),
    compute: (values) => row(values)?.[told] ?? NaN,
  });
}

/** What is told of a row of breaks, by the sort of supply and gap. */
const told = (sort: number, what: readonly Told[]): Readonly<Record<Told, Formula>> => {
  const one = sorts[sort] as Sort;
  return Object.fromEntries(what.map((t) => [t, breakFormula(one, t)])) as Record<Told, Formula>;
};
const ofGap: readonly Told[] = ['rate', 'atBreak', 'left', 'given', 'heat', 'rms', 'peak'];
export const staticBreaks = told(0, ofGap);
export const rotaryGapBreaks = told(1, ['Vb', 'atBreak', 'left', 'given', 'heat', 'rms', 'peak']);
export const acSupplyBreaks = told(2, ['rate', 'rms', 'peak']);

export const doublerMeanResistance = defineFormula({
  id: 'doubler-mean-resistance',
  title: 'Resistance that a doubler’s mean voltage has behind it',
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
  inputs: {
    I: current('mean current'),
    f: { title: 'frequency of the supply', unit: 'Hz', min: 0, max: 1e8, open: true },
    Cd: { ...capacitance('each of its capacitors'), display: 'C_d' },
  },
  expression: '{I}/(2·{f}·{Cd})',
  source: 'charge balance: two saw teeth of I/(f·Cd), half a cycle apart, have half of that together',
  assumptions: ['each half is filled in a short part of the cycle'],
  compute: ({ I, f, Cd }) => I / (2 * f * Cd),
  inverse: {
    I: ({ dV = 0, f = 0, Cd = 0 }) => dV * 2 * f * Cd,
    f: ({ dV = 0, I = 0, Cd = 0 }) => I / (2 * dV * Cd),
    Cd: ({ dV = 0, I = 0, f = 0 }) => I / (2 * dV * f),
  },
});

export const breakPower = defineFormula({
  id: 'break-power',
  title: 'Mean power of so many pulses a second',
  subject,
  result: { symbol: 'P', ...power('mean power') },
  inputs: { E: energy('energy of each'), n: { ...rate, max: 1e9 } },
  expression: '{E}·{n}',
  source: 'definition of a mean power',
  assumptions: [],
  compute: ({ E, n }) => E * n,
  inverse: { E: ({ P = 0, n = 0 }) => P / n, n: ({ P = 0, E = 0 }) => P / E },
});

export const breakRms = defineFormula({
  id: 'break-rms',
  title: 'Rms of a current that comes in pulses',
  subject,
  result: { symbol: 'I', ...current('current, rms') },
  inputs: { S: { title: 'action of each pulse', unit: 'A²s', min: 0, max: 1e18 }, n: { ...rate, max: 1e9 } },
  expression: '√({S}·{n})',
  source: 'definition of an rms value',
  assumptions: ['between the pulses it is nought'],
  compute: ({ S, n }) => Math.sqrt(S * n),
  inverse: { S: ({ I = 0, n = 0 }) => (I * I) / n, n: ({ I = 0, S = 0 }) => (I * I) / S },
});

export const arcHeat = defineFormula({
  id: 'arc-heat',
  title: 'Heat of an arc over a pulse',
  subject,
  result: { symbol: 'E', ...energy('heat of the arc') },
  inputs: { Va: { ...voltage('drop of the arc, all gaps'), display: 'V_a' }, Q: charge('∫|i|dt of the pulse') },
  expression: '{Va}·{Q}',
  source: 'an arc holds about the same voltage whatever its current; common practice, no source',
  assumptions: ['the drop is that of the burning arc; the first nanoseconds, in which it forms, have more'],
  compute: ({ Va, Q }) => Va * Q,
  inverse: { Va: ({ E = 0, Q = 0 }) => E / Q, Q: ({ E = 0, Va = 0 }) => E / Va },
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
  title: 'Time in which a power warms a body by so much',
  subject,
  result: { symbol: 't', ...time('time') },
  inputs: {
    m: { title: 'mass', unit: 'kg', min: 0, max: 1e5, open: true },
    c: { title: 'specific heat, J/(kg·K)', unit: '1', min: 1, max: 1e5 },
    dT: { title: 'rise it bears', unit: 'K', min: 0, max: 5000, open: true, display: 'ΔT' },
    P: { ...power(), open: true },
  },
  expression: '{m}·{c}·{dT}/{P}',
  source: 'energy balance',
  assumptions: ['all of the heat stays in the body: what it gives off meanwhile is left out, so the time is on the short side'],
  compute: ({ m, c, dT, P }) => (m * c * dT) / P,
  inverse: {
    m: ({ t = 0, c = 0, dT = 0, P = 0 }) => (t * P) / (c * dT),
    dT: ({ t = 0, m = 0, c = 0, P = 0 }) => (t * P) / (m * c),
    P: ({ t = 0, m = 0, c = 0, dT = 0 }) => (m * c * dT) / t,
  },
});

export const sparkOfPower = defineFormula({
  id: 'spark-of-power',
  title: 'Length of the sparks of a secondary from its mean power',
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

export const acReach = defineFormula({
  id: 'ac-reach',
  title: 'Peak voltage of a capacitor behind a transformer on ac',
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
