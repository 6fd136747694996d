import { useMemo } from 'react';
import { Plus, Trash2 } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import type { StoredLot, StoredPart } from '@vast-surge/contract';
import {
  disposalCaution,
  lotSchema,
  lotSource,
  lotSources,
  newLot,
  totalsOf,
  type Lot,
  type LotTotals,
} from '@vast-surge/core/part';
import { printPercent, readHours } from '@vast-surge/core/quantity';
import { useShelf, writeBench } from '../../app/bench.ts';
import { printPrice, readPrice } from '../../app/currency.ts';
import { Button } from '../../ui/button.tsx';
import { PartsFrame } from './frame.tsx';
import { NumberField, TextField } from './spec-field.tsx';
import { Select } from '../../ui/select.tsx';
import { FormRow } from './form-row.tsx';

const yieldWords = (fraction: number | null): string => (fraction === null ? '—' : printPercent(fraction, 2));

function useTotals(lots: readonly StoredLot[], parts: readonly StoredPart[]) {
  return useMemo(() => {
    const byLot = new Map<string, StoredPart['part'][]>();
    for (const { part } of parts) if (part.lot !== null) byLot.set(part.lot, [...(byLot.get(part.lot) ?? []), part]);
    const of = (some: readonly StoredLot[]): LotTotals =>
      totalsOf(
        some.map((l) => l.lot),
        some.flatMap((l) => byLot.get(l.id) ?? []),
      );
    const perLot = new Map(lots.map((lot) => [lot.id, of([lot])]));
    const perSource = lotSources
      .map((source) => ({ source, totals: of(lots.filter((l) => l.lot.source === source.id)) }))
      .filter(({ totals }) => totals.lots > 0)
      .sort((a, b) => (b.totals.perHour ?? -Infinity) - (a.totals.perHour ?? -Infinity));
    return { perLot, perSource, all: of(lots) };
  }, [lots, parts]);
}

const heads = ['Paid', 'Worth', 'Hours', 'Per hour', 'Pieces', 'Good', 'Lost', 'Yield'];

function Cells({ totals }: { totals: LotTotals }) {
  const cell = 'figure px-2 py-1.5 text-right whitespace-nowrap';
  return (
    <>
      <td className={cell}>{printPrice(totals.paid)}</td>
      <td
        className={`${cell} font-bold`}
        title={totals.unpriced > 0 ? `${totals.unpriced} pieces have no price and count nothing` : undefined}
      >
        {printPrice(totals.worth)}
        {totals.unpriced > 0 && '+'}
      </td>
      <td className={cell}>{totals.hours.toLocaleString('en', { maximumFractionDigits: 1 })}</td>
      <td className={cell}>{totals.perHour === null ? '—' : printPrice(totals.perHour)}</td>
      <td className={cell}>{totals.pieces}</td>
      <td className={cell}>{totals.good}</td>
      <td className={cell}>{totals.lost}</td>
      <td className={`${cell} font-bold`}>{yieldWords(totals.yield)}</td>
    </>
  );
}

