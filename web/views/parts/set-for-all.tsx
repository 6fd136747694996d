import { useState } from 'react';
import { toast } from 'sonner';
import type { PartEdit, StoredPart } from '@vast-surge/contract';
import { initialValue, type FieldValue } from '@vast-surge/core/field';
import { partKind } from '@vast-surge/core/part';
import { printPrice, readPrice } from '../../app/currency.ts';
import { writeBench } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { NumberField, SpecField, TextField } from './spec-field.tsx';
import { sameValue } from './words.tsx';
import { FormRow } from './form-row.tsx';

/** What any part has, whatever its kind. */
const plain = { place: 'Location', price: 'Price, each', note: 'Note' } as const;
type Plain = keyof typeof plain;
const isPlain = (id: string): id is Plain => id in plain;

/** The value that most of them have, so that what is set is seen beside what stands there. */
const valueIn = ({ part }: StoredPart, id: string): FieldValue | number => (isPlain(id) ? part[id] : (part.fields[id] ?? null));

function Which({
  id,
  fields,
  onPick,
}: {
  id: string;
  fields: ReturnType<typeof partKind>['fields'];
  onPick: (id: string) => void;
}) {
  return (
    <FormRow id="set-which" label="What">
      <Select id="set-which" value={id} onChange={(event) => onPick(event.target.value)}>
        {Object.entries(fields).map(([field, { title }]) => (
          <option key={field} value={field}>
            {title}
          </option>
        ))}
        {Object.entries(plain).map(([field, title]) => (
          <option key={field} value={field}>
            {title}
          </option>
        ))}
      </Select>
    </FormRow>
  );
}

function ValueFor({
  id,
  spec,
  value,
  setValue,
}: {
  id: string;
  spec: ReturnType<typeof partKind>['fields'][string] | undefined;
  value: FieldValue | number;
  setValue: (value: FieldValue | number) => void;
}) {
  if (spec) return <SpecField key={id} id={`set-${id}`} spec={spec} value={value as FieldValue} live onCommit={setValue} />;
  if (id === 'price')
    return (
      <NumberField
        label={plain.price}
        value={typeof value === 'number' ? value : null}
        max={1e9}
        optional
        live
        read={readPrice}
        says={`such as ${printPrice(5)}`}
        onCommit={setValue}
      />
    );
  return (
    <TextField
      label={plain[isPlain(id) ? id : 'place']}
      value={typeof value === 'string' ? value : ''}
      maxLength={id === 'note' ? 10_000 : 120}
      onCommit={setValue}
    />
  );
}

type Of = (stored: StoredPart) => unknown;

/** What brings the value at a path from one to the other, for those whose value differs. */
const editsOf = (path: string, chosen: readonly StoredPart[], to: Of, from: Of): PartEdit[] =>
  chosen
    .filter((stored) => !sameValue(to(stored) as FieldValue, from(stored) as FieldValue))
    .map((stored) => ({ id: stored.id, set: { [path]: to(stored) }, was: { [path]: from(stored) } }));

function HowManyValues({ values }: { values: readonly unknown[] }) {
  const differ = new Set(values.map((value) => JSON.stringify(value))).size;
  return (
    <p className="mt-1 text-14 text-dim">
      {differ === 1 ? 'All of them have the same now.' : `They have ${differ} different values now.`}
    </p>
  );
}

/** One value for all parts that are chosen: connection and school of twenty cans at once. What it replaces comes back by Undo. */
export function SetForAll({ chosen, onClose }: { chosen: readonly StoredPart[]; onClose: () => void }) {
  const [first] = chosen;
  const isOneKind = chosen.every(({ part }) => part.kind === first?.part.kind);
  const fields = isOneKind && first ? partKind(first.part.kind).fields : {};
  const [id, setId] = useState<string>(Object.keys(fields)[0] ?? 'place');
  const [value, setValue] = useState<FieldValue | number>(first ? valueIn(first, id) : null);
  const spec = fields[id];
  const pick = (next: string) => {
    setId(next);
    const field = fields[next];
    setValue(first ? valueIn(first, next) : field ? initialValue(field) : null);
  };
  const edits = (to: Of, from: Of) => editsOf(isPlain(id) ? id : `fields.${id}`, chosen, to, from);
  const was = (stored: StoredPart) => valueIn(stored, id);
  const wanted = () => value;
  const set = () => {
    const made = edits(wanted, was);
    onClose();
    if (made.length === 0) return;
    writeBench({ do: 'edit', edits: made });
    const title = isPlain(id) ? plain[id] : (spec?.title ?? id);
    toast(`${title} set for ${made.length} of ${chosen.length} parts.`, {
      duration: 12_000,
      action: { label: 'Undo', onClick: () => writeBench({ do: 'edit', edits: edits(was, wanted) }) },
    });
  };
  return (
    <Sheet
      title={`Set for ${chosen.length} ${chosen.length === 1 ? 'part' : 'parts'}`}
      says={
        isOneKind
          ? 'One value for all of them; readings stay as they are.'
          : 'They are of several kinds: what all parts have can be set.'
      }
      onClose={onClose}
      width="w-[min(34rem,96vw)]"
    >
      <Which id={id} fields={fields} onPick={pick} />
      <ValueFor id={id} spec={spec} value={value} setValue={setValue} />
      <HowManyValues values={chosen.map((stored) => valueIn(stored, id))} />
      <div className="mt-3 flex gap-2">
        <Button look="primary" onClick={set}>
          Set for all
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}
