import { useEffect, useRef } from 'react';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import { type Deviation, type PlanStep, type RunState } from '@vast-surge/core/run';
import { isHigh } from './step-action.ts';
import { say } from './sound.ts';

interface Heard {
  readonly step: PlanStep;
  readonly state: RunState;
  /** s that are still to wait. */
  readonly left: number;
  readonly deviation: Deviation | null;
}

/** What is read, what is still to be waited for, and what is wrong, aloud: whoever looks at the rig hears it. Each is said once. */
export function useSpoken({ step, state, left, deviation }: Heard): void {
  const said = useRef(new Set<string>());
  const at = `${state.path} ${state.index} ${state.enteredAt}`;
  const { reading } = state;
  const isWaiting = left > 0;
  const waits = useRef<string | null>(null);
  const isOver = deviation !== null;
  useEffect(() => {
    const once = (key: string, text: string, isBad = false) => {
      if (said.current.has(key)) return;
      said.current.add(key);
      say(text, isBad);
    };
    if (reading) {
      const read = printQuantity(reading.value, 'V');
      if (isHigh(step, reading.value)) once(`high ${at} ${reading.at}`, `Still charged. ${read}.`, true);
      else once(`read ${at} ${reading.at}`, `Read ${read}.`);
    }
    if (isWaiting) {
      waits.current = at;
      once(`wait ${at}`, `Wait ${printDuration(Math.ceil(left))}.`);
    } else if (waits.current === at) {
      waits.current = null;
      once(`waited ${at}`, 'The wait is over.');
    }
    if (isOver) once(`off ${at}`, `${deviation.what} ${deviation.act}`, true);
    // What is said changes with these; the seconds that are left do not make it be said again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, reading, isWaiting, isOver]);
}
