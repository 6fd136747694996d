import { useMemo, useState } from 'react';
import { Volume2, VolumeX } from 'lucide-react';
import { Link, useParams } from 'react-router';
import type { StoredRun } from '@vast-surge/contract';
import { printQuantity } from '@vast-surge/core/quantity';
import { refusalWords, type PlanStep } from '@vast-surge/core/run';
import { useGetRunQuery } from '../../app/api.ts';
import { useMayNotOn } from '../../app/may.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { BeginForm } from './begin-form.tsx';
import { InstrumentChoice, InstrumentsPanel } from './instruments.tsx';
import { choosePedal, pedalKey, useRunKeys, useSoundKey } from './pedal.ts';
import { RehearsalPanel, ScoreCard } from './rehearsal-panel.tsx';
import { Replay } from './replay.tsx';
import { RunCourse } from './run-course.tsx';
import { AnswerFromHere, AskedForKey, TakeOver, whoRuns } from './other-screens.tsx';
import { Emergency, Side, WhatComes } from './run-side.tsx';
import { RunStep } from './run-step.tsx';
import { isSoundOn, setSound } from './sound.ts';
import { actionOf, type StepAction } from './step-action.ts';
import { useCount } from './use-count.ts';
import { useMeter } from './use-meter.ts';
import { presentStep, useRun, type Running } from './use-run.ts';

/** What was done has not reached the server, or not even this device: in a band of its own, on every width. */
function NotSent({ running }: { running: Running }) {
  const waits = running.waiting.length;
  return (
    <p role="status" className="bg-warning px-4 py-0.5 text-16 text-on-warning sm:px-5">
      {running.barred !== null
        ? `${running.barred} You may still abort${waits === 0 ? '.' : `; ${waits} kept on this device and not sent.`}`
        : running.isUnkept
          ? `Local storage is full: ${waits} in this page alone.`
          : `The server is not reached: ${waits === 0 ? 'nothing waits' : `${waits} kept on this device`}. Go on; it is sent later.`}
    </p>
  );
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

interface ActionBarProps {
  readonly run: StoredRun;
  readonly running: Running;
  readonly step: PlanStep;
  readonly action: StepAction;
  readonly isArmed: boolean;
  readonly onAbort: () => void;
}

function Abort({ isArmed, onAbort }: { isArmed: boolean; onAbort: () => void }) {
  return (
    <button
      type="button"
      className={`border-[3px] border-over px-4 py-2 text-20 font-bold sm:px-6 lg:text-24 ${isArmed ? 'bg-over text-plate' : 'text-over'}`}
      onClick={onAbort}
    >
      ABORT <span className="figure ml-1 text-14 font-normal max-sm:block">{isArmed ? 'Esc again' : 'Esc Esc'}</span>
    </button>
  );
}

/** What is always in the same place: the abort, and the next act. What is possible besides stands over them. */
function ActionBar({ run, running, step, action, isArmed, onAbort }: ActionBarProps) {
  const { state, act, isActing } = running;
  const mayPreFire =
    isActing && run.plan.numbers.selfBreak !== null && state.path === 'main' && ['charge', 'isolate'].includes(step.phase);
  const other = 'min-h-[44px] border-2 border-ink bg-plate px-4 py-2 text-18';
  return (
    <footer className="border-t-2 border-ink bg-ground px-4 py-3 sm:px-10 lg:col-start-1 lg:row-start-2">
      <div className="mb-2 flex flex-wrap gap-3 empty:hidden">
        {mayPreFire && (
          <button type="button" className={other} onClick={() => act({ type: 'outcome', step: step.id, outcome: 'pre-fire' })}>
            It pre-fired
          </button>
        )}
        {step.does === 'hand-over' && isActing && (
          <button type="button" className={other} onClick={() => act({ type: 'again', to: 'charge' })}>
            Another shot
          </button>
        )}
      </div>
      <div className="grid grid-cols-[auto_minmax(0,1fr)] items-stretch gap-3 lg:flex lg:justify-between">
        <Abort isArmed={isArmed} onAbort={onAbort} />
        {isActing ? (
          <button
            type="button"
            disabled={action.act === null}
            className="min-h-[60px] border-[3px] border-ink bg-ink px-4 py-2 text-20 font-bold text-plate disabled:border-rule disabled:bg-ground disabled:text-dim disabled:opacity-100 sm:px-8 lg:text-24"
            onClick={() => action.act?.()}
          >
            {action.words} {action.opens}
            {action.act && <span className="figure ml-2 text-16 font-normal max-lg:hidden">Space</span>}
          </button>
        ) : (
          <div className="flex flex-wrap items-stretch gap-3">
            <AnswerFromHere run={run} running={running} step={step} />
            <TakeOver run={run} running={running} />
          </div>
        )}
      </div>
    </footer>
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
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)_auto] lg:grid-cols-[minmax(0,1fr)_390px]">
      <div className="min-h-0 overflow-y-auto lg:contents">
        <main className="min-w-0 px-4 pt-3 pb-3 sm:px-10 lg:col-start-1 lg:row-start-1 lg:min-h-0 lg:overflow-y-auto lg:pt-4">
          <RunStep run={run} step={step} running={running} shown={shown} instrument={instrument} countLeft={count.left} />
        </main>
        <Side run={run} running={running}>
          {run.rehearsal && <RehearsalPanel run={run} rehearsal={run.rehearsal} running={running} />}
          <Emergency run={run} />
          <WhatComes run={run} running={running} />
          <div className="my-3 flex flex-wrap gap-4 text-14">
            <Pedal />
            <InstrumentChoice run={run} value={instrument} onChange={setInstrument} />
          </div>
          <InstrumentsPanel run={run} />
        </Side>
      </div>
      <ActionBar run={run} running={running} step={step} action={action} isArmed={isArmed} onAbort={abort} />
    </div>
  );
}

