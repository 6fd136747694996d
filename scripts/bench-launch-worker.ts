// A worker of the bench: so many launches of a search for better coils when asked for.
import { parentPort } from 'node:worker_threads';
import { finderOfShuttle, somePoints } from './bench-launch.ts';

const finder = finderOfShuttle();
const points = somePoints(finder, 48);
let next = 0;
const shot = () => finder.evaluate(points[next++ % points.length] ?? []);
// Until the engine has compiled what it will run.
for (let i = 0; i < 150; i++) shot();
parentPort?.on('message', (shots: number) => {
  for (let i = 0; i < shots; i++) shot();
  parentPort?.postMessage('done');
});
parentPort?.postMessage('ready');
