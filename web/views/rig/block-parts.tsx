import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { type BlockDefinition, type PartRef, type Slot } from '@vast-surge/core/block';
import { blockDefinition, fieldsFrom, outdated, withoutParts, withPart, type Block } from '@vast-surge/core/kind';
import type { StoredPart } from '@vast-surge/contract';
import { partKind, readFilter, wordOrigin, mainValueOf, voltageOf } from '@vast-surge/core/part';
import { printQuantity } from '@vast-surge/core/quantity';
import { useShelf } from '../../app/bench.ts';
import type { KnownBench } from '../../app/bench-write.ts';
import { blockReplaced } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** "an inductor or choke", "a resistor". */
const withArticle = (title: string): string => `${/^[aeiou]/i.test(title) ? 'an' : 'a'} ${title.toLowerCase()}`;

function PartRow({ stored, definition, onTake }: { stored: StoredPart; definition: BlockDefinition; onTake: () => void }) {
  const { part } = stored;
  const unsuited = definition.takes?.unsuited?.(part) ?? null;
  const value = mainValueOf(part);
  const voltage = voltageOf(part);
  const gives = Object.keys(fieldsFrom(definition, part)).length;
  return (
    <li className="border-b border-rule">
      <button
        type="button"
        disabled={unsuited !== null || gives === 0}
        className="grid w-full grid-cols-[88px_minmax(0,1fr)_auto] items-baseline gap-3 px-2 py-1.5 text-left enabled:hover:bg-ground"
        onClick={onTake}
      >
        <b className="figure">{part.tag}</b>
        <span className="min-w-0">
          <span className="block truncate">{part.name}</span>
          <span className="block text-13 text-dim">
            {unsuited ??
              (gives === 0
                ? 'nothing known of it fits this block'
                : `${part.condition}, ${value ? wordOrigin(value) : 'value not known'}`)}
          </span>
        </span>
        <span className="figure text-right text-14 whitespace-nowrap">
          {value && <span className="block">{printed(value)}</span>}
          {voltage && <span className="block">{printed(voltage)}</span>}
        </span>
      </button>
    </li>
  );
}

const printed = ({ value, unit }: { value: number; unit: Parameters<typeof printQuantity>[1] }) =>
  printQuantity(value, unit, { digits: 4, trim: true });

