import { useEffect, useMemo, useRef, useState, type ComponentProps, type RefObject } from 'react';
import type { SortingState } from '@tanstack/react-table';
import { ArrowLeft, FileDown, Gauge, PencilRuler, Plus, Printer, Search, Trash2, Zap } from 'lucide-react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useLocation, useNavigate } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import { conditions, partKinds, type Condition, type Part } from '@vast-surge/core/part';
import { replaceParameters } from '../../app/address.ts';
import { useShelf, writeBench, type Shelf } from '../../app/bench.ts';
import { useUses } from '../../app/uses.ts';
import { Button } from '../../ui/button.tsx';
import { exportCsv, exportJson } from './export.ts';
import { PartsFrame } from './frame.tsx';
import { ImportParts } from './import-parts.tsx';
import { NewPartDialog } from './new-part-dialog.tsx';
import { PartDetail } from './part-detail.tsx';
import { takeOff } from './remove.ts';
import { SetForAll } from './set-for-all.tsx';
import { ShelfTable } from './shelf-table.tsx';
import { inOrder, sifted, useSifted, type Narrowing } from './use-sifted.ts';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

function Narrow({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <Select
      aria-label={label}
      fit="small"
      className="w-[7.2rem]"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      <option value="">{label}: all</option>
      {options.map(([id, title]) => (
        <option key={id} value={id}>
          {title}
        </option>
      ))}
    </Select>
  );
}

function ConditionOfAll({ onCondition }: { onCondition: (condition: Condition) => void }) {
  return (
    <Select
      aria-label="Condition of all selected"
      fit="tall"
      value=""
      onChange={(event) => onCondition(event.target.value as Condition)}
    >
      <option value="" disabled>
        State …
      </option>
      {conditions.map((c) => (
        <option key={c}>{c}</option>
      ))}
    </Select>
  );
}

/** What can be done with the parts that are chosen. */
function ChosenBar({
  chosen,
  onNone,
  onRemove,
  onCondition,
}: {
  chosen: readonly StoredPart[];
  onNone: () => void;
  onRemove: () => void;
  onCondition: (condition: Condition) => void;
}) {
  const navigate = useNavigate();
  const ids = chosen.map((c) => c.id).join();
  const [isSetting, setSetting] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2 border-t-2 border-ink bg-plate px-3 py-2 sm:px-5">
      <b className="mr-2">{chosen.length} chosen</b>
      <Button onClick={() => void navigate(`/parts/measure?parts=${ids}`)}>
        <Gauge size={16} aria-hidden /> Measure in a row
      </Button>
      <Button onClick={() => void navigate('/parts/composer', { state: { ids: chosen.map((c) => c.id) } })}>
        <Zap size={16} aria-hidden /> Compose a bank
      </Button>
      <Button onClick={() => void navigate(`/parts/labels?parts=${ids}`)}>
        <Printer size={16} aria-hidden /> Labels
      </Button>
      <ConditionOfAll onCondition={onCondition} />
      <Button onClick={() => setSetting(true)}>
        <PencilRuler size={16} aria-hidden /> Set for all
      </Button>
      <Button onClick={onRemove}>
        <Trash2 size={16} aria-hidden /> Take off
      </Button>
      <Button look="quiet" onClick={onNone}>
        Clear the selection
      </Button>
      {isSetting && <SetForAll chosen={chosen} onClose={() => setSetting(false)} />}
    </div>
  );
}

/**
 * The part in hand, also in the address so that it can be linked to. The page follows the key at once and the address a
 * moment later: what is pressed next must not meet the line before.
 */
function useCurrent() {
  const { key, search } = useLocation();
  const inAddress = new URLSearchParams(search).get('part');
  const [current, setCurrent] = useState(inAddress);
  const [seen, setSeen] = useState(key);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  if (key !== seen) {
    setSeen(key);
    setCurrent(inAddress);
  }
  useEffect(() => () => clearTimeout(timer.current), []);
  const choose = (id: string | null) => {
    setCurrent(id);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => replaceParameters(id === null ? {} : { part: id }), 150);
  };
  return [current, choose] as const;
}

function FilterField({
  search,
  text,
  narrow,
  onDown,
}: {
  search: RefObject<HTMLInputElement | null>;
  text: string;
  narrow: (change: Partial<Narrowing>) => void;
  onDown: () => void;
}) {
  return (
    <label className="flex min-w-[12rem] flex-1 items-center gap-2 border border-rule bg-plate px-2 focus-within:border-select">
      <Search size={16} aria-hidden className="shrink-0 text-dim" />
      <span className="sr-only">Filter</span>
      <input
        ref={search}
        className="w-full min-w-0 bg-transparent py-1 outline-none"
        placeholder="words, or a value: film C>30u Vdc>=900   ( / )"
        autoComplete="off"
        spellCheck={false}
        value={text}
        onChange={(event) => narrow({ text: event.target.value })}
        onKeyDown={(event) => {
          if (event.key === 'Escape') narrow({ text: '' });
          if (event.key === 'Enter' || event.key === 'ArrowDown') {
            event.preventDefault();
            onDown();
          }
        }}
      />
    </label>
  );
}

