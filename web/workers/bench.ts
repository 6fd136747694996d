import type { BenchCalculations } from './bench.calculations.ts';
import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';

/** The worker of the parts bench; one that dies is started anew with the next question. */
export const benchWorker = new SupervisedWorker<BenchCalculations>(workerFor('bench'));
