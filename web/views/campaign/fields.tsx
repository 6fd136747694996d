import { isValid, parse } from 'date-fns';
import type { ReactNode } from 'react';
import type { z } from 'zod';
import type { Session } from '@vast-surge/core/campaign';
import { fieldIssues } from '@vast-surge/core/format';
import { askedFor } from '../../ui/ask.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { readTyped } from '../../ui/typed.ts';
import { sessionOf, sessionText, written } from './moments.ts';

/** A line of text under its name. */
export function TextLine({
  label,
  value,
  onText,
  most = 300,
  className = '',
}: {
  label: string;
  value: string;
  onText: (text: string) => void;
  most?: number;
  className?: string;
}) {
  return (
    <label className={className}>
      {label}
      <input
        className="mt-0.5 block w-full min-w-0 border border-rule bg-plate px-2 py-0.5"
        value={value}
        maxLength={most}
        onChange={(event) => onText(event.target.value)}
      />
    </label>
  );
}

export const Initials = ({ value, onText }: { value: string; onText: (text: string) => void }) => (
  <TextLine label="Your initials" className="w-28" most={12} value={value} onText={onText} />
);

/** What is wrong with what was entered, by the names of its fields. */
export const issuesTold = (error: z.ZodError, titles: Readonly<Record<string, string>>): string =>
  `${fieldIssues(error)
    .map(({ path, reason }) => `${titles[path] ?? path} ${reason}`)
    .join('. ')}.`;

const hours = askedFor('Length', 's', 86_400, null, { optional: false, min: 60, open: false });

/** A session as it was typed, `2026-12-05T10:00/3 h/IW holds the key`, or what is wrong with it. */
export function readSession(text: string): (Session & { readonly people: string }) | string {
  const { start, length, people } = sessionOf(text);
  const moment = parse(start, written, new Date(0));
  const seconds = readTyped(hours, length);
  if (!isValid(moment)) return 'Enter the day and the hour at which it begins.';
  if (!seconds.ok) return `Length ${seconds.reason}.`;
  return seconds.value
    ? { start: moment.getTime(), seconds: seconds.value.value, people: people.trim() }
    : 'Enter its length, such as 3 h.';
}

interface SessionRowProps {
  readonly n: number;
  readonly text: string;
  readonly reason: string | null;
  /** What to know of it that does not stand against it. */
  readonly note?: string | null;
  readonly onText: (text: string) => void;
  readonly children?: ReactNode;
}

/** Day, hour and length of a session, and who is there. */
export function SessionRow({ n, text, reason, note = null, onText, children }: SessionRowProps) {
  const session = sessionOf(text);
  const put = (change: Partial<typeof session>) => onText(sessionText({ ...session, ...change }));
  return (
    <div className="border-b border-rule py-1">
      <div className="flex flex-wrap gap-2">
        <input
          type="datetime-local"
          aria-label={`Session ${n} begins`}
          className="figure min-w-0 flex-1 border border-rule bg-plate px-2 py-0.5"
          value={session.start}
          onChange={(event) => put({ start: event.target.value })}
        />
        <input
          aria-label={`Session ${n}, length`}
          className="figure w-20 border border-rule bg-plate px-2 py-0.5"
          value={session.length}
          onChange={(event) => put({ length: event.target.value })}
        />
        {children}
        <input
          aria-label={`Session ${n}, people`}
          placeholder="who holds the key, who reads"
          className="min-w-0 basis-full border border-rule bg-plate px-2 py-0.5"
          value={session.people}
          maxLength={200}
          onChange={(event) => put({ people: event.target.value })}
        />
      </div>
      <TroubleLine look="words" className="text-13">
        {reason}
      </TroubleLine>
      {note !== null && <p className="border-l-4 border-warning pl-2 text-13">{note}</p>}
    </div>
  );
}