/** What the list is narrowed to: by words and values, a kind, a state, a lot. */
function Narrowings({
  shelf,
  narrowing,
  narrow,
  search,
  count,
  onDown,
}: {
  shelf: Shelf;
  narrowing: Narrowing;
  narrow: (change: Partial<Narrowing>) => void;
  search: RefObject<HTMLInputElement | null>;
  count: string;
  onDown: () => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-2 px-3 py-2 sm:px-5">
      <FilterField search={search} text={narrowing.text} narrow={narrow} onDown={onDown} />
      <Narrow
        label="Kind"
        value={narrowing.kind}
        options={partKinds.map((k) => [k.kind, k.title])}
        onChange={(kind) => narrow({ kind })}
      />
      <Narrow
        label="State"
        value={narrowing.condition}
        options={conditions.map((c) => [c, c])}
        onChange={(condition) => narrow({ condition })}
      />
      <Narrow
        label="Lot"
        value={narrowing.lot}
        options={shelf.lots.map((l) => [l.id, l.lot.name])}
        onChange={(lot) => narrow({ lot })}
      />
      <span role="status" className="text-13 whitespace-nowrap text-dim">
        {count}
      </span>
    </div>
  );
}

const toTable = () => document.querySelector<HTMLElement>('[data-shelf]')?.focus();

/** Why there are no lines, or not those that were asked for. */
function NothingFound({ shelf, reason, isEmpty }: { shelf: Shelf; reason: string | null; isEmpty: boolean }) {
  return (
    <>
      {reason !== null && (
        <TroubleLine look="words" className="px-5 pb-1">
          The filter cannot be read: {reason}. All parts are shown.
        </TroubleLine>
      )}
      {shelf.loaded && shelf.parts.length === 0 && (
        <p className="p-5 text-dim">
          Nothing on the bench yet. Put new parts on it, or import a table of what you have: any CSV with a head will do.
        </p>
      )}
      {shelf.parts.length > 0 && isEmpty && <p className="p-5 text-dim">No part matches the filter.</p>}
      {!shelf.loaded && shelf.error === undefined && <p className="p-5 text-dim">Fetching the bench …</p>}
    </>
  );
}

/** What stands beside the list while no part is in hand. */
function NoneInHand() {
  return (
    <aside className="hidden w-[440px] shrink-0 border-l border-rule p-5 text-dim lg:block">
      <p>Choose a part to see what was measured on it and what voltage it takes.</p>
      <p className="mt-2">
        Arrows move, Space chooses, Enter opens, <kbd className="figure border border-rule px-1">m</kbd> measures,{' '}
        <kbd className="figure border border-rule px-1">n</kbd> puts new parts on the bench,{' '}
        <kbd className="figure border border-rule px-1">/</kbd> filters.
      </p>
    </aside>
  );
}

/** The part in hand, beside the list or in its place. */
function InHand({
  stored,
  at,
  onClose,
  ...detail
}: ComponentProps<typeof PartDetail> & { at: RefObject<HTMLElement | null>; onClose: () => void }) {
  return (
    <section
      ref={at}
      tabIndex={-1}
      aria-label={`Part ${stored.part.tag}`}
      className="min-h-0 w-full overflow-y-auto border-rule outline-none lg:w-[440px] lg:shrink-0 lg:border-l"
      onKeyDown={(event) => {
        if (event.key === 'Escape' && event.target === event.currentTarget) toTable();
      }}
    >
      <button type="button" className="flex items-center gap-1 px-4 pt-3 text-select underline lg:hidden" onClick={onClose}>
        <ArrowLeft size={16} aria-hidden /> All parts
      </button>
      <PartDetail stored={stored} {...detail} />
    </section>
  );
}

/** What goes in and out of the bench as a whole. */
function Tools({ shelf, picked, onNew }: { shelf: Shelf; picked: readonly StoredPart[]; onNew: () => void }) {
  const parts = picked.length > 0 ? picked : shelf.parts;
  return (
    <>
      <ImportParts shelf={shelf} />
      <Button onClick={() => exportCsv(parts, shelf.lots)}>
        <FileDown size={16} aria-hidden /> CSV
      </Button>
      <Button onClick={() => exportJson(parts, shelf.lots)}>
        <FileDown size={16} aria-hidden /> JSON
      </Button>
      <Button look="primary" onClick={onNew}>
        <Plus size={16} aria-hidden /> New parts
      </Button>
    </>
  );
}

