import type { QuantityField } from '@vast-surge/core/field';
import type { UnitId } from '@vast-surge/core/quantity';

/** The field of a quantity that a page asks for and no rig keeps. */
export const askedFor = (
  title: string,
  unit: UnitId,
  max: number,
  initial: string | null,
  more: Partial<QuantityField> = {},
): QuantityField => ({
  type: 'quantity',
  symbol: title,
  title,
  unit,
  min: 0,
  max,
  open: true,
  initial,
  ...more,
});

/** Such a quantity as it is typed, with the reason where it cannot be read. */
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
        <span role="alert" className="col-span-2 text-13 font-bold text-over">
          {field.title} {reason}.
        </span>
      )}
    </label>
  );
}
