import { Unavailable } from '@vast-surge/core/block';
import { FormulaError } from '@vast-surge/core/formula';
import { printQuantity } from '@vast-surge/core/quantity';
import {
  launchFinder,
  launchStudy,
  type FinderSpec,
  type LaunchDesign,
  type LaunchFinder,
  type LaunchOutcome,
} from '@vast-surge/core/study';

/** A finder that stands ready, or why it does not. */
export type Prepared =
  | {
      readonly ok: true;
      readonly variables: LaunchFinder['variables'];
      readonly from: readonly number[];
      /** The rig as it stands. */
      readonly now: { readonly exit: number; readonly efficiency: number; readonly peakCurrent: number };
    }
  | { readonly ok: false; readonly reason: string };

let finder: LaunchFinder | null = null;

/** One of several that share the launches of a search. */
export const calculations = {
  prepare: (spec: Pick<FinderSpec, 'rig' | 'goal' | 'limits' | 'freedom'>): Prepared => {
    try {
      finder = launchFinder(spec);
      const study = launchStudy(spec.rig, printQuantity);
      if (!finder || !study) return { ok: false, reason: 'its load is not a coilgun stage' };
      const taken = study.stages.reduce((sum, stage) => sum + stage.taken, 0);
      const moved = Math.max(0, study.run.energy.kinetic + study.run.energy.lifted);
      return {
        ok: true,
        variables: finder.variables,
        from: finder.from,
        now: { exit: study.exit, efficiency: taken > 0 ? moved / taken : 0, peakCurrent: study.peakCurrent },
      };
    } catch (error) {
      if (error instanceof Unavailable || error instanceof FormulaError) return { ok: false, reason: error.message };
      throw error;
    }
  },
  outcomes: (points: readonly (readonly number[])[]): LaunchOutcome[] => {
    const { evaluate } = ready();
    return points.map(evaluate);
  },
  describe: (point: readonly number[]): LaunchDesign => ready().design(point),
};
export type CoilFinderCalculations = typeof calculations;

function ready(): LaunchFinder {
  if (!finder) throw new Error('the finder was not prepared');
  return finder;
}
