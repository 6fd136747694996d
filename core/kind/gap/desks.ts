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
    'A spark gap against spacing or pressure in five gases: self-break with its band, the reliable window, what observed breakdowns say, what to adjust and by how much, a shop card.',
  of: 'a spark gap as its switch',
  picture: 'gap',
};

export const commissionDesk: Desk = {
  route: 'commission',
  group: 'procedure',
  place: 90,
  title: 'Troubleshoot',
  says: 'Troubleshoot: from symptom to cause',
  words: ['trouble', 'symptom', 'misfire', 'does not fire', 'cause', 'commissioning', 'diagnose'],
  about: 'From what you see to the number of this rig that explains it, and the one change to try next; trials are kept.',
  of: 'a gap that could misfire',
  picture: 'commission',
};
