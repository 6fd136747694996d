import { useEffect, useState } from 'react';
import type { PlanAnswer, Series, Standing } from '@vast-surge/core/campaign';
import type { Rig, RigDocument } from '@vast-surge/core/rig';
import type { Rung } from '@vast-surge/core/runsheet';
import type { Calibration, FieldLearnt, Values } from '@vast-surge/core/shot';
import type { PredictedShot, FaultStudy, LaunchStudy, Shot, SolvedBreaks, StagesStudy, TankStudy } from '@vast-surge/core/study';
import type { AsSet, StudyAnswer, StudyCalculations } from './studies.calculations.ts';
import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';

const make = () => new SupervisedWorker<StudyCalculations>(workerFor('studies'));

/** One worker for the shot that is drawn, another for the study, a third for sums: none waits for another. */
const shotWorker = make();
const studyWorker = make();
const sumWorker = make();

/** Gaps of which each is asked by a run of its own. */
const mostOvervoltages = 40;

export type Running<T> =
  | { readonly state: 'idle' }
  | { readonly state: 'running'; readonly share: number }
  | { readonly state: 'done'; readonly answer: StudyAnswer<T>; readonly rig: Rig };

/** What is asked of a worker, again whenever what it depends on changes; the last answer stays until the next is there. */
const useAnswer = <T>(ask: (() => Promise<StudyAnswer<T>>) | null, on: readonly unknown[]): StudyAnswer<T> | null =>
  useAsked(ask, on)?.answer ?? null;

/** The same, of which an answer to another question is none: what is fired by, kept or accepted. */
function useExactAnswer<T>(ask: (() => Promise<StudyAnswer<T>>) | null, on: readonly unknown[]): StudyAnswer<T> | null {
  const known = useAsked(ask, on);
  return ask && known && known.on.every((one, i) => Object.is(one, on[i])) ? known.answer : null;
}

