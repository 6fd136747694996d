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
};
