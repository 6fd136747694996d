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
};
