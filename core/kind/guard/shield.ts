/** What a shield is made of: how much thicker than mild steel it is for the same fragment. */
export interface ShieldMaterial {
  readonly id: 'steel' | 'aluminium' | 'polycarbonate' | 'plywood';
  readonly title: string;
  /** Factor on the thickness of steel, and what it may be at the least and the most. */
  readonly factor: number;
  readonly least: number;
  readonly most: number;
}

/** Common practice, no source: by areal mass and strength against steel plate; a span, never a promise. */
export const shieldMaterials: readonly ShieldMaterial[] = [
  { id: 'steel', title: 'mild steel', factor: 1, least: 0.8, most: 1.3 },
  { id: 'aluminium', title: 'aluminium', factor: 2.5, least: 2, most: 3.5 },
  { id: 'polycarbonate', title: 'polycarbonate', factor: 7, least: 5, most: 10 },
  { id: 'plywood', title: 'plywood', factor: 20, least: 12, most: 30 },
];

export const shieldOf = (id: string): ShieldMaterial | null => shieldMaterials.find((one) => one.id === id) ?? null;
