import { TriangleAlert } from 'lucide-react';
import type { StoredRun } from '@vast-surge/contract';
import { printQuantity } from '@vast-surge/core/quantity';
import { deviationOf, expectedAt, outcomes, outcomeWords, stepsOn, waitLeft, type PlanStep } from '@vast-surge/core/run';
import { phaseTitles, whoWords } from '@vast-surge/core/runsheet';
import { HoldPin } from './hold-pin.tsx';
import { RunNumbers } from './run-numbers.tsx';
import { isHigh } from './step-action.ts';
import { TakeReading } from './take-reading.tsx';
import type { Shown } from './use-meter.ts';
import type { Running } from './use-run.ts';
import { useSpoken } from './use-spoken.ts';

/** How far the path is, one mark a step. */
function Progress({ at, of }: { at: number; of: number }) {
  return (
    <div aria-hidden className="flex gap-[2px]">
      {Array.from({ length: of }, (_, i) => (
        <span key={i} className={`h-[6px] flex-1 ${i < at ? 'bg-ink' : i === at ? 'bg-select' : 'bg-rule'}`} />
      ))}
    </div>
  );
}

function Where({ step, running, count }: { step: PlanStep; running: Running; count: number }) {
  const { state, isActing, act } = running;
  return (
    <>
      <Progress at={state.index} of={count} />
      <p className="mt-1 flex items-baseline gap-3 text-15 text-dim lg:text-19">
        <span>
          Step {state.index + 1} of {count} · {phaseTitles[step.phase].toLowerCase()} · {whoWords[step.who]}
        </span>
        {isActing && (
          <button
            type="button"
            className="ml-auto min-h-[32px] whitespace-nowrap text-select underline"
            onClick={() => act({ type: 'back' })}
          >
            Back one step <span className="figure max-lg:hidden">b</span>
          </button>
        )}
      </p>
    </>
  );
}

/** What to do, what has to be true first, what to beware of. */
function Instruction({ step }: { step: PlanStep }) {
  return (
    <>
      <h1
        aria-live="polite"
        className={`mt-1 leading-[1.15] font-bold ${step.text.length > 150 ? 'text-22 lg:text-32' : 'text-26 lg:text-38'}`}
      >
        {step.text}
      </h1>
      {step.caution && (
        <p className="mt-2 flex items-start gap-2 text-18 font-bold lg:text-24">
          <TriangleAlert size={24} className="mt-0.5 shrink-0" aria-label="Caution" /> {step.caution}
        </p>
      )}
      {step.note && <p className="mt-2 border-l-4 border-select pl-3 text-17 whitespace-pre-line lg:text-20">{step.note}</p>}
      {step.hold && (
        <p className="mt-2 text-18 lg:text-24">
          <b>Hold</b> until: {step.hold}
        </p>
      )}
      {step.expect.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-x-8 text-16 lg:text-20">
          {step.expect.map((e) => (
            <li key={e.label}>
              <span className="text-dim">{e.label}</span> <b className="figure">{e.printed}</b>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** How a shot went, where it did not go as it should. */
function Outcomes({ step, running }: { step: PlanStep; running: Running }) {
  return (
    <div className="mt-4 flex flex-wrap gap-3">
      {outcomes
        .filter((outcome) => outcome !== 'fired')
        .map((outcome, i) => (
          <button
            key={outcome}
            type="button"
            className="min-h-[44px] border-2 border-ink bg-plate px-4 py-2 text-18"
            onClick={() => running.act({ type: 'outcome', step: step.id, outcome })}
          >
            {outcomeWords[outcome]} <span className="figure text-15 text-dim">{i + 2}</span>
          </button>
        ))}
    </div>
  );
}

/** What the acting screen is asked for at a step: the answer of the second person, then a reading. */
function Asked({ run, step, running, shown, instrument }: Omit<Props, 'countLeft'>) {
  const { state, act } = running;
  const needsReading = step.reading !== undefined && (state.reading === null || isHigh(step, state.reading.value));
  if (step.second && !state.isAnswered && state.pin && state.reads !== null)
    return (
      <HoldPin
        key={step.id}
        reads={state.reads}
        pin={state.pin}
        isElsewhere={state.account !== null}
        onProof={(proof) => act({ type: 'answered', step: step.id, proof })}
        onSet={(pin) => act({ type: 'pin-set', pin })}
      />
    );
  if (!needsReading) return null;
  return (
    <TakeReading
      key={`${state.path} ${state.index} ${state.enteredAt}`}
      plan={run.plan}
      step={step}
      shown={shown.value}
      instrument={instrument}
      onRead={(value, source, confirmed) => act({ type: 'read', step: step.id, value, source, confirmed })}
    />
  );
}

interface Props {
  readonly run: StoredRun;
  readonly step: PlanStep;
  readonly running: Running;
  readonly shown: Shown;
  readonly instrument: string | null;
  readonly countLeft: number | null;
}

/** One step, as large as it goes: what to do, what to expect, what is read. */
export function RunStep({ run, step, running, shown, instrument, countLeft }: Props) {
  const { state, isActing } = running;
  const isFiring = step.does === 'fire';
  const left = waitLeft(run.plan, state, state.enteredAt + running.elapsed, running.speed);
  const along = expectedAt(run.plan, state, step, running.elapsed, running.speed, run.rehearsal !== null);
  const volts = shown.value ?? state.reading?.value ?? null;
  const deviation = along && volts !== null ? deviationOf(run.plan, along, volts) : null;
  useSpoken({ step, state, left, deviation });
  return (
    <>
      <Where step={step} running={running} count={stepsOn(run.plan, state.path).length} />
      <Instruction step={step} />
      {isFiring && countLeft !== null && (
        <p role="timer" className="figure mt-2 text-110 leading-none font-bold">
          {countLeft === 0 ? 'FIRE' : countLeft}
        </p>
      )}
      <RunNumbers run={run} step={step} running={running} shown={shown} along={along} deviation={deviation} left={left} />
      {isActing && (
        <div className="mt-4 empty:hidden">
          <Asked run={run} step={step} running={running} shown={shown} instrument={instrument} />
        </div>
      )}
      {state.reading && step.reading?.below && isHigh(step, state.reading.value) && (
        <p role="alert" className="mt-2 border-4 border-over p-2 text-20 font-bold lg:text-24">
          Still charged: {printQuantity(state.reading.value, 'V')} is not below{' '}
          {printQuantity(step.reading.below, 'V', { trim: true })}. Put the discharge stick on again, then take another reading.
        </p>
      )}
      {isActing && isFiring && (countLeft === 0 || countLeft === null) && <Outcomes step={step} running={running} />}
    </>
  );
}
