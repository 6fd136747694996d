import type { Rig } from '@vast-surge/core/rig';
import {
  draftsOf,
  erectionOf,
  erectionThresholds,
  matterRowsChunk,
  outputsOf,
  overvoltages,
  readDesign,
  samplerOf,
  scatterChunk,
  sweepChunk,
  swingsOf,
  tryDraft,
  type Alone,
  type DesignQuestion,
  type Draft,
  type ErectionStudy,
  type ShotsOfStudy,
  type Outcome,
  type Output,
  type Scatter,
  type Sweep,
  type SweepPoint,
  type VarianceRow,
} from '@vast-surge/core/study';

/** What a sample has. */
export interface SampleDrawn {
  /** Its fields with a tolerance, SI. */
  readonly values: readonly (readonly [path: string, value: number])[];
  /** What scatters from shot to shot, in standard deviations from its mean. */
  readonly shot: readonly (readonly [title: string, deviations: number])[];
}

/** A rig asked many times, a stretch at a time: whoever calls says which, so that several workers share one study. */
export const calculations = {
  outputs: (rig: Rig): readonly Output[] => outputsOf(rig),
  sweep: (rig: Rig, sweep: Sweep, from: number, to: number): readonly SweepPoint[] => sweepChunk(rig, sweep, from, to),
  scatter: (rig: Rig, scatter: Omit<Scatter, 'samples'>, from: number, to: number): readonly Float64Array[] =>
    scatterChunk(rig, scatter, from, to),
  drawn: (rig: Rig, scatter: Omit<Scatter, 'samples'>, sample: number): SampleDrawn => {
    const sampler = samplerOf(rig, scatter);
    const [values, shot] = [sampler.drawn(sample), sampler.shot(sample)];
    return {
      values: sampler.inputs.map(({ path }, k) => [path, values[k] ?? NaN] as const),
      shot: sampler.scattered.map(({ title }, k) => [title, shot[k] ?? NaN] as const),
    };
  },
  drafts: (question: DesignQuestion): readonly Draft[] => {
    const read = readDesign(question);
    return read.ok ? draftsOf(read.question) : [];
  },
  designs: (question: DesignQuestion, drafts: readonly Draft[]): readonly Outcome[] => {
    const read = readDesign(question);
    return read.ok ? drafts.map((draft) => tryDraft(read.question, draft)) : [];
  },
  overvoltages: (rig: Rig): readonly (number | null)[] => overvoltages(rig),
  thresholds: (rig: Rig, shots: ShotsOfStudy): readonly number[] => erectionThresholds(rig, shots) ?? [],
  erection: (rig: Rig, thresholds: readonly number[]): ErectionStudy => erectionOf(rig, thresholds),
  alone: (rig: Rig, output: string): Alone => swingsOf(rig, output),
  matters: (rig: Rig, output: string, seed: number, from: number, to: number): readonly VarianceRow[] =>
    matterRowsChunk(rig, output, seed, from, to),
};
export type RigStudyCalculations = typeof calculations;
