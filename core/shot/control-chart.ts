/**
 * A control chart of single values: middle, and limits three deviations to either side, the deviation from the mean range between neighbours.
 * What lies beyond a limit came from something else than the scatter of all others; so did nine in a row on one side. Source: Shewhart,
 * Economic Control of Quality (1931); factors d₂ = 1.128 and D₄ = 3.267 of ranges of two, and the rule of nine, from memory.
 */
export interface ControlChart {
  readonly centre: number;
  readonly low: number;
  readonly high: number;
  /** Mean range between neighbours, and above what one is too wide. */
  readonly range: { readonly mean: number; readonly high: number };
  /** Indices of values beyond a limit. */
  readonly beyond: readonly number[];
  /** Where nine in a row have lain on one side of the middle: the index of the ninth; null where nowhere. */
  readonly shift: number | null;
}

const d2 = 1.128;
const D4 = 3.267;
const inARow = 9;

/** @param values in the order in which they came, four or more; null of fewer */
export function controlChart(values: readonly number[]): ControlChart | null {
  if (values.length < 4) return null;
  const mean = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0) / all.length;
  const centre = mean(values);
  const range = mean(values.slice(1).map((v, i) => Math.abs(v - (values[i] ?? v))));
  const reach = (3 * range) / d2;
  const sides = values.map((v) => Math.sign(v - centre));
  const shift = sides.findIndex(
    (side, i) => side !== 0 && i + 1 >= inARow && sides.slice(i + 1 - inARow, i + 1).every((s) => s === side),
  );
  return {
    centre,
    low: centre - reach,
    high: centre + reach,
    range: { mean: range, high: D4 * range },
    beyond: values.flatMap((v, i) => (Math.abs(v - centre) > reach ? [i] : [])),
    shift: shift < 0 ? null : shift,
  };
}