function Heads({ first }: { first: string }) {
  return (
    <thead>
      <tr className="border-b border-ink text-13 text-dim">
        <th scope="col" className="px-2 py-1 text-left font-normal">
          {first}
        </th>
        {heads.map((head) => (
          <th key={head} scope="col" className="px-2 py-1 text-right font-normal">
            {head}
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** Where a lot came from, when, and for what. */
function CameBy({ lot, save }: { lot: Lot; save: (change: Partial<Lot>) => void }) {
  return (
    <>
      <FormRow id="lot-source" label="Comes from">
        <Select id="lot-source" value={lot.source} onChange={(event) => save({ source: event.target.value })}>
          {lotSources.map((s) => (
            <option key={s.id} value={s.id}>
              {s.title}
            </option>
          ))}
        </Select>
      </FormRow>
      <FormRow id="lot-date" label="Date">
        <input
          id="lot-date"
          type="date"
          className="min-w-0 border border-rule bg-plate px-2 py-1"
          value={lot.date ?? ''}
          onChange={(event) => save({ date: event.target.value || null })}
        />
      </FormRow>
      <NumberField
        label="Paid for all"
        value={lot.paid}
        max={1e9}
        optional
        read={readPrice}
        says={`such as ${printPrice(12)}`}
        onCommit={(paid) => save({ paid })}
      />
      <NumberField
        label="Hours spent"
        value={lot.hours}
        max={1e6}
        optional
        read={readHours}
        says="1.5 h or 90 min"
        onCommit={(hours) => save({ hours })}
      />
    </>
  );
}

/** What its kind of source has in it. */
function WatchFor({ source }: { source: ReturnType<typeof lotSource> }) {
  return (
    <section aria-label="Watch for" className="mt-4">
      <h3 className="border-b border-ink text-15 font-bold">Before you open one: {source.title}</h3>
      <ul className="list-disc space-y-1 py-1 pl-5 text-14">
        {source.hazards.map((hazard) => (
          <li key={hazard}>{hazard}</li>
        ))}
        <li>{disposalCaution}</li>
      </ul>
    </section>
  );
}

function LotForm({ stored, pieces, onGone }: { stored: StoredLot; pieces: number; onGone: () => void }) {
  const { lot } = stored;
  const save = (change: Partial<Lot>) => {
    const read = lotSchema.safeParse({ ...lot, ...change });
    if (read.success) writeBench({ do: 'lot', id: stored.id, version: stored.version, lot: read.data });
    else toast.error(read.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join('; '));
  };
  const source = lotSource(lot.source);
  return (
    <div className="px-4 py-3">
      <TextField
        label="Name of the lot"
        hideLabel
        required
        value={lot.name}
        maxLength={80}
        className="!border-transparent !bg-transparent !px-0 !py-0 min-h-[26px] text-20 font-bold hover:!border-rule focus:!border-select"
        onCommit={(name) => save({ name })}
      />
      <CameBy lot={lot} save={save} />
      <NumberField
        label="Items received"
        value={lot.units}
        max={100_000}
        integer
        onCommit={(units) => save({ units: units ?? 0 })}
      />
      <NumberField
        label="Pieces broken on the way"
        value={lot.broken}
        max={100_000}
        integer
        onCommit={(broken) => save({ broken: broken ?? 0 })}
      />
      <TextField label="Note" value={lot.note} maxLength={10_000} area onCommit={(note) => save({ note })} />
      <WatchFor source={source} />
      <Button
        className="mt-2"
        disabled={pieces > 0}
        title={pieces > 0 ? 'Parts are booked to it: book them elsewhere first' : undefined}
        onClick={() => {
          writeBench({ do: 'drop-lot', id: stored.id });
          onGone();
        }}
      >
        <Trash2 size={16} aria-hidden /> Delete lot
      </Button>
    </div>
  );
}

type AllTotals = ReturnType<typeof useTotals>;

/** What each kind of source was worth, and all of them. */
function PerSource({ perSource, all }: Pick<AllTotals, 'perSource' | 'all'>) {
  return (
    <>
      <h2 className="text-17 font-bold">What is worth opening</h2>
      <table className="mb-6 w-full min-w-[640px]">
        <Heads first="Kind of source" />
        <tbody>
          {perSource.map(({ source, totals }) => (
            <tr key={source.id} className="border-b border-rule">
              <th scope="row" className="px-2 py-1.5 text-left font-normal">
                {source.title}
                {totals.lots > 1 && <span className="text-13 text-dim"> {totals.lots} lots</span>}
              </th>
              <Cells totals={totals} />
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row" className="px-2 py-1.5 text-left">
              All
            </th>
            <Cells totals={all} />
          </tr>
        </tfoot>
      </table>
    </>
  );
}

/** Lot by lot. */
function PerLot({ lots, perLot, current }: { lots: readonly StoredLot[]; perLot: AllTotals['perLot']; current: string | null }) {
  return (
    <>
      <h2 className="text-17 font-bold">Lots</h2>
      <table className="w-full min-w-[640px]">
        <Heads first="Lot" />
        <tbody>
          {lots.map((lot) => {
            const totals = perLot.get(lot.id);
            return (
              <tr
                key={lot.id}
                className={`border-b border-rule ${lot.id === current ? 'bg-plate shadow-[inset_4px_0_0_var(--select)]' : 'hover:bg-plate'}`}
              >
                <th scope="row" className="px-2 py-1 text-left font-normal">
                  <Link className="font-bold underline decoration-1" to={`/parts/lots?lot=${lot.id}`} replace>
                    {lot.lot.name}
                  </Link>
                  <span className="block text-13 text-dim">
                    {lotSource(lot.lot.source).title}
                    {lot.lot.date && `, ${lot.lot.date}`}
                  </span>
                </th>
                {totals && <Cells totals={totals} />}
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

/** A lot, and the bank that could be made of it. */
function OneLot({
  stored,
  pieces,
  parts,
  onGone,
}: {
  stored: StoredLot;
  pieces: number;
  parts: readonly StoredPart[];
  onGone: () => void;
}) {
  // What failed is no part of a bank; what nobody has judged yet may be.
  const toCompose = parts
    .filter(({ part }) => part.lot === stored.id && part.kind === 'capacitor' && part.condition !== 'failed')
    .map(({ id }) => id);
  return (
    <section
      aria-label={`Lot ${stored.lot.name}`}
      className="min-h-0 shrink-0 overflow-y-auto border-rule lg:w-[440px] lg:border-l"
    >
      <LotForm key={stored.id} stored={stored} pieces={pieces} onGone={onGone} />
      {toCompose.length > 0 && (
        <p className="px-4 pb-4">
          <Link className="text-select underline" to="/parts/composer" state={{ ids: toCompose }}>
            Compose a bank of its capacitors
          </Link>
        </p>
      )}
    </section>
  );
}

/** Where parts came from, what they cost and what came of them. */
export function LotsView() {
  const shelf = useShelf();
  const [params, setParams] = useSearchParams();
  const current = params.get('lot');
  const { perLot, perSource, all } = useTotals(shelf.lots, shelf.parts);
  const stored = shelf.lots.find((l) => l.id === current);
  const add = () => {
    const id = crypto.randomUUID();
    writeBench({ do: 'lot', id, version: 0, lot: newLot('New lot') });
    setParams({ lot: id });
  };
  return (
    <PartsFrame
      shelf={shelf}
      tools={
        <Button look="primary" onClick={add}>
          <Plus size={16} aria-hidden /> New lot
        </Button>
      }
    >
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <section aria-label="Lots" className="min-h-0 min-w-0 flex-1 overflow-auto px-3 py-3 sm:px-5" tabIndex={0}>
          {shelf.loaded && shelf.lots.length === 0 && (
            <p className="text-dim">No lot yet: a purchase, a gift, a skip. Book parts to a lot and see what it was worth.</p>
          )}
          {perSource.length > 0 && (
            <>
              <PerSource perSource={perSource} all={all} />
              <PerLot lots={shelf.lots} perLot={perLot} current={current} />
              <p className="mt-3 max-w-[52rem] text-13 text-dim">
                Worth is the price of every piece that has not failed; “+” where some have no price. Yield is the good pieces
                among those that were judged or lost. Per hour is worth less what was paid, for an hour of work.
              </p>
            </>
          )}
        </section>
        {stored && (
          <OneLot stored={stored} pieces={perLot.get(stored.id)?.pieces ?? 0} parts={shelf.parts} onGone={() => setParams({})} />
        )}
      </div>
    </PartsFrame>
  );
}
