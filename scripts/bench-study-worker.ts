// A worker of the bench: so many samples of a study when asked for.
import { parentPort } from 'node:worker_threads';
import { someSamples } from './bench-study.ts';

// Until the engine has compiled what it will run.
someSamples(1500);
parentPort?.on('message', (count: number) => {
  someSamples(count);
  parentPort?.postMessage('done');
});
parentPort?.postMessage('ready');
