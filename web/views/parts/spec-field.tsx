import { useEffect, useRef, useState } from 'react';
import type { FieldSpec, FieldValue, QuantityValue } from '@vast-surge/core/field';
import { QuantityInput } from '../../ui/quantity-input.tsx';
import type { Amount } from '@vast-surge/core/quantity';
import { sameValue } from './words.tsx';
import { Select } from '../../ui/select.tsx';
import { FormRow } from './form-row.tsx';

interface Props {
  readonly id: string;
  readonly spec: FieldSpec;
  readonly value: FieldValue;
  /** Called when one leaves the field or pauses, with what it then holds. */
  readonly onCommit: (value: FieldValue) => void;
  /** Called with every value that can be read, while one types. */
  readonly live?: boolean;
}

const pause = 800;

function Quantity({ id, spec, value, onCommit, live = false }: Props & { spec: Extract<FieldSpec, { type: 'quantity' }> }) {
  const [draft, setDraft] = useState<string>();
  const [mine, setMine] = useState<QuantityValue | null>();
  const pending = useRef<(() => void) | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const settle = () => {
    clearTimeout(timer.current);
    pending.current?.();
    pending.current = null;
    setMine(undefined);
  };
  // What was typed goes out also when another part is chosen while the hand is still in the field.
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      pending.current?.();
    },
    [],
  );
  const take = (next: QuantityValue | null) => {
    setDraft(undefined);
    if (live) {
      onCommit(next);
      return;
    }
    setMine(next);
    pending.current = sameValue(next, value) ? null : () => onCommit(next);
    clearTimeout(timer.current);
    timer.current = setTimeout(settle, pause);
  };
  return (
    <div onBlur={settle} onKeyDown={(event) => event.key === 'Enter' && settle()}>
      <QuantityInput
        id={id}
        field={spec}
        value={mine === undefined ? (value as QuantityValue | null) : mine}
        draft={draft}
        onValue={take}
        onDraft={setDraft}
      />
    </div>
  );
}

/** One field of a part or a design, drawn from its declaration, with its label. */
export function SpecField(props: Props) {
  const { id, spec, value, onCommit } = props;
  return (
    <FormRow id={id} label={spec.title} help={spec.help}>
      {spec.type === 'choice' ? (
        <Select id={id} className="w-full" value={String(value)} onChange={(event) => onCommit(event.target.value)}>
          {spec.options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.title}
            </option>
          ))}
        </Select>
      ) : (
        <Quantity {...props} spec={spec} />
      )}
    </FormRow>
  );
}

/** A plain text that is committed when one leaves it. */
export function TextField({
  label,
  value,
  onCommit,
  maxLength,
  required = false,
  area = false,
  className = '',
  hideLabel = false,
}: {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  maxLength: number;
  required?: boolean;
  area?: boolean;
  className?: string;
  hideLabel?: boolean;
}) {
  const [typed, setTyped] = useState<string>();
  const settle = () => {
    const next = typed?.trim();
    if (next !== undefined && next !== value && !(required && next === '')) onCommit(next);
    setTyped(undefined);
  };
  const props = {
    maxLength,
    value: typed ?? value,
    onBlur: settle,
    className: `w-full min-w-0 border border-rule bg-plate px-2 py-1 ${className}`,
  };
  return (
    <label className={hideLabel ? 'block min-w-0' : 'grid grid-cols-[132px_minmax(0,1fr)] gap-2 border-b border-rule py-1'}>
      <span className={hideLabel ? 'sr-only' : 'pt-1 leading-tight'}>{label}</span>
      {area ? (
        <textarea {...props} rows={3} onChange={(event) => setTyped(event.target.value)} />
      ) : (
        <input
          {...props}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') settle();
            if (event.key === 'Escape') setTyped(undefined);
          }}
        />
      )}
    </label>
  );
}

const readNumber = (text: string): Amount => {
  const value = Number(text.trim().replace(',', '.'));
  return Number.isFinite(value) ? { ok: true, value, sign: null } : { ok: false, reason: 'must be a number' };
};

const NotTaken = ({ says }: { says: string }) => (
  <span role="alert" className="block text-13 font-bold text-over">
    {says}
  </span>
);

interface NumberFieldProps {
  readonly label: string;
  readonly value: number | null;
  readonly max: number;
  readonly integer?: boolean;
  readonly optional?: boolean;
  /** Commits with every number that can be taken, not only when one leaves the field. */
  readonly live?: boolean;
  /** How what is typed is read; a plain number where it is left out. */
  readonly read?: (text: string) => Amount;
  /** What stands behind the box: the unit, the currency. */
  readonly says?: string;
  readonly onCommit: (value: number | null) => void;
}

type Rules = Required<Pick<NumberFieldProps, 'optional' | 'integer' | 'max' | 'read'>> & { readonly range: string };

/** The number, null where there is none and need not be; or what stands against it. */
function takenFrom(written: string, { optional, integer, max, read, range }: Rules): number | null | string {
  if (written.trim() === '') return optional ? null : range;
  const found = read(written);
  if (!found.ok) return found.reason;
  return found.value < 0 || found.value > max || (integer && !Number.isInteger(found.value)) ? range : found.value;
}

/** A number, or empty for "not known". What is none is said, and what stood there before stays in force. */
export function NumberField({
  label,
  value,
  max,
  integer = false,
  optional = false,
  live = false,
  read = readNumber,
  says,
  onCommit,
}: NumberFieldProps) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? (value === null ? '' : String(value));
  const range = `must be ${integer ? 'a whole number' : 'a number'} from 0 to ${max}`;
  const taken = (written: string) => takenFrom(written, { optional, integer, max, read, range });
  const now = taken(text);
  const bad = typeof now === 'string';
  return (
    <label className="grid grid-cols-[132px_minmax(0,1fr)] gap-2 border-b border-rule py-1">
      <span className="pt-1 leading-tight">{label}</span>
      <span className="min-w-0">
        <input
          className={`figure w-full border bg-plate px-2 py-1 text-14 ${bad ? 'border-over' : 'border-rule'}`}
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={optional ? `not known${says ? `, ${says}` : ''}` : ''}
          aria-invalid={bad}
          onChange={(event) => {
            const written = event.target.value;
            setTyped(written);
            const next = taken(written);
            if (live && typeof next !== 'string') onCommit(next);
          }}
          onBlur={() => {
            if (typeof now === 'string') return;
            if (now !== value) onCommit(now);
            setTyped(undefined);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur();
            if (event.key === 'Escape') setTyped(undefined);
          }}
        />
        {bad && <NotTaken says={`${label} ${now}. In force: ${value ?? 'not known'}.`} />}
      </span>
    </label>
  );
}
