import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    gap: true;
    commission: true;
  }
}

export const gapDesk: Desk = {
  route: 'gap',
  title: 'Gap desk',
  says: 'The gap desk: setting, window, observed breakdowns',
  words: ['spark', 'spacing', 'pressure', 'breakdown', 'setting', 'card'],
  about:
    'A spark gap against spacing or pressure in five gases: self-break with its band, where it should stand, what observed breakdowns say, what to turn and by how much, a card for the shop.',
  of: 'a spark gap as its switch',
  picture: 'gap',
};

export const commissionDesk: Desk = {
  route: 'commission',
  title: 'Commissioning',
  says: 'It does not do what it should',
  words: ['trouble', 'symptom', 'misfire', 'does not fire', 'cause'],
  about: 'From what is seen to the number of this rig that shows why, and the one change to try next; trials are kept.',
  of: 'a gap that could misfire',
  picture: 'commission',
};
