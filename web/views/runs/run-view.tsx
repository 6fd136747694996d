import { useState } from 'react';
import { Volume2, VolumeX } from 'lucide-react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import type { StoredRun } from '@vast-surge/contract';
import { printQuantity } from '@vast-surge/core/quantity';
import { refusalWords, waitLeft } from '@vast-surge/core/run';
import { useGetRunQuery } from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { BeginForm } from './begin-form.tsx';
import { InstrumentChoice, InstrumentsPanel } from './instruments.tsx';
import { choosePedal, pedalKey, useRunKeys } from './pedal.ts';
import { RehearsalPanel, ScoreCard } from './rehearsal-panel.tsx';
import { Replay } from './replay.tsx';
import { Emergency, Side, WhatComes } from './run-side.tsx';
import { isHigh, RunStep, useCount, type StepAction } from './run-step.tsx';
import { takeReading } from './take-reading.tsx';
import { isSoundOn, setSound } from './sound.ts';
import { useMeter } from './use-meter.ts';
import { presentStep, useRun, type Running } from './use-run.ts';

/** Whether what was done has reached the server, in words. */
function Saved({ running }: { running: Running }) {
  const waits = running.waiting.length;
  if (running.isUnkept)
    return <span className="bg-warning px-2 text-on-warning">Local storage is full: {waits} in this page alone</span>;
  if (running.isAway)
    return (
      <span role="status" className="bg-warning px-2 text-on-warning">
        The server is not reached: {waits === 0 ? 'nothing waits' : `${waits} kept on this device`}. Go on; it is sent later.
      </span>
    );
  return <span className="text-dim">{waits === 0 ? 'every step kept' : 'keeping …'}</span>;
}

function Pedal() {
  const [key, setKey] = useState(pedalKey);
  const [isChoosing, setChoosing] = useState(false);
  const choose = () => {
    setChoosing(true);
    choosePedal((chosen) => {
      setKey(chosen);
      setChoosing(false);
    });
  };
  return (
    <Button look="quiet" onClick={choose}>
      {isChoosing
        ? 'Press the pedal now (Esc: none)'
        : key === null
          ? 'Pedal: Space, Enter or Page Down'
          : `Pedal: ${key === ' ' ? 'Space' : key}`}
    </Button>
  );
}

/** What the one large button does at this step. */
function actionOf(run: StoredRun, running: Running, count: ReturnType<typeof useCount>): StepAction {
  const { state, act } = running;
  const step = presentStep(run, running);
  if (!step) return { words: '', act: null };
  const left = waitLeft(run.plan, state, state.enteredAt + running.elapsed, running.speed);
  if (step.second && !state.isAnswered)
    return {
      words: state.reads ? `${state.reads} has answered` : 'Looked at again, aloud',
      act: () => act({ type: 'answered', step: step.id }),
    };
  if (step.does === 'fire') {
    if (count.left === null) return { words: 'Count', act: count.start };
    return { words: 'It fired', act: count.left === 0 ? () => act({ type: 'outcome', step: step.id, outcome: 'fired' }) : null };
  }
  if (left > 0) return { words: 'Wait', act: null };
  if (step.reading && !state.reading) return { words: 'Take the reading', act: takeReading };
  if (state.reading && isHigh(step, state.reading.value))
    return { words: 'Tool on again', act: () => act({ type: 'again', to: 'tool' }) };
  if (step.does === 'hand-over') return { words: 'Handed over', act: () => act({ type: 'done', step: step.id }) };
  return { words: 'Done', act: () => act({ type: 'done', step: step.id }) };
}

function TakeOver({ running }: { running: Running }) {
  const [by, setBy] = useState('');
  return (
    <form
      className="flex items-center gap-2 bg-warning px-3 py-1 text-on-warning"
      onSubmit={(event) => {
        event.preventDefault();
        if (/^[\p{L}\p{N}]{1,4}$/u.test(by.trim())) running.act({ type: 'took-over', by: by.trim().toUpperCase() });
        else toast.error('Initials: one to four letters or digits.');
      }}
    >
      {running.state.acts} acts on another screen; this one watches.
      <input
        aria-label="Your initials"
        placeholder="initials"
        className="w-20 border border-on-warning bg-transparent px-2"
        maxLength={4}
        value={by}
        onChange={(event) => setBy(event.target.value)}
      />
      <button type="submit" className="border border-on-warning px-2 font-bold">
        Take over
      </button>
    </form>
  );
}

