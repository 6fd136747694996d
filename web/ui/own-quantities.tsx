import { useId, useState } from 'react';
import { Plus, X } from 'lucide-react';
import { mostOwn, nameTrouble, type OwnQuantity, type Taken } from '@vast-surge/core/field';
import { Button } from './button.tsx';
import { parseTyped } from './typed.ts';

interface Draft {
  readonly name: string;
  readonly unit: string;
  readonly text: string;
}

const draftOf = ({ name, unit, value }: OwnQuantity): Draft => ({ name, unit, text: String(value) });
const empty: Draft = { name: '', unit: '', text: '' };
const isEmpty = ({ name, unit, text }: Draft): boolean => name.trim() === '' && unit.trim() === '' && text.trim() === '';

/** What stands against a row, by its box, and what it still lacks; a row that nobody began has nothing against it. */
function troubleOf(
  draft: Draft,
  others: readonly Draft[],
  taken: Taken | undefined,
): { readonly wrong: { readonly [K in keyof Draft]?: string }; readonly lacks: readonly string[] } {
  if (isEmpty(draft)) return { wrong: {}, lacks: [] };
  const { name, unit, text } = draft;
  const clash =
    name.trim() === ''
      ? null
      : nameTrouble(
          name,
          others.map((one) => one.name),
          taken,
        );
  const isNumber = text.trim() === '' || parseTyped(text, '1').ok;
  return {
    wrong: {
      ...(clash === null ? {} : { name: `“${name.trim()}” ${clash}.` }),
      ...(isNumber ? {} : { text: 'The value must be a number, without its unit.' }),
    },
    lacks: [
      ...(name.trim() === '' ? ['a name'] : []),
      ...(text.trim() === '' ? ['a value'] : []),
      ...(unit.trim() === '' ? ['a unit such as mJ, or 1 for a plain number'] : []),
    ],
  };
}

const valueOf = ({ name, unit, text }: Draft): OwnQuantity | null => {
  const read = parseTyped(text, '1');
  return read.ok ? { name: name.trim(), unit: unit.trim(), value: read.quantity.value } : null;
};

/**
 * Quantities that a person names: energy of a laser, depth of a dent. `known` are those of other shots, offered so that a series has one name.
 *
 * @param onOwn told of all of them; null while one cannot be kept as it stands
 */
export function OwnQuantities({
  own,
  known,
  says,
  taken,
  onOwn,
}: {
  own: readonly OwnQuantity[];
  known: readonly { readonly name: string; readonly unit: string }[];
  /** What may stand here, in a sentence. */
  says: string;
  /** Which names mean something already. */
  taken?: Taken;
  onOwn: (own: readonly OwnQuantity[] | null) => void;
}) {
  const list = useId();
  const [drafts, setDrafts] = useState<readonly Draft[]>(() => own.map(draftOf));
  // Names of other shots stand ready below what was begun; without a value they ask for nothing.
  const offered = known
    .filter(({ name }) => !drafts.some((draft) => draft.name === name))
    .map(({ name, unit }): Draft => ({ name, unit, text: '' }));
  const isOffered = ({ name, unit, text }: Draft) =>
    text.trim() === '' && known.some((one) => one.name === name && one.unit === unit);
  const all = [...drafts, ...offered];
  const asked = (rows: readonly Draft[]) => rows.filter((row) => !isEmpty(row) && !isOffered(row));
  const troubleAmong = (row: Draft, rows: readonly Draft[]) =>
    troubleOf(
      row,
      rows.filter((other) => other !== row),
      taken,
    );
  const change = (next: readonly Draft[]) => {
    setDrafts(next);
    const rows = asked(next);
    const isKept = rows.every((row) => {
      const { wrong, lacks } = troubleAmong(row, rows);
      return Object.keys(wrong).length === 0 && lacks.length === 0;
    });
    onOwn(isKept ? rows.flatMap((row) => valueOf(row) ?? []) : null);
  };
  const set = (i: number, more: Partial<Draft>) => {
    const same = more.name === undefined ? undefined : known.find(({ name }) => name === more.name);
    // Of those that stand ready only the one that is begun is taken.
    const begun = i < drafts.length ? drafts : [...drafts, all[i] ?? empty];
    const at = Math.min(i, begun.length - 1);
    change(begun.map((draft, k) => (k === at ? { ...draft, ...(same ? { unit: same.unit } : {}), ...more } : draft)));
  };
  const rows = asked(drafts);
  return (
    <fieldset className="md:col-span-2">
      <legend className="font-bold">Of your own</legend>
      <p className="text-14 text-dim">{says}</p>
      <datalist id={list}>
        {known.map(({ name, unit }) => (
          <option key={`${name}/${unit}`} value={name} />
        ))}
      </datalist>
      {all.map((draft, i) => {
        const { wrong, lacks } = isOffered(draft) ? troubleOf(empty, [], taken) : troubleAmong(draft, rows);
        const box = (id: keyof Draft, label: string, width: string, limit: number) => (
          <input
            aria-label={`${label} of quantity ${i + 1}`}
            placeholder={label}
            className={`${id === 'text' ? 'figure' : ''} ${width} border bg-plate px-2 py-0.5 ${wrong[id] ? 'border-over' : 'border-rule'}`}
            aria-invalid={wrong[id] !== undefined}
            maxLength={limit}
            list={id === 'name' ? list : undefined}
            value={draft[id]}
            onChange={(event) => set(i, { [id]: event.target.value })}
          />
        );
        return (
          <div key={i} className="border-b border-rule py-1">
            <div className="flex flex-wrap items-baseline gap-2">
              {box('name', 'Name', 'min-w-40 flex-1', 40)}
              {box('text', 'Value', 'w-28', 24)}
              {box('unit', 'Unit', 'w-20', 16)}
              {i < drafts.length && (
                <Button
                  look="quiet"
                  aria-label={`Remove quantity ${i + 1}`}
                  onClick={() => change(drafts.filter((_, k) => k !== i))}
                >
                  <X size={16} aria-hidden />
                </Button>
              )}
            </div>
            {Object.values(wrong).map((text) => (
              <p key={text} role="alert" className="text-13 font-bold text-over">
                {text}
              </p>
            ))}
            {lacks.length > 0 && <p className="text-13 text-dim">Needs {lacks.join(', and ')}.</p>}
          </div>
        );
      })}
      {all.length < mostOwn && (
        <Button className="mt-1" onClick={() => change([...drafts, empty])}>
          <Plus size={16} aria-hidden /> Add a quantity
        </Button>
      )}
    </fieldset>
  );
}
