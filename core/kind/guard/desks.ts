import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    guard: true;
  }
}

export const guardDesk: Desk = {
  route: 'guard',
  group: 'physics',
  place: 97,
  title: 'Guard',
  says: 'Guard: what reaches a person, the interlock, the plan of the room',
  words: [
    'interlock',
    'door',
    'emergency stop',
    'shield',
    'fragment',
    'sound',
    'ears',
    'distance',
    'flashover',
    'build sheet',
    'labels',
    'room',
    'earth',
  ],
  about:
    'Sound, fragments, flash, flashover and gases as numbers against their published lines; the interlock with every single failure tried; guard and people in plan to scale; what to build and label; and everything in the room that holds charge, in the order in which it is discharged.',
  of: 'a rig',
};
