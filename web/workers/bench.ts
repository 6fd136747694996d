import type { BenchCalculations } from './bench.worker.ts';
import { SupervisedWorker } from './supervised.ts';

/** The worker of the parts bench; one that dies is started anew with the next question. */
export const benchWorker = new SupervisedWorker<BenchCalculations>(
  () => new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }),
);
