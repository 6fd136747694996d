import { useEffect, useMemo, useRef, useState } from 'react';
import type { SortingState } from '@tanstack/react-table';
import { ArrowLeft, FileDown, Gauge, PencilRuler, Plus, Printer, Search, Trash2, Zap } from 'lucide-react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useLocation, useNavigate } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import { conditions, partKinds, type Condition, type Part } from '@vast-surge/core/part';
import { replaceParameters } from '../../app/address.ts';
import { useShelf, writeBench } from '../../app/bench.ts';
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
  const toTable = () => document.querySelector<HTMLElement>('[data-shelf]')?.focus();

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
  const setCondition = (condition: Condition) =>
    writeBench({
      do: 'edit',
      edits: picked
        .filter((p) => p.part.condition !== condition)
        .map((p) => ({ id: p.id, set: { condition }, was: { condition: p.part.condition } })),
    });
  const pieces = found.reduce((n, p) => n + p.part.quantity, 0);
  return (
    <PartsFrame
      shelf={shelf}
      tools={
        <>
          <ImportParts shelf={shelf} />
          <Button onClick={() => exportCsv(picked.length > 0 ? picked : shelf.parts, shelf.lots)}>
            <FileDown size={16} aria-hidden /> CSV
          </Button>
          <Button onClick={() => exportJson(picked.length > 0 ? picked : shelf.parts, shelf.lots)}>
            <FileDown size={16} aria-hidden /> JSON
          </Button>
          <Button look="primary" onClick={() => setAdding({ like: null })}>
            <Plus size={16} aria-hidden /> New parts
          </Button>
        </>
      }
    >
      <div className="flex min-h-0 flex-1">
        <section aria-label="Parts" className={`min-h-0 min-w-0 flex-1 flex-col ${stored ? 'hidden lg:flex' : 'flex'}`}>
          <div className="flex flex-wrap items-center gap-2 px-3 py-2 sm:px-5">
            <label className="flex min-w-[12rem] flex-1 items-center gap-2 border border-rule bg-plate px-2 focus-within:border-select">
              <Search size={16} aria-hidden className="shrink-0 text-dim" />
              <span className="sr-only">Filter</span>
              <input
                ref={search}
                className="w-full min-w-0 bg-transparent py-1 outline-none"
                placeholder="words, or a value: film C>30u Vdc>=900   ( / )"
                autoComplete="off"
                spellCheck={false}
                value={narrowing.text}
                onChange={(event) => narrow({ text: event.target.value })}
                onKeyDown={(event) => {
                  if (event.key === 'Escape') narrow({ text: '' });
                  if (event.key === 'Enter' || event.key === 'ArrowDown') {
                    event.preventDefault();
                    // By what is typed by now, which the table may be about to show.
                    const fits = sifted(ordered, lotNames, narrowing);
                    const [one] = fits;
                    if (one && !fits.some((p) => p.id === current)) setCurrent(one.id);
                    toTable();
                  }
                }}
              />
            </label>
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
              {found.length === shelf.parts.length ? '' : `${found.length} of `}
              {shelf.parts.length} lines, {pieces} pcs
            </span>
          </div>
          {reason !== null && (
            <p role="alert" className="px-5 pb-1 font-bold text-over">
              The filter cannot be read: {reason}. All parts are shown.
            </p>
          )}
          {shelf.loaded && shelf.parts.length === 0 && (
            <p className="p-5 text-dim">
              Nothing on the bench yet. Put new parts on it, or import a table of what you have: any CSV with a head will do.
            </p>
          )}
          {shelf.parts.length > 0 && found.length === 0 && <p className="p-5 text-dim">No part matches the filter.</p>}
          {!shelf.loaded && shelf.error === undefined && <p className="p-5 text-dim">Fetching the bench …</p>}
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
              onCondition={setCondition}
            />
          )}
        </section>
        {stored && (
          <section
            ref={detail}
            key={stored.id}
            tabIndex={-1}
            aria-label={`Part ${stored.part.tag}`}
            className="min-h-0 w-full overflow-y-auto border-rule outline-none lg:w-[440px] lg:shrink-0 lg:border-l"
            onKeyDown={(event) => {
              if (event.key === 'Escape' && event.target === event.currentTarget) toTable();
            }}
          >
            <button
              type="button"
              className="flex items-center gap-1 px-4 pt-3 text-select underline lg:hidden"
              onClick={() => setCurrent(null)}
            >
              <ArrowLeft size={16} aria-hidden /> All parts
            </button>
            <PartDetail
              stored={stored}
              lots={shelf.lots}
              uses={uses.get(stored.id) ?? []}
              onMore={() => setAdding({ like: stored.part })}
              onRemove={() => remove([stored])}
            />
          </section>
        )}
        {!stored && (
          <aside className="hidden w-[440px] shrink-0 border-l border-rule p-5 text-dim lg:block">
            <p>Choose a part to see what was measured on it and what voltage it takes.</p>
            <p className="mt-2">
              Arrows move, Space chooses, Enter opens, <kbd className="figure border border-rule px-1">m</kbd> measures,{' '}
              <kbd className="figure border border-rule px-1">n</kbd> puts new parts on the bench,{' '}
              <kbd className="figure border border-rule px-1">/</kbd> filters.
            </p>
          </aside>
        )}
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
