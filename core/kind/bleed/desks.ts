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
    'How long by each way, nominal and at the worst corner, with the bleeder or one of its strings taken for open; what stages, groups or a multiplier hold that the terminals do not show; checked against published rules; what the dielectric gives back; a build card for the discharge stick.',
  of: 'a store that is bled',
};
