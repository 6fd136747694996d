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

/**
 * Shots by a program beside this one, that answers when it has done so many: on one worker, and shared by two. The same two workers do both,
 * in turns: what the engine made of their program, and what else the machine does, is the same for either. Medians of several rounds.
 */
export async function oneAndTwo(of: string, shots: number): Promise<{ readonly one: number; readonly gain: number }> {
  // A worker thread has no loader for TypeScript of its own: it registers one before it reads its program.
  const program = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(new URL(of, import.meta.url).href)}); });`;
  const workers = [0, 1].map(() => new Worker(program, { eval: true }));
  const ready = (worker: Worker) => new Promise<void>((resolve) => worker.once('message', () => resolve()));
  await Promise.all(workers.map(ready));
  const took = async (crew: readonly Worker[]): Promise<number> => {
    const started = performance.now();
    const done = crew.map(ready);
    for (const worker of crew) worker.postMessage(shots / crew.length);
    await Promise.all(done);
    return performance.now() - started;
  };
  const [ones, gains]: [number[], number[]] = [[], []];
  for (let round = 0; round < 8; round++) {
    const times: number[] = [];
    for (const worker of workers) times.push(await took([worker]));
    const one = ((times[0] ?? 0) + (times[1] ?? 0)) / 2;
    const two = await took(workers);
    // The first round is what the engine learns by.
    if (round === 0) continue;
    ones.push(one);
    gains.push(one / two);
  }
  await Promise.all(workers.map((worker) => worker.terminate()));
  return { one: median(ones), gain: median(gains) };
}
