import { printExact, printPercent, printQuantity, unitName, type UnitId } from '../quantity/index.ts';

/** One symbol of a formula. Ranges are closed unless `open` says that the lower end is excluded. */
export interface SymbolSpec {
  readonly title: string;
  readonly unit: UnitId;
  readonly min: number;
  readonly max: number;
  /** The value must lie above `min`, not at it. */
  readonly open?: boolean;
  readonly integer?: boolean;
  /** What stands for it where a person gives none: the default of a rule with several schools. */
  readonly default?: number;
  /** How the symbol is set in print where its id has to be plain letters: ζ for `zeta`. */
  readonly display?: string;
}

export type Values<S extends string = string> = { readonly [K in S]: number };

export type FormulaIssue =
  | { readonly code: 'missing'; readonly symbol: string; readonly spec: SymbolSpec }
  | { readonly code: 'unknown_symbol'; readonly symbol: string; readonly known: readonly string[] }
  | { readonly code: 'not_finite'; readonly symbol: string; readonly spec: SymbolSpec }
  | { readonly code: 'out_of_range'; readonly symbol: string; readonly spec: SymbolSpec; readonly value: number }
  | { readonly code: 'not_integer'; readonly symbol: string; readonly spec: SymbolSpec; readonly value: number }
  | { readonly code: 'relation'; readonly symbol: string; readonly reason: string }
  | { readonly code: 'no_solution'; readonly symbol: string; readonly reason: string }
  | { readonly code: 'not_unique'; readonly symbol: string; readonly reason: string }
  | { readonly code: 'broken'; readonly symbol: string; readonly detail: string };

/** What a result of a formula is worth where it was worked out. */
export interface Certainty {
  /** How far the formula itself may be off, as a fraction of its result: beside the tolerances of what goes in. */
  readonly band: number;
  /** What it is extrapolated beyond, of what it was checked against; null within. */
  readonly drawnOut: string | null;
}

export interface Formula<S extends string = string> {
  /** kebab-case, unique in the registry. */
  readonly id: string;
  readonly title: string;
  /** The file it stands in: the heading it is listed under. */
  readonly subject: string;
  readonly result: SymbolSpec & { readonly symbol: string };
  readonly inputs: { readonly [K in S]: SymbolSpec };
  /** The right-hand side as people write it, each input in braces: `½·{C}·{V}²`. */
  readonly expression: string;
  /** Of an expression with cases, that which is in force for these values. */
  branch?(values: Values<S>): string;
  /** Author, title, section; or "common practice". */
  readonly source: string;
  readonly assumptions: readonly string[];
  /** A relation between symbols that must hold, beyond each symbol's own range. */
  relation?(values: Values<S>): { readonly symbol: S; readonly reason: string } | null;
  /** What the result is worth, of formulas that were fitted to measurements; of others it is as good as what goes in. */
  certainty?(values: Values<S>): Certainty;
  /** On plain SI numbers, all inputs inside their ranges and the relation holding. Allocates nothing. */
  compute(values: Values<S>): number;
  /** Of a tuned circuit: the result has its greatest where inputs suit each other, so not always at the ends of their tolerances. */
  readonly tuned?: true;
  /** Why it is not asked backwards: of results that jump, no input can be singled out. */
  readonly onlyForwards?: string;
  /** Closed inverses, for the symbols that have one; `values` holds the others and the result under its symbol. */
  readonly inverse?: { readonly [K in S]?: (values: Values) => number };
}

/** Every symbol of a formula with its specification: the inputs in their order, then the result. */
export function symbolsOf(formula: Formula): { readonly symbol: string; readonly spec: SymbolSpec }[] {
  const { symbol, ...spec } = formula.result;
  return [...Object.entries(formula.inputs).map(([input, inputSpec]) => ({ symbol: input, spec: inputSpec })), { symbol, spec }];
}

/** The values with the defaults of a formula for those that were not given. */
export const withDefaults = (formula: Formula, values: Readonly<Record<string, number>>): Record<string, number> => ({
  ...Object.fromEntries(
    Object.entries(formula.inputs).flatMap(([symbol, spec]) => (spec.default === undefined ? [] : [[symbol, spec.default]])),
  ),
  ...values,
});

/** Keeps the symbols of one formula together for the type checker; it changes nothing. */
export const defineFormula = <S extends string>(formula: Formula<S>): Formula<S> => formula;

/** A mistake in the program itself, such as a name that nothing declares. It is never a number that is not known. */
export class ProgramError extends Error {
  constructor(what: string) {
    super(`fault of this program: ${what}`);
    this.name = 'ProgramError';
  }
}

/** A user's mistake in a formula: a list of facts, worded by {@link wordFormulaIssue}. */
export class FormulaError extends Error {
  readonly formulaId: string;
  readonly issue: FormulaIssue;
  constructor(formulaId: string, issue: FormulaIssue) {
    super(wordFormulaIssue(issue));
    this.name = 'FormulaError';
    this.formulaId = formulaId;
    this.issue = issue;
  }
}

