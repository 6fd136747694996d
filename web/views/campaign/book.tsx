import { useState } from 'react';
import { Link } from 'react-router';
import type { StoredCampaign, StoredShot } from '@vast-surge/contract';
import { bookOf, type BookRow, type Kept } from '@vast-surge/core/campaign';
import { AddEntry } from './add-entry.tsx';
import { moments } from './moments.ts';
import { ShotPhotos } from './shot-photos.tsx';

/** A line of the book: a shot leads to its own page, and its photos stand beside it. */
function Line({ row, shot, onCorrect }: { row: BookRow; shot: StoredShot | undefined; onCorrect: () => void }) {
  return (
    <li className="border-t border-rule py-1">
      <span className="figure text-dim">{moments.hour(Date.parse(row.at))}</span>{' '}
      {shot ? (
        <Link className="text-select underline" to={`/shots/${row.id}`}>
          {row.title}
        </Link>
      ) : (
        <b>{row.title}</b>
      )}
      {row.by !== '' && <span className="text-dim"> {row.by}</span>}: {row.text}
      {row.corrections.map((one) => (
        <p key={one.at} className="pl-6">
          <b>Correction</b> <span className="text-dim">{one.by}</span>: {one.text}
        </p>
      ))}{' '}
      <button
        type="button"
        className="no-print min-h-6 text-14 text-select underline"
        aria-label={`Correct ${row.title}, ${moments.hour(Date.parse(row.at))}`}
        onClick={onCorrect}
      >
        correct
      </button>
      <ShotPhotos shot={shot} />
    </li>
  );
}

/** The notebook of a campaign, day by day. Nothing in it is changed: a correction stands beside what it corrects. */
export function Book({ stored, kept }: { stored: StoredCampaign; kept: Kept }) {
  const [correcting, setCorrecting] = useState<BookRow | null>(null);
  const rows = bookOf(kept, moments);
  const dayOf = (row: BookRow) => moments.day(Date.parse(row.at)).split(', ')[0] ?? '';
  const days = [...new Set(rows.map(dayOf))].map((day) => [day, rows.filter((row) => dayOf(row) === day)] as const);
  return (
    <section aria-label="Book" className="mt-6">
      <h2 className="text-17 font-bold">Book</h2>
      {days.map(([day, own]) => (
        <div key={day} className="mt-2">
          <h3 className="font-bold">{day}</h3>
          <ol>
            {own.map((row) => (
              <Line
                key={row.id}
                row={row}
                shot={stored.shots.find(({ id }) => id === row.id)}
                onCorrect={() => setCorrecting(row)}
              />
            ))}
          </ol>
        </div>
      ))}
      <AddEntry
        key={correcting?.id ?? 'new'}
        stored={stored}
        kept={kept}
        correcting={correcting}
        onDone={() => setCorrecting(null)}
      />
    </section>
  );
}
