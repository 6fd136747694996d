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
};
