import { useEffect, useMemo, useRef, type KeyboardEvent, type RefObject } from 'react';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  useReactTable,
  type Header,
  type OnChangeFn,
  type Row,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronDown, ChevronUp } from 'lucide-react';
import type { StoredPart } from '@vast-surge/contract';
import { mainValueOf, voltageOf, type PartValue } from '@vast-surge/core/part';
import { printQuantity } from '@vast-surge/core/quantity';
import { ConditionMark, kindWords, short } from './words.tsx';

const rowHeight = 42;

function Value({ value }: { value: PartValue | null }) {
  if (!value) return <span className="text-dim">not known</span>;
  return (
    <>
      <span className="figure">
        {value.from === 'measured' ? printQuantity(value.value, value.unit, { digits: 4 }) : short(value.value, value.unit)}
      </span>
      <span className="block text-12 leading-none text-dim">{value.from === 'measured' ? 'measured' : 'label'}</span>
    </>
  );
}

const column = createColumnHelper<StoredPart>();
const columns = [
  column.accessor((s) => s.part.tag, {
    id: 'tag',
    header: 'Tag',
    cell: ({ row }) => <b className="figure text-16">{row.original.part.tag || 'new'}</b>,
  }),
  column.accessor((s) => s.part.name, {
    id: 'name',
    header: 'Part',
    cell: ({ row }) => (
      <>
        <span className="block truncate">{row.original.part.name}</span>
        <span className="block truncate text-12 leading-none text-dim">{kindWords(row.original.part)}</span>
      </>
    ),
  }),
  column.accessor((s) => mainValueOf(s.part)?.value ?? -1, {
    id: 'value',
    header: 'Value',
    cell: ({ row }) => <Value value={mainValueOf(row.original.part)} />,
  }),
  column.accessor((s) => voltageOf(s.part)?.value ?? -1, {
    id: 'voltage',
    header: 'Max DC',
    cell: ({ row }) => {
      const voltage = voltageOf(row.original.part);
      return voltage ? <span className="figure">{short(voltage.value, 'V')}</span> : <span className="text-dim">—</span>;
    },
  }),
  column.accessor((s) => s.part.condition, {
    id: 'condition',
    header: 'State',
    cell: ({ row }) => <ConditionMark condition={row.original.part.condition} />,
  }),
  column.accessor((s) => s.part.quantity, {
    id: 'quantity',
    header: 'Qty',
    cell: ({ row }) => <span className="figure">{row.original.part.quantity}</span>,
  }),
  column.accessor((s) => s.part.place, {
    id: 'place',
    header: 'Location',
    cell: ({ row }) => <span className="block truncate text-14">{row.original.part.place}</span>,
  }),
];

const widths: Readonly<Record<string, string>> = {
  tag: 'w-[68px] sm:w-[92px]',
  name: '',
  value: 'w-[92px] sm:w-[104px]',
  voltage: 'w-[84px]',
  condition: 'w-[86px] sm:w-[96px]',
  quantity: 'w-[52px]',
  place: 'w-[120px]',
};
/** On a small screen only what one looks for first. */
const wideOnly = new Set(['quantity', 'place']);
const hidden = (id: string) => (wideOnly.has(id) ? 'hidden xl:table-cell' : id === 'voltage' ? 'hidden sm:table-cell' : '');

interface Props {
  /** In the order in which they are shown. */
  readonly parts: readonly StoredPart[];
  readonly sorting: SortingState;
  readonly onSorting: OnChangeFn<SortingState>;
  readonly current: string | null;
  readonly chosen: ReadonlySet<string>;
  readonly onCurrent: (id: string) => void;
  readonly onChosen: (chosen: ReadonlySet<string>) => void;
  /** Enter on a line. */
  readonly onOpen: (id: string) => void;
  readonly onRemove: (id: string) => void;
}

/** The heads of the columns: each sorts, the first chooses all. */
function Heads({
  headers,
  isAll,
  onAll,
}: {
  headers: readonly Header<StoredPart, unknown>[];
  isAll: boolean;
  onAll: () => void;
}) {
  return (
    <thead className="top-0 z-10 bg-ground text-13 sm:sticky">
      <tr className="border-b border-ink">
        <th scope="col" className="w-9 pl-3">
          <input
            type="checkbox"
            aria-label={isAll ? 'Clear the selection' : 'Select all listed'}
            checked={isAll}
            onChange={onAll}
          />
        </th>
        {headers.map((header) => {
          const sorted = header.column.getIsSorted();
          return (
            <th
              key={header.id}
              scope="col"
              aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
              className={`px-2 py-1 font-normal ${widths[header.id] ?? ''} ${hidden(header.id)}`}
            >
              <button
                type="button"
                className="flex items-center gap-1 text-dim hover:text-ink"
                onClick={header.column.getToggleSortingHandler()}
              >
                {flexRender(header.column.columnDef.header, header.getContext())}
                {sorted === 'asc' && <ChevronUp size={13} aria-hidden />}
                {sorted === 'desc' && <ChevronDown size={13} aria-hidden />}
              </button>
            </th>
          );
        })}
      </tr>
    </thead>
  );
}

