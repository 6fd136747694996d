import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    launch: true;
    better: true;
    coil: true;
  }
}

export const launchDesk: Desk = {
  route: 'launch',
  title: 'Launch',
  says: 'The launch: force, speed, where each joule went',
  words: ['coilgun', 'speed', 'muzzle', 'force', 'timing', 'slug'],
};

export const betterDesk: Desk = {
  route: 'better',
  title: 'Better coils',
  says: 'Better coils: a search for the fastest',
  words: ['search', 'optimise', 'fastest', 'efficiency', 'design'],
};

export const coilDesk: Desk = {
  route: 'coil',
  title: 'Coil desk',
  says: 'The coil desk: in section, its field, a winding card',
  words: ['winding', 'turns', 'field', 'inductance', 'magnet'],
};
