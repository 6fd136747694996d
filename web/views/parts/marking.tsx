import { useState } from 'react';
import type { StoredPart } from '@vast-surge/contract';
import { readQuantityText, textOf, type QuantityField } from '@vast-surge/core/field';
import {
  bandColours,
  decodeBands,
  decodeCapacitor,
  decodeResistor,
  partKind,
  type Decoded,
  type Reading,
} from '@vast-surge/core/part';
import { writeBench } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { short } from './words.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** Decodes what stands on a part as it is typed: a code, or the colours of its bands with spaces between. */
export function decodeMarking(kind: string, text: string): Decoded {
  if (kind !== 'resistor') return decodeCapacitor(text);
  const words = text
    .trim()
    .toLowerCase()
    .split(/[\s,]+/);
  return words.length > 2 && words.every((word) => word in bandColours) ? decodeBands(words) : decodeResistor(text);
}

const unitOf = (kind: string) => (kind === 'resistor' ? 'Ω' : 'F');

/** A reading of a marking as the fields of a part: its value with its tolerance, and the voltage where it is marked. */
export function fieldsOf(kind: string, reading: Reading): Record<string, unknown> {
  const id = kind === 'resistor' ? 'R' : 'C';
  const { fields } = partKind(kind);
  const set = (field: QuantityField, quantity: { value: number; tolerance?: Reading['tolerance'] }) => {
    const { value, tolerance } = quantity;
    const read = readQuantityText(field, textOf({ value, ...(tolerance ? { tolerance } : {}) }, field.unit));
    return read.ok ? read.value : null;
  };
  const field = fields[id];
  const Vdc = fields['Vdc'];
  return {
    ...(field?.type === 'quantity' ? { [id]: set(field, reading) } : {}),
    ...(reading.voltage !== undefined && Vdc?.type === 'quantity' ? { Vdc: set(Vdc, { value: reading.voltage }) } : {}),
  };
}

const readingWords = (kind: string, { value, tolerance, voltage }: Reading): string =>
  `${short(value, unitOf(kind))}${tolerance ? textOf({ value: 1, tolerance }, '1').replace(/^1/, '') : ''}${voltage === undefined ? '' : `, ${short(voltage, 'V')} DC`}`;

interface EntryProps {
  readonly kind: string;
  readonly id: string;
  readonly onRead: (reading: Reading) => void;
}

/** What a marking may mean; of several a person says which. */
function ReadAs({
  kind,
  readings,
  onPick,
}: {
  kind: EntryProps['kind'];
  readings: readonly Reading[];
  onPick: (reading: Reading) => void;
}) {
  return (
    <div className="mt-1.5" data-readings>
      {readings.length > 1 && <p className="text-14 font-bold">This marking is ambiguous. Which is it?</p>}
      <ul className="mt-1 space-y-1">
        {readings.map((reading) => (
          <li key={`${reading.value} ${reading.says}`} className="flex flex-wrap items-center gap-2">
            <Button className="figure !py-0.5" onClick={() => onPick(reading)}>
              {readingWords(kind, reading)}
            </Button>
            <span className="text-13 text-dim">{reading.says}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

const examples = { resistor: '4R7, 10k, or its bands: yellow violet red gold', capacitor: '104K, 2n2, 0.47 630V' };

/** What is typed off a part, and what it may mean: one meaning is offered, of several a person chooses. */
export function MarkingEntry({ kind, id, onRead }: EntryProps) {
  const [text, setText] = useState('');
  const decoded = text.trim() === '' ? null : decodeMarking(kind, text);
  return (
    <div className="border-b border-rule py-1.5">
      <div className="grid grid-cols-[132px_minmax(0,1fr)] gap-2">
        <label htmlFor={id} className="pt-1 leading-tight">
          Marking
        </label>
        <input
          id={id}
          className="figure w-full border border-rule bg-plate px-2 py-1 text-14"
          placeholder={kind === 'resistor' ? examples.resistor : examples.capacitor}
          autoComplete="off"
          spellCheck={false}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={(event) => {
            // Read without a doubt, it is taken also by whoever goes on without asking for it.
            const [only] = decoded?.ok && decoded.readings.length === 1 ? decoded.readings : [];
            if (!only || event.relatedTarget?.closest('[data-readings]')) return;
            onRead(only);
            setText('');
          }}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || !decoded?.ok || decoded.readings.length !== 1) return;
            const [only] = decoded.readings;
            if (only) onRead(only);
            setText('');
          }}
        />
      </div>
      {decoded && !decoded.ok && (
        <TroubleLine look="words" className="mt-1 text-13">
          The marking {decoded.reason}.
        </TroubleLine>
      )}
      {decoded?.ok && (
        <ReadAs
          kind={kind}
          readings={decoded.readings}
          onPick={(reading) => {
            onRead(reading);
            setText('');
          }}
        />
      )}
    </div>
  );
}

/** The marking of a part on the shelf, put into its fields. */
export function Marking({ stored }: { stored: StoredPart }) {
  const { kind, fields } = stored.part;
  if (kind !== 'capacitor' && kind !== 'resistor') return null;
  return (
    <MarkingEntry
      kind={kind}
      id="part-marking"
      onRead={(reading) => {
        const set = Object.entries(fieldsOf(kind, reading)).filter(([, value]) => value !== null);
        const paths = set.map(([field, value]) => [`fields.${field}`, value] as const);
        const was = set.map(([field]) => [`fields.${field}`, fields[field] ?? null] as const);
        writeBench({ do: 'edit', edits: [{ id: stored.id, set: Object.fromEntries(paths), was: Object.fromEntries(was) }] });
      }}
    />
  );
}
