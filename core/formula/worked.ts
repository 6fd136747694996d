import { bounds, printQuantity, printTolerance, type Tolerance, type UnitId } from '../quantity/index.ts';
import { evaluateFormula, FormulaError, ProgramError, wordCertainty, type Certainty, type Formula } from './define.ts';

/** Where a number that was not computed came from. */
export type Origin =
  | { readonly from: 'typed'; readonly path: string }
  | { readonly from: 'default'; readonly path: string }
  /** Read off a meter, or off the label, of the part that the block stands on. */
  | { readonly from: 'measured'; readonly path: string }
  | { readonly from: 'label'; readonly path: string }
  /** What is usual of such a thing: nobody typed it or measured it. */
  | { readonly from: 'typical'; readonly path: string }
  | { readonly from: 'rule'; readonly source: string };

/** A number that remembers how it came about: either given, or a formula applied to worked numbers. */
export type Worked = Given | Computed;

export interface Given {
  readonly kind: 'given';
  readonly title: string;
  readonly value: number;
  readonly unit: UnitId;
  readonly origin: Origin;
  readonly tolerance?: Tolerance;
}

export interface Computed {
  readonly kind: 'computed';
  readonly title: string;
  readonly value: number;
  readonly unit: UnitId;
  readonly formula: Formula;
  readonly inputs: Readonly<Record<string, Worked>>;
}

/**
 * Applies a formula to worked numbers and keeps the tree.
 *
 * @param title what the result is in this rig ("peak current"), where the formula's own title says too little
 * @throws FormulaError as {@link evaluateFormula}; ProgramError where a number comes in another unit than its symbol has
 */
export function work<S extends string>(formula: Formula<S>, inputs: { readonly [K in S]: Worked }, title?: string): Computed {
  const values: Record<string, number> = {};
  for (const symbol in inputs) {
    const { value, unit, title: of } = inputs[symbol];
    const wanted = formula.inputs[symbol].unit;
    if (unit !== wanted) throw new ProgramError(`${formula.id}: ${symbol} is in ${wanted}, and ${of} in ${unit}`);
    values[symbol] = value;
  }
  return {
    kind: 'computed',
    title: title ?? formula.result.title,
    value: evaluateFormula(formula as unknown as Formula, values),
    unit: formula.result.unit,
    formula: formula as unknown as Formula,
    inputs,
  };
}

/** What a worked number is worth by its own formula, beside what goes in; exact where nothing is said of it. */
export function certaintyOf(worked: Worked): Certainty {
  const exact: Certainty = { band: 0, drawnOut: null };
  if (worked.kind === 'given') return exact;
  const values = Object.fromEntries(Object.entries(worked.inputs).map(([symbol, input]) => [symbol, input.value]));
  return worked.formula.certainty?.(values) ?? exact;
}

/** A number of a published rule or a plain constant, such as the 50 V one bleeds down to. */
export const ruled = (title: string, value: number, unit: UnitId, source: string): Given => ({
  kind: 'given',
  title,
  value,
  unit,
  origin: { from: 'rule', source },
});

/** Every given number below a worked one, each once, in the order met. */
export function givens(worked: Worked, into = new Map<string, Given>(), seen = new Set<Worked>()): Map<string, Given> {
  if (worked.kind === 'given') {
    const key = keyOf(worked);
    if (!into.has(key)) into.set(key, worked);
  } else if (!seen.has(worked)) {
    seen.add(worked);
    for (const input of Object.values(worked.inputs)) givens(input, into, seen);
  }
  return into;
}

/** Whether some of it is what is usual, and nobody typed or measured it. */
export const isTypical = (worked: Worked): boolean =>
  [...givens(worked).values()].some(({ origin }) => origin.from === 'typical');

/** Every computed number of a tree that a test picks, each once. */
function computedWhere(
  worked: Worked,
  test: (of: Computed) => boolean,
  into = new Set<Computed>(),
  seen = new Set<Worked>(),
): Set<Computed> {
  if (worked.kind === 'given' || seen.has(worked)) return into;
  seen.add(worked);
  if (test(worked)) into.add(worked);
  for (const input of Object.values(worked.inputs)) computedWhere(input, test, into, seen);
  return into;
}

/** Whether a number comes from a tuned circuit: its greatest need not lie at the ends of the tolerances. */
export const isTuned = (worked: Worked): boolean => computedWhere(worked, ({ formula }) => formula.tuned === true).size > 0;

