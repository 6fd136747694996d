import { expose } from 'comlink';
import { headlineOf, type Headline } from '@vast-surge/core/evaluation';
import type { Rig } from '@vast-surge/core/rig';

/** Evaluates rigs away from the page: a long list takes seconds, and the page must follow the hand meanwhile. */
const calculations = {
  headlines: (rigs: readonly Rig[]): Headline[] => rigs.map(headlineOf),
};
export type HeadlineCalculations = typeof calculations;

expose(calculations);