function useAsked<T>(ask: (() => Promise<StudyAnswer<T>>) | null, on: readonly unknown[]) {
  const [known, setKnown] = useState<{ readonly answer: StudyAnswer<T>; readonly on: readonly unknown[] } | null>(null);
  useEffect(() => {
    if (!ask) return;
    let wanted = true;
    const come = (answer: StudyAnswer<T>) => wanted && setKnown({ answer, on });
    ask().then(come, (error: unknown) => come({ ok: false, reason: error instanceof Error ? error.message : 'no reason given' }));
    return () => {
      wanted = false;
    };
    // What is asked follows from these alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, on);
  return known;
}

/** What a sum is asked for: one of its symbols, by all others. */
export interface AskedSum {
  readonly id: string;
  readonly symbol: string;
  readonly known: Readonly<Record<string, number>>;
}

/**
 * A sum asked backwards by a search, which of a formula that integrates takes seconds.
 *
 * @returns null while it is at work, or where nothing is asked; an answer to other values is none
 */
export function useSum(asked: AskedSum | null): StudyAnswer<number> | null {
  const key = asked && JSON.stringify(asked);
  const [answer, setAnswer] = useState<{ readonly key: string; readonly made: StudyAnswer<number> } | null>(null);
  useEffect(() => {
    if (!asked || key === null) return;
    let [wanted, pending] = [true, true];
    const come = (made: StudyAnswer<number>) => {
      pending = false;
      if (wanted) setAnswer({ key, made });
    };
    sumWorker
      .call(async (remote): Promise<StudyAnswer<number>> => await remote.sum(asked.id, asked.symbol, asked.known), 120_000)
      .then(come, (error: unknown) => come({ ok: false, reason: error instanceof Error ? error.message : 'no reason given' }));
    return () => {
      wanted = false;
      if (pending) sumWorker.restart('other values were typed');
    };
    // What is asked is in the key.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return answer?.key === key ? answer.made : null;
}

/** The shot of a rig as it is set. */
export const useShot = (rig: Rig): StudyAnswer<Shot> | null =>
  useAnswer(() => shotWorker.call(async (remote) => await remote.shot(rig)), [rig]);

const none: readonly (boolean | null)[] = [];

/** Whether a Marx erects at each rung of its way up; nothing while that is not known yet, and of what is no Marx. */
export function useErects(rungs: readonly Rung[]): readonly (boolean | null)[] {
  const isMarx = rungs.some(({ setting }) => setting !== null);
  // What a worker is sent has to be plain data: of a rung what the question needs, and no working.
  const asked = rungs.map(({ rig, fires, setting }) => ({ rig, fires, setting }));
  const answer = useAnswer(isMarx ? () => shotWorker.call(async (remote) => await remote.erects(asked), 60_000) : null, [rungs]);
  return answer?.ok === true ? answer.value : none;
}

/** A rig that has not changed for so long, ms, is at rest: its prediction takes a second or two. */
const rest = 400;

/** What is predicted of a shot, for every page the same: of the rig once it rests. */
export function usePredictedShot(rig: Rig): { readonly answer: StudyAnswer<PredictedShot>; readonly isCurrent: boolean } | null {
  const [known, setKnown] = useState<{ readonly answer: StudyAnswer<PredictedShot>; readonly rig: Rig } | null>(null);
  useEffect(() => {
    let wanted = true;
    const come = (answer: StudyAnswer<PredictedShot>) => wanted && setKnown({ answer, rig });
    const timer = setTimeout(() => {
      shotWorker
        .call(async (remote) => await remote.predicted(rig), 60_000)
        .then(come, (error: unknown) => come({ ok: false, reason: error instanceof Error ? error.message : 'no reason given' }));
    }, rest);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [rig]);
  return known && { answer: known.answer, isCurrent: known.rig === rig };
}

/** A series of shots planned into sessions; null until it is. @param series null where it cannot be read yet */
export const useSeries = (document: RigDocument, series: Series | null): StudyAnswer<PlanAnswer> | null =>
  useExactAnswer(series && (() => studyWorker.call(async (remote) => await remote.series(document, series), 120_000)), [
    document.rig,
    document.sheet,
    JSON.stringify(series),
  ]);

/** What the shots of a rig say of its single fields. */
export const useFieldsLearnt = (rig: Rig, found: readonly Calibration[]): StudyAnswer<readonly FieldLearnt[]> | null =>
  useExactAnswer(
    found.length > 0 ? () => studyWorker.call(async (remote) => await remote.fieldsLearnt(rig, found), 120_000) : null,
    [rig, JSON.stringify(found)],
  );

/** How a rig stands at one setting of a campaign; null where none comes next. */
export const useStanding = (
  document: RigDocument,
  values: readonly { readonly path: string; readonly value: number }[] | null,
): StudyAnswer<Standing> | null =>
  useExactAnswer(
    values &&
      (() =>
        studyWorker.call(
          async (remote) =>
            await remote.standing(
              document,
              values.map(({ path, value }) => ({ path, value })),
            ),
          60_000,
        )),
    [document.rig, document.sheet, JSON.stringify(values)],
  );

/** What is calculated for a rig as it was set for some shots, in their order. */
export const useAsSet = (rig: Rig, shots: readonly AsSet[]): StudyAnswer<readonly Values[]> | null =>
  useExactAnswer(
    () => studyWorker.call(async (remote) => await remote.asSet(rig, shots), 120_000),
    // The same settings in a new list are the same question.
    [rig, JSON.stringify(shots)],
  );

/** By how much each gap is overvolted; null where there are so many that it would take long. */
export const useOvervoltages = (rig: Rig, gaps: number): StudyAnswer<readonly (number | null)[]> | null =>
  useAnswer(
    gaps > 0 && gaps <= mostOvervoltages ? () => shotWorker.call(async (remote) => await remote.overvoltages(rig), 60_000) : null,
    [rig, gaps],
  );

/** The launch of a rig whose load is a coilgun stage; null of one where it is not. */
export const useLaunch = (rig: Rig): StudyAnswer<LaunchStudy | null> | null =>
  useAnswer(() => shotWorker.call(async (remote) => await remote.launch(rig), 60_000), [rig]);

/** A Marx while it is charged, fired after a time; null: when it is full. */
export const useStages = (rig: Rig, at: number | null): StudyAnswer<StagesStudy> | null =>
  useAnswer(() => shotWorker.call(async (remote) => await remote.stages(rig, at), 60_000), [rig, at]);

/** A Tesla coil running, its gap scattering as a seed draws it. */
export const useTank = (rig: Rig, seed: number): StudyAnswer<TankStudy> | null =>
  useAnswer(() => shotWorker.call(async (remote) => await remote.tank(rig, seed), 60_000), [rig, seed]);

/** Every failure of every part of a rig. */
export const useFaults = (rig: Rig, name: string): StudyAnswer<FaultStudy> | null =>
  useAnswer(() => studyWorker.call(async (remote) => await remote.faults(rig, name), 120_000), [rig, name]);

/** The breaks of a tank by the solver. */
export const useSolvedBreaks = (rig: Rig): StudyAnswer<SolvedBreaks> | null =>
  useAnswer(() => studyWorker.call(async (remote) => await remote.breaks(rig), 120_000), [rig]);
