import { useState } from 'react';
import { Link } from 'react-router';
import type { StoredCampaign } from '@vast-surge/contract';
import { bookOf, entrySchema, lastReading, type BookRow, type Kept } from '@vast-surge/core/campaign';
import { failureOf } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { Initials, issuesTold, TextLine } from './fields.tsx';
import { moments } from './moments.ts';
import { readAmount } from './series-form.ts';
import { ShotPhotos } from './shot-photos.tsx';
import { useWrite } from './use-campaign.ts';

const writable = {
  remark: 'Remark',
  'near-miss': 'Near-miss',
  'looked-into': 'Looked into the last reading',
  dropped: 'Leave the next shot out',
  stock: 'Stock counted, brought or renewed',
  closed: 'Close the campaign: the answer',
} as const;
type Writable = keyof typeof writable;
const kinds = Object.keys(writable) as Writable[];

/** What a field of an entry is called on the page. */
const titles: Readonly<Record<string, string>> = {
  by: 'Your initials',
  text: 'What it says',
  changed: 'What was changed',
  amount: 'What is there now',
};

/** One more line: what it is, what it says, whose it is. */
function AddEntry({
  stored,
  kept,
  correcting,
  onDone,
}: {
  stored: StoredCampaign;
  kept: Kept;
  correcting: BookRow | null;
  onDone: () => void;
}) {
  const [kind, setKind] = useState<Writable>('remark');
  const [text, setText] = useState('');
  const [changed, setChanged] = useState('');
  const [by, setBy] = useState('');
  const [stock, setStock] = useState(kept.campaign.stocks[0]?.id ?? '');
  const [amount, setAmount] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [id, setId] = useState(() => crypto.randomUUID());
  const { write, isWriting } = useWrite(stored.id);
  const { next } = kept.progress;
  const { stocks } = kept.campaign;
  const counted = stocks.find(({ id: one }) => one === stock);
  const reading = lastReading(kept);
  const far = reading && !reading.isInside && !reading.isLookedInto ? reading.shot : null;
  const offered = kinds.filter(
    (one) =>
      (one !== 'looked-into' || far !== null) && (one !== 'dropped' || next !== null) && (one !== 'stock' || stocks.length > 0),
  );
  const said = () => {
    const head = { by: by.trim(), text };
    if (correcting) return { kind: 'correction' as const, of: correcting.id, ...head };
    if (kind === 'near-miss') return { kind, changed, ...head };
    if (kind === 'looked-into') return { kind, shot: far?.id ?? '', ...head };
    if (kind === 'stock') return { kind, of: stock, amount: Number(readAmount(amount, counted?.unit ?? '1')), ...head };
    if (kind === 'dropped') return { kind, places: [next?.place ?? 0], ...head };
    return { kind, ...head };
  };
  const save = async () => {
    const made = said();
    const read = entrySchema.safeParse({ ...made, id, at: new Date().toISOString() });
    if (!read.success) {
      setTrouble(issuesTold(read.error, titles));
      return;
    }
    try {
      await write(made, id);
      setText('');
      setChanged('');
      setAmount('');
      setTrouble(null);
      setId(crypto.randomUUID());
      onDone();
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <form
      aria-label="Write into the book"
      className="no-print mt-3 grid max-w-[46rem] gap-2 border-l-4 border-select pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <p className="flex flex-wrap items-end gap-3">
        {correcting ? (
          <span>
            Correction of <b>{correcting.title}</b>, {moments.day(Date.parse(correcting.at))}
          </span>
        ) : (
          <label>
            Kind of entry
            <Select className="block" value={kind} onChange={(event) => setKind(event.target.value as Writable)}>
              {offered.map((one) => (
                <option key={one} value={one}>
                  {writable[one]}
                </option>
              ))}
            </Select>
          </label>
        )}
        <Initials value={by} onText={setBy} />
      </p>
      <label>
        What it says
        <textarea
          className="block min-h-16 w-full border border-rule bg-plate px-2 py-1"
          value={text}
          maxLength={2000}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {kind === 'stock' && !correcting && (
        <p className="flex flex-wrap gap-3">
          <label>
            Of which
            <Select className="block" value={stock} onChange={(event) => setStock(event.target.value)}>
              {stocks.map(({ id: one, title }) => (
                <option key={one} value={one}>
                  {title}
                </option>
              ))}
            </Select>
          </label>
          <TextLine label="What is there now" className="w-40" most={20} value={amount} onText={setAmount} />
        </p>
      )}
      {kind === 'near-miss' && !correcting && (
        <TextLine label="What was changed" most={2000} value={changed} onText={setChanged} />
      )}
      {trouble !== null && (
        <p role="alert" className="font-bold text-over">
          {trouble}
        </p>
      )}
      <p className="flex gap-2">
        <Button type="submit" look="primary" disabled={isWriting}>
          Write it down
        </Button>
        {correcting && <Button onClick={onDone}>Cancel</Button>}
      </p>
    </form>
  );
}

/** The notebook of a campaign, day by day. Nothing in it is changed: a correction stands beside what it corrects. */
export function Book({ stored, kept }: { stored: StoredCampaign; kept: Kept }) {
  const [correcting, setCorrecting] = useState<BookRow | null>(null);
  const rows = bookOf(kept, moments);
  const dayOf = (row: BookRow) => moments.day(Date.parse(row.at)).split(', ')[0] ?? '';
  const days = [...new Set(rows.map(dayOf))].map((day) => [day, rows.filter((row) => dayOf(row) === day)] as const);
  const outOf = new Set(stored.shots.map(({ id }) => id));
  return (
    <section aria-label="Book" className="mt-6">
      <h2 className="text-17 font-bold">Book</h2>
      {days.map(([day, own]) => (
        <div key={day} className="mt-2">
          <h3 className="font-bold">{day}</h3>
          <ol>
            {own.map((row) => (
              <li key={row.id} className="border-t border-rule py-1">
                <span className="figure text-dim">{moments.hour(Date.parse(row.at))}</span>{' '}
                {outOf.has(row.id) ? (
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
                  onClick={() => setCorrecting(row)}
                >
                  correct
                </button>
                <ShotPhotos shot={stored.shots.find(({ id }) => id === row.id)} />
              </li>
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
