// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { evaluateRig, figureIn, packEvaluation, type Evaluation } from '@vast-surge/core/evaluation';
import { newRig, withTrialValue, type Rig } from '@vast-surge/core/rig';
import { heldSlider } from '../ui/held.ts';
import { LatestEvaluation, useEvaluation } from './evaluate.ts';

/** A worker that answers when the test says so. */
function handWorker() {
  const asked: { readonly rig: Rig; answer(): void; fail(): void }[] = [];
  return {
    asked,
    call: <R>(run: (remote: never) => Promise<R>): Promise<R> =>
      run({
        evaluate: (rig: Rig) =>
          new Promise((resolve, reject) => {
            asked.push({
              rig,
              answer: () => resolve(structuredClone(packEvaluation(evaluateRig(rig)))),
              fail: () => reject(new Error('gone')),
            });
          }),
      } as never),
  };
}

const base = newRig();
const at = (V: number): Rig => withTrialValue(base, 'store.V0', V);
const energyOf = (evaluation: Evaluation) => figureIn(evaluation, 'stored-energy')?.worked.value ?? NaN;
const settle = () => act(() => new Promise<void>((resolve) => setTimeout(resolve, 0)));

afterEach(() => act(() => heldSlider.set(false)));

test('while a slider is held the page shows the newest that a worker has done, and the rig as it is once it is let go', async () => {
  const worker = handWorker();
  const latest = new LatestEvaluation(worker);
  const { result, rerender } = renderHook(({ rig }) => useEvaluation(rig, latest), { initialProps: { rig: at(40) } });
  const before = energyOf(result.current);
  act(() => heldSlider.set(true));
  for (const V of [41, 42, 43]) rerender({ rig: at(V) });
  // Nothing is worked out here: the first is under way, of the others only the newest is wanted.
  expect(energyOf(result.current)).toBe(before);
  expect(worker.asked.map(({ rig }) => energyOf(evaluateRig(rig)) / before)).toEqual([expect.closeTo((41 / 40) ** 2, 9)]);
  act(() => worker.asked[0]?.answer());
  await settle();
  expect(energyOf(result.current) / before).toBeCloseTo((41 / 40) ** 2, 9);
  expect(worker.asked).toHaveLength(2);
  act(() => worker.asked[1]?.answer());
  await settle();
  expect(energyOf(result.current) / before).toBeCloseTo((43 / 40) ** 2, 9);
  rerender({ rig: at(44) });
  act(() => heldSlider.set(false));
  expect(energyOf(result.current) / before).toBeCloseTo((44 / 40) ** 2, 9);
});

test('a worker that is lost costs no number, and what it says late of another hold is not shown', async () => {
  const worker = handWorker();
  const latest = new LatestEvaluation(worker);
  const { result, rerender } = renderHook(({ rig }) => useEvaluation(rig, latest), { initialProps: { rig: at(50) } });
  const before = energyOf(result.current);
  act(() => heldSlider.set(true));
  rerender({ rig: at(51) });
  act(() => worker.asked[0]?.fail());
  await settle();
  expect(energyOf(result.current) / before).toBeCloseTo((51 / 50) ** 2, 9);
  rerender({ rig: at(52) });
  await settle();
  act(() => heldSlider.set(false));
  rerender({ rig: at(60) });
  const there = energyOf(result.current);
  act(() => heldSlider.set(true));
  rerender({ rig: at(61) });
  act(() => worker.asked[1]?.answer());
  await settle();
  expect(energyOf(result.current)).toBe(there);
});
