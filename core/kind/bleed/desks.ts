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
  about:
    'How long by each way, nominal and at the worst corner, with the bleeder or one of its strings taken for open; what stages, groups or a multiplier hold that the terminals do not show; held against published rules; what the dielectric gives back; a build card for the discharge tool.',
  of: 'a store that is bled',
};
