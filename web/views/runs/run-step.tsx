import { useEffect, useState } from 'react';
import { TriangleAlert } from 'lucide-react';
import type { StoredRun } from '@vast-surge/contract';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import {
  outcomes,
  outcomeWords,
  stepsOn,
  voltsAtWorst,
  voltsOn,
  waitLeft,
  type PlanStep,
  type RunPlan,
} from '@vast-surge/core/run';
import { phaseTitles, whoWords } from '@vast-surge/core/runsheet';
import { RunCurve } from './run-curve.tsx';
import { beep } from './sound.ts';
import { TakeReading } from './take-reading.tsx';
import type { Running } from './use-run.ts';
import type { Shown } from './use-meter.ts';

/** s that are counted aloud before a shot; a rehearsal counts somewhat faster, but so that one can follow. */
const count = 10;
const fastest = 4;

export interface StepAction {
  readonly words: string;
  readonly act: (() => void) | null;
}

/** The count before a shot: seen, and heard where sound is on. */
export function useCount(stepKey: string, speed: number): { readonly left: number | null; start: () => void } {
  const [begun, setBegun] = useState<{ key: string; at: number } | null>(null);
  const [now, setNow] = useState(0);
  const isOn = begun !== null && begun.key === stepKey;
  useEffect(() => {
    if (!isOn) return;
    const timer = setInterval(() => setNow(performance.now()), 100);
    return () => clearInterval(timer);
  }, [isOn]);
  const left = isOn
    ? Math.max(0, Math.ceil(count - ((Math.max(now, begun.at) - begun.at) / 1000) * Math.min(speed, fastest)))
    : null;
  useEffect(() => {
    if (left === null) return;
    beep(left === 0 ? 1320 : 660, left === 0 ? 0.6 : 0.12);
  }, [left]);
  return {
    left,
    start: () => {
      const at = performance.now();
      setNow(at);
      setBegun({ key: stepKey, at });
    },
  };
}

/** The curve a step runs along, with the voltage it aims at. */
function curveOf(plan: RunPlan, step: PlanStep) {
  const { charge, bleeder, tool } = plan.curves;
  const { charged, below, goalText } = plan.numbers;
  if (step.does === 'charge' && charge)
    return { curve: charge, mark: charged, words: `stop at ${printQuantity(charged, 'V')}`, worst: null };
  if (step.does === 'bleed' && bleeder)
    return { curve: bleeder, mark: below, words: `below ${goalText}: read, not before`, worst: plan.numbers.bleeder };
  if (step.does === 'tool' && tool)
    return { curve: tool, mark: below, words: `below ${goalText}: read, not before`, worst: plan.numbers.tool };
  return null;
}

const big = 'figure whitespace-nowrap text-[44px] leading-none font-bold tracking-tight sm:text-[64px]';

function Numbers({ run, step, running, shown }: { run: StoredRun; step: PlanStep; running: Running; shown: Shown }) {
  const along = curveOf(run.plan, step);
  // A bleeder works from the moment at which the charger is off, and not only from its step on.
  const { isolatedAt, enteredAt } = running.state;
  const before = step.does === 'bleed' && isolatedAt !== null ? Math.max(0, enteredAt - isolatedAt) : 0;
  const seconds = ((running.elapsed + before) / 1000) * running.speed;
  const left = waitLeft(run.plan, running.state, running.state.enteredAt + running.elapsed, running.speed);
  const { reading } = running.state;
  const expected = along
    ? printQuantity(voltsOn(along.curve, seconds), 'V')
    : step.reading?.below
      ? `< ${printQuantity(step.reading.below, 'V', { trim: true })}`
      : step.reading?.expected
        ? printQuantity(step.reading.expected, 'V')
        : null;
  const meter = shown.isOver ? 'above range' : shown.value !== null ? printQuantity(shown.value, 'V') : null;
  const cells: { label: string; value: string }[] = [
    ...(expected === null ? [] : [{ label: along ? 'calculated now' : 'expected', value: expected }]),
    // Above it the way that should bleed does not: it is open, or another.
    ...(along?.worst
      ? [{ label: 'worst case now', value: printQuantity(voltsAtWorst(run.plan.numbers, along.worst.worst, seconds), 'V') }]
      : []),
    ...(meter === null ? [] : [{ label: 'meter shows', value: meter }]),
    ...(reading
      ? [{ label: `read by ${running.state.reads ?? running.state.acts}`, value: printQuantity(reading.value, 'V') }]
      : []),
    ...(step.wait === undefined
      ? []
      : [{ label: left > 0 ? 'still to wait' : 'waited', value: printDuration(left > 0 ? left : step.wait) }]),
    ...(along && step.wait === undefined ? [{ label: 'since', value: printDuration(Math.floor(seconds)) }] : []),
  ];
  return (
    <>
      {cells.length > 0 && (
        <dl className="mt-4 flex flex-wrap gap-x-10 gap-y-3 border-t-2 border-ink pt-3">
          {cells.map(({ label, value }) => (
            <div key={label}>
              <dt className="text-[17px] text-dim">{label}</dt>
              <dd className={big}>{value}</dd>
            </div>
          ))}
        </dl>
      )}
      {shown.trouble !== null && <p className="mt-1 font-bold">The meter is not read: {shown.trouble} Read it yourself.</p>}
      {along && <RunCurve curve={along.curve} seconds={seconds} mark={along.mark} markWords={along.words} read={shown.value} />}
    </>
  );
}

