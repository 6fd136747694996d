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
  /** What comes of it when it breaks down. */
  readonly breaksDown: string;
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
  breaksDown: string,
): Dielectric => ({
  id,
  title,
  permittivity: { low: permittivity[0], high: permittivity[1] },
  strength: { low: kilovoltsPerMillimetre[0] * kV, high: kilovoltsPerMillimetre[1] * kV },
  breaksDown,
  source,
});

const glass = 'Glass splinters when it breaks down.';
const plastic = 'A sheet of plastic burns through, and its edge may go on burning.';
const chlorine = 'PVC that burns gives off hydrogen chloride: air the room.';

/** In the order in which they are offered. A new one is one line here. */
export const dielectrics: readonly Dielectric[] = [
  dielectric('soda-glass', 'soda glass', [6, 8], [8, 30], glass),
  dielectric('polyethylene', 'polyethylene', [2.25, 2.4], [18, 50], plastic),
  dielectric('polypropylene', 'polypropylene', [2.2, 2.3], [20, 70], plastic),
  dielectric('pet', 'PET film', [3, 3.3], [17, 150], plastic),
  dielectric('pvc-soft', 'PVC, soft: desk covers, curtains', [4, 8], [10, 25], chlorine),
  dielectric('pvc-rigid', 'PVC, rigid: sheet and pipe', [2.9, 3.5], [14, 40], chlorine),
  dielectric('polycarbonate', 'polycarbonate', [2.9, 3.1], [15, 30], plastic),
  dielectric('acrylic', 'acrylic sheet', [2.6, 3.7], [15, 22], plastic),
  dielectric('epoxy-glass', 'epoxy with glass cloth, bare board', [4.2, 5], [20, 45], plastic),
  dielectric('ptfe', 'PTFE', [2, 2.1], [18, 60], 'PTFE that an arc heats gives off poisonous fumes: air the room.'),
  dielectric('polystyrene', 'polystyrene', [2.4, 2.7], [18, 30], plastic),
  dielectric('mica', 'mica', [5.4, 8.7], [60, 160], 'Mica flakes off at the puncture; the foil may burn.'),
  dielectric('mineral-oil', 'mineral oil', [2.1, 2.4], [10, 20], 'Oil is thrown out by an arc, and burns.'),
  dielectric('air', 'air', [1.0006, 1.0006], [3, 3], 'Air breaks down with a bang, and recovers.'),
  dielectric('water', 'water, pure', [78, 81], [13, 20], 'Water is thrown out by the arc, and its vessel may burst.'),
];

const byId = new Map(dielectrics.map((d) => [d.id, d]));

/** @returns null where no such material is listed */
export const dielectricById = (id: string): Dielectric | null => byId.get(id) ?? null;
