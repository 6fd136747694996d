import { printPercent } from '../quantity/index.ts';

/** From this share of a rating on a limit is shown as near. Common practice, no source. */
export const nearShare = 0.8;

export type LimitState = 'over' | 'near' | 'below' | 'unrated';

/** How a limit stands, judged at its worst corner. */
export function limitState(limit: { readonly worst: number | null }): LimitState {
  if (limit.worst === null) return 'unrated';
  if (limit.worst > 1) return 'over';
  return limit.worst >= nearShare ? 'near' : 'below';
}

/** How much of its rating a limit takes at its worst corner, in words. */
export const wordUse = (worst: number): string => (Number.isFinite(worst) ? printPercent(worst) : 'no value in the worst case');
