// What the parts of the bench share: things timed in turns, work in workers, the general-purpose ODE package.
import { Worker } from 'node:worker_threads';

export interface Integrator {
  absoluteTolerance: number;
  relativeTolerance: number;
  maxSteps: number;
  solve(f: (t: number, y: number[]) => number[], from: number, y0: number[], to: number): { y: number[] };
}
// By a name that the type checker does not follow: the package's own sources do not hold under this project's strictness.
export const { Solver } = (await import(['odex'].join(''))) as { Solver: new (dimension: number) => Integrator };

export const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

const timed = (run: () => void): number => {
  const started = performance.now();
  run();
  return performance.now() - started;
};

/** Times of two things done in turns, ms: the medians. */
export function inTurns(rounds: number, ...runs: readonly (() => void)[]): number[] {
  for (const run of runs) run();
  const times = runs.map((): number[] => []);
  for (let i = 0; i < rounds; i++) runs.forEach((run, k) => times[k]?.push(timed(run)));
  return times.map(median);
}

/** Shots done in one worker, or shared by two, ms, by a program beside this one that answers when it has done so many: the median of several times, after one that nobody counts. */
export async function inWorkers(of: string, workers: number, shots: number): Promise<number> {
  // A worker thread has no loader for TypeScript of its own: it registers one before it reads its program.
  const program = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(new URL(of, import.meta.url).href)}); });`;
  const made = Array.from({ length: workers }, () => new Worker(program, { eval: true }));
  const ready = (worker: Worker) => new Promise<void>((resolve) => worker.once('message', () => resolve()));
  await Promise.all(made.map(ready));
  const times: number[] = [];
  for (let i = 0; i < 6; i++) {
    const started = performance.now();
    const done = made.map(ready);
    for (const worker of made) worker.postMessage(shots / workers);
    await Promise.all(done);
    if (i > 0) times.push(performance.now() - started);
  }
  await Promise.all(made.map((worker) => worker.terminate()));
  return median(times);
}
