/** A conductor at room temperature. */
export interface Conductor {
  readonly id: string;
  readonly title: string;
  /** Ω·m */
  readonly resistivity: number;
  readonly source: string;
}

/** Foils and leads, then fillings that serve as an electrode. */
export const foils: readonly Conductor[] = [
  { id: 'aluminium', title: 'aluminium', resistivity: 2.82e-8, source: 'IEC 60889, from memory' },
  { id: 'copper', title: 'copper', resistivity: 1.7241e-8, source: 'IEC 60028, from memory' },
];

export const fillings: readonly Conductor[] = [
  {
    id: 'brine',
    title: 'salt water, saturated',
    resistivity: 1 / 22,
    source: 'about 22 S/m at 20 °C, CRC Handbook, from memory',
  },
  {
    id: 'salt-water',
    title: 'salt water, 35 g a litre',
    resistivity: 1 / 4.8,
    source: 'about 4.8 S/m at 20 °C, as sea water, from memory',
  },
];

const byId = new Map([...foils, ...fillings].map((c) => [c.id, c]));

/** @returns null where no such conductor is listed */
export const conductorById = (id: string): Conductor | null => byId.get(id) ?? null;
