import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    switches: true;
  }
}

export const switchesDesk: Desk = {
  route: 'switches',
  title: 'Other switches',
  says: 'Other switches for this shot',
  words: ['compare', 'thyristor', 'gap', 'contact', 'choice'],
  about: 'The kinds of switch that could do the same shot, each held against it.',
  of: 'a switch to compare',
};