function Ended({ run, running }: { run: StoredRun; running: Running }) {
  const [isReplaying, setReplaying] = useState(false);
  const { state } = running;
  const events = useMemo(() => running.events.map((e) => e.event), [running.events]);
  if (isReplaying) return <Replay run={run} running={running} onClose={() => setReplaying(false)} />;
  return (
    <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-y-auto">
      <main className="min-w-0 flex-1 px-5 py-5 sm:px-10 lg:overflow-y-auto">
        <h1 className="text-38 font-bold">Handed over</h1>
        <p className="text-20">
          Read below {run.plan.numbers.goalText} before the strap went on:{' '}
          {state.verified ? printQuantity(state.verified.value, 'V') : 'no reading'}.
          {state.outcomes.length > 0 && ` Shots: ${state.outcomes.join(', ')}.`}
          {state.aborts > 0 && ` Aborted ${state.aborts === 1 ? 'once' : `${state.aborts} times`}.`}
          {state.farReadings > 0 && ` ${state.farReadings} readings far from what was expected.`} The strap stays on.
        </p>
        <RunCourse run={run} events={events} speed={running.speed} />
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
    <p role="alert" className="border-b border-rule bg-plate px-5 py-1 text-18 font-bold">
      {refusalWords(refusal)}
    </p>
  );
}

function Head({ run, running, isInTrouble }: { run: StoredRun; running: Running; isInTrouble: boolean }) {
  const [sound, showSound] = useState(isSoundOn);
  const toggle = () => {
    setSound(!sound);
    showSound(!sound);
  };
  useSoundKey(toggle);
  const { state } = running;
  return (
    <header className="flex min-h-[42px] items-center gap-x-4 gap-y-1 border-b border-rule px-4 sm:gap-x-6 sm:px-5">
      <Link to="/runs" className="font-bold whitespace-nowrap sm:text-17">
        <span className="max-sm:hidden">Vast Surge</span>
        <span className="sm:hidden">Runs</span>
      </Link>
      <span className="min-w-0 truncate">
        {run.rehearsal ? 'Rehearsal' : 'Run'} of {run.plan.rigName}, revision {run.revision}
      </span>
      {state.at !== 'not-begun' && (
        <span className="whitespace-nowrap text-dim max-md:hidden">
          {state.acts}
          {state.reads ? ` acts, ${state.reads} reads` : ' alone'}
        </span>
      )}
      <span className="ml-auto flex items-center gap-4 whitespace-nowrap">
        {run.rehearsal && (
          <span className="text-dim max-md:hidden">
            seed {run.rehearsal.seed} · {run.rehearsal.speed === 1 ? 'real time' : `${run.rehearsal.speed} times as fast`}
          </span>
        )}
        {!isInTrouble && (
          <span className="text-dim max-md:hidden">{running.waiting.length === 0 ? 'every step kept' : 'keeping …'}</span>
        )}
        <IconButton label={sound ? 'Sound off (m)' : 'Sound on (m)'} className="min-h-[44px] min-w-[44px]" onClick={toggle}>
          {sound ? <Volume2 size={18} aria-hidden /> : <VolumeX size={18} aria-hidden />}
        </IconButton>
      </span>
    </header>
  );
}

function Run({ run }: { run: StoredRun }) {
  const running = useRun(run);
  const { state } = running;
  const isInTrouble = running.isAway || running.isUnkept || running.barred !== null;
  const mayNotRun = useMayNotOn(run.rigId, ...whoRuns(run));
  return (
    <div className="flex h-full flex-col">
      <Head run={run} running={running} isInTrouble={isInTrouble} />
      {isInTrouble && <NotSent running={running} />}
      <AskedForKey running={running} />
      <Refused running={running} />
      {state.at === 'not-begun' ? (
        <main className="flex-1 overflow-y-auto px-5 py-6 sm:px-10">
          {mayNotRun === null ? (
            <BeginForm plan={run.plan} onBegin={(who) => running.act({ type: 'began', ...who })} />
          ) : (
            <>
              <h1 className="text-40 leading-tight font-bold">Run of {run.plan.rigName}</h1>
              <p role="status" className="mt-3 max-w-[44rem] text-20">
                It has not begun. Once it has, it is followed here. {mayNotRun}
              </p>
            </>
          )}
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
