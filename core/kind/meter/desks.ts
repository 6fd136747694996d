import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    scale: true;
  }
}

export const scaleDesk: Desk = {
  route: 'scale',
  group: 'design',
  place: 40,
  title: 'Meter scale',
  says: 'Meter scale to print',
  words: ['meter', 'movement', 'print', 'joules'],
  about: 'A scale for the movement to print in true millimetres, in volts and in joules of this bank.',
  of: 'a movement as its meter',
};
