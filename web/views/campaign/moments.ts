import { addDays, format } from 'date-fns';
import type { Moments } from '@vast-surge/core/campaign';

/** Moments as they are written where the people are. */
export const moments: Moments = { day: (ms) => format(ms, 'EEE d MMM yyyy, HH:mm'), hour: (ms) => format(ms, 'HH:mm') };
/** The day first, so that a report has a chapter for each. */
export const reportMoments: Moments = { day: (ms) => format(ms, 'yyyy-MM-dd HH:mm'), hour: (ms) => format(ms, 'HH:mm') };

/** As a field for day and hour has it. */
export const written = "yyyy-MM-dd'T'HH:mm";
export const nextSaturday = (): string => {
  const today = new Date();
  const day = addDays(today, (6 - today.getDay() + 7) % 7 || 7);
  return `${format(day, 'yyyy-MM-dd')}T10:00`;
};

/** A session as the address has it: `2026-12-05T10:00/3 h/IW holds the key`. */
export const sessionOf = (text: string): { start: string; length: string; people: string } => {
  const [start = '', length = '', people = ''] = text.split('/');
  return { start, length, people };
};
export const sessionText = ({ start, length, people }: ReturnType<typeof sessionOf>): string =>
  [start, ...[length, people].map((part) => part.replaceAll('/', ' '))].join('/');
