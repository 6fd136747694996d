import { closerLook, solveRigScene, type SolveAnswer, type Trace } from '@vast-surge/core/simulate';
import type { Rig } from '@vast-surge/core/rig';
import type { Scene } from '@vast-surge/core/block';

/** No page waits longer than this for a run, ms. */
const patience = 12_000;

/** The last run with all its points, and what it was asked by. */
let kept: { readonly ticket: number; readonly traces: readonly Trace[] } | null = null;

/** The circuit solver, away from the page. */
export const calculations = {
  solve: (rig: Rig, name: string, of: Scene['of'], quick: boolean, ticket: number): SolveAnswer => {
    const end = performance.now() + patience;
    kept = null;
    return solveRigScene(rig, name, of, {
      quick,
      explain: !quick,
      cancelled: () => performance.now() > end,
      keep: (traces) => {
        kept = { ticket, traces };
      },
    });
  },
  /** A stretch of time of the run that was asked by this ticket; null where another has been run since. */
  closer: (ticket: number, from: number, to: number): Trace[] | null =>
    kept?.ticket === ticket ? closerLook(kept.traces, from, to) : null,
};
export type SolveCalculations = typeof calculations;
