import { useEffect, useMemo, useState, type Dispatch, type SetStateAction } from 'react';
import type { StoredRun } from '@vast-surge/contract';
import { replay, stepAt } from '@vast-surge/core/run';
import { Button } from '../../ui/button.tsx';
import { RunCourse } from './run-course.tsx';
import { eventWords, Side } from './run-side.tsx';
import type { Running } from './use-run.ts';

/** One event after the other, until the last. */
function usePlayed(last: number, setAt: Dispatch<SetStateAction<number>>) {
  const [isPlaying, setPlaying] = useState(false);
  useEffect(() => {
    if (!isPlaying) return;
    const next = () =>
      setAt((n) => {
        if (n >= last) setPlaying(false);
        return Math.min(last, n + 1);
      });
    const timer = setInterval(next, 700);
    return () => clearInterval(timer);
  }, [isPlaying, last, setAt]);
  return [isPlaying, setPlaying] as const;
}

interface ButtonsProps {
  readonly at: number;
  readonly last: number;
  readonly setAt: (at: number) => void;
  readonly isPlaying: boolean;
  readonly setPlaying: (isPlaying: boolean) => void;
  readonly onClose: () => void;
}

function Buttons({ at, last, setAt, isPlaying, setPlaying, onClose }: ButtonsProps) {
  return (
    <div className="mt-2 flex gap-3">
      <Button onClick={() => setAt(Math.max(1, at - 1))}>Back</Button>
      <Button
        look="primary"
        onClick={() => {
          if (at >= last) setAt(1);
          setPlaying(!isPlaying);
        }}
      >
        {isPlaying ? 'Pause' : 'Play'}
      </Button>
      <Button onClick={() => setAt(Math.min(last, at + 1))}>On</Button>
      <Button className="ml-auto" onClick={onClose}>
        Close
      </Button>
    </div>
  );
}

/** A run played again, event by event, as it stood after each. */
export function Replay({ run, running, onClose }: { run: StoredRun; running: Running; onClose: () => void }) {
  const events = useMemo(() => running.events.map((e) => e.event), [running.events]);
  const [at, setAt] = useState(1);
  const shown = useMemo(() => events.slice(0, at), [events, at]);
  const [isPlaying, setPlaying] = usePlayed(events.length, setAt);
  const { state } = replay(run.plan, shown, running.speed);
  const step = state.at === 'running' ? stepAt(run.plan, state) : null;
  const event = events[at - 1];
  const [first] = events;
  const after = event && first ? Math.round((event.at - first.at) / 1000) : 0;
  return (
    <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-y-auto">
      <main className="flex min-w-0 flex-1 flex-col px-5 py-5 sm:px-10 lg:overflow-y-auto">
        <p className="text-19 text-dim">
          Played again · {at} of {events.length} · {Math.floor(after / 60)} min {after % 60} s after it began
        </p>
        <p className="mt-2 text-30 font-bold">{event ? eventWords(run, event) : ''}</p>
        <p className="mt-4 text-19 text-dim">{step ? 'The step then shown' : 'The run had ended'}</p>
        {step && <p className="text-24">{step.text}</p>}
        <p className="mt-4 text-20">
          {state.at === 'ended'
            ? 'Handed over.'
            : state.mayBeCharged
              ? 'The store may have been charged.'
              : 'Read below the goal.'}{' '}
          {state.isStrapped ? 'Strap on.' : ''}
        </p>
        <RunCourse run={run} events={shown} speed={running.speed} />
        <div className="mt-auto pt-6">
          <input
            type="range"
            aria-label="Event"
            className="w-full"
            min={1}
            max={events.length}
            value={at}
            onChange={(e) => setAt(Number(e.target.value))}
          />
          <Buttons at={at} last={events.length} setAt={setAt} isPlaying={isPlaying} setPlaying={setPlaying} onClose={onClose} />
        </div>
      </main>
      <Side run={run} running={running} upTo={at} />
    </div>
  );
}
