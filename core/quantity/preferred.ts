/**
 * Preferred numbers of the E series. Source: IEC 60063.
 */
const series = {
  E6: [1, 1.5, 2.2, 3.3, 4.7, 6.8],
  E12: [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2],
  E24: [1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1],
} as const;

export type ESeries = keyof typeof series;

/**
 * The next preferred number above (`direction` 1) or below (−1) a positive value.
 *
 * @returns a number of the series strictly beyond `value`; `value` itself where it is not positive and finite
 */
export function stepPreferred(value: number, direction: 1 | -1, name: ESeries = 'E12'): number {
  if (!(value > 0) || !Number.isFinite(value)) return value;
  const decade = Math.floor(Math.log10(value));
  const candidates: number[] = [];
  for (let d = decade - 1; d <= decade + 1; d++) {
    for (const m of series[name]) candidates.push(Number(`${m}e${d}`));
  }
  const slack = value * 1e-9;
  const beyond =
    direction === 1 ? candidates.filter((c) => c > value + slack) : candidates.filter((c) => c < value - slack).reverse();
  return beyond[0] ?? value;
}