/** A formula once more, with each of what goes in at another value. */
function onceMore(
  worked: Computed,
  at: (input: Worked) => number,
): { readonly made: number; readonly values: Record<string, number> } {
  const values: Record<string, number> = {};
  let same = true;
  for (const symbol in worked.inputs) {
    const input = worked.inputs[symbol];
    if (!input) continue;
    const now = at(input);
    values[symbol] = now;
    same &&= now === input.value;
  }
  // What a change does not reach stays to the last digit.
  return { made: same ? worked.value : evaluateFormula(worked.formula, values), values };
}

/** A tree once more with one of its numbers changed; null where it then has no value. */
function withNode(worked: Worked, node: Computed, value: number, memo = new Map<Worked, number>()): number {
  if (worked === node) return value;
  if (worked.kind === 'given') return worked.value;
  const known = memo.get(worked);
  if (known !== undefined) return known;
  const { made } = onceMore(worked, (input) => withNode(input, node, value, memo));
  memo.set(worked, made);
  return made;
}

/**
 * A number once more, with every formula below it off by a share of its result that is drawn for it.
 *
 * @param draws from −1 to 1, by the id of the formula: the same formula is off the same way wherever it is used
 * @throws FormulaError where a formula has no value then
 */
export function withErrors(worked: Worked, draws: (formula: string) => number, memo = new Map<Worked, number>()): number {
  if (worked.kind === 'given') return worked.value;
  const known = memo.get(worked);
  if (known !== undefined) return known;
  const { made: exact, values } = onceMore(worked, (input) => withErrors(input, draws, memo));
  const band = worked.formula.certainty?.(values).band ?? 0;
  const made = band === 0 ? exact : exact * (1 + band * draws(worked.formula.id));
  memo.set(worked, made);
  return made;
}

/** How far the formulas themselves may put a number off, beside the tolerances of what went in: independent errors together. */
export function modelSpread(worked: Worked): { readonly down: number; readonly up: number } {
  let [down, up] = [0, 0];
  for (const node of computedWhere(worked, ({ formula }) => formula.certainty !== undefined)) {
    const { band } = certaintyOf(node);
    const moved = [-band, band].flatMap((share) => {
      try {
        return [withNode(worked, node, node.value * (1 + share)) - worked.value];
      } catch (error) {
        if (error instanceof FormulaError) return [];
        throw error;
      }
    });
    down += Math.min(0, ...moved) ** 2;
    up += Math.max(0, ...moved) ** 2;
  }
  return { down: Math.sqrt(down), up: Math.sqrt(up) };
}

const keyOf = (given: Given): string => (given.origin.from === 'rule' ? `rule:${given.title}` : given.origin.path);

/** A worked number once more, with other values for some of the given ones. @throws FormulaError where these do not go */
function workedAt(worked: Worked, at: ReadonlyMap<string, number>): number {
  if (worked.kind === 'given') return at.get(keyOf(worked)) ?? worked.value;
  const values = Object.fromEntries(Object.entries(worked.inputs).map(([symbol, input]) => [symbol, workedAt(input, at)]));
  return evaluateFormula(worked.formula, values);
}

const known = new WeakMap<Worked, { low: number; high: number }>();

/**
 * Lowest and highest value of a number over the tolerances of what it was worked out from: each given number alone to find its
 * direction, then the two corners where all agree. That is exact for a number monotone in all of them. A corner that has
 * no value is left out.
 */
export function boundsOf(worked: Worked): { low: number; high: number } {
  if (worked.kind === 'given') return bounds(worked);
  const before = known.get(worked);
  if (before) return before;
  const leaves = [...givens(worked).values()].filter((leaf) => leaf.tolerance);
  const valueAt = (sides: readonly (readonly [Given, 'low' | 'high'])[]): number => {
    try {
      return workedAt(worked, new Map(sides.map(([leaf, side]) => [keyOf(leaf), bounds(leaf)[side]])));
    } catch (error) {
      if (error instanceof FormulaError) return worked.value;
      throw error;
    }
  };
  const upwards = leaves.map((leaf) => [leaf, valueAt([[leaf, 'high']]) >= valueAt([[leaf, 'low']]) ? 'high' : 'low'] as const);
  const downwards = upwards.map(([leaf, side]) => [leaf, side === 'high' ? 'low' : 'high'] as const);
  const ends = [worked.value, valueAt(upwards), valueAt(downwards)];
  const made = { low: Math.min(...ends), high: Math.max(...ends) };
  known.set(worked, made);
  return made;
}

