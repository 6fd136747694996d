/** How much of its voltage a dielectric gives back after a discharge. */
export interface Absorption {
  readonly id: string;
  readonly title: string;
  /** Share of the voltage that was on it. */
  readonly low: number;
  readonly high: number;
  /** s that a discharged one is left to itself before it is read again. Common practice, no source. */
  readonly wait: number;
}

/** Typical ranges as makers state them under tests of the kind of IEC 60384-1; from memory. */
export const absorptions: readonly Absorption[] = [
  { id: 'polypropylene', title: 'polypropylene', low: 2e-4, high: 1e-3, wait: 120 },
  { id: 'polystyrene', title: 'polystyrene', low: 1e-4, high: 5e-4, wait: 120 },
  { id: 'pet', title: 'polyester (PET)', low: 2e-3, high: 5e-3, wait: 120 },
  { id: 'paper-oil', title: 'paper in oil', low: 0.01, high: 0.05, wait: 600 },
  { id: 'ceramic-2', title: 'ceramic of class 2', low: 6e-3, high: 0.025, wait: 120 },
  { id: 'electrolytic', title: 'aluminium electrolytic', low: 0.1, high: 0.15, wait: 300 },
  { id: 'mica', title: 'mica', low: 3e-3, high: 7e-3, wait: 60 },
];
