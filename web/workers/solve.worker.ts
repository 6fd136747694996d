import { expose } from 'comlink';
import { solveRigScene, type SolveAnswer } from '@vast-surge/core/simulate';
import type { Rig } from '@vast-surge/core/rig';
import type { Scene } from '@vast-surge/core/block';

/** No page waits longer than this for a run, ms. */
const patience = 12_000;

/** The circuit solver, away from the page. */
const calculations = {
  solve: (rig: Rig, name: string, of: Scene['of'], quick: boolean): SolveAnswer => {
    const end = performance.now() + patience;
    return solveRigScene(rig, name, of, { quick, explain: !quick, cancelled: () => performance.now() > end });
  },
};
export type SolveCalculations = typeof calculations;

expose(calculations);