/** A part as a line of the table. */
function Line({
  row,
  index,
  isCurrent,
  isChosen,
  onCurrent,
  onOpen,
  onToggle,
}: {
  row: Row<StoredPart>;
  index: number;
  isCurrent: boolean;
  isChosen: boolean;
  onCurrent: (id: string) => void;
  onOpen: (id: string) => void;
  onToggle: (id: string) => void;
}) {
  return (
    <tr
      aria-rowindex={index + 2}
      aria-current={isCurrent}
      data-part={row.original.part.tag}
      style={{ height: rowHeight }}
      className={`cursor-pointer border-b border-rule ${isCurrent ? 'bg-plate shadow-[inset_4px_0_0_var(--select)]' : 'hover:bg-plate'}`}
      onClick={() => onCurrent(row.id)}
      onDoubleClick={() => onOpen(row.id)}
    >
      <td className="pl-3" onClick={(event) => event.stopPropagation()}>
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Choose ${row.original.part.tag}`}
          checked={isChosen}
          onChange={() => onToggle(row.id)}
        />
      </td>
      {row.getVisibleCells().map((cell) => (
        <td key={cell.id} className={`overflow-hidden px-2 leading-tight ${hidden(cell.column.id)}`}>
          {flexRender(cell.column.columnDef.cell, cell.getContext())}
        </td>
      ))}
    </tr>
  );
}

/** Arrows move, Space chooses, Enter opens, Delete takes off. */
function useKeys(
  { parts, current, chosen, onCurrent, onChosen, onOpen, onRemove }: Omit<Props, 'sorting' | 'onSorting'>,
  at: number,
  box: RefObject<HTMLDivElement | null>,
) {
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    onChosen(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const page = Math.max(1, Math.floor((box.current?.clientHeight ?? 400) / rowHeight) - 2);
    const steps: Record<string, number> = {
      ArrowDown: 1,
      j: 1,
      ArrowUp: -1,
      k: -1,
      PageDown: page,
      PageUp: -page,
      Home: -parts.length,
      End: parts.length,
    };
    const step = steps[event.key];
    if (step !== undefined) {
      event.preventDefault();
      const next = parts[Math.min(Math.max(at + step, 0), parts.length - 1)];
      if (next) {
        if (event.shiftKey) onChosen(new Set([...chosen, ...(current ? [current] : []), next.id]));
        onCurrent(next.id);
      }
      return;
    }
    if (!current) return;
    if (event.key === ' ') {
      event.preventDefault();
      toggle(current);
    } else if (event.key === 'Enter') {
      event.preventDefault();
      onOpen(current);
    } else if (event.key === 'Delete') onRemove(current);
  };
  return { toggle, onKeyDown };
}

/** The shelf as a table that draws only the lines in sight. Arrows move, Space chooses, Enter opens. */
export function ShelfTable({ parts, sorting, onSorting, current, chosen, onCurrent, onChosen, onOpen, onRemove }: Props) {
  const box = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are called anew in every drawing
  const virtual = useVirtualizer({
    count: parts.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const at = parts.findIndex((stored) => stored.id === current);
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Only a move of the line scrolls: the hand on the wheel is left alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current]);
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? -1];
  // The table knows the lines in sight alone: ten thousand would be made anew at every key.
  const data = useMemo(() => parts.slice(first, last + 1), [parts, first, last]);
  const table = useReactTable({
    data,
    columns,
    state: { sorting },
    onSortingChange: onSorting,
    manualSorting: true,
    getRowId: (stored) => stored.id,
    getCoreRowModel: getCoreRowModel(),
  });
  const { rows } = table.getRowModel();
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);

  const { toggle, onKeyDown } = useKeys({ parts, current, chosen, onCurrent, onChosen, onOpen, onRemove }, at, box);
  const all = parts.length > 0 && parts.every(({ id }) => chosen.has(id));
  return (
    <div
      ref={box}
      tabIndex={0}
      role="group"
      aria-label="Shelf: arrows move, Space chooses, Enter opens"
      data-shelf
      className="min-h-0 flex-1 overflow-y-auto outline-offset-[-2px]"
      onKeyDown={onKeyDown}
    >
      <table className="w-full table-fixed border-collapse text-left" aria-rowcount={parts.length + 1}>
        <Heads
          headers={table.getFlatHeaders()}
          isAll={all}
          onAll={() => onChosen(all ? new Set() : new Set(parts.map(({ id }) => id)))}
        />
        <tbody>
          {above > 0 && <tr aria-hidden style={{ height: above }} />}
          {items.map(({ index }) => {
            const row = rows[index - first];
            if (!row) return null;
            return (
              <Line
                key={row.id}
                row={row}
                index={index}
                isCurrent={row.id === current}
                isChosen={chosen.has(row.id)}
                onCurrent={onCurrent}
                onOpen={onOpen}
                onToggle={toggle}
              />
            );
          })}
          {below > 0 && <tr aria-hidden style={{ height: below }} />}
        </tbody>
      </table>
    </div>
  );
}