/** "within 3 %: 16.9 kV to 17.9 kV", and what it is extrapolated beyond. `null` where the formula says nothing of it. */
export function wordCertainty(
  formula: Formula,
  values: Values,
  result: number,
): { band: string; drawnOut: string | null } | null {
  const certainty = formula.certainty?.(values);
  if (!certainty) return null;
  const print = (value: number) => printQuantity(value, formula.result.unit, { digits: 4, trim: true });
  const [low, high] = [result * (1 - certainty.band), result * (1 + certainty.band)];
  return { band: `within ${printPercent(certainty.band, 2)}: ${print(low)} to ${print(high)}`, drawnOut: certainty.drawnOut };
}

/** "above 0 F, up to 1000 F": the allowed range in words. */
export function wordRange(spec: Pick<SymbolSpec, 'min' | 'max' | 'open' | 'unit' | 'integer'>): string {
  const show = (value: number) => printExact(value, spec.unit);
  const whole = spec.integer ? 'a whole number ' : '';
  return `${whole}${spec.open ? 'above' : 'from'} ${show(spec.min)} ${spec.open ? 'up to' : 'to'} ${show(spec.max)}`;
}

export function wordFormulaIssue(issue: FormulaIssue): string {
  switch (issue.code) {
    case 'missing':
      return `${issue.symbol} (${issue.spec.title}, ${unitName(issue.spec.unit)}) is missing; it must be ${wordRange(issue.spec)}`;
    case 'unknown_symbol':
      return `${issue.symbol} is not a symbol of this formula; it has ${issue.known.join(', ')}`;
    case 'not_finite':
      return `${issue.symbol} (${issue.spec.title}) is not a number; it must be ${wordRange(issue.spec)}`;
    case 'out_of_range':
      return `${issue.symbol} (${issue.spec.title}) is ${printExact(issue.value, issue.spec.unit)}; it must be ${wordRange(issue.spec)}`;
    case 'not_integer':
      return `${issue.symbol} (${issue.spec.title}) is ${printExact(issue.value, issue.spec.unit)}; it must be ${wordRange(issue.spec)}`;
    case 'relation':
      return `${issue.symbol}: ${issue.reason}`;
    case 'no_solution':
      return `${issue.symbol}: ${issue.reason}`;
    case 'not_unique':
      return `${issue.symbol}: ${issue.reason}`;
    case 'broken':
      return `${issue.symbol}: the formula itself failed (${issue.detail}). That is a fault of this program, not of what was typed; the number is missing, not zero`;
    default:
      return issue satisfies never;
  }
}

/** Why a value may not stand for a symbol, or null if it may. */
export function checkSymbol(symbol: string, spec: SymbolSpec, value: number | undefined): FormulaIssue | null {
  if (value === undefined) return { code: 'missing', symbol, spec };
  if (!Number.isFinite(value)) return { code: 'not_finite', symbol, spec };
  if (value < spec.min || value > spec.max || (spec.open && value === spec.min))
    return { code: 'out_of_range', symbol, spec, value };
  if (spec.integer && !Number.isInteger(value)) return { code: 'not_integer', symbol, spec, value };
  return null;
}

/** The first reason why `values` may not be computed, or null. */
export function checkInputs(formula: Formula, values: { readonly [symbol: string]: number | undefined }): FormulaIssue | null {
  // A plain loop: this runs some thousand times for every keystroke in a rig.
  for (const symbol in formula.inputs) {
    const spec = formula.inputs[symbol];
    const issue = spec ? checkSymbol(symbol, spec, values[symbol]) : null;
    if (issue) return issue;
  }
  const broken = formula.relation?.(values as Values);
  return broken ? { code: 'relation', ...broken } : null;
}

/** A formula that throws must cost its own number and nothing else, so its throw becomes an issue of its result. */
function computed(formula: Formula, values: Values): number {
  try {
    return formula.compute(values);
  } catch (error) {
    const detail = error instanceof Error ? error.message.slice(0, 120) : 'no reason given';
    throw new FormulaError(formula.id, { code: 'broken', symbol: formula.result.symbol, detail });
  }
}

/**
 * Evaluates a formula with every check.
 *
 * @throws FormulaError naming the symbol, when an input is missing, out of its range, or the result is not finite
 */
export function evaluateFormula(formula: Formula, values: Values): number {
  const issue = checkInputs(formula, values);
  if (issue) throw new FormulaError(formula.id, issue);
  const value = computed(formula, values);
  if (!Number.isFinite(value)) {
    const reason = 'the result of these inputs is beyond any number this program can hold';
    throw new FormulaError(formula.id, { code: 'relation', symbol: formula.result.symbol, reason });
  }
  return value;
}
