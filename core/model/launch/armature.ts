import type { Layer } from '../coaxial.ts';

/**
 * What moves in the coils of a launcher, as the circuits see it at an instant. With D the diagonal of `L` and M what the coils
 * share without it, the flux linkages change as (D + M + c·h·hᵀ)·di/dt + e·v + g, v being the speed.
 */
export interface Reading {
  /** H: of each coil by itself. */
  readonly L: Float64Array;
  /** How strongly each coil acts on it, and what the coils share through it by that: c·h·h is an inductance, H. */
  readonly h: Float64Array;
  c: number;
  /** V·s/m: voltage of each coil for each metre a second. */
  readonly e: Float64Array;
  /** V: voltage of each coil that is there at rest and at constant current, as what flows in the armature dies away. */
  readonly g: Float64Array;
  /** V: change of the flux linkage that the armature has by itself; and W that it turns into heat. */
  rate: number;
  heat: number;
  /** N along the axis. */
  F: number;
  /** J in all fields. */
  W: number;
}

export interface Armature {
  /** Number of coils. */
  readonly coils: number;
  /** H that coils share without it, row by row, with noughts along the diagonal; null for a coil alone. */
  readonly mutual: Float64Array | null;
  /** H of the current that flows in the armature itself; 0 where none does. */
  readonly own: number;
  /**
   * @param x m: where its middle is
   * @param i A in each coil
   * @param psi V·s: flux linkage of the armature itself, 0 at first
   */
  read(x: number, i: Float64Array, psi: number, out: Reading): void;
}

export const newReading = (coils: number): Reading => ({
  L: new Float64Array(coils),
  h: new Float64Array(coils),
  c: 0,
  e: new Float64Array(coils),
  g: new Float64Array(coils),
  rate: 0,
  heat: 0,
  F: 0,
  W: 0,
});

/** A coil of a launcher: how it is wound, where its middle stands, what it has by itself. */
export interface LaunchCoil {
  readonly layers: readonly Layer[];
  /** m along the barrel */
  readonly at: number;
  /** H without a slug */
  readonly L: number;
}
