import { useState, type Dispatch, type SetStateAction } from 'react';
import type { StoredLot } from '@vast-surge/contract';
import { newPart, partKind, partSchema, type Part } from '@vast-surge/core/part';
import type { FieldValue } from '@vast-surge/core/field';
import { writeBench } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { printPrice, readPrice } from '../../app/currency.ts';
import { OwnQuantities } from '../../ui/own-quantities.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { LotSelect } from './lot-select.tsx';
import { fieldsOf, MarkingEntry } from './marking.tsx';
import { NumberField, SpecField, TextField } from './spec-field.tsx';
import { Select } from '../../ui/select.tsx';
import { FormRow, partKindOptions } from './form-row.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** Fields asked for at once; the others are filled in on the shelf. */
const first: Readonly<Record<string, readonly string[]>> = {
  capacitor: ['dielectric', 'C', 'Vdc', 'Vac', 'elements', 'connection'],
  resistor: ['R', 'P', 'V'],
};

interface Props {
  /** The part that more are wanted like; null for a new one. */
  readonly like: Part | null;
  readonly lots: readonly StoredLot[];
  readonly onClose: () => void;
  readonly onMade: (ids: readonly string[]) => void;
}

/** "Twelve of these": as many parts as there are, each with a tag of its own, or as one line with a number. */
function draftsOf(part: Part, count: number, apart: boolean): { id: string; part: Part }[] {
  const bare: Part = { ...part, tag: '', readings: [] };
  return apart
    ? Array.from({ length: count }, () => ({ id: crypto.randomUUID(), part: { ...bare, quantity: 1 } }))
    : [{ id: crypto.randomUUID(), part: { ...bare, quantity: count } }];
}

function KindChoice({ part, setPart }: { part: Part; setPart: (part: Part) => void }) {
  return (
    <FormRow id="new-kind" label="Kind">
      <Select
        id="new-kind"
        value={part.kind}
        onChange={(event) => setPart({ ...newPart(event.target.value, part.name, ''), lot: part.lot, place: part.place })}
      >
        {partKindOptions}
      </Select>
    </FormRow>
  );
}

/** Each with a tag of its own, or as one line with a number. */
function HowKept({ count, apart, setApart }: { count: number; apart: boolean; setApart: (apart: boolean) => void }) {
  return (
    <fieldset className="py-2">
      <legend className="sr-only">How they are kept</legend>
      <label className="flex items-baseline gap-2">
        <input type="radio" name="apart" checked={apart} onChange={() => setApart(true)} />
        <span>{count} parts, each with a tag of its own and readings of its own</span>
      </label>
      <label className="flex items-baseline gap-2">
        <input type="radio" name="apart" checked={!apart} onChange={() => setApart(false)} />
        <span>One line that says there are {count} of them</span>
      </label>
    </fieldset>
  );
}

/** What it cost, where it came from and where it lies. */
function Keeping({ part, lots, setPart }: { part: Part; lots: Props['lots']; setPart: Dispatch<SetStateAction<Part>> }) {
  return (
    <>
      <NumberField
        label="Price, each"
        value={part.price}
        max={1e9}
        optional
        live
        read={readPrice}
        says={`such as ${printPrice(5)}`}
        onCommit={(price) => setPart((p) => ({ ...p, price }))}
      />
      <LotSelect id="new-lot" lots={lots} value={part.lot} onChange={(lot) => setPart({ ...part, lot })} />
      <TextField label="Location" value={part.place} maxLength={120} onCommit={(place) => setPart((p) => ({ ...p, place }))} />
    </>
  );
}

interface KindFieldsProps {
  readonly part: Part;
  readonly shown: readonly string[];
  readonly onField: (field: string, value: FieldValue) => void;
}

function KindFields({ part, shown, onField }: KindFieldsProps) {
  const { fields } = partKind(part.kind);
  return shown.map((field) => {
    const spec = fields[field];
    return spec ? (
      <SpecField
        key={`${part.kind} ${field}`}
        id={`new-${field}`}
        spec={spec}
        value={part.fields[field] ?? null}
        onCommit={(value) => onField(field, value)}
      />
    ) : null;
  });
}

const Written = ({ part, onOwn }: { part: Part; onOwn: (own: Part['own'] | null) => void }) => (
  <OwnQuantities
    own={part.own ?? []}
    known={[]}
    says="What is written on it and what you know of it: 12 bar, 0.8 l, 400 W."
    onOwn={onOwn}
  />
);

/** What is printed on a capacitor or a resistor, read. */
function Marking({ kind, onFields }: { kind: Part['kind']; onFields: (fields: Readonly<Record<string, unknown>>) => void }) {
  if (kind !== 'capacitor' && kind !== 'resistor') return null;
  return <MarkingEntry key={kind} kind={kind} id="new-marking" onRead={(reading) => onFields(fieldsOf(kind, reading))} />;
}

/** Puts new parts on the bench. */
export function NewPartDialog({ like, lots, onClose, onMade }: Props) {
  const [part, setPart] = useState<Part>(() => (like ? { ...like, condition: 'unknown' } : newPart('capacitor', '', '')));
  const [count, setCount] = useState<number>(1);
  const [apart, setApart] = useState(true);
  const [isUnreadable, setUnreadable] = useState(false);
  const kind = partKind(part.kind);
  const shown = first[part.kind] ?? Object.keys(kind.fields);
  const put = () => {
    const name = part.name.trim() === '' ? kind.title : part.name;
    const drafts = draftsOf({ ...part, name }, count, apart);
    writeBench({ do: 'create', parts: drafts });
    onMade(drafts.map((d) => d.id));
  };
  const checked = partSchema.safeParse({ ...part, tag: 'new', name: part.name.trim() || kind.title });
  const setFields = (fields: Readonly<Record<string, unknown>>) =>
    setPart((p) => ({ ...p, fields: { ...p.fields, ...(fields as Record<string, FieldValue>) } }));
  return (
    <Sheet title={like ? `More like ${like.tag}` : 'New parts'} width="w-[min(34rem,96vw)]" onClose={onClose}>
      {!like && <KindChoice part={part} setPart={setPart} />}
      <TextField label="Name" value={part.name} maxLength={80} onCommit={(name) => setPart((p) => ({ ...p, name }))} />
      {!like && <Marking kind={part.kind} onFields={setFields} />}
      <KindFields part={part} shown={shown} onField={(field, value) => setFields({ [field]: value })} />
      {part.kind === 'other' && (
        <Written
          part={part}
          onOwn={(own) => {
            setUnreadable(own === null);
            if (own) setPart((p) => ({ ...p, own }));
          }}
        />
      )}
      <Keeping part={part} lots={lots} setPart={setPart} />
      <NumberField label="How many" value={count} max={1000} integer live onCommit={(n) => setCount(Math.max(1, n ?? 1))} />
      {count > 1 && <HowKept count={count} apart={apart} setApart={setApart} />}
      <TroubleLine look="words">
        {checked.success ? null : checked.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join('; ')}
      </TroubleLine>
      <div className="mt-2 flex gap-2">
        <Button look="primary" disabled={!checked.success || isUnreadable} onClick={put}>
          Put {count === 1 ? 'it' : `${count} of these`} on the bench
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}
