import { useEffect, useState } from 'react';
import type { Rig } from '@vast-surge/core/rig';
import {
  matterRows,
  mattersFrom,
  type DesignQuestion,
  type Matters,
  type Outcome,
  type Output,
  type Scatter,
  type Sweep,
  type SweepPoint,
  type VarianceRow,
} from '@vast-surge/core/study';
import type { RigStudyCalculations, SampleDrawn } from './rig-study.calculations.ts';
import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';

/** As many as the machine has cores, and not so many that the page itself waits. */
const crew = Array.from(
  { length: Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2)) },
  () => new SupervisedWorker<RigStudyCalculations>(workerFor('rig-study')),
);
export const [first] = crew as [SupervisedWorker<RigStudyCalculations>, ...SupervisedWorker<RigStudyCalculations>[]];

/** ms that a stretch may take: results come about so often, and a stop is heard within it. */
const stretch = 250;
export const patience = 120_000;

export interface Progress {
  readonly done: number;
  readonly total: number;
  /** s that are left, as it went so far; null while that is not known. */
  readonly left: number | null;
  /** Why it ended before its end. */
  readonly trouble: string | null;
}

export const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : 'no reason given');

/**
 * Has a study done by all workers, each taking the next stretch when it is ready.
 *
 * @returns ends it
 */
export function share<R>(
  total: number,
  ask: (worker: SupervisedWorker<RigStudyCalculations>, from: number, to: number) => Promise<R>,
  come: (answer: R, from: number, progress: Progress) => void,
  fail: (reason: string) => void,
): () => void {
  let [next, done, isOver] = [0, 0, false];
  const began = performance.now();
  const busy = new Set<SupervisedWorker<RigStudyCalculations>>();
  const work = async (worker: SupervisedWorker<RigStudyCalculations>) => {
    let size = 2;
    while (!isOver && next < total) {
      const from = next;
      const to = Math.min(total, from + size);
      next = to;
      const started = performance.now();
      busy.add(worker);
      const answer = await ask(worker, from, to);
      busy.delete(worker);
      if (isOver) return;
      done += to - from;
      const took = performance.now() - started;
      size = Math.max(1, Math.min(4096, Math.round(((to - from) * stretch) / Math.max(took, 1))));
      const left = done < total ? ((performance.now() - began) / done / 1000) * (total - done) : 0;
      come(answer, from, { done, total, left, trouble: null });
    }
  };
  for (const worker of crew)
    work(worker).catch((error: unknown) => {
      if (isOver) return;
      isOver = true;
      fail(reasonOf(error));
    });
  return () => {
    isOver = true;
    // What is under way would keep the next study waiting.
    for (const worker of busy) worker.restart('another study was asked for');
  };
}

/** What can be asked of a rig; the last answer stays until the next is there. */
export function useOutputs(rig: Rig): readonly Output[] | null {
  const [known, setKnown] = useState<readonly Output[] | null>(null);
  useEffect(() => {
    let wanted = true;
    first
      .call(async (remote) => await remote.outputs(rig), patience)
      .then(
        (outputs) => wanted && setKnown(outputs),
        () => wanted && setKnown((before) => before ?? []),
      );
    return () => {
      wanted = false;
    };
  }, [rig]);
  return known;
}

export interface SweepSoFar extends Progress {
  readonly sweep: Sweep;
  /** By their place; what is not there yet is missing. */
  readonly points: readonly (SweepPoint | undefined)[];
}

/** The sweep of a rig as it comes. Null where nothing is asked. */
export function useSweep(rig: Rig, sweep: Sweep | null, total: number): SweepSoFar | null {
  const [known, setKnown] = useState<SweepSoFar | null>(null);
  useEffect(() => {
    if (!sweep) return;
    const points = new Array<SweepPoint | undefined>(total).fill(undefined);
    const at: Progress = { done: 0, total, left: null, trouble: null };
    return share(
      total,
      (worker, from, to) => worker.call(async (remote) => await remote.sweep(rig, sweep, from, to), patience),
      (answer, from, progress) => {
        answer.forEach((point, i) => (points[from + i] = point));
        setKnown({ ...progress, sweep, points: [...points] });
      },
      (trouble) => setKnown({ ...at, trouble, sweep, points: [...points] }),
    );
  }, [rig, sweep, total]);
  return sweep && known?.sweep === sweep ? known : null;
}

export interface ScatterSoFar extends Progress {
  readonly scatter: Scatter;
  /** Samples so far, a column for each output; NaN where one is not there yet or has no value. */
  readonly columns: readonly Float64Array[];
}

