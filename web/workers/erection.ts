import { proxy } from 'comlink';
import { useEffect, useState } from 'react';
import type { Rig } from '@vast-surge/core/rig';
import type { ErectionStudy, Shot } from '@vast-surge/core/study';
import type { ErectionAnswer, ErectionCalculations } from './erection.worker.ts';
import { SupervisedWorker } from './supervised.ts';

const make = () =>
  new SupervisedWorker<ErectionCalculations>(
    () => new Worker(new URL('./erection.worker.ts', import.meta.url), { type: 'module' }),
  );

/** One worker for the shot that is drawn, another for the study: neither waits for the other. */
const shotWorker = make();
const studyWorker = make();

export type Running<T> =
  | { readonly state: 'idle' }
  | { readonly state: 'running'; readonly share: number }
  | { readonly state: 'done'; readonly answer: ErectionAnswer<T>; readonly rig: Rig };

/** The shot of a rig as it is set; the last one stays until the next is there. */
export function useShot(rig: Rig): ErectionAnswer<Shot> | null {
  const [answer, setAnswer] = useState<ErectionAnswer<Shot> | null>(null);
  useEffect(() => {
    let wanted = true;
    shotWorker
      .call(async (remote): Promise<ErectionAnswer<Shot>> => await remote.shot(rig))
      .then(
        (made) => wanted && setAnswer(made),
        (error: unknown) =>
          wanted && setAnswer({ ok: false, reason: error instanceof Error ? error.message : 'no reason given' }),
      );
    return () => {
      wanted = false;
    };
  }, [rig]);
  return answer;
}

/** A study that is started and cancelled by hand. */
export function useErectionStudy(): {
  readonly running: Running<ErectionStudy>;
  start(rig: Rig, shots: number): void;
  cancel(): void;
} {
  const [running, setRunning] = useState<Running<ErectionStudy>>({ state: 'idle' });
  // The page left: nobody waits for it any more.
  useEffect(() => () => studyWorker.restart('the page was left'), []);
  const start = (rig: Rig, shots: number) => {
    setRunning({ state: 'running', share: 0 });
    const onProgress = proxy((share: number) =>
      setRunning((now) => (now.state === 'running' ? { state: 'running', share } : now)),
    );
    studyWorker
      .call(async (remote): Promise<ErectionAnswer<ErectionStudy | null>> => await remote.study(rig, shots, onProgress), 600_000)
      .then(
        (answer) =>
          setRunning(
            !answer.ok
              ? { state: 'done', answer, rig }
              : answer.value
                ? { state: 'done', answer: { ok: true, value: answer.value }, rig }
                : { state: 'idle' },
          ),
        (error: unknown) => {
          const reason = error instanceof Error ? error.message : 'no reason given';
          setRunning(reason === cancelledWord ? { state: 'idle' } : { state: 'done', answer: { ok: false, reason }, rig });
        },
      );
  };
  return { running, start, cancel: () => studyWorker.restart(cancelledWord) };
}

const cancelledWord = 'cancelled';
