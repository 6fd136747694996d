import {
  checkSymbol,
  displaySymbol,
  evaluateFormula,
  expressionText,
  formulaById,
  formulas,
  FormulaError,
  solveFormula,
  substitutionText,
  symbolsOf,
  withDefaults,
  withSolution,
  wordCertainty,
  wordRange,
  type Formula,
  type SymbolSpec,
} from '@vast-surge/core/formula';
import { parseQuantity, printQuantity, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { UsageError } from './usage.ts';

export interface Answer {
  readonly text: string;
  readonly data: {
    readonly id: string;
    readonly symbol: string;
    readonly value: number;
    readonly unit: UnitId;
    readonly working: {
      expression: string;
      substitution: string;
      inputs: Record<string, number>;
      source: string;
      assumptions: readonly string[];
      certainty: { readonly band: string; readonly drawnOut: string | null } | null;
    };
  };
}

function formulaOf(id: string): Formula {
  const formula = formulaById.get(id);
  if (formula) return formula;
  const near = formulas.filter((f) => f.id.includes(id) || id.includes(f.id)).map((f) => f.id);
  throw new UsageError(
    `id: there is no formula "${id.slice(0, 60)}"${near.length > 0 ? `; did you mean ${near.join(', ')}?` : '; surge formulas lists them'}`,
  );
}

/** Symbols are taken as written, or as they are set in print (ζ for zeta). */
function symbolOf(formula: Formula, written: string): { symbol: string; spec: SymbolSpec } {
  const all = symbolsOf(formula);
  const found =
    all.find(({ symbol }) => symbol === written) ?? all.find(({ symbol }) => displaySymbol(formula, symbol) === written);
  if (found) return found;
  throw new UsageError(
    `${written.slice(0, 40)}: ${formula.id} has no such symbol; it has ${all.map(({ symbol }) => symbol).join(', ')}`,
  );
}

function readValues(formula: Formula, pairs: readonly string[]): Record<string, number> {
  const values: Record<string, number> = {};
  for (const pair of pairs) {
    const cut = pair.indexOf('=');
    if (cut < 1) throw new UsageError(`"${pair.slice(0, 60)}" is not SYMBOL=QUANTITY`);
    const { symbol, spec } = symbolOf(formula, pair.slice(0, cut).trim());
    if (Object.hasOwn(values, symbol)) throw new UsageError(`${symbol} is given twice`);
    const parsed = parseQuantity(pair.slice(cut + 1), spec.unit);
    if (!parsed.ok)
      throw new UsageError(`${symbol} (${spec.title}) ${wordQuantityIssue(parsed.issue)}; it must be ${wordRange(spec)}`);
    if (parsed.quantity.tolerance)
      throw new UsageError(`${symbol} (${spec.title}): a single sum takes no tolerance; give its ends one after the other`);
    values[symbol] = parsed.quantity.value;
  }
  return values;
}

function solved(
  formula: Formula,
  values: Record<string, number>,
  solve: string | undefined,
): { symbol: string; value: number; inputs: Record<string, number>; result: number } {
  const { symbol: result, ...resultSpec } = formula.result;
  if (solve === undefined || solve === result) {
    if (Object.hasOwn(values, result))
      throw new UsageError(
        `${result} (${resultSpec.title}) is what this formula computes; to start from it, name an input with --solve`,
      );
    const inputs = withDefaults(formula, values);
    const value = evaluateFormula(formula, inputs);
    return { symbol: result, value, inputs, result: value };
  }
  if (Object.hasOwn(values, solve)) throw new UsageError(`${solve} is both given and to be solved for`);
  const missing = checkSymbol(result, resultSpec, values[result]);
  if (missing?.code === 'missing')
    throw new UsageError(`${result} (${resultSpec.title}) is missing; to solve for ${solve} give it as ${result}=QUANTITY`);
  const known = withDefaults(formula, values);
  const value = solveFormula(formula, solve, known);
  const { [result]: target = NaN, ...inputs } = withSolution(known, solve, value);
  return { symbol: solve, value, inputs, result: target };
}

/** One sum. @throws UsageError naming the symbol on anything that cannot be taken */
export function calculate(id: string, pairs: readonly string[], solve?: string): Answer {
  const formula = formulaOf(id);
  const wanted = solve === undefined ? undefined : symbolOf(formula, solve).symbol;
  try {
    const { symbol, value, inputs, result } = solved(formula, readValues(formula, pairs), wanted);
    const unit = symbol === formula.result.symbol ? formula.result.unit : (formula.inputs[symbol]?.unit ?? '1');
    const expression = expressionText(formula);
    const substitution = substitutionText(formula, inputs, result, 6);
    const certainty = wordCertainty(formula, inputs, result);
    const lines = [
      `${formula.title}`,
      `  ${displaySymbol(formula, symbol)} = ${printQuantity(value, unit, { digits: 6, trim: true })}`,
      `  ${expression}`,
      `  ${substitution}`,
      ...(certainty ? [`  band: ${formula.result.symbol} ${certainty.band}, by the formula itself`] : []),
      ...(certainty?.drawnOut ? [`  extrapolated: ${certainty.drawnOut}`] : []),
      `  source: ${formula.source}`,
      ...formula.assumptions.map((a) => `  assumes: ${a}`),
    ];
    return {
      text: lines.join('\n'),
      data: {
        id,
        symbol,
        value,
        unit,
        working: { expression, substitution, inputs, source: formula.source, assumptions: formula.assumptions, certainty },
      },
    };
  } catch (error) {
    if (error instanceof FormulaError) throw new UsageError(error.message);
    throw error;
  }
}
