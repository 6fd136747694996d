import type { StoredLot } from '@vast-surge/contract';
import { Select } from '../../ui/select.tsx';

interface Props {
  readonly id: string;
  readonly lots: readonly StoredLot[];
  readonly value: string | null;
  readonly onChange: (lot: string | null) => void;
}

/** The lot a part came with. */
export function LotSelect({ id, lots, value, onChange }: Props) {
  return (
    <div className="grid grid-cols-[132px_minmax(0,1fr)] gap-2 border-b border-rule py-1">
      <label htmlFor={id} className="pt-1">
        Lot
      </label>
      <Select id={id} className="w-full" value={value ?? ''} onChange={(event) => onChange(event.target.value || null)}>
        <option value="">not known</option>
        {lots.map((lot) => (
          <option key={lot.id} value={lot.id}>
            {lot.lot.name}
          </option>
        ))}
      </Select>
    </div>
  );
}
