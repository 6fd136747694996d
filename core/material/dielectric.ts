/** Range of a property of a material, SI. */
export interface Range {
  readonly low: number;
  readonly high: number;
}

/** An insulating material with what it can be: thin, clean, at room temperature and low frequency. */
export interface Dielectric {
  /** kebab-case. */
  readonly id: string;
  readonly title: string;
  /** Relative permittivity. */
  readonly permittivity: Range;
  /** Breakdown strength, V/m. Thin films are stronger than sheets, and home-made ones weaker than both. */
  readonly strength: Range;
  readonly source: string;
}

const source = 'CRC Handbook of Chemistry and Physics; Kuffel, Zaengl and Kuffel, High Voltage Engineering; from memory';
const kV = 1e6;

const dielectric = (
  id: string,
  title: string,
  permittivity: readonly [number, number],
  kilovoltsPerMillimetre: readonly [number, number],
): Dielectric => ({
  id,
  title,
  permittivity: { low: permittivity[0], high: permittivity[1] },
  strength: { low: kilovoltsPerMillimetre[0] * kV, high: kilovoltsPerMillimetre[1] * kV },
  source,
});

/** In the order in which they are offered. A new one is one line here. */
export const dielectrics: readonly Dielectric[] = [
  dielectric('soda-glass', 'soda glass', [6, 8], [8, 30]),
  dielectric('polyethylene', 'polyethylene', [2.25, 2.4], [18, 50]),
  dielectric('polypropylene', 'polypropylene', [2.2, 2.3], [20, 70]),
  dielectric('pet', 'PET film', [3, 3.3], [17, 150]),
  dielectric('ptfe', 'PTFE', [2, 2.1], [18, 60]),
  dielectric('polystyrene', 'polystyrene', [2.4, 2.7], [18, 30]),
  dielectric('mica', 'mica', [5.4, 8.7], [60, 160]),
  dielectric('mineral-oil', 'mineral oil', [2.1, 2.4], [10, 20]),
  dielectric('air', 'air', [1.0006, 1.0006], [3, 3]),
  dielectric('water', 'water, pure', [78, 81], [13, 20]),
];

const byId = new Map(dielectrics.map((d) => [d.id, d]));

/** @returns null where no such material is listed */
export const dielectricById = (id: string): Dielectric | null => byId.get(id) ?? null;
