// A worker of the bench: so many shots when asked for.
import { parentPort } from 'node:worker_threads';
import { simulateCircuit } from '../core/circuit/index.ts';
import { marx } from '../core/test/circuits.ts';

const shot = () =>
  simulateCircuit(marx(10), { until: 5e-6, tolerance: 0.3, maxStep: 2.5e-7, probes: [{ of: 'voltage', element: 'CL' }] });
// Until the engine has compiled what it will run.
for (let i = 0; i < 300; i++) shot();
parentPort?.on('message', (shots: number) => {
  for (let i = 0; i < shots; i++) shot();
  parentPort?.postMessage('done');
});
parentPort?.postMessage('ready');
