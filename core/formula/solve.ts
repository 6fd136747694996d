import { edge, minimum } from '../numeric/index.ts';
import { printExact } from '../quantity/index.ts';
import { checkInputs, checkSymbol, FormulaError, type Formula, type SymbolSpec, type Values } from './define.ts';

/** Relative agreement asked of a closed inverse when its result is put back into the formula. */
const agreement = 1e-9;
const gridPoints = 600;

/**
 * Finds the value of one input that gives a wanted result.
 *
 * A closed inverse is used where the formula declares one, and checked by computing forward again; otherwise the allowed
 * range of the symbol is searched for sign changes on a logarithmic grid and each is closed in on by bisection to the
 * last bit.
 *
 * @param formula the formula
 * @param symbol the input to solve for
 * @param known all other inputs and the result under its own symbol, in SI units
 * @returns the value in the symbol's SI unit
 * @throws FormulaError naming the symbol when an input is bad, when no value in range gives the result, or when many do
 */
export function solveFormula(formula: Formula, symbol: string, known: Readonly<Record<string, number>>): number {
  const spec = formula.inputs[symbol];
  if (!spec) throw new FormulaError(formula.id, { code: 'unknown_symbol', symbol, known: Object.keys(formula.inputs) });
  if (formula.onlyForwards !== undefined)
    throw new FormulaError(formula.id, { code: 'no_solution', symbol, reason: formula.onlyForwards });
  const wanted = known[formula.result.symbol];
  const bad = checkKnown(formula, symbol, known);
  if (bad) throw new FormulaError(formula.id, bad);
  const target = wanted ?? 0;
  const at = (x: number): number | null => {
    const values = { ...known, [symbol]: x };
    if (checkInputs(formula, values)) return null;
    const value = formula.compute(values);
    return Number.isFinite(value) ? value : null;
  };
  const closed = formula.inverse?.[symbol]?.(known);
  const solution = closed ?? (spec.integer ? searchWhole(spec, target, at) : search(formula, symbol, spec, target, at));
  return accept(formula, symbol, spec, target, at, solution);
}

function checkKnown(formula: Formula, symbol: string, known: Readonly<Record<string, number>>) {
  const { symbol: resultSymbol, ...resultSpec } = formula.result;
  const resultIssue = checkSymbol(resultSymbol, resultSpec, known[resultSymbol]);
  if (resultIssue) return resultIssue;
  for (const [name, spec] of Object.entries(formula.inputs)) {
    if (name === symbol) continue;
    const issue = checkSymbol(name, spec, known[name]);
    if (issue) return issue;
  }
  return null;
}

const close = (a: number, b: number, relative: number) => Math.abs(a - b) <= relative * Math.max(Math.abs(a), Math.abs(b));

function accept(
  formula: Formula,
  symbol: string,
  spec: SymbolSpec,
  target: number,
  at: (x: number) => number | null,
  solution: number,
): number {
  const none = (reason: string) => new FormulaError(formula.id, { code: 'no_solution', symbol, reason });
  if (Number.isNaN(solution) && spec.integer) throw none('no whole number in its range gives this result');
  if (Number.isNaN(solution)) throw none('any value gives this result, or none does: the other inputs do not determine it');
  if (!Number.isFinite(solution)) throw none('no finite value gives this result');
  if (spec.integer) return acceptWhole(formula, symbol, spec, target, at, solution);
  const issue = checkSymbol(symbol, spec, solution);
  if (issue) throw none(`it would have to be ${printExact(solution, spec.unit)}, outside its range`);
  const back = at(solution);
  if (back === null) throw none(`it would have to be ${printExact(solution, spec.unit)}, which the other inputs do not allow`);
  // Where forward arithmetic cannot tell neighbours apart (a charge voltage within 1e-16 of its supply) the closed
  // inverse is still right, so only a difference that arithmetic can see refuses it.
  if (!close(back, target, agreement) && !conditioned(at, solution, target)) {
    throw none(
      `no value gives this result; the nearest, ${printExact(solution, spec.unit)}, gives ${printExact(back, formula.result.unit)}`,
    );
  }
  return solution;
}

/** Whether the target lies between the results at the nearest numbers below and above the solution. */
function conditioned(at: (x: number) => number | null, x: number, target: number): boolean {
  const below = at(x * (1 - 4e-16));
  const above = at(x * (1 + 4e-16));
  if (below === null || above === null) return false;
  return (below - target) * (above - target) <= 0;
}

function acceptWhole(
  formula: Formula,
  symbol: string,
  spec: SymbolSpec,
  target: number,
  at: (x: number) => number | null,
  solution: number,
): number {
  const nearest = Math.round(solution);
  const back = at(nearest);
  if (back !== null && close(back, target, agreement)) return nearest;
  const show = (n: number) => {
    const value = at(n);
    return value === null ? null : `${n} gives ${printExact(Number(value.toPrecision(6)), formula.result.unit)}`;
  };
  const neighbours = [Math.floor(solution), Math.ceil(solution)].map(show).filter((text) => text !== null);
  const hint = neighbours.length > 0 ? `: ${neighbours.join(', ')}` : '';
  throw new FormulaError(formula.id, {
    code: 'no_solution',
    symbol,
    reason: `no whole number in its range gives this result${hint}`,
  });
}

function grid(spec: SymbolSpec): number[] {
  const low = spec.min > 0 ? spec.min : 1e-18;
  const points = spec.open ? [] : [spec.min];
  const steps = Math.log(spec.max / low) / gridPoints;
  for (let i = 0; i <= gridPoints; i++) points.push(low * Math.exp(steps * i));
  return points;
}