/** Puts parts into a state, those that are not in it. */
const putInto = (parts: readonly StoredPart[], condition: Condition) =>
  writeBench({
    do: 'edit',
    edits: parts
      .filter((p) => p.part.condition !== condition)
      .map((p) => ({ id: p.id, set: { condition }, was: { condition: p.part.condition } })),
  });

/** The shelf: every part on the bench, and the one in hand beside it. */
export function ShelfView() {
  const shelf = useShelf();
  const uses = useUses();
  const navigate = useNavigate();
  const [current, setCurrent] = useCurrent();
  const [narrowing, setNarrowing] = useState<Narrowing>({ text: '', kind: '', condition: '', lot: '' });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [adding, setAdding] = useState<{ like: Part | null } | null>(null);
  const search = useRef<HTMLInputElement>(null);
  const detail = useRef<HTMLElement>(null);
  const lotNames = useMemo(() => new Map(shelf.lots.map((l) => [l.id, l.lot.name])), [shelf.lots]);
  const [sorting, setSorting] = useState<SortingState>([]);
  const ordered = useMemo(() => inOrder(shelf.parts, sorting), [shelf.parts, sorting]);
  const { found, reason } = useSifted(ordered, lotNames, narrowing);
  const stored = current === null ? undefined : shelf.parts.find((p) => p.id === current);
  const picked = useMemo(() => shelf.parts.filter((p) => chosen.has(p.id)), [shelf.parts, chosen]);
  const narrow = (change: Partial<Narrowing>) => setNarrowing({ ...narrowing, ...change });
  const toFound = () => {
    // By what is typed by now, which the table may be about to show.
    const fits = sifted(ordered, lotNames, narrowing);
    const [one] = fits;
    if (one && !fits.some((p) => p.id === current)) setCurrent(one.id);
    toTable();
  };

  useHotkeys('/', () => search.current?.focus(), { preventDefault: true, useKey: true });
  useHotkeys('n', () => setAdding({ like: null }));
  useHotkeys('m', () => {
    const ids = chosen.size > 0 ? [...chosen] : current ? [current] : [];
    if (ids.length > 0) void navigate(`/parts/measure?parts=${ids.join()}`);
  });

  const remove = (parts: readonly StoredPart[]) => {
    takeOff(parts, uses);
    setChosen(new Set());
  };
  return (
    <PartsFrame shelf={shelf} tools={<Tools shelf={shelf} picked={picked} onNew={() => setAdding({ like: null })} />}>
      <div className="flex min-h-0 flex-1">
        <section aria-label="Parts" className={`min-h-0 min-w-0 flex-1 flex-col ${stored ? 'hidden lg:flex' : 'flex'}`}>
          <Narrowings
            shelf={shelf}
            narrowing={narrowing}
            narrow={narrow}
            search={search}
            count={`${found.length === shelf.parts.length ? '' : `${found.length} of `}${shelf.parts.length} lines, ${found.reduce((n, p) => n + p.part.quantity, 0)} pcs`}
            onDown={toFound}
          />
          <NothingFound shelf={shelf} reason={reason} isEmpty={found.length === 0} />
          {found.length > 0 && (
            <ShelfTable
              parts={found}
              sorting={sorting}
              onSorting={setSorting}
              current={current}
              chosen={chosen}
              onCurrent={setCurrent}
              onChosen={setChosen}
              onOpen={(id) => {
                setCurrent(id);
                setTimeout(() => detail.current?.focus());
              }}
              onRemove={(id) => remove(picked.length > 0 ? picked : shelf.parts.filter((p) => p.id === id))}
            />
          )}
          {picked.length > 0 && (
            <ChosenBar
              chosen={picked}
              onNone={() => setChosen(new Set())}
              onRemove={() => remove(picked)}
              onCondition={(condition) => putInto(picked, condition)}
            />
          )}
        </section>
        {stored && (
          <InHand
            key={stored.id}
            stored={stored}
            at={detail}
            lots={shelf.lots}
            uses={uses.get(stored.id) ?? []}
            onClose={() => setCurrent(null)}
            onMore={() => setAdding({ like: stored.part })}
            onRemove={() => remove([stored])}
          />
        )}
        {!stored && <NoneInHand />}
      </div>
      {adding && (
        <NewPartDialog
          like={adding.like}
          lots={shelf.lots}
          onClose={() => setAdding(null)}
          onMade={(ids) => {
            setAdding(null);
            if (ids.length > 1) setChosen(new Set(ids));
            setCurrent(ids[0] ?? null);
          }}
        />
      )}
    </PartsFrame>
  );
}