/** The symbol of a formula as it is set in print: `zeta` is ζ. */
export const displaySymbol = (formula: Formula, symbol: string): string =>
  symbol === formula.result.symbol ? (formula.result.display ?? symbol) : (formula.inputs[symbol]?.display ?? symbol);

/** The right-hand side with its symbols in braces; of one with cases that which is in force, where values are given. */
export const expressionIn = (formula: Formula, values?: Readonly<Record<string, number>>): string =>
  (values && formula.branch?.(values)) ?? formula.expression;

/** The formula with symbols: `E = ½·C·V²`. @param values for which it is asked, where it has cases */
export const expressionText = (formula: Formula, values?: Readonly<Record<string, number>>): string =>
  `${displaySymbol(formula, formula.result.symbol)} = ${expressionIn(formula, values).replace(/\{(\w+)\}/g, (_, s: string) => displaySymbol(formula, s))}`;

/**
 * The formula with values and units in place of symbols: `E = ½·(442 µF)·(2.40 kV)² = 1.27 kJ`, and behind that what explains its parts.
 *
 * @param digits significant digits of every printed number
 */
export function substitutionText(formula: Formula, values: Readonly<Record<string, number>>, result: number, digits = 4): string {
  const print = (value: number, unit: UnitId) => printQuantity(value, unit, { digits, trim: true });
  const body = expressionIn(formula, values).replace(/\{(\w+)\}/g, (_, symbol: string) => {
    const spec = formula.inputs[symbol];
    const text = spec ? print(values[symbol] ?? NaN, spec.unit) : symbol;
    return text.includes(' ') ? `(${text})` : text;
  });
  // Two spaces part the formula from what only explains it.
  const [first = '', ...explained] = body.split(/(?=, {2})/);
  return `${displaySymbol(formula, formula.result.symbol)} = ${first} = ${print(result, formula.result.unit)}${explained.join('')}`;
}

/** One line of the working as data, for a panel, the terminal or a file. */
export interface WorkingLine {
  readonly depth: number;
  readonly title: string;
  readonly formulaId: string;
  readonly expression: string;
  readonly substitution: string;
  readonly value: number;
  readonly unit: UnitId;
  readonly source: string;
  readonly assumptions: readonly string[];
  /** What the result is worth, in words; null where the formula is as good as what goes in. */
  readonly certainty: { readonly band: string; readonly drawnOut: string | null } | null;
  readonly inputs: readonly WorkingInput[];
}

export interface WorkingInput {
  readonly symbol: string;
  readonly title: string;
  readonly value: number;
  readonly unit: UnitId;
  readonly printed: string;
  readonly origin: Origin | { readonly from: 'computed'; readonly formulaId: string };
}

function inputLine(formula: Formula, symbol: string, worked: Worked): WorkingInput {
  const origin = worked.kind === 'given' ? worked.origin : { from: 'computed' as const, formulaId: worked.formula.id };
  const printed =
    printQuantity(worked.value, worked.unit, { digits: 4, trim: true }) + (worked.kind === 'given' ? printTolerance(worked) : '');
  return { symbol: displaySymbol(formula, symbol), title: worked.title, value: worked.value, unit: worked.unit, printed, origin };
}

/** The whole working of a number: its own line first, then the lines of what it was computed from, each formula use once. */
export function workingOf(worked: Worked, depth = 0, seen = new Set<Worked>()): WorkingLine[] {
  if (worked.kind === 'given' || seen.has(worked)) return [];
  seen.add(worked);
  const { formula, inputs } = worked;
  const values = Object.fromEntries(Object.entries(inputs).map(([symbol, input]) => [symbol, input.value]));
  const own: WorkingLine = {
    depth,
    title: worked.title,
    formulaId: formula.id,
    expression: expressionText(formula, values),
    substitution: substitutionText(formula, values, worked.value),
    value: worked.value,
    unit: worked.unit,
    source: formula.source,
    assumptions: formula.assumptions,
    certainty: wordCertainty(formula, values, worked.value),
    inputs: Object.entries(inputs).map(([symbol, input]) => inputLine(formula, symbol, input)),
  };
  return [own, ...Object.values(inputs).flatMap((input) => workingOf(input, depth + 1, seen))];
}
