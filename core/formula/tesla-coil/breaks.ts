import {
  acBreaks,
  rotaryBreaks,
  steadyAcBreaks,
  steadyBreaks,
  swingPeak,
  type BreakPath,
  type SteadyBreaks,
} from '../../model/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineFormula, type Formula, type SymbolSpec } from '../define.ts';
import { current, energy, time, voltage } from '../symbol.ts';

const subject = 'Tank';

const rate: SymbolSpec = { title: 'break rate', unit: 'Hz', min: 0, max: 1e6, open: true };

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
const opened = { n: { title: 'break rate', unit: 'Hz', min: 0.1, max: 1e5 } } as const satisfies Record<string, SymbolSpec>;
const mains = { f: { title: 'frequency of the supply', unit: 'Hz', min: 1, max: 1000 } } as const satisfies Record<
  string,
  SymbolSpec
>;

type Values = Readonly<Record<string, number>>;
const pathOf = ({ Vs = 0, R = 0, L = 0, Ct = 0, td = 0, f = 0 }: Values): BreakPath => ({ Vs, f, R, L, C: Ct, td });

const asked = ['Vs', 'R', 'L', 'Ct', 'td', 'Vb', 'n', 'f'] as const;
const recent = new Map<string, SteadyBreaks | null>();

/** A row that was worked out lately, by what it rests on: everything that comes of it, at every corner of a rig, asks for the same few. */
function remembered(of: (values: Values) => SteadyBreaks | null, name: string): (values: Values) => SteadyBreaks | null {
  return (values) => {
    const key = `${name} ${asked.map((symbol) => values[symbol]).join(' ')}`;
    const known = recent.get(key);
    if (known !== undefined) return known;
    const made = of(values);
    if (recent.size >= 500) recent.clear();
    recent.set(key, made);
    return made;
  };
}

interface Sort {
  readonly id: string;
  readonly words: string;
  readonly inputs: Readonly<Record<string, SymbolSpec>>;
  readonly row: (values: Values) => SteadyBreaks | null;
  readonly refused: (values: Values) => { readonly symbol: string; readonly reason: string };
  readonly how: string;
  readonly assumptions: readonly string[];
  readonly onlyForwards?: string;
}

const alone = [
  'the tank is empty after each break, and the gap is open again when it has conducted for its time: see the current that is left',
  'the supply holds its voltage',
];

const jumps =
  'a row of breaks on AC jumps from one number of breaks in its cycles to the next, so this is not asked backwards; try values';
const leakage = 'the transformer is a voltage behind its leakage; its iron does not saturate';

const sorts: readonly Sort[] = [
  {
    id: 'tank',
    words: 'from a DC supply',
    inputs: { ...path, ...breakdown },
    row: remembered((values) => steadyBreaks(pathOf(values), values['Vb'] ?? 0), 'static'),
    refused: (values) => ({
      symbol: 'Vb',
      reason: `the gap never fires at this supply: the first swing reaches only ${printQuantity(swingPeak(pathOf(values)), 'V')}`,
    }),
    how: '{L}·di/dt + {R}·i + v = {Vs}, {Ct}·dv/dt = i from v = 0 to {Vb}; then {L}·di/dt + {R}·i = {Vs} for {td}; over and over until it stays',
    assumptions: alone,
  },
  {
    id: 'tank-rotary',
    words: 'from a DC supply through a rotary gap',
    inputs: { ...path, ...opened },
    row: remembered((values) => rotaryBreaks(pathOf(values), values['n'] ?? 0), 'rotary'),
    refused: () => ({ symbol: 'n', reason: 'the breaks follow each other before the gap has stopped conducting' }),
    how: '{L}·di/dt + {R}·i + v = {Vs}, {Ct}·dv/dt = i from v = 0 for 1/{n} − {td}; then {L}·di/dt + {R}·i = {Vs} for {td}; over and over until it stays',
    assumptions: alone,
  },
  {
    id: 'tank-ac',
    words: 'from an AC supply',
    inputs: { ...path, ...breakdown, ...mains },
    row: remembered((values) => steadyAcBreaks(pathOf(values), values['Vb'] ?? 0), 'ac'),
    refused: () => ({ symbol: 'Vb', reason: 'the gap never fires at this supply, or hardly ever' }),
    how: '{L}·di/dt + {R}·i + v = {Vs}·sin 2π·{f}·t, {Ct}·dv/dt = i from v = 0 to ±{Vb}; then without v for {td}; means over 25 cycles from rest',
    assumptions: [...alone, leakage],
    onlyForwards: jumps,
  },
  {
    id: 'tank-ac-rotary',
    words: 'from an AC supply through a rotary gap',
    inputs: { ...path, ...breakdown, n: { ...opened.n, max: 1e4 }, ...mains },
    row: remembered((values) => steadyAcBreaks(pathOf(values), values['Vb'] ?? 0, values['n'] ?? 1), 'AC rotary'),
    refused: () => ({ symbol: 'Vb', reason: 'the tank is hardly ever above the gap’s self-break when its electrodes pass' }),
    how: '{L}·di/dt + {R}·i + v = {Vs}·sin 2π·{f}·t, {Ct}·dv/dt = i; emptied {n} times a second where |v| is above {Vb} just then; then without v for {td}; means over 25 cycles from rest',
    assumptions: [...alone, leakage, 'electrodes that pass in an instant, the first time when the supply is put on at its zero'],
    onlyForwards: jumps,
  },
];

/** What a row of breaks comes to. */
export type BreakOutput = 'rate' | 'Vb' | 'atBreak' | 'left' | 'given' | 'heat' | 'rms' | 'peak' | 'highest';

