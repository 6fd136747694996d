import { SupervisedWorker } from './supervised.ts';
import type { ScopeFileCalculations } from './scope-file.worker.ts';

/** Reads files of scopes away from the page: five million samples take a while. */
export const scopeFileWorker = new SupervisedWorker<ScopeFileCalculations>(
  () => new Worker(new URL('./scope-file.worker.ts', import.meta.url), { type: 'module' }),
);
