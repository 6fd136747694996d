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
