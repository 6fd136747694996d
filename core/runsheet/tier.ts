import { slots } from '../block/index.ts';
import { figureIn, type Evaluation } from '../evaluation/index.ts';
import { boundsOf } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { heldIn } from './held-steps.ts';

/**
 * What hands may discharge, J at the worst corner of all that is connected or within reach: up to 1 kJ by hand, resistor first and hard
 * strap after; from there on a fixed dump operated from outside the guard, and the stick after it; from 10 kJ no stick as the first way at
 * all. NFPA 70E annex R and DOE-HDBK-1092 let a hand-held stick go no further than about 1 kJ; from memory. 10 kJ is common practice, no source.
 */
export const tiers = { byHand: 1e3, neverByHandFirst: 10e3 } as const;

/** J at the worst corner: what is stored, and what stands beside it. */
function energyWithinReach(evaluation: Evaluation): number {
  const reading = evaluation.corners.nominal();
  const stored = figureIn(evaluation, 'stored-energy')?.band.high ?? 0;
  const beside = heldIn(evaluation, reading).reduce((sum, { E }) => sum + (E ? boundsOf(E).high : 0), 0);
  return stored + beside;
}

/** Why this energy is beyond what hands may discharge with what the rig has; null where it is not. */
export function beyondHands(evaluation: Evaluation): string | null {
  const E = energyWithinReach(evaluation);
  const hasDump = slots.some((slot) => evaluation.corners.nominal().offers(slot).dumpResistance !== undefined);
  if (E < tiers.byHand || hasDump) return null;
  const which =
    E < tiers.neverByHandFirst
      ? 'the stick comes only after a fixed dump that is operated from outside the guard'
      : 'a hand-held discharge never comes first: a fixed dump, operated from outside the guard, and a reading before anybody goes near';
  return `Up to ${printQuantity(E, 'J')} in the worst case is more than is discharged by hand (1 kJ): ${which}. Add a dump.`;
}
