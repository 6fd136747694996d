import { useEffect, useState, useSyncExternalStore } from 'react';
import { evaluateRig, unpackEvaluation, type Evaluation } from '@vast-surge/core/evaluation';
import type { Rig } from '@vast-surge/core/rig';
import { heldSlider } from '../ui/held.ts';
import type { EvaluateCalculations } from './evaluate.calculations.ts';
import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';

/** Evaluations that are there, of whatever thread. */
const known = new WeakMap<Rig, Evaluation>();

function evaluationOf(rig: Rig): Evaluation {
  const there = known.get(rig);
  if (there) return there;
  const made = evaluateRig(rig);
  known.set(rig, made);
  return made;
}

/** Asks a worker for the newest rig only: one at a time, and what comes meanwhile replaces what waits. */
export class LatestEvaluation {
  private readonly worker: Pick<SupervisedWorker<EvaluateCalculations>, 'call'>;
  private readonly listeners = new Set<() => void>();
  private wanted: Rig | null = null;
  private running: Rig | null = null;
  private last: Rig | null = null;
  private forgotten = 0;

  constructor(worker: Pick<SupervisedWorker<EvaluateCalculations>, 'call'>) {
    this.worker = worker;
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** The rig that was evaluated last, since nothing was asked before. */
  readonly get = (): Rig | null => this.last;

  ask(rig: Rig): void {
    if (known.has(rig) || rig === this.running) return;
    this.wanted = rig;
    if (!this.running) void this.next();
  }

  /** What was answered before is of no rig that is shown now. */
  forget(): void {
    this.wanted = null;
    this.last = null;
    this.forgotten += 1;
  }

  private async next(): Promise<void> {
    while (this.wanted) {
      const rig = this.wanted;
      const { forgotten } = this;
      [this.wanted, this.running] = [null, rig];
      try {
        const packed = await this.worker.call((remote) => remote.evaluate(rig));
        known.set(rig, unpackEvaluation(rig, packed));
      } catch {
        // A worker that is lost costs the page a moment and no number.
        evaluationOf(rig);
      }
      if (forgotten !== this.forgotten) continue;
      this.last = rig;
      for (const listener of this.listeners) listener();
    }
    this.running = null;
  }
}

const latest = new LatestEvaluation(new SupervisedWorker<EvaluateCalculations>(workerFor('evaluate')));

/**
 * All that is calculated about a rig. While a slider is held a worker does it and the page follows with the newest that is there;
 * otherwise it is there at once.
 */
export function useEvaluation(rig: Rig, evaluations: LatestEvaluation = latest): Evaluation {
  const isHeld = useSyncExternalStore(heldSlider.subscribe, heldSlider.get);
  const answered = useSyncExternalStore(evaluations.subscribe, evaluations.get);
  const [shown, setShown] = useState(rig);
  const now = !isHeld || known.has(rig) ? rig : (answered ?? shown);
  if (now !== shown) setShown(now);
  useEffect(() => {
    if (isHeld) evaluations.ask(rig);
    else evaluations.forget();
  }, [isHeld, rig, evaluations]);
  return evaluationOf(now);
}
