import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    tank: true;
  }
}

export const tankDesk: Desk = {
  route: 'tank',
  group: 'physics',
  place: 40,
  title: 'Tesla coil',
  says: 'Tesla coil: breaks, tuning, drawn to scale',
  words: ['tesla', 'breaks', 'tuning', 'resonance', 'secondary', 'spark', 'tank', 'sgtc', 'resonant', 'top load', 'primary'],
  about:
    'A tank on DC, or on AC from a limited transformer, with a static or rotary gap, and a secondary under its top load: whether the gap re-opens, break after break from seconds to nanoseconds, resonances against the tap, coupling, peak secondary voltage, sparks, heat, to scale.',
  of: 'a Tesla coil as its load',
  picture: 'tank',
};
