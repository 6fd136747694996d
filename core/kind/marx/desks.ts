import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    erection: true;
    stages: true;
  }
}

export const erectionDesk: Desk = {
  route: 'erection',
  title: 'Erection',
  says: 'Erection: whether it fires, and its window',
  words: ['marx', 'misfire', 'overvoltage', 'window', 'fires'],
};

export const stagesDesk: Desk = {
  route: 'stages',
  title: 'Stage by stage',
  says: 'Stage by stage: charge, fired sooner, bleeding',
  words: ['marx', 'ladder', 'charge', 'stage', 'tower'],
};
