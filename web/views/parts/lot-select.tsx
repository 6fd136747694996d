import type { StoredLot } from '@vast-surge/contract';
import { Select } from '../../ui/select.tsx';
import { FormRow } from './form-row.tsx';

interface Props {
  readonly id: string;
  readonly lots: readonly StoredLot[];
  readonly value: string | null;
  readonly onChange: (lot: string | null) => void;
}

/** The lot a part came with. */
export function LotSelect({ id, lots, value, onChange }: Props) {
  return (
    <FormRow id={id} label="Lot">
      <Select id={id} className="w-full" value={value ?? ''} onChange={(event) => onChange(event.target.value || null)}>
        <option value="">not known</option>
        {lots.map((lot) => (
          <option key={lot.id} value={lot.id}>
            {lot.lot.name}
          </option>
        ))}
      </Select>
    </FormRow>
  );
}