function Abort({ isArmed, onAbort }: { isArmed: boolean; onAbort: () => void }) {
  return (
    <button
      type="button"
      className={`border-[3px] border-over px-6 py-3 text-[24px] font-bold ${isArmed ? 'bg-over text-plate' : 'text-over'}`}
      onClick={onAbort}
    >
      ABORT <span className="figure ml-1 text-[16px] font-normal">{isArmed ? 'Esc again' : 'Esc Esc'}</span>
    </button>
  );
}

function UnderWay({ run, running }: { run: StoredRun; running: Running }) {
  const { state, act, isActing } = running;
  const step = presentStep(run, running);
  const [instrument, setInstrument] = useState<string | null>(run.rehearsal ? 'rehearsal-meter' : null);
  const shown = useMeter(run.id, instrument);
  const stepKey = `${state.path} ${state.index} ${state.enteredAt}`;
  const count = useCount(stepKey, running.speed);
  const action = actionOf(run, running, count);
  const abort = () => act({ type: 'aborted', reason: '' });
  const outcomeKey = (outcome: 'misfire' | 'pre-fire' | 'partial') => () =>
    step?.does === 'fire' && count.left === 0 && act({ type: 'outcome', step: step.id, outcome });
  const preFire = () => step && act({ type: 'outcome', step: step.id, outcome: 'pre-fire' });
  const isArmed = useRunKeys(`${stepKey} ${action.words}`, {
    action: () => isActing && action.act?.(),
    abort,
    others: {
      b: () => isActing && act({ type: 'back' }),
      2: outcomeKey('misfire'),
      3: outcomeKey('pre-fire'),
      4: outcomeKey('partial'),
    },
  });
  if (!step) return null;
  const mayPreFire =
    isActing && run.plan.numbers.selfBreak !== null && state.path === 'main' && ['charge', 'isolate'].includes(step.phase);
  return (
    <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-y-auto">
      <main className="flex min-h-0 min-w-0 flex-1 flex-col lg:overflow-y-auto">
        <div className="flex-1 px-5 pt-4 pb-3 sm:px-10">
          <RunStep
            run={run}
            step={step}
            running={running}
            shown={shown}
            instrument={instrument}

            countLeft={count.left}
          />
        </div>
        <div className="sticky bottom-0 flex flex-wrap items-center gap-3 border-t border-rule bg-ground px-5 py-3 sm:px-10">
          <Abort isArmed={isArmed} onAbort={abort} />
          {mayPreFire && (
            <button type="button" className="border-2 border-ink bg-plate px-4 py-3 text-[18px]" onClick={preFire}>
              It pre-fired
            </button>
          )}
          {isActing && (
            <button type="button" className="px-2 py-3 text-[16px] text-select underline" onClick={() => act({ type: 'back' })}>
              Back one step <span className="figure">b</span>
            </button>
          )}
          {step.does === 'hand-over' && isActing && (
            <button
              type="button"
              className="border-2 border-ink bg-plate px-4 py-3 text-[18px]"
              onClick={() => act({ type: 'again', to: 'charge' })}
            >
              Another shot
            </button>
          )}
          {isActing ? (
            <button
              type="button"
              disabled={action.act === null}
              className="ml-auto border-[3px] border-ink bg-ink px-8 py-3 text-[24px] font-bold text-plate disabled:border-rule disabled:bg-ground disabled:text-dim"
              onClick={() => action.act?.()}
            >
              {action.words} {action.act && <span className="figure ml-2 text-[16px] font-normal">Space</span>}
            </button>
          ) : (
            <span className="ml-auto">
              <TakeOver running={running} />
            </span>
          )}
        </div>
      </main>
      <Side run={run} running={running}>
        {run.rehearsal && <RehearsalPanel run={run} rehearsal={run.rehearsal} running={running} />}
        <Emergency run={run} />
        <WhatComes run={run} running={running} />
        <div className="my-3 flex flex-wrap gap-4 text-[14px]">
          <Pedal />
          <InstrumentChoice run={run} value={instrument} onChange={setInstrument} />
        </div>
        <InstrumentsPanel run={run} />
      </Side>
    </div>
  );
}

