import type { StoredRun } from '@vast-surge/contract';
import { waitLeft, type PlanStep } from '@vast-surge/core/run';
import { submitPin } from './hold-pin.tsx';
import { takeReading } from './take-reading.tsx';
import type { Count } from './use-count.ts';
import { presentStep, type Running } from './use-run.ts';

export interface StepAction {
  readonly words: string;
  /** What has to be so before it opens, on the button itself. */
  readonly opens?: string;
  readonly act: (() => void) | null;
}

export const isHigh = ({ reading }: PlanStep, value: number): boolean =>
  reading !== undefined && reading.below !== null && Math.abs(value) >= reading.below;

/** What the one large button does at this step. */
export function actionOf(run: StoredRun, running: Running, count: Count): StepAction {
  const { state, act } = running;
  const step = presentStep(run, running);
  if (!step) return { words: '', act: null };
  const left = waitLeft(run.plan, state, state.enteredAt + running.elapsed, running.speed);
  if (step.second && !state.isAnswered) {
    if (state.pin && state.reads) return { words: 'Enter the PIN', opens: `of ${state.reads}`, act: submitPin };
    return {
      words: state.reads ? `${state.reads} has answered` : 'Looked at again, aloud',
      act: () => act({ type: 'answered', step: step.id }),
    };
  }
  if (step.does === 'fire') {
    if (count.left === null) return { words: 'Count', act: count.start };
    return { words: 'It fired', act: count.left === 0 ? () => act({ type: 'outcome', step: step.id, outcome: 'fired' }) : null };
  }
  if (left > 0) return { words: 'Wait', act: null };
  if (step.reading && !state.reading) return { words: 'Take the reading', act: takeReading };
  if (state.reading && isHigh(step, state.reading.value))
    return { words: 'Stick on again', act: () => act({ type: 'again', to: 'tool' }) };
  if (step.does === 'hand-over') return { words: 'Handed over', act: () => act({ type: 'done', step: step.id }) };
  return { words: 'Done', act: () => act({ type: 'done', step: step.id }) };
}
