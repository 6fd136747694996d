/** A salt in water that resistors are made of. */
export interface Solution {
  readonly id: 'copper-sulphate' | 'salt';
  readonly title: string;
  /** Share by mass, and S/m at 20 °C, in rising order. Between them it is taken along a straight line of the logarithms. */
  readonly table: readonly (readonly [share: number, conductivity: number])[];
  readonly source: string;
}

export const solutions: readonly Solution[] = [
  {
    id: 'copper-sulphate',
    title: 'copper sulphate (anhydrous) in water',
    table: [
      [0.005, 0.29],
      [0.01, 0.54],
      [0.02, 0.93],
      [0.05, 1.9],
      [0.1, 3.22],
      [0.15, 4.23],
    ],
    source: 'CRC Handbook, conductivity of aqueous solutions at 20 °C; from memory',
  },
  {
    id: 'salt',
    title: 'common salt in water',
    table: [
      [0.005, 0.82],
      [0.01, 1.6],
      [0.02, 3.02],
      [0.05, 7.01],
      [0.1, 12.6],
      [0.15, 17.1],
    ],
    source: 'CRC Handbook, conductivity of aqueous solutions at 20 °C; from memory',
  },
];

export const solutionById = (id: string): Solution | null => solutions.find((one) => one.id === id) ?? null;

/**
 * Conductivity at 20 °C.
 *
 * @param share by mass; below the table in proportion to it, as ions that do not hinder each other
 * @returns S/m; null above the table
 */
export function conductivityOf({ table }: Solution, share: number): number | null {
  const [first] = table;
  if (!first || !(share > 0)) return null;
  if (share <= first[0]) return (first[1] * share) / first[0];
  const i = table.findIndex(([x]) => x >= share);
  const [low, high] = [table[i - 1], table[i]];
  if (!low || !high) return null;
  const at = Math.log(share / low[0]) / Math.log(high[0] / low[0]);
  return low[1] * (high[1] / low[1]) ** at;
}
