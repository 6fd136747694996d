import { useState, type ReactNode } from 'react';
import type { StoredRun } from '@vast-surge/contract';
import { printQuantity } from '@vast-surge/core/quantity';
import { outcomeWords, refusalWords, stepsOn, type RunEvent } from '@vast-surge/core/run';
import { faultTitles, isAct, rehearsalActs } from '@vast-surge/core/rehearsal';
import { Button } from '../../ui/button.tsx';
import { Drawer } from './drawer.tsx';
import type { Running } from './use-run.ts';

/** The first sentence of a step; a list cuts it off where its line ends. */
const head = (text: string): string => (text.split(/(?<=[.:])\s/)[0] ?? text).replace(/[.:]$/, '');

/** Brings the present step into sight within its list, and moves nothing else. */
const inSight = (li: HTMLLIElement | null): void => {
  const list = li?.parentElement;
  if (li && list) list.scrollTop = li.offsetTop - list.offsetTop - list.clientHeight / 3;
};

/** What has been done, what is being done, what comes. */
export function WhatComes({ run, running }: { run: StoredRun; running: Running }) {
  const { state } = running;
  const steps = stepsOn(run.plan, state.path);
  const next = steps[state.index + 1];
  return (
    <Drawer
      title={state.path === 'main' ? 'What comes' : state.path === 'misfire' ? 'Misfire: what comes' : 'Abort: what comes'}
      {...(next === undefined ? {} : { says: `next: ${head(next.text).slice(0, 28)}` })}
    >
      <ol tabIndex={0} aria-label="Steps" className="max-h-[46vh] overflow-y-auto">
        {steps.map((step, i) => {
          const isNow = state.at === 'running' && i === state.index;
          const isDone = state.at === 'ended' || i < state.index;
          return (
            <li
              key={step.id}
              aria-current={isNow ? 'step' : undefined}
              ref={isNow ? inSight : undefined}
              className={`flex gap-2 border-b border-rule py-1 ${isNow ? 'font-bold' : 'text-dim'}`}
            >
              <span aria-hidden className={`w-5 shrink-0 ${isNow ? 'text-select' : ''}`}>
                {isNow ? '▶' : isDone ? '✓' : ''}
              </span>
              <span className="truncate" title={step.text}>
                {head(step.text)}
              </span>
            </li>
          );
        })}
      </ol>
    </Drawer>
  );
}

const clock = (at: number): string => new Date(at).toLocaleTimeString('en-GB');

/** What an event was, in words. */
export function eventWords(run: StoredRun, event: RunEvent): string {
  const of = (id: string) => {
    const step = [...run.plan.main, ...run.plan.misfire, ...run.plan.abort].find((s) => s.id === id);
    return step ? head(step.text) : id;
  };
  switch (event.type) {
    case 'began':
      return `Begun: ${event.acts} acts${event.reads ? `, ${event.reads} reads` : ', alone'}`;
    case 'done':
      return `Done: ${of(event.step)}`;
    case 'read':
      return `Read ${printQuantity(event.value, 'V')} (${event.source}${event.confirmed ? ', far from what was expected, kept' : ''})`;
    case 'answered':
      return `The second person answered${event.proof !== undefined ? ' with the PIN' : event.account !== undefined ? ' from a device of their own' : ''}`;
    case 'pin-set':
      return 'The second person set a new PIN';
    case 'outcome':
      return outcomeWords[event.outcome];
    case 'back':
      return 'Back one step';
    case 'again':
      return event.to === 'tool' ? 'Back to the stick' : 'Another shot';
    case 'aborted':
      return `ABORTED${event.reason ? `: ${event.reason}` : ''}`;
    case 'noted':
      return `Note: ${event.text}`;
    case 'took-over':
      return `${event.by} took over on another screen`;
    case 'asked-for-key':
      return `${event.by} asks for the key on another screen`;
    case 'gave-key':
      return 'The key was given to whoever asked';
    case 'kept-key':
      return 'The key was kept';
    case 'clock':
      return event.by < 0
        ? `The clock of the screen was set back by ${(-event.by).toFixed(0)} s: waits begin anew`
        : `The screen slept, or its clock went ahead, by ${event.by.toFixed(0)} s`;
    case 'acted':
      return isAct(event.act) ? rehearsalActs[event.act].title : event.act;
    case 'suspected':
      return `Says: ${faultTitles[event.fault as keyof typeof faultTitles] ?? event.fault}`;
    default:
      return event satisfies never;
  }
}

/** All that was done, the last first; what had no effect stands there with the reason. */
function RunLog({ run, running, upTo }: { run: StoredRun; running: Running; upTo?: number }) {
  const all = [...running.events.map((e) => e.event), ...running.waiting];
  const kept = running.events.length;
  const shown = upTo === undefined ? all : all.slice(0, upTo);
  return (
    <ol aria-label="What was done" className="text-14">
      {shown
        .map((event, i) => ({ event, i }))
        .reverse()
        .map(({ event, i }) => {
          const refusal = running.refusals.get(i);
          return (
            <li key={event.id} className="grid grid-cols-[4.6rem_1fr] gap-2 border-b border-rule py-0.5">
              <span className="figure text-dim">{clock(event.at)}</span>
              <span className={refusal ? 'text-dim' : ''}>
                {eventWords(run, event)}
                {refusal && <span className="block">Had no effect: {refusalWords(refusal)}</span>}
                {i >= kept && <span className="block text-dim">on this device, not sent yet</span>}
              </span>
            </li>
          );
        })}
    </ol>
  );
}

/** A remark in the middle of a run: it disturbs nothing. */
function NoteForm({ running }: { running: Running }) {
  const [text, setText] = useState('');
  return (
    <form
      className="mt-2 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() === '') return;
        running.act({ type: 'noted', text: text.trim() });
        setText('');
      }}
    >
      <input
        aria-label="A note"
        placeholder="A note"
        className="min-w-0 flex-1 border border-rule bg-plate px-2 py-1"
        maxLength={1000}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" disabled={text.trim() === ''}>
        Note
      </Button>
    </form>
  );
}

/** The column beside the step: what was done, and whatever stands over it. */
export function Side({
  children,
  run,
  running,
  upTo,
}: {
  children?: ReactNode;
  run: StoredRun;
  running: Running;
  upTo?: number;
}) {
  const count = upTo ?? running.events.length + running.waiting.length;
  return (
    <aside className="w-full shrink-0 border-rule px-4 py-4 sm:px-5 lg:col-start-2 lg:row-span-2 lg:row-start-1 lg:min-h-0 lg:w-[390px] lg:overflow-y-auto lg:border-l">
      {children}
      <Drawer title="What was done" says={`${count} ${count === 1 ? 'entry' : 'entries'}`}>
        {upTo === undefined && <NoteForm running={running} />}
        <RunLog run={run} running={running} {...(upTo === undefined ? {} : { upTo })} />
      </Drawer>
    </aside>
  );
}

/** What to do when somebody was shocked, or it burns: there in every run, and one click away. */
export function Emergency({ run }: { run: StoredRun }) {
  const { emergency } = run.plan;
  if (emergency.length === 0) return null;
  return (
    <details className="my-3 border-2 border-over p-3">
      <summary className="cursor-pointer text-17 font-bold">Somebody was shocked, or there is a fire</summary>
      {emergency.map(({ title, lines }) => (
        <section key={title} className="mt-2">
          <h3 className="text-17 font-bold">{title}</h3>
          <ol className="list-decimal pl-5 text-17">
            {lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </section>
      ))}
    </details>
  );
}