function ChooseDialog({
  definition,
  parts,
  onTake,
  onClose,
}: {
  definition: BlockDefinition;
  parts: readonly StoredPart[];
  onTake: (stored: StoredPart) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const filter = useMemo(() => readFilter(text), [text]);
  const kind = definition.takes?.part ?? '';
  const fits = parts.filter(
    (p) => p.part.kind === kind && p.part.condition !== 'failed' && (!filter.ok || filter.test(p.part, '')),
  );
  return (
    <Sheet title={`Use ${withArticle(partKind(kind).title)} from the shelf`} className="flex flex-col" onClose={onClose}>
      <input
        autoFocus
        aria-label="Filter"
        className="mt-2 w-full border border-rule bg-ground px-2 py-1"
        placeholder="words, or a value such as C>30u"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {!filter.ok && <TroubleLine look="words">{filter.reason}.</TroubleLine>}
      <ul className="mt-2 min-h-0 overflow-y-auto border-t border-rule">
        {fits.slice(0, 200).map((stored) => (
          <PartRow key={stored.id} stored={stored} definition={definition} onTake={() => onTake(stored)} />
        ))}
      </ul>
      {fits.length === 0 && <p className="py-2 text-dim">None on the bench fits; failed ones are left out.</p>}
      {fits.length > 200 && <p className="text-13 text-dim">200 of {fits.length} are listed: narrow the filter.</p>}
      <Button className="mt-3 self-start" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}

/** More tags than this are shown by their groups, behind a click. */
const few = 4;

function Tags({ refs, bench }: { refs: readonly PartRef[]; bench: KnownBench }) {
  return (
    <>
      {refs.map((ref, i) => (
        <span key={ref.id}>
          {i > 0 && ', '}
          <Link className="figure whitespace-nowrap text-select underline" to={`/parts?part=${ref.id}`}>
            {bench.parts.get(ref.id)?.part.tag ?? ref.tag}
          </Link>
          {ref.count !== undefined && ` × ${ref.count}`}
        </span>
      ))}
    </>
  );
}

/** Which parts the block stands on, whether the bench has come to say otherwise, and the way to take another. */
export function BlockParts({ slot, block }: { slot: Slot; block: Block }) {
  const dispatch = useAppDispatch();
  const { parts, bench } = useShelf();
  const [choosing, setChoosing] = useState(false);
  const definition = blockDefinition(slot, block.kind);
  if (!definition.takes) return null;
  const replace = (next: Block) => dispatch(blockReplaced({ slot, block: next }));
  const refs = block.parts ?? [];
  const [only] = refs;
  const one = refs.length === 1 && only && only.count === undefined ? bench.parts.get(only.id) : undefined;
  const changed = one ? outdated(block, definition, one.part) : [];
  const gone = refs.filter((ref) => bench.parts.get(ref.id)?.removedAt != null).map((ref) => ref.tag);
  const failed = refs.filter((ref) => bench.parts.get(ref.id)?.part.condition === 'failed').map((ref) => ref.tag);
  const groups = [...new Set(refs.map((ref) => ref.group ?? 1))].map(
    (g) => [g, refs.filter((r) => (r.group ?? 1) === g)] as const,
  );
  const tags = [...new Map(refs.map((ref) => [ref.id, ref])).values()];
  return (
    <div className="mb-2 border-b border-rule pb-2">
      {tags.length > 0 && tags.length <= few && (
        <p>
          Uses <Tags refs={tags} bench={bench} />
        </p>
      )}
      {tags.length > few && (
        <details>
          <summary className="cursor-pointer">
            Uses {refs.reduce((n, ref) => n + (ref.count ?? 1), 0)} pieces in {groups.length} groups
          </summary>
          <ol className="pl-1">
            {groups.map(([group, members]) => (
              <li key={group}>
                <b className="figure">{group}</b> <Tags refs={members} bench={bench} />
              </li>
            ))}
          </ol>
        </details>
      )}
      {failed.length > 0 && <TroubleLine className="mt-1">⚠ {failed.join(', ')} has failed since: use another.</TroubleLine>}
      {gone.length > 0 && (
        <p role="status" className="mt-1 border-l-4 border-warning pl-2">
          ⚠ {gone.join(', ')} is not on the bench any more; the values stay.
        </p>
      )}
      {changed.length > 0 && one && (
        <div role="status" className="mt-1 border-l-4 border-warning pl-2">
          The bench now says:{' '}
          {changed
            .map(({ field, value }) => {
              const spec = definition.fields[field];
              return `${spec?.title ?? field} ${typeof value === 'object' && value !== null ? value.text : String(value)}`;
            })
            .join('; ')}
          .{' '}
          <Button
            className="!py-0.5"
            onClick={() =>
              replace({ ...block, fields: { ...block.fields, ...Object.fromEntries(changed.map((c) => [c.field, c.value])) } })
            }
          >
            Use these values
          </Button>
        </div>
      )}
      <div className="mt-1 flex flex-wrap gap-3">
        <button type="button" className="text-select underline" onClick={() => setChoosing(true)}>
          {tags.length > 0 ? 'Use another' : `Use ${withArticle(partKind(definition.takes.part).title)} from the shelf`}
        </button>
        {tags.length > 0 && (
          <button type="button" className="text-select underline" onClick={() => replace(withoutParts(block))}>
            Detach from part
          </button>
        )}
      </div>
      {choosing && (
        <ChooseDialog
          definition={definition}
          parts={parts}
          onClose={() => setChoosing(false)}
          onTake={(stored) => {
            replace(withPart(block, definition, stored));
            setChoosing(false);
          }}
        />
      )}
    </div>
  );
}
