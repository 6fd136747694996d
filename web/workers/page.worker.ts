import { expose } from 'comlink';
import { printIn, type Manner } from '@vast-surge/core/quantity';
import { rooms, type Room } from './rooms.ts';

type Calculations = Readonly<Record<string, (...given: unknown[]) => unknown>>;

const { room: own, manner } = JSON.parse(self.name) as { readonly room: Room; readonly manner: Manner };
printIn(manner);

/** What this worker calculates, by the name it was made with. */
async function calculations(): Promise<Calculations> {
  try {
    const room = await rooms[own]();
    return room.calculations as unknown as Calculations;
  } catch (error) {
    // A program that cannot be fetched ends the worker, as one that cannot be started does: its calls end, and the next call tries again.
    setTimeout(() => {
      throw error;
    });
    return new Promise<never>(() => undefined);
  }
}

expose(
  new Proxy<Calculations>(
    {},
    {
      get:
        (_none, name) =>
        async (...given: unknown[]) =>
          (await calculations())[String(name)]?.(...given),
    },
  ),
);
