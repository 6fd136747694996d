import { useEffect, useRef, useState } from 'react';
import type { Rig } from '@vast-surge/core/rig';
import type { ErectionStudy } from '@vast-surge/core/study';
import { first, patience, reasonOf, share } from './rig-study.ts';
import type { Running } from './studies.ts';

/** Many shots of a Marx, shared by all cores; started and cancelled by hand. */
export function useErectionStudy(): {
  readonly running: Running<ErectionStudy>;
  start(rig: Rig, shots: number): void;
  cancel(): void;
} {
  const [running, setRunning] = useState<Running<ErectionStudy>>({ state: 'idle' });
  const end = useRef<() => void>(() => undefined);
  // The page left: nobody waits for it any more.
  useEffect(() => () => end.current(), []);
  const start = (rig: Rig, shots: number) => {
    end.current();
    setRunning({ state: 'running', share: 0 });
    let wanted = true;
    let endShots: () => void = () => undefined;
    end.current = () => {
      wanted = false;
      endShots();
    };
    const fail = (reason: string) => wanted && setRunning({ state: 'done', answer: { ok: false, reason }, rig });
    const failed = (error: unknown) => fail(reasonOf(error));
    const thresholds: number[] = new Array<number>(shots).fill(NaN);
    const whole = () =>
      first
        .call(async (remote) => await remote.erection(rig, thresholds), patience)
        .then((value) => wanted && setRunning({ state: 'done', answer: { ok: true, value }, rig }), failed);
    first
      .call(async (remote) => await remote.overvoltages(rig), patience)
      .then((over) => {
        if (!wanted) return;
        endShots = share(
          shots,
          (worker, from, to) => worker.call(async (remote) => await remote.thresholds(rig, { shots, from, to, over }), patience),
          (some, from, { done }) => {
            some.forEach((one, i) => (thresholds[from + i] = one));
            setRunning({ state: 'running', share: done / shots });
            if (done === shots) void whole();
          },
          fail,
        );
      }, failed);
  };
  return {
    running,
    start,
    cancel: () => {
      end.current();
      setRunning({ state: 'idle' });
    },
  };
}
