import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    gap: true;
    commission: true;
  }
}

export const gapDesk: Desk = {
  route: 'gap',
  group: 'design',
  place: 10,
  title: 'Gap',
  says: 'Gap: setting, reliable window, observed breakdowns',
  words: ['spark', 'spacing', 'pressure', 'breakdown', 'setting', 'card', 'self-break', 'hold-off', 'sphere'],
  about:
    'A spark gap against spacing or pressure in five gases: self-break with its band, where it should stand, what observed breakdowns say, what to turn and by how much, a card for the shop.',
  of: 'a spark gap as its switch',
  picture: 'gap',
};

export const commissionDesk: Desk = {
  route: 'commission',
  group: 'procedure',
  place: 90,
  title: 'Troubleshoot',
  says: 'Troubleshoot: from what is seen to its cause',
  words: ['trouble', 'symptom', 'misfire', 'does not fire', 'cause', 'commissioning', 'diagnose'],
  about: 'From what is seen to the number of this rig that shows why, and the one change to try next; trials are kept.',
  of: 'a gap that could misfire',
  picture: 'commission',
};
