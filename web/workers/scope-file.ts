import { SupervisedWorker } from './supervised.ts';
import { workerFor } from './worker-for.ts';
import type { ScopeFileCalculations } from './scope-file.calculations.ts';

/** Reads files of scopes away from the page: five million samples take a while. */
export const scopeFileWorker = new SupervisedWorker<ScopeFileCalculations>(workerFor('scope-file'));