/** The samples of a rig as they come. Null where nothing is asked. */
export function useScatter(rig: Rig, scatter: Scatter | null): ScatterSoFar | null {
  const [known, setKnown] = useState<ScatterSoFar | null>(null);
  useEffect(() => {
    if (!scatter) return;
    const columns = scatter.outputs.map(() => new Float64Array(scatter.samples).fill(NaN));
    return share(
      scatter.samples,
      (worker, from, to) => worker.call(async (remote) => await remote.scatter(rig, scatter, from, to), patience),
      (answer, from, progress) => {
        answer.forEach((column, k) => columns[k]?.set(column, from));
        setKnown({ ...progress, scatter, columns: [...columns] });
      },
      (trouble) => setKnown({ done: 0, total: scatter.samples, left: null, trouble, scatter, columns }),
    );
  }, [rig, scatter]);
  return scatter && known?.scatter === scatter ? known : null;
}

export interface DesignSoFar extends Progress {
  readonly question: DesignQuestion;
  /** In the order of the drafts; those that are there. */
  readonly outcomes: readonly Outcome[];
}

/** What can be made of a question, as it comes. Null where nothing is asked. */
export function useDesign(question: DesignQuestion | null): DesignSoFar | null {
  const [known, setKnown] = useState<DesignSoFar | null>(null);
  useEffect(() => {
    if (!question) return;
    let end: () => void = () => undefined;
    let wanted = true;
    const failed = (trouble: string) => wanted && setKnown({ question, outcomes: [], done: 0, total: 0, left: null, trouble });
    first
      .call(async (remote) => await remote.drafts(question), patience)
      .then(
        (drafts) => {
          if (!wanted) return;
          const total = drafts.length;
          const outcomes = new Array<Outcome | undefined>(total).fill(undefined);
          const said = (progress: Progress) =>
            setKnown({ ...progress, question, outcomes: outcomes.filter((one) => one !== undefined) });
          said({ done: 0, total, left: null, trouble: null });
          end = share(
            total,
            (worker, from, to) => worker.call(async (remote) => await remote.designs(question, drafts.slice(from, to)), patience),
            (answer, from, progress) => {
              answer.forEach((one, i) => (outcomes[from + i] = one));
              said(progress);
            },
            failed,
          );
        },
        (error: unknown) => failed(reasonOf(error)),
      );
    return () => {
      wanted = false;
      end();
    };
  }, [question]);
  return question && known?.question === question ? known : null;
}

export interface MattersSoFar extends Progress {
  readonly of: string;
  readonly rig: Rig;
  /** What each field does alone is there first; shares are of the rows so far. Null before. */
  readonly matters: Matters | null;
}

const seed = 1;

/** What a number depends on, as it comes; null where nothing is asked, or nothing is there yet. */
export function useMatters(rig: Rig, output: string | null): MattersSoFar | null {
  const [known, setKnown] = useState<MattersSoFar | null>(null);
  useEffect(() => {
    if (output === null) return;
    const none: MattersSoFar = { of: output, rig, matters: null, done: 0, total: matterRows, left: null, trouble: null };
    let wanted = true;
    let end: () => void = () => undefined;
    const fail = (trouble: string) => wanted && setKnown((before) => ({ ...(before?.of === output ? before : none), trouble }));
    first
      .call(async (remote) => await remote.alone(rig, output), patience)
      .then(
        (alone) => {
          if (!wanted) return;
          const total = alone.causes.length === 0 ? 0 : matterRows;
          const rows = new Array<VarianceRow | undefined>(total).fill(undefined);
          const said = (progress: Progress) =>
            setKnown({
              of: output,
              rig,
              ...progress,
              matters: mattersFrom(
                alone,
                rows.filter((row) => row !== undefined),
              ),
            });
          said({ done: 0, total, left: null, trouble: null });
          end = share(
            total,
            (worker, from, to) => worker.call(async (remote) => await remote.matters(rig, output, seed, from, to), patience),
            (answer, from, progress) => {
              answer.forEach((row, i) => (rows[from + i] = row));
              said(progress);
            },
            fail,
          );
        },
        (error: unknown) => fail(reasonOf(error)),
      );
    return () => {
      wanted = false;
      end();
    };
  }, [rig, output]);
  return known?.of === output && known.rig === rig ? known : null;
}

/** The values that a sample has, to open it as a rig. @throws WorkerLost */
export const drawnSample = (rig: Rig, scatter: Scatter, sample: number): Promise<SampleDrawn> =>
  first.call(async (remote) => await remote.drawn(rig, scatter, sample), patience);
