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
};

export const commissionDesk: Desk = {
  route: 'commission',
  title: 'Commissioning',
  says: 'It does not do what it should',
  words: ['trouble', 'symptom', 'misfire', 'does not fire', 'cause'],
};
