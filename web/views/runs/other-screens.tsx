import { useState } from 'react';
import { toast } from 'sonner';
import type { Role, StoredRun } from '@vast-surge/contract';
import { keyAnswerTime, type PlanStep } from '@vast-surge/core/run';
import { useGetSessionQuery } from '../../app/base-api.ts';
import { useMayNotOn } from '../../app/may.ts';
import { theScreen } from '../../app/session.ts';
import type { Running } from './use-run.ts';

/** A rehearsal does nothing to anybody: whoever works here may play it. */
export const whoRuns = ({ rehearsal }: StoredRun): readonly Role[] =>
  rehearsal ? ['designs', 'acts', 'reads'] : ['acts', 'reads'];

/** Somebody asks for the key, told to whoever has it; it stands beside the step and stops nothing. */
export function AskedForKey({ running: { state, isActing, act } }: { running: Running }) {
  if (!isActing || state.asking === null || state.asking.isGiven) return null;
  const answer = 'min-h-[44px] border-2 border-ink px-4 py-1 font-bold';
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 border-b-2 border-ink bg-plate px-4 py-2 text-18 sm:px-5">
      <b className="mr-auto max-sm:w-full">{state.asking.by} asks to take over.</b>
      <button type="button" className={answer} onClick={() => act({ type: 'kept-key' })}>
        Keep the key
      </button>
      <button type="button" className={answer} onClick={() => act({ type: 'gave-key' })}>
        Give {state.asking.by} the key
      </button>
    </div>
  );
}

const initials = /^[\p{L}\p{N}]{1,4}$/u;

/** This screen has asked for the key. */
function Asked({ running: { state, untilTaken, act } }: { running: Running }) {
  const by = state.asking?.by ?? '';
  const isDue = untilTaken === 0;
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 bg-warning px-3 py-1 text-on-warning">
      {isDue
        ? `${state.acts} did not answer.`
        : `Asked. ${state.acts} can answer for ${Math.ceil(untilTaken ?? keyAnswerTime)} s; after that you may take over.`}
      {isDue && (
        <button
          type="button"
          className="min-h-[44px] border border-on-warning px-2 font-bold"
          onClick={() => act({ type: 'took-over', by })}
        >
          Take over without an answer
        </button>
      )}
    </p>
  );
}

export function TakeOver({ run, running }: { run: StoredRun; running: Running }) {
  const { state, untilTaken, act } = running;
  const [by, setBy] = useState('');
  const [hasAsked, setAsked] = useState(false);
  const mayNot = useMayNotOn(run.rigId, ...whoRuns(run));
  if (mayNot !== null)
    return (
      <p className="self-center px-3 py-1">
        {state.acts} acts on another screen; this one watches. {mayNot}
      </p>
    );
  if (state.asking?.screen === theScreen()) return <Asked running={running} />;
  const asksFirst = untilTaken !== 0;
  return (
    <form
      className="flex flex-wrap items-center gap-2 bg-warning px-3 py-1 text-on-warning"
      onSubmit={(event) => {
        event.preventDefault();
        if (!initials.test(by.trim())) {
          toast.error('Initials: one to four letters or digits.');
          return;
        }
        setAsked(asksFirst);
        act({ type: asksFirst ? 'asked-for-key' : 'took-over', by: by.trim().toUpperCase() });
      }}
    >
      {hasAsked ? `${state.acts} keeps the key; this screen watches.` : `${state.acts} acts on another screen; this one watches.`}
      <input
        aria-label="Your initials"
        placeholder="initials"
        className="w-20 border border-on-warning bg-transparent px-2"
        maxLength={4}
        value={by}
        onChange={(event) => setBy(event.target.value)}
      />
      <button type="submit" className="border border-on-warning px-2 font-bold">
        {asksFirst ? 'Ask to take over' : 'Take over'}
      </button>
    </form>
  );
}

/** The second person's answer from a screen of their own: who acts cannot give it. */
export function AnswerFromHere({ run, running: { state, act }, step }: { run: StoredRun; running: Running; step: PlanStep }) {
  const { data: session } = useGetSessionQuery(undefined);
  const mayNot = useMayNotOn(run.rigId, ...whoRuns(run));
  const me = session?.account?.id;
  const isAsked = step.second && !state.isAnswered && state.reads !== null && state.account !== null;
  if (!isAsked || me === undefined || me === state.account || mayNot !== null) return null;
  return (
    <button
      type="button"
      className="min-h-[60px] border-[3px] border-ink bg-ink px-4 py-2 text-20 font-bold text-plate sm:px-8 lg:text-24"
      onClick={() => act({ type: 'answered', step: step.id })}
    >
      Answer the hold
    </button>
  );
}