/** One step, as large as it goes: what to do, what to expect, what is read. */
export function RunStep({
  run,
  step,
  running,
  shown,
  instrument,
  countLeft,
}: {
  run: StoredRun;
  step: PlanStep;
  running: Running;
  shown: Shown;
  instrument: string | null;
  countLeft: number | null;
}) {
  const { state, isActing, act } = running;
  const steps = stepsOn(run.plan, state.path);
  const isFiring = step.does === 'fire';
  const needsReading = step.reading !== undefined && (state.reading === null || isHigh(step, state.reading.value));
  return (
    <>
      <p className="text-[19px] text-dim">
        Step {state.index + 1} of {steps.length} · {phaseTitles[step.phase].toLowerCase()} · {whoWords[step.who]}
      </p>
      <h1
        aria-live="polite"
        className={`mt-1 font-bold ${step.text.length > 150 ? 'text-[28px]' : 'text-[38px]'} leading-[1.15] max-sm:text-[26px]`}
      >
        {step.text}
      </h1>
      {step.caution && (
        <p className="mt-2 flex items-start gap-2 text-[20px] font-bold">
          <TriangleAlert size={24} className="mt-0.5 shrink-0" aria-label="Caution" /> {step.caution}
        </p>
      )}
      {step.note && <p className="mt-2 border-l-4 border-select pl-3 text-[19px] whitespace-pre-line">{step.note}</p>}
      {step.hold && (
        <p className="mt-2 text-[21px]">
          <b>Hold</b> until: {step.hold}
        </p>
      )}
      {step.expect.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-x-8 text-[18px]">
          {step.expect.map((e) => (
            <li key={e.label}>
              <span className="text-dim">{e.label}</span> <b className="figure">{e.printed}</b>
            </li>
          ))}
        </ul>
      )}
      {isFiring && countLeft !== null && (
        <p role="timer" className="figure mt-2 text-[110px] leading-none font-bold">
          {countLeft === 0 ? 'FIRE' : countLeft}
        </p>
      )}
      <Numbers run={run} step={step} running={running} shown={shown} />
      {isActing && needsReading && (
        <div className="mt-4">
          <TakeReading
            key={`${state.path} ${state.index} ${state.enteredAt}`}
            plan={run.plan}
            step={step}
            shown={shown.value}
            instrument={instrument}
            onRead={(value, source, confirmed) => act({ type: 'read', step: step.id, value, source, confirmed })}
          />
        </div>
      )}
      {state.reading && step.reading?.below && isHigh(step, state.reading.value) && (
        <p role="alert" className="mt-2 border-4 border-over p-2 text-[22px] font-bold">
          Still charged: {printQuantity(state.reading.value, 'V')} are not below{' '}
          {printQuantity(step.reading.below, 'V', { trim: true })}. The tool goes on again, and then another reading.
        </p>
      )}
      {isActing && isFiring && (countLeft === 0 || countLeft === null) && (
        <div className="mt-4 flex flex-wrap gap-3">
          {outcomes
            .filter((outcome) => outcome !== 'fired')
            .map((outcome, i) => (
              <button
                key={outcome}
                type="button"
                className="border-2 border-ink bg-plate px-4 py-2 text-[18px]"
                onClick={() => act({ type: 'outcome', step: step.id, outcome })}
              >
                {outcomeWords[outcome]} <span className="figure text-[15px] text-dim">{i + 2}</span>
              </button>
            ))}
        </div>
      )}
    </>
  );
}

export const isHigh = ({ reading }: PlanStep, value: number): boolean =>
  reading !== undefined && reading.below !== null && Math.abs(value) >= reading.below;
