import { expressionText, formulas, wordRange, type SymbolSpec } from '@vast-surge/core/formula';
import { printExact, unitName } from '@vast-surge/core/quantity';

const symbolData = ({ title, unit, min, max, open, integer, default: initial }: SymbolSpec) => ({
  title,
  unit,
  min,
  max,
  minExcluded: open ?? false,
  integer: integer ?? false,
  ...(initial === undefined ? {} : { default: initial }),
});

export const formulasJson = () =>
  formulas.map((f) => ({
    id: f.id,
    title: f.title,
    subject: f.subject,
    symbol: f.result.symbol,
    unit: f.result.unit,
    expression: expressionText(f),
    inputs: Object.fromEntries(Object.entries(f.inputs).map(([symbol, spec]) => [symbol, symbolData(spec)])),
    source: f.source,
    assumptions: f.assumptions,
  }));

export function formulasText(): string {
  return formulas
    .map((f) => {
      const inputs = Object.entries(f.inputs).map(
        ([symbol, spec]) =>
          `    ${symbol}: ${spec.title}, ${unitName(spec.unit)}, ${wordRange(spec)}${spec.default === undefined ? '' : `; ${printExact(spec.default, spec.unit)} unless given`}`,
      );
      return [
        `${f.id}  ${f.title}`,
        `  ${expressionText(f)}`,
        `  gives ${f.result.symbol} in ${unitName(f.result.unit)}`,
        ...inputs,
      ].join('\n');
    })
    .join('\n\n');
}
