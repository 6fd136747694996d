import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    tank: true;
  }
}

export const tankDesk: Desk = {
  route: 'tank',
  title: 'Tank',
  says: 'The tank that runs: breaks, tuning, drawn to scale',
  words: ['tesla', 'breaks', 'tuning', 'resonance', 'secondary', 'spark'],
  about:
    'A tank on direct current, or on ac from a limited transformer, with a static or rotary gap, and a secondary under its terminal: whether the gap opens again, break after break from seconds to nanoseconds, resonances against the tap, coupling, peak at the top, sparks, heat, to scale.',
  of: 'a Tesla coil as its load',
  picture: 'tank',
};
