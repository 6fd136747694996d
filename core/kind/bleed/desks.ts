import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    bleed: true;
  }
}

export const bleedDesk: Desk = {
  route: 'bleed',
  title: 'Bleed desk',
  says: 'The bleed desk: how long by each way, rules, the tool as built',
  words: ['discharge', 'bleeder', 'rules', 'tool', 'stick', 'dump', 'hold'],
};
