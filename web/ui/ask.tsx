import type { QuantityField } from '@vast-surge/core/field';

/** A quantity that a page asks for and no rig keeps, with the reason where it cannot be read. */
export function Ask({
  field,
  text,
  reason,
  onText,
}: {
  field: QuantityField;
  text: string;
  reason: string | null;
  onText: (text: string) => void;
}) {
  return (
    <label className="grid grid-cols-[1fr_7.5rem] items-baseline gap-2 border-b border-rule py-1">
      {field.title}
      <input
        className={`figure border bg-plate px-2 py-0.5 ${reason === null ? 'border-rule' : 'border-over'}`}
        value={text}
        aria-invalid={reason !== null}
        onChange={(event) => onText(event.target.value)}
      />
      {reason !== null && (
        <span role="alert" className="col-span-2 text-[13px] font-bold text-over">
          {field.title} {reason}.
        </span>
      )}
    </label>
  );
}
