import { addDays, format, isValid, parse } from 'date-fns';
import type { Booked } from '@vast-surge/contract';
import { useBookedHoursQuery } from '../../app/api.ts';
import { readSession } from './fields.tsx';
import { moments, nextSaturday, sessionOf, sessionText, written } from './moments.ts';

/** Hours that a campaign has of the workshop. */
interface Booking {
  readonly start: number;
  readonly seconds: number;
  readonly rigName: string;
  readonly question: string;
}

const bookingsOf = (booked: readonly Booked[]): Booking[] =>
  booked.flatMap(({ rigName, question, sessions }) =>
    sessions.map(({ start, seconds }) => ({ start, seconds, rigName, question })),
  );

const clash = (a: { start: number; seconds: number }, b: Booking): boolean =>
  a.start < b.start + 1000 * b.seconds && b.start < a.start + 1000 * a.seconds;

/** The campaign that has the workshop during a session, in words; null where none has, or the session cannot be read. */
function bookedWords(text: string, bookings: readonly Booking[]): string | null {
  const read = readSession(text);
  const found = typeof read === 'string' ? undefined : bookings.find((one) => clash(read, one));
  return found
    ? `Booked from ${moments.hour(found.start)} to ${moments.hour(found.start + 1000 * found.seconds)}: ${found.rigName}, “${found.question}”`
    : null;
}

/** More weeks ahead than anybody books. */
const mostWeeks = 26;

/** A week after the last session, of the same length, with the same people; weeks that are booked are passed over. */
function anotherSession(sessions: readonly string[], bookings: readonly Booking[]): string {
  const { start, length, people } = sessionOf(sessions.at(-1) ?? '');
  const last = parse(start, written, new Date(0));
  const at = (week: number): string =>
    sessionText({
      start: isValid(last) ? format(addDays(last, 7 * week), written) : nextSaturday(),
      length: length || '3 h',
      people,
    });
  const free = Array.from({ length: mostWeeks }, (_, i) => at(i + 1)).find((text) => bookedWords(text, bookings) === null);
  return free ?? at(1);
}

/** What campaigns of all rigs have of the workshop: what stands against a session, and the next one that is free. */
export function useBookings() {
  const { data = [] } = useBookedHoursQuery(undefined, { refetchOnMountOrArgChange: true });
  const bookings = bookingsOf(data);
  return {
    against: (text: string) => bookedWords(text, bookings),
    another: (sessions: readonly string[]) => anotherSession(sessions, bookings),
  };
}
