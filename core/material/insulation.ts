/** The time constant of a dielectric's own leakage: insulation resistance times capacitance, whatever its size. */
export interface InsulationConstant {
  /** Of an absorption table's dielectric. */
  readonly id: string;
  /** s: poor, warm or old, and new. */
  readonly low: number;
  readonly high: number;
}

/**
 * Typical spans of R·C as makers state them at 20 °C (IEC 60384 families: film 10 000 s and more of a new one, class 2 ceramic 500 s and more,
 * aluminium electrolytic 100 s from a leakage of 0.01·C·V); a tenth of it for old and warm ones. From memory: nobody measured yours.
 */
export const insulationConstants: readonly InsulationConstant[] = [
  { id: 'polypropylene', low: 1e4, high: 1e6 },
  { id: 'polystyrene', low: 3e4, high: 3e6 },
  { id: 'pet', low: 3e3, high: 1e5 },
  { id: 'paper-oil', low: 1e3, high: 5e4 },
  { id: 'ceramic-2', low: 1e2, high: 1e4 },
  { id: 'electrolytic', low: 1e2, high: 1e4 },
  { id: 'mica', low: 1e3, high: 1e5 },
];

/** Of a dielectric that nobody knows: anything from an electrolytic to new polypropylene. */
export const anyInsulation: InsulationConstant = { id: 'unknown', low: 1e2, high: 1e6 };
