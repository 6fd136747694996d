import { useState } from 'react';
import type { StoredCampaign } from '@vast-surge/contract';
import { entrySchema, lastReading, printStock, type BookRow, type Kept, type Stock } from '@vast-surge/core/campaign';
import { failureOf } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { Initials, issuesTold, TextLine } from './fields.tsx';
import { moments } from './moments.ts';
import { readAmount } from './series-form.ts';
import { useWrite, type Said } from './use-campaign.ts';

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

interface Typed {
  readonly kind: Writable;
  readonly text: string;
  readonly by: string;
  readonly changed: string;
  readonly stock: string;
  readonly amount: string;
}

/** The reading that nobody has looked into yet; null where there is none. */
function farShot(kept: Kept): string | null {
  const reading = lastReading(kept);
  return reading && !reading.isInside && !reading.isLookedInto ? reading.shot.id : null;
}

/** Kinds of entries that make sense now. */
function offeredNow(kept: Kept): Writable[] {
  const without: Partial<Record<Writable, boolean>> = {
    'looked-into': farShot(kept) === null,
    dropped: kept.progress.next === null,
    stock: kept.campaign.stocks.length === 0,
  };
  return kinds.filter((kind) => !without[kind]);
}

/** The entry as it was typed. */
function entryFrom(kept: Kept, { kind, changed, stock, amount, ...typed }: Typed): Said {
  const head = { by: typed.by.trim(), text: typed.text };
  if (kind === 'near-miss') return { kind, changed, ...head };
  if (kind === 'looked-into') return { kind, shot: farShot(kept) ?? '', ...head };
  if (kind === 'dropped') return { kind, places: [kept.progress.next?.place ?? 0], ...head };
  if (kind === 'stock') {
    const unit = kept.campaign.stocks.find(({ id }) => id === stock)?.unit ?? '1';
    return { kind, of: stock, amount: Number(readAmount(amount, unit)), ...head };
  }
  return { kind, ...head };
}

/** Which stock, and what is there of it now. */
function StockFields({
  stocks,
  typed: { stock, amount },
  set,
}: {
  stocks: readonly Stock[];
  typed: Typed;
  set: (change: Partial<Typed>) => void;
}) {
  const known = stocks.find(({ id }) => id === stock);
  const first = known?.onHand;
  return (
    <p className="flex flex-wrap gap-3">
      <label>
        Of which
        <Select className="block" value={stock} onChange={(event) => set({ stock: event.target.value })}>
          {stocks.map(({ id, title }) => (
            <option key={id} value={id}>
              {title}
            </option>
          ))}
        </Select>
      </label>
      <TextLine
        label={`What is there now${first == null ? '' : ` (at first ${printStock(first, known?.unit ?? '')})`}`}
        className="w-40"
        most={20}
        value={amount}
        onText={(text) => set({ amount: text })}
      />
    </p>
  );
}

const KindField = ({
  offered,
  kind,
  set,
}: {
  offered: readonly Writable[];
  kind: Writable;
  set: (c: Partial<Typed>) => void;
}) => (
  <label>
    Kind of entry
    <Select className="block" value={kind} onChange={(event) => set({ kind: event.target.value as Writable })}>
      {offered.map((one) => (
        <option key={one} value={one}>
          {writable[one]}
        </option>
      ))}
    </Select>
  </label>
);

/** What is typed, and how it is written; a second try after a failure is the same line. */
function useEntry(stored: StoredCampaign, kept: Kept, correcting: BookRow | null, onDone: () => void) {
  const blank = { text: '', changed: '', amount: '' };
  const [typed, setTyped] = useState<Typed>({ kind: 'remark', by: '', stock: kept.campaign.stocks[0]?.id ?? '', ...blank });
  const [trouble, setTrouble] = useState<string | null>(null);
  const [id, setId] = useState(() => crypto.randomUUID());
  const { write, isWriting } = useWrite(stored.id);
  const set = (change: Partial<Typed>) => setTyped((now) => ({ ...now, ...change }));
  const save = async () => {
    const said: Said = correcting
      ? { kind: 'correction', of: correcting.id, by: typed.by.trim(), text: typed.text }
      : entryFrom(kept, typed);
    const read = entrySchema.safeParse({ ...said, id, at: new Date().toISOString() });
    if (!read.success) {
      setTrouble(issuesTold(read.error, titles));
      return;
    }
    try {
      await write(said, id);
      set(blank);
      setTrouble(null);
      setId(crypto.randomUUID());
      onDone();
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return { typed, set, trouble, save, isWriting };
}

/** What is written down, and by whom. */
function Head({
  correcting,
  kept,
  typed,
  set,
}: {
  correcting: BookRow | null;
  kept: Kept;
  typed: ReturnType<typeof useEntry>['typed'];
  set: ReturnType<typeof useEntry>['set'];
}) {
  return (
    <p className="flex flex-wrap items-end gap-3">
      {correcting ? (
        <span>
          Correction of <b>{correcting.title}</b>, {moments.day(Date.parse(correcting.at))}
        </span>
      ) : (
        <KindField offered={offeredNow(kept)} kind={typed.kind} set={set} />
      )}
      <Initials value={typed.by} onText={(by) => set({ by })} />
    </p>
  );
}

/** One more line: what it is, what it says, whose it is. */
export function AddEntry({
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
  const { typed, set, trouble, save, isWriting } = useEntry(stored, kept, correcting, onDone);
  const kind = correcting ? null : typed.kind;
  return (
    <form
      aria-label="Write into the book"
      className="no-print mt-3 grid max-w-[46rem] gap-2 border-l-4 border-select pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Head correcting={correcting} kept={kept} typed={typed} set={set} />
      <label>
        What it says
        <textarea
          className="block min-h-16 w-full border border-rule bg-plate px-2 py-1"
          value={typed.text}
          maxLength={2000}
          onChange={(event) => set({ text: event.target.value })}
        />
      </label>
      {kind === 'stock' && <StockFields stocks={kept.campaign.stocks} typed={typed} set={set} />}
      {kind === 'near-miss' && (
        <TextLine label="What was changed" most={2000} value={typed.changed} onText={(changed) => set({ changed })} />
      )}
      <TroubleLine look="words">{trouble}</TroubleLine>
      <p className="flex gap-2">
        <Button type="submit" look="primary" disabled={isWriting}>
          Write it down
        </Button>
        {correcting && <Button onClick={onDone}>Cancel</Button>}
      </p>
    </form>
  );
}
