import type { Arc } from './element.ts';

/** An arc whose resistance falls with what has passed through it. */
export type FallingArc = Exclude<Arc, { readonly law: 'fixed' }>;

/** Where an arc begins, Ω: what it was before is an open gap. */
const arcStart = 1e5;

/** How fast the state of an arc grows with its current: ∫|i|dt in C, or ∫i²dt in A²s. */
export const arcRate = (arc: FallingArc, i: number): number => (arc.law === 'toepler' ? Math.abs(i) : i * i);

/** Resistance of an arc at its state, Ω. */
export function arcResistance(arc: Arc, state: number): number {
  if (arc.law === 'fixed') return arc.R;
  return (
    (arc.series ?? 0) + Math.max(arc.Rmin, arc.law === 'toepler' ? (arc.k * arc.d) / state : arc.d / Math.sqrt(2 * arc.a * state))
  );
}

/** State of an arc at its beginning. */
export const arcBegins = (arc: FallingArc): number =>
  arc.law === 'toepler' ? (arc.k * arc.d) / (arc.start ?? arcStart) : (arc.d / (arc.start ?? arcStart)) ** 2 / (2 * arc.a);

/**
 * By how much the voltage of an arc grows with its current within a step, Ω: its state at the end of it, `q`, grows with the current, and its
 * resistance falls with its state. Of either law that leaves of the falling part what its state was before over what it is.
 *
 * @param before what its state would be without a current in the step
 */
export function arcSlope(arc: FallingArc, before: number, q: number): number {
  const R = arcResistance(arc, q);
  const falling = R - (arc.series ?? 0);
  return falling > arc.Rmin ? R - falling * (1 - before / q) : R;
}
