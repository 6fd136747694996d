import { format } from 'date-fns';
import { CalendarDays } from 'lucide-react';
import { useState } from 'react';
import type { StoredCampaign } from '@vast-surge/contract';
import { leftCalendar, replan, settingsNamed, settingWords, type Campaign, type Kept } from '@vast-surge/core/campaign';
import { printDuration } from '@vast-surge/core/quantity';
import { failureOf } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { Initials, readSession, SessionRow, TextLine } from './fields.tsx';
import { moments, nextSaturday, sessionOf, sessionText, written } from './moments.ts';
import { useWrite } from './use-campaign.ts';

const asText = ({ start, seconds, people }: Campaign['sessions'][number]): string =>
  sessionText({ start: format(new Date(start), written), length: `${Number((seconds / 3600).toFixed(3))} h`, people });

interface RowButtonsProps {
  readonly rows: readonly string[];
  readonly setRows: (rows: string[]) => void;
  readonly isWriting: boolean;
  readonly onDone: () => void;
}

function RowButtons({ rows, setRows, isWriting, onDone }: RowButtonsProps) {
  return (
    <p className="mt-2 flex gap-2">
      <Button
        onClick={() =>
          setRows([...rows, sessionText({ start: nextSaturday(), length: '3 h', people: sessionOf(rows.at(-1) ?? '').people })])
        }
      >
        Add a session
      </Button>
      {rows.length > 1 && <Button onClick={() => setRows(rows.slice(0, -1))}>Remove the last</Button>}
      <Button type="submit" look="primary" disabled={isWriting}>
        Plan with these hours
      </Button>
      <Button onClick={onDone}>Cancel</Button>
    </p>
  );
}

/** The sessions of the lines that can be read. */
const sessionsIn = (rows: readonly string[]) =>
  rows.flatMap((text) => {
    const read = readSession(text);
    return typeof read === 'string' ? [] : [read];
  });

function wrongWith(text: string): string | null {
  const read = readSession(text);
  return typeof read === 'string' ? read : null;
}

/** Other hours than planned: what is left is laid into them anew. */
function OtherHours({ stored, kept, onDone }: { stored: StoredCampaign; kept: Kept; onDone: () => void }) {
  const [rows, setRows] = useState(() => kept.progress.sessions.map(asText));
  const [why, setWhy] = useState('');
  const [by, setBy] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [id] = useState(() => crypto.randomUUID());
  const { write, isWriting } = useWrite(stored.id);
  const save = async () => {
    const sessions = sessionsIn(rows);
    // What is wrong with one stands under it.
    if (sessions.length < rows.length) return;
    if (by.trim() === '' || why.trim() === '') {
      setTrouble('Enter why, and your initials: the book keeps both.');
      return;
    }
    try {
      await write({ kind: 'sessions', by: by.trim(), text: why.trim(), sessions }, id);
      onDone();
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <form
      aria-label="Other hours"
      className="no-print mt-2 max-w-[40rem] border-l-4 border-select pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      {rows.map((text, i) => (
        <SessionRow key={i} n={i + 1} text={text} reason={wrongWith(text)} onText={(next) => setRows(rows.with(i, next))} />
      ))}
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <TextLine label="Why" className="flex-1" value={why} onText={setWhy} />
        <Initials value={by} onText={setBy} />
      </div>
      <TroubleLine look="words" className="mt-1">
        {trouble}
      </TroubleLine>
      <RowButtons rows={rows} setRows={setRows} isWriting={isWriting} onDone={onDone} />
    </form>
  );
}

/** Who shoots what, session by session. */
function SessionsLeft({ sessions }: { sessions: ReturnType<typeof replan>['sessions'] }) {
  return (
    <>
      {sessions.map(({ session, shots, free }) => (
        <div key={session.start} className="mt-2">
          <h3 className="font-bold">
            {moments.day(shots[0]?.start ?? session.start)}: {shots.length} {shots.length === 1 ? 'shot' : 'shots'}
            {session.people && <span className="font-normal">, {session.people}</span>}
            <span className="font-normal text-dim">{free < 60 ? ', full' : `, ${printDuration(free)} free`}</span>
          </h3>
          <ul className="columns-1 sm:columns-2">
            {shots.map(({ of, start, changes }) => (
              <li key={of.place}>
                <span className="figure">{moments.hour(start)}</span> shot {of.place + 1}:{' '}
                <span className={changes ? 'font-bold' : ''}>{settingWords(of.setting)}</span>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </>
  );
}

/** What is left of a campaign, laid into the hours that are left from now on, and what no hour has room for. */
export function WhatIsLeft({ stored, kept }: { stored: StoredCampaign; kept: Kept }) {
  const [isChanging, setChanging] = useState(false);
  const [now] = useState(() => Date.now());
  const laid = replan(kept.campaign, kept.progress, now);
  const { dropped } = laid;
  const sessions = laid.sessions.filter(({ shots }) => shots.length > 0);
  if (kept.progress.next === null) return null;
  const saveCalendar = () => {
    const name = `${stored.rigName}: ${kept.campaign.question}`;
    const file = `${fileName(stored.rigName)}-what-is-left.ics`;
    download(file, leftCalendar(name, laid, moments), 'text/calendar;charset=utf-8');
  };
  return (
    <section aria-label="What is left" className="mt-6">
      <h2 className="text-17 font-bold">What is left</h2>
      {dropped.length > 0 && (
        <p role="alert" className="mt-1 border-l-4 border-warning pl-2">
          <b>
            {dropped.length} {dropped.length === 1 ? 'shot has' : 'shots have'} no hour any more
          </b>
          : {settingsNamed(dropped.map(({ setting }) => setting))}. Give it other hours, or leave some out.
        </p>
      )}
      <SessionsLeft sessions={sessions} />
      {sessions.length > 0 && (
        <Button className="no-print mt-2 mr-2" onClick={saveCalendar}>
          <CalendarDays size={16} aria-hidden /> Calendar
        </Button>
      )}
      {isChanging ? (
        <OtherHours stored={stored} kept={kept} onDone={() => setChanging(false)} />
      ) : (
        <Button className="no-print mt-2" onClick={() => setChanging(true)}>
          Other hours
        </Button>
      )}
    </section>
  );
}
