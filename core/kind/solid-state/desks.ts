import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    switches: true;
  }
}

export const switchesDesk: Desk = {
  route: 'switches',
  group: 'procedure',
  place: 10,
  title: 'Switches',
  says: 'Switches: which others could do this shot',
  words: ['compare', 'thyristor', 'gap', 'contact', 'choice'],
  about: 'The kinds of switch that could do the same shot, each checked against it.',
  of: 'a switch to compare',
};