const results: { readonly [K in BreakOutput]: SymbolSpec & { readonly symbol: string; readonly says: string } } = {
  rate: { symbol: 'fb', ...rate, display: 'f_b', says: 'Break rate' },
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
    ...current('follow current'),
    min: -1e9,
    display: 'i_l',
    says: 'Follow current after a break',
  },
  given: {
    symbol: 'Es',
    ...energy('energy from the supply'),
    min: -1e12,
    display: 'E_s',
    says: 'Supply energy per break',
  },
  heat: { symbol: 'Er', ...energy('heat in the path'), display: 'E_r', says: 'Heat in the charging path per break' },
  rms: { symbol: 'ir', ...current('current, rms'), display: 'i_r', says: 'Current of the charging path, rms' },
  highest: { symbol: 'vh', ...voltage('highest voltage'), display: 'v_h', says: 'Highest voltage of the tank' },
  peak: { symbol: 'ip', ...current('greatest current'), display: 'i_p', says: 'Peak current of the charging path' },
};

const names: { readonly [K in BreakOutput]: string } = {
  rate: 'break-rate',
  Vb: 'break-voltage',
  atBreak: 'break-current',
  left: 'left-current',
  given: 'given-energy',
  heat: 'path-heat',
  rms: 'path-rms',
  peak: 'path-peak',
  highest: 'highest-voltage',
};

function breakFormula({ id, words, inputs, row, refused, how, assumptions, onlyForwards }: Sort, output: BreakOutput): Formula {
  const { says, ...result } = results[output];
  return defineFormula({
    id: `${id}-${names[output]}`,
    title: `${says}, ${words}`,
    subject,
    result,
    inputs,
    expression: how,
    source: 'Kirchhoff’s laws, integrated from break to break to the row that repeats itself',
    assumptions,
    ...(onlyForwards === undefined ? {} : { onlyForwards }),
    relation: (values) => (row(values) ? null : refused(values)),
    compute: (values) => row(values)?.[output] ?? NaN,
  });
}

/** The formulas of a row of breaks, by the sort of supply and gap. */
const outputsOf = (sort: number, what: readonly BreakOutput[]): Readonly<Record<BreakOutput, Formula>> => {
  const one = sorts[sort] as Sort;
  return Object.fromEntries(what.map((t) => [t, breakFormula(one, t)])) as Record<BreakOutput, Formula>;
};
const ofGap: readonly BreakOutput[] = ['rate', 'atBreak', 'left', 'given', 'heat', 'rms', 'peak'];
export const staticBreaks = outputsOf(0, ofGap);
export const rotaryGapBreaks = outputsOf(1, ['Vb', 'atBreak', 'left', 'given', 'heat', 'rms', 'peak']);
export const acSupplyBreaks = outputsOf(2, ['rate', 'rms', 'peak']);
export const acRotaryBreaks = outputsOf(3, ['rate', 'Vb', 'rms', 'peak', 'highest']);

const rise = {
  Vp: { title: 'peak of the transformer without load', unit: 'V', min: 1, max: 1e6, display: 'V_p' },
  R: { title: 'resistance of the path', unit: 'Ω', min: 1e-3, max: 1e9 },
  L: { title: 'inductance of the path', unit: 'H', min: 0, max: 1e4 },
  C: { title: 'capacitance', unit: 'F', min: 1e-12, max: 1e-2 },
  f: { title: 'frequency', unit: 'Hz', min: 1, max: 1000 },
  V: { title: 'voltage to reach', unit: 'V', min: 1, max: 1e6 },
} as const satisfies Record<string, SymbolSpec>;

type Rise = Readonly<Record<keyof typeof rise, number>>;
type First = { readonly t: number; readonly heat: number } | null;
let lastRise: { readonly of: Rise; readonly first: First } | null = null;
/** The first time that the capacitor comes to the voltage; whether it does is asked just before when it does. */
function firstOf(of: Rise): First {
  const { Vp, R, L, C, f, V } = of;
  const last = lastRise?.of;
  if (last && last.Vp === Vp && last.R === R && last.L === L && last.C === C && last.f === f && last.V === V)
    return lastRise?.first ?? null;
  const row = acBreaks({ Vs: Vp, f, R, L, C, td: 0 }, V, true);
  const first = row.breaks[0] ? { t: row.breaks[0].t, heat: R * row.firstAction } : null;
  lastRise = { of: { Vp, R, L, C, f, V }, first };
  return first;
}
const unreached = (values: Rise): { symbol: keyof Rise; reason: string } | null =>
  firstOf(values) ? null : { symbol: 'V', reason: 'the capacitor does not reach it within 25 cycles' };

export const acRise = defineFormula({
  id: 'tank-ac-rise',
  title: 'Time until a capacitor on AC first reaches a voltage',
  subject,
  result: { symbol: 't', ...time('time to the voltage') },
  inputs: rise,
  expression: '{L}·di/dt + {R}·i + v = {Vp}·sin 2π·{f}·t, {C}·dv/dt = i, until |v| = {V}',
  source: 'Kirchhoff’s laws, integrated from rest',
  assumptions: ['switched on at a zero of the voltage'],
  relation: unreached,
  compute: (values) => firstOf(values)?.t ?? NaN,
});

export const acRiseLoss = defineFormula({
  id: 'tank-ac-rise-loss',
  title: 'Heat in the path until a capacitor on AC first reaches a voltage',
  subject,
  result: { symbol: 'E', ...energy('heat in the path') },
  inputs: rise,
  expression: '∫{R}·i²·dt with {L}·di/dt + {R}·i + v = {Vp}·sin 2π·{f}·t, {C}·dv/dt = i, until |v| = {V}',
  source: 'Kirchhoff’s laws, integrated from rest',
  assumptions: ['switched on at a zero of the voltage'],
  relation: unreached,
  compute: (values) => firstOf(values)?.heat ?? NaN,
});
