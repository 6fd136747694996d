import { useState, type KeyboardEvent } from 'react';
import { readQuantityText, type QuantityField, type QuantityValue } from '@vast-surge/core/field';
import { inSI, printAsTyped, printTolerance, stepTyped, unitName } from '@vast-surge/core/quantity';
import { newBurst } from './burst.ts';
import { ownText, readTyped, shownOf } from './typed.ts';

interface Props {
  readonly id: string;
  readonly field: QuantityField;
  readonly value: QuantityValue | null;
  /** Text that could not be read, kept until it can. */
  readonly draft: string | undefined;
  /** `burst` names the key strokes that belong together. */
  readonly onValue: (value: QuantityValue | null, burst: string) => void;
  readonly onDraft: (text: string) => void;
}

/** What would be typed one key press away, in the unit that stands there: the next preferred number, one more of a count, or one per cent. */
function stepped({ unit, integer }: QuantityField, { value, text }: QuantityValue, direction: 1 | -1, fine: boolean): string {
  if (!integer && !fine) return stepTyped(value, unit, text, direction);
  const next = integer ? value + direction : Number((value * (1 + 0.01 * direction)).toPrecision(4));
  return inSI(() => printAsTyped(next, unit, text, { digits: 6, trim: true }));
}

/**
 * A quantity as one writes it on paper. What cannot be read stays in the field with the reason; the value before it stays
 * in force meanwhile.
 */
export function QuantityInput({ id, field, value, draft, onValue, onDraft }: Props) {
  const [typing, setTyping] = useState<string | null>(null);
  const [before, setBefore] = useState<QuantityValue | null>(null);
  const [burst, setBurst] = useState(newBurst);
  // What this field last gave; another value in force was put there by an undo or by another hand, and is shown.
  const [given, setGiven] = useState<QuantityValue | null>(null);
  const [shown, setShown] = useState(value);
  if (value !== shown) {
    setShown(value);
    if (typing !== null && value !== given) setTyping(null);
  }
  const text = typing ?? draft ?? (value ? ownText(value.text, field.unit) : '');
  const read = value && typing === null && draft === undefined ? ({ ok: true, value } as const) : readTyped(field, text);
  const shownValue = read.ok && read.value ? shownOf(read.value, field) : null;
  const plainly = (words: string) => words.replace(/\s/g, '').replace('\u2212', '-').replaceAll(',', '.');
  const says = shownValue !== null && field.unit !== '1' && plainly(shownValue) !== plainly(text);
  const hint = says ? `= ${shownValue}` : null;

  const take = (next: string) => {
    setTyping(next);
    const parsed = readTyped(field, next);
    if (!parsed.ok) {
      onDraft(next);
      return;
    }
    setGiven(parsed.value);
    onValue(parsed.value, burst);
  };

  const step = (direction: 1 | -1, fine: boolean) => {
    if (!read.ok || !read.value) return;
    const tolerance = read.value.tolerance ? printTolerance(read.value) : '';
    const next = readQuantityText(field, stepped(field, read.value, direction, fine) + tolerance);
    if (next.ok && next.value) {
      setTyping(null);
      onValue(next.value, newBurst());
    }
  };

  const settle = () => {
    setTyping(null);
    setBurst(newBurst());
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      step(event.key === 'ArrowUp' ? 1 : -1, event.altKey);
    } else if (event.key === 'Escape') {
      event.stopPropagation();
      if (typing === null && draft === undefined) return;
      setTyping(null);
      onValue(before, burst);
    } else if (event.key === 'Enter') settle();
  };

  return (
    <div className="min-w-0">
      <div className={`flex items-center border bg-plate ${read.ok ? 'border-rule focus-within:border-select' : 'border-over'}`}>
        <input
          id={id}
          className="figure min-w-0 flex-1 bg-transparent px-2 py-1 text-14"
          value={text}
          autoComplete="off"
          spellCheck={false}
          placeholder={field.optional ? 'not known' : ''}
          aria-invalid={!read.ok}
          aria-describedby={`${id}-says`}
          onFocus={() => setBefore(value)}
          onChange={(event) => take(event.target.value)}
          onBlur={settle}
          onKeyDown={onKeyDown}
        />
        {field.unit !== '1' && shownValue === null && <span className="pr-2 text-13 text-dim">{unitName(field.unit)}</span>}
      </div>
      <p
        id={`${id}-says`}
        role={read.ok ? undefined : 'alert'}
        className={`text-13 leading-snug ${read.ok ? 'text-dim' : 'font-bold text-over'}`}
      >
        {read.ok ? hint : `${field.title} ${read.reason}. In force: ${value ? ownText(value.text, field.unit) : 'not known'}.`}
      </p>
    </div>
  );
}