function search(formula: Formula, symbol: string, spec: SymbolSpec, target: number, at: (x: number) => number | null): number {
  const samples = grid(spec).map((x) => ({ x, y: at(x) }));
  const exact = samples.filter((s) => s.y === target);
  if (exact.length > 1) {
    const [first, last] = [exact[0]?.x ?? 0, exact.at(-1)?.x ?? 0];
    const reason = `any value from about ${printExact(Number(first.toPrecision(2)), spec.unit)} to ${printExact(Number(last.toPrecision(2)), spec.unit)} gives this result`;
    throw new FormulaError(formula.id, { code: 'not_unique', symbol, reason });
  }
  if (exact[0]) return exact[0].x;
  const roots: number[] = [];
  for (let i = 1; i < samples.length; i++) {
    const span = validSpan(at, samples[i - 1]?.x ?? 0, samples[i]?.x ?? 0);
    if (span && (span.ya - target) * (span.yb - target) <= 0 && span.ya !== target)
      roots.push(bisect(at, target, span.a, span.b));
  }
  if (roots.length === 0) roots.push(...besideExtremes(samples, target, at));
  // Where the result hardly moves, its last digits cross the target by chance: no person means such a value.
  const firm = roots.length > 1 ? roots.filter((x) => moves(at, x, target)) : roots;
  const found = firm.length > 0 ? firm : roots;
  const [root] = found;
  if (root !== undefined && found.length === 1) return root;
  if (root !== undefined) {
    const list = found.map((r) => printExact(Number(r.toPrecision(6)), spec.unit)).join(' and ');
    throw new FormulaError(formula.id, { code: 'not_unique', symbol, reason: `several values give this result: ${list}` });
  }
  const reached = samples.filter((s) => s.y !== null).map((s) => s.y ?? 0);
  const range =
    reached.length === 0
      ? ''
      : `; with the other inputs the result lies between ${printExact(Number(Math.min(...reached).toPrecision(4)), formula.result.unit)} and ${printExact(Number(Math.max(...reached).toPrecision(4)), formula.result.unit)}`;
  throw new FormulaError(formula.id, { code: 'no_solution', symbol, reason: `no value in its range gives this result${range}` });
}

/** Whether a hundredth more or less of an input changes the result by more than arithmetic could. */
function moves(at: (x: number) => number | null, x: number, target: number): boolean {
  const [below, above] = [at(x / 1.01), at(x * 1.01)];
  return below === null || above === null || Math.abs(above - below) > 1e-9 * Math.abs(target);
}

/** Where a result that turns round between the samples comes to the target, or just touches it. */
function besideExtremes(
  samples: readonly { readonly x: number; readonly y: number | null }[],
  target: number,
  at: (x: number) => number | null,
): number[] {
  for (let i = 1; i + 1 < samples.length; i++) {
    const [left, middle, right] = [samples[i - 1], samples[i], samples[i + 1]];
    if (left?.y == null || middle?.y == null || right?.y == null) continue;
    const side = Math.sign(middle.y - target);
    // Only a turn towards the target can come to it.
    if ((middle.y - left.y) * side > 0 || (middle.y - right.y) * side > 0) continue;
    const turn = minimum((x) => side * ((at(x) ?? Infinity * side) - target), left.x, right.x);
    const value = at(turn);
    if (value === null) continue;
    if (close(value, target, agreement)) return [turn];
    if ((value - target) * side < 0) return [bisect(at, target, left.x, turn), bisect(at, target, turn, right.x)];
  }
  return [];
}

/** The part of an interval where the other inputs allow the symbol, closed in on from the end where they do not. */
function validSpan(
  at: (x: number) => number | null,
  left: number,
  right: number,
): { a: number; b: number; ya: number; yb: number } | null {
  let [a, b] = [left, right];
  const [fromLeft, fromRight] = [at(a), at(b)];
  if (fromLeft === null && fromRight === null) return null;
  const allowed = (x: number) => at(x) !== null;
  if (fromLeft === null) a = edge(allowed, b, a, { rounds: 60 }).below;
  if (fromRight === null) b = edge(allowed, a, b, { rounds: 60 }).below;
  const [ya, yb] = [at(a), at(b)];
  return ya === null || yb === null ? null : { a, b, ya, yb };
}

/** The whole number that gives the target, or a number between the two that it lies between; NaN where there are none. */
function searchWhole(spec: SymbolSpec, target: number, at: (x: number) => number | null): number {
  let before: number | null = null;
  let between = NaN;
  // A result may rise and fall again: what it passes over between two numbers is no reason to stop.
  for (let n = spec.min; n <= spec.max; n++) {
    const value = at(n);
    if (value !== null && close(value, target, agreement)) return n;
    if (Number.isNaN(between) && value !== null && before !== null && (before - target) * (value - target) < 0) between = n - 0.5;
    before = value;
  }
  return between;
}

/** Where the result comes to the target between two values on either side of it: the nearer of the last two. */
function bisect(at: (x: number) => number | null, target: number, left: number, right: number): number {
  const rising = (at(left) ?? 0) < target;
  const isNear = (x: number) => (at(x) ?? 0) < target === rising;
  const { below, above } = edge(isNear, left, right, { within: 0, isRatio: left > 0 });
  const [ya, yb] = [at(below) ?? 0, at(above) ?? 0];
  return Math.abs(ya - target) <= Math.abs(yb - target) ? below : above;
}

/** All inputs of a formula after solving, for the working: the given ones and the one found. */
export const withSolution = (known: Readonly<Record<string, number>>, symbol: string, value: number): Values => ({
  ...known,
  [symbol]: value,
});
