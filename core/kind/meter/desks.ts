import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    scale: true;
  }
}

export const scaleDesk: Desk = {
  route: 'scale',
  title: 'Scale to print',
  says: 'A scale to print for this meter',
  words: ['meter', 'movement', 'print', 'joules'],
  about: 'A scale for the movement to print in true millimetres, in volts and in joules of this bank.',
  of: 'a movement as its meter',
};
