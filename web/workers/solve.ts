import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Scene } from '@vast-surge/core/block';
import type { Rig } from '@vast-surge/core/rig';
import type { SolveAnswer, Trace } from '@vast-surge/core/simulate';
import type { SolveCalculations } from './solve.calculations.ts';
import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';

/** A scene of a rig, as it is now. */
export interface Asked {
  readonly rig: Rig;
  readonly name: string;
  readonly of: Scene['of'];
}

export interface Solving {
  /** The last answer, with what it answers; it may be older than what is asked. */
  readonly answer: {
    readonly asked: Asked;
    readonly result: SolveAnswer;
    readonly quick: boolean;
    readonly ticket: number;
  } | null;
  /** Why there is none just now. */
  readonly trouble: string | null;
}

/** A value that has not moved for so long, ms, is at rest: then the run with reasons follows. */
const rest = 350;
/** A run that has taken so long, ms, while something newer waits is given up. */
const giveUp = 250;

const same = (a: Asked, b: Asked) => a.rig === b.rig && a.of === b.of;

/**
 * Asks the worker for the newest only: one run at a time, what comes meanwhile replaces what waits, and a long run that
 * nobody wants any more is ended with its worker.
 */
export class LatestSolver {
  private readonly worker: Pick<SupervisedWorker<SolveCalculations>, 'call' | 'restart'>;
  private state: Solving = { answer: null, trouble: null };
  private readonly listeners = new Set<() => void>();
  private wanted: { asked: Asked; quick: boolean } | null = null;
  private running: Asked | null = null;
  private ticket = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private hurry: ReturnType<typeof setTimeout> | undefined;
  /** Answers so far. */
  answered = 0;

  constructor(worker: Pick<SupervisedWorker<SolveCalculations>, 'call' | 'restart'>) {
    this.worker = worker;
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly get = (): Solving => this.state;

  ask(asked: Asked): void {
    const newest = this.wanted?.asked ?? this.running ?? this.state.answer?.asked;
    if (newest && same(newest, asked)) return;
    this.want(asked, true);
    clearTimeout(this.resting);
    this.resting = setTimeout(() => this.want(asked, false), rest);
  }

  /** A stretch of time of the run behind an answer with more of its points; null where that run is gone. */
  async closer(ticket: number, from: number, to: number): Promise<readonly Trace[] | null> {
    if (this.running) return null;
    try {
      return await this.worker.call(async (remote): Promise<Trace[] | null> => await remote.closer(ticket, from, to));
    } catch {
      // What is drawn stays as it is.
      return null;
    }
  }

  private want(asked: Asked, quick: boolean): void {
    this.wanted = { asked, quick };
    if (!this.running) void this.next();
    else this.hurry ??= setTimeout(() => this.worker.restart('something newer is asked'), giveUp);
  }

  private set(state: Solving): void {
    this.state = state;
    for (const listener of this.listeners) listener();
  }

  private async next(): Promise<void> {
    while (this.wanted) {
      const { asked, quick } = this.wanted;
      this.wanted = null;
      this.running = asked;
      this.ticket += 1;
      const { ticket } = this;
      try {
        const result = await this.worker.call(
          async (remote): Promise<SolveAnswer> => await remote.solve(asked.rig, asked.name, asked.of, quick, ticket),
        );
        this.answered += 1;
        this.set({ answer: { asked, result, quick, ticket }, trouble: null });
      } catch (error) {
        // One that was given up for something newer is no trouble.
        if (this.wanted === null)
          this.set({ ...this.state, trouble: error instanceof Error ? error.message : 'no reason given' });
      }
      clearTimeout(this.hurry);
      this.hurry = undefined;
    }
    this.running = null;
  }
}

const solver = new LatestSolver(new SupervisedWorker<SolveCalculations>(workerFor('solve')));

/** The solver's answer to a scene; what is shown meanwhile is the last one, and says so. */
export function useSolved(asked: Asked): Solving & { readonly isCurrent: boolean } {
  const state = useSyncExternalStore(solver.subscribe, solver.get);
  useEffect(() => solver.ask(asked));
  return { ...state, isCurrent: state.answer !== null && same(state.answer.asked, asked) };
}

/** A window of time, s. */
export interface TimeWindow {
  readonly from: number;
  readonly to: number;
}

/** The solver's traces in a window of time with the points that the whole picture has no room for; null until they are there. */
export function useCloser({ answer }: Solving, window: TimeWindow | null): readonly Trace[] | null {
  const [look, setLook] = useState<{ ticket: number; window: TimeWindow; traces: readonly Trace[] } | null>(null);
  const ticket = answer && !answer.quick && answer.result.ok ? answer.ticket : null;
  useEffect(() => {
    if (ticket === null || !window) return undefined;
    let wanted = true;
    void solver.closer(ticket, window.from, window.to).then((traces) => {
      if (wanted && traces) setLook({ ticket, window, traces });
    });
    return () => {
      wanted = false;
    };
  }, [ticket, window]);
  return look && look.ticket === ticket && look.window === window ? look.traces : null;
}