function Ended({ run, running }: { run: StoredRun; running: Running }) {
  const [isReplaying, setReplaying] = useState(false);
  const { state } = running;
  if (isReplaying) return <Replay run={run} running={running} onClose={() => setReplaying(false)} />;
  return (
    <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-y-auto">
      <main className="min-w-0 flex-1 px-5 py-5 sm:px-10 lg:overflow-y-auto">
        <h1 className="text-[38px] font-bold">Handed over</h1>
        <p className="text-[20px]">
          Read below {run.plan.numbers.goalText} before the strap went on:{' '}
          {state.verified ? printQuantity(state.verified.value, 'V') : 'no reading'}.
          {state.outcomes.length > 0 && ` Shots: ${state.outcomes.join(', ')}.`}
          {state.aborts > 0 && ` Aborted ${state.aborts === 1 ? 'once' : `${state.aborts} times`}.`}
          {state.farReadings > 0 && ` ${state.farReadings} readings far from what was expected.`} The strap stays on.
        </p>
        {run.rehearsal && <ScoreCard run={run} rehearsal={run.rehearsal} running={running} />}
        <p className="mt-5 flex flex-wrap gap-4">
          <Button look="primary" onClick={() => setReplaying(true)}>
            Play it again
          </Button>
          {!run.rehearsal && state.outcomes.length > 0 && (
            <Link className="py-1.5 text-select underline" to="/shots">
              {state.outcomes.length === 1 ? 'Its shot is' : `Its ${state.outcomes.length} shots are`} in the shot book
            </Link>
          )}
          <Link className="py-1.5 text-select underline" to="/runs">
            All runs
          </Link>
        </p>
      </main>
      <Side run={run} running={running} />
    </div>
  );
}

/** The last thing done here that had no effect, told where one looks. */
function Refused({ running }: { running: Running }) {
  const last = running.events.length + running.waiting.length - 1;
  const refusal = running.refusals.get(last);
  if (!refusal) return null;
  return (
    <p role="alert" className="border-b border-rule bg-plate px-5 py-1 text-[18px] font-bold">
      {refusalWords(refusal)}
    </p>
  );
}

function Run({ run }: { run: StoredRun }) {
  const running = useRun(run);
  const [sound, showSound] = useState(isSoundOn);
  const { state } = running;
  return (
    <div className="flex h-full flex-col">
      <header className="flex min-h-[42px] flex-wrap items-center gap-x-6 gap-y-1 border-b border-rule px-5">
        <Link to="/runs" className="text-[17px] font-bold">
          Vast Surge
        </Link>
        <span>
          {run.rehearsal ? 'Rehearsal' : 'Run'} of {run.plan.rigName}, revision {run.revision}
        </span>
        {state.at !== 'not-begun' && (
          <span className="text-dim">
            {state.acts}
            {state.reads ? ` acts, ${state.reads} reads` : ' alone'}
          </span>
        )}
        <span className="ml-auto flex items-center gap-4">
          {run.rehearsal && (
            <span className="text-dim">
              seed {run.rehearsal.seed} · {run.rehearsal.speed === 1 ? 'real time' : `${run.rehearsal.speed} times as fast`}
            </span>
          )}
          <Saved running={running} />
          <IconButton
            label={sound ? 'Sound off' : 'Sound on'}
            onClick={() => {
              setSound(!sound);
              showSound(!sound);
            }}
          >
            {sound ? <Volume2 size={18} aria-hidden /> : <VolumeX size={18} aria-hidden />}
          </IconButton>
        </span>
      </header>
      <Refused running={running} />
      {state.at === 'not-begun' ? (
        <main className="flex-1 overflow-y-auto px-5 py-6 sm:px-10">
          <BeginForm plan={run.plan} onBegin={(acts, reads) => running.act({ type: 'began', acts, reads })} />
        </main>
      ) : state.at === 'ended' ? (
        <Ended run={run} running={running} />
      ) : (
        <UnderWay run={run} running={running} />
      )}
    </div>
  );
}

/** Run mode: a room of its own, one step at a time. */
export function RunView() {
  const { id = '' } = useParams();
  const { data, error, refetch } = useGetRunQuery(id, { refetchOnMountOrArgChange: true });
  if (data) return <Run key={data.id} run={data} />;
  if (error) return <Failure error={error} onRetry={() => void refetch()} />;
  return <p className="p-6 text-dim">Fetching the run …</p>;
}
