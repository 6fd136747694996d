import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    bleed: true;
  }
}

export const bleedDesk: Desk = {
  route: 'bleed',
  group: 'physics',
  place: 90,
  title: 'Bleed-down',
  says: 'Bleed-down: how long by each way, rules, the stick as built',
  words: ['discharge', 'bleeder', 'rules', 'tool', 'stick', 'dump', 'hold', 'drain', 'safety', 'recovery'],
  about:
    'How long each way takes, nominal and worst case, also with the bleeder or one of its strings open; what stages, groups or a multiplier hold that the terminals do not show; a check against published rules; recovery voltage; a build card for the discharge stick.',
  of: 'a store that is bled',
};
