import { useState, type FormEvent } from 'react';
import type { StoredPart } from '@vast-surge/contract';
import { labelOf, measuredOf, type Measure } from '@vast-surge/core/part';
import { unitName, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import type { Held } from './bench-hand.ts';
import { short } from './words.tsx';
import { parseTyped } from '../../ui/typed.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** Nobody reads whole farads or henries off a meter: a bare number is a slip until a prefix was shown. */
const needsUnit: readonly UnitId[] = ['F', 'H'];

/** The prefix and unit in which a value that is known is printed: "µF" of 35.3 µF. */
export const unitOf = (value: number | null, unit: UnitId): string =>
  value === null || value === 0 ? '' : unitTyped(short(value, unit));

/** What a measure of a part is known to be: its readings, else its label. */
export function knownOf({ part }: StoredPart, measure: Measure): number | null {
  return measuredOf(part, measure.id)?.mean ?? (measure.field === undefined ? null : labelOf(part, measure.field));
}

/** A value as it is read off a meter; a bare number is taken in the unit shown. */
function readTyped(text: string, unit: UnitId, last: string): { ok: true; value: number } | { ok: false; reason: string } {
  const bare = /^[-+]?[\d.,]+$/.test(text.trim());
  // On the meter only the digits change from part to part: the prefix typed last goes on.
  const prefix = bare && last !== '' ? ` ${last}` : '';
  if (bare && prefix === '' && needsUnit.includes(unit))
    return {
      ok: false,
      reason: `write it with its unit, such as ${unit === 'F' ? '35 µF' : '2 mH'}; the next ones may then be bare numbers`,
    };
  const parsed = parseTyped(text + prefix, unit);
  if (!parsed.ok) return { ok: false, reason: wordQuantityIssue(parsed.issue) };
  if (parsed.quantity.tolerance) return { ok: false, reason: 'a reading has no tolerance' };
  return { ok: true, value: parsed.quantity.value };
}

const unitTyped = (text: string): string => /^\s*[\d.,]+\s*([a-zA-ZµμΩ%]+)\s*$/.exec(text)?.[1] ?? '';

/** The unit a bare number is taken in: the prefix typed last, written out. */
const unitWords = (hint: string, unit: UnitId): string =>
  /^[fpnuµμmkMGT]$/.test(hint) ? `${hint.replace(/[uμ]/, 'µ')}${unitName(unit)}` : hint || unitName(unit);

interface EntryProps {
  readonly label: string;
  readonly unit: UnitId;
  readonly unitHint: string;
  readonly onUnit: (unit: string) => void;
  /** @returns why the value was not taken, or null */
  readonly onValue: (value: number) => string | null;
}

/** One reading, huge: type, Enter, next. */
export function Entry({ label, unit, unitHint, onUnit, onValue }: EntryProps) {
  const [text, setText] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const read = readTyped(text, unit, unitHint);
    const refused = read.ok ? onValue(read.value) : read.reason;
    setSaid(refused);
    if (refused === null) {
      const typed = unitTyped(text);
      if (typed !== '') onUnit(typed);
      setText('');
    }
  };
  return (
    <form onSubmit={submit} className="mt-3 max-w-[34rem]">
      <label className="sr-only" htmlFor="reading">
        {label}
      </label>
      <div className={`flex items-center border-2 bg-plate ${said ? 'border-over' : 'border-ink'}`}>
        <input
          // In the hand from the first instant: the next digits come off the meter at once.
          autoFocus
          id="reading"
          className="figure min-w-0 flex-1 bg-transparent px-3 py-2 text-34 outline-none"
          autoComplete="off"
          spellCheck={false}
          inputMode="text"
          aria-invalid={said !== null}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="px-3 text-20 text-dim">{unitWords(unitHint, unit)}</span>
        <button type="submit" className="border-l-2 border-ink px-4 py-3 font-bold">
          Enter
        </button>
      </div>
      {said !== null && (
        <TroubleLine look="words" className="mt-1">
          {label}: {said}. Nothing was written.
        </TroubleLine>
      )}
    </form>
  );
}

export function HandFields({ measure, held }: { measure: Measure | null; held: Held }) {
  const field = 'w-full border border-rule bg-plate px-2 py-1';
  return (
    <div className="mt-3 grid max-w-[34rem] grid-cols-1 gap-2 sm:grid-cols-3">
      <label className="text-13 text-dim">
        Instrument
        <input
          className={`${field} text-ink`}
          maxLength={80}
          value={held.hand.instrument}
          onChange={(event) => held.setHand({ ...held.hand, instrument: event.target.value })}
        />
      </label>
      <label className="text-13 text-dim">
        Who
        <input
          className={`${field} text-ink`}
          maxLength={40}
          value={held.hand.by}
          onChange={(event) => held.setHand({ ...held.hand, by: event.target.value })}
        />
      </label>
      {measure?.at !== undefined && (
        <label className="text-13 text-dim">
          At which {measure.at}
          <input
            className={`figure ${field} text-ink`}
            placeholder={measure.at === 'frequency' ? '120 Hz' : measure.at === 'voltage' ? '500 V' : '10 mA'}
            value={held.under[measure.id] ?? ''}
            onChange={(event) => held.setUnder(measure.id, event.target.value)}
          />
        </label>
      )}
    </div>
  );
}
