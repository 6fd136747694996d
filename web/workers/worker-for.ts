import { mannerNow } from '@vast-surge/core/quantity';
import type { Room } from './rooms.ts';

/** Makes a worker that calculates what a room has. All rooms are one program, so that core is fetched and kept once. */
export const workerFor = (room: Room) => (): Worker =>
  new Worker(new URL('./page.worker.ts', import.meta.url), {
    type: 'module',
    // All that it has to know from the start: what it prints is read on this page.
    name: JSON.stringify({ room, manner: mannerNow() }),
  });
