import { useEffect, useRef, useState } from 'react';
import type { Rig } from '@vast-surge/core/rig';
import { findLaunch, type FinderSpec, type LaunchDesign, type LaunchOutcome } from '@vast-surge/core/study';
import type { CoilFinderCalculations, Prepared } from './coil-finder.calculations.ts';
import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';

/** One to each core, and never more than help: a population of points is shared among them. */
const cores = Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2));
const patience = 60_000;
const cancelledWord = 'cancelled';

type Now = Extract<Prepared, { ok: true }>['now'];

/** What was found so far. */
export interface Best {
  readonly outcome: LaunchOutcome;
  readonly design: LaunchDesign;
}

export type Search =
  | { readonly state: 'idle' }
  | { readonly state: 'failed'; readonly reason: string }
  | {
      readonly state: 'running' | 'done' | 'cancelled';
      readonly share: number;
      readonly spec: FinderSpec;
      readonly now: Now | null;
      readonly best: Best | null;
      /** All that kept within the limits, for the trade-off. */
      readonly tried: readonly LaunchOutcome[];
      /** Launches a second, and workers that shared them. */
      readonly rate: number;
      readonly workers: number;
    };

const makeWorkers = () =>
  Array.from({ length: cores }, () => new SupervisedWorker<CoilFinderCalculations>(workerFor('coil-finder')));

/**
 * Outcomes of points in their order. Each worker takes the next point when it is ready: one launch may last fifty times as long as another,
 * and whoever was dealt the long ones beforehand would keep all others waiting.
 */
async function shared(
  workers: readonly SupervisedWorker<CoilFinderCalculations>[],
  points: readonly (readonly number[])[],
): Promise<LaunchOutcome[]> {
  const out: LaunchOutcome[] = new Array<LaunchOutcome>(points.length);
  let next = 0;
  const work = async (worker: SupervisedWorker<CoilFinderCalculations>) => {
    for (let k = next++; k < points.length; k = next++) {
      const point = points[k] as readonly number[];
      const [outcome] = await worker.call(async (remote) => await remote.outcomes([point]), patience);
      if (outcome) out[k] = outcome;
    }
  };
  await Promise.all(workers.map(work));
  return out;
}

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : 'no reason given');

/** A search for better coils, shared by all cores; it is started and cancelled by hand. */
export function useCoilFinder(): { readonly search: Search; start(spec: FinderSpec): void; cancel(): void } {
  const [search, setSearch] = useState<Search>({ state: 'idle' });
  const workers = useRef<readonly SupervisedWorker<CoilFinderCalculations>[]>([]);
  const run = useRef(0);
  const end = (reason: string) => {
    run.current += 1;
    for (const worker of workers.current) worker.restart(reason);
  };
  // The page left: nobody waits for it any more.
  useEffect(
    () => () => {
      run.current += 1;
      for (const worker of workers.current) worker.restart('the page was left');
    },
    [],
  );

  const go = async (spec: FinderSpec, mine: number) => {
    const wanted = () => run.current === mine;
    if (workers.current.length === 0) workers.current = makeWorkers();
    const crew = workers.current;
    const asked = { rig: spec.rig, goal: spec.goal, limits: spec.limits, freedom: spec.freedom };
    const prepared = await Promise.all(
      crew.map((worker) => worker.call(async (remote) => await remote.prepare(asked), patience)),
    );
    const [first] = prepared;
    if (!wanted() || !first) return;
    if (!first.ok) {
      setSearch({ state: 'failed', reason: first.reason });
      return;
    }
    const tried: LaunchOutcome[] = [];
    const known = new Map<readonly number[], LaunchOutcome>();
    const started = performance.now();
    let best: Best | null = null;
    let described: readonly number[] | null = null;
    const found = await findLaunch(
      first,
      spec,
      async (points) => {
        const outcomes = await shared(crew, points);
        outcomes.forEach((outcome, k) => {
          known.set(points[k] as readonly number[], outcome);
          if (outcome.beyond === 0) tried.push(outcome);
        });
        return outcomes;
      },
      (share, at) => {
        const rate = (at.evaluations / (performance.now() - started)) * 1000;
        const show = () => {
          if (wanted())
            setSearch({ state: 'running', share, spec, now: first.now, best, tried: [...tried], rate, workers: crew.length });
        };
        show();
        const outcome = known.get(at.point);
        if (described === at.point || !outcome || outcome.beyond > 0) return;
        described = at.point;
        crew[0]
          ?.call(async (remote) => await remote.describe(at.point), patience)
          .then(
            (design) => {
              if (!best || outcome.score >= best.outcome.score) best = { outcome, design };
            },
            // The search itself ends with the same reason.
            () => undefined,
          );
      },
    );
    const outcome = known.get(found.point);
    if (outcome?.beyond === 0)
      best = {
        outcome,
        design: await (crew[0] as SupervisedWorker<CoilFinderCalculations>).call(
          async (remote) => await remote.describe(found.point),
        ),
      };
    if (wanted())
      setSearch({
        state: 'done',
        share: 1,
        spec,
        now: first.now,
        best,
        tried,
        rate: (found.evaluations / (performance.now() - started)) * 1000,
        workers: crew.length,
      });
  };

  return {
    search,
    start: (spec) => {
      end(cancelledWord);
      const mine = run.current;
      setSearch({ state: 'running', share: 0, spec, now: null, best: null, tried: [], rate: 0, workers: cores });
      go(spec, mine).catch((error: unknown) => {
        if (run.current === mine) setSearch({ state: 'failed', reason: reasonOf(error) });
      });
    },
    cancel: () => {
      end(cancelledWord);
      setSearch((now) => (now.state === 'running' ? { ...now, state: 'cancelled' } : now));
    },
  };
}

/** Whether a search was for the rig as it stands now. */
export const isFor = (search: Search, rig: Rig): boolean => !('spec' in search) || search.spec.rig === rig;
