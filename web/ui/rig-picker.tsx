import { useDeferredValue, useState } from 'react';
import type { RigHead } from '@vast-surge/contract';
import { useFindRigsQuery } from '../app/api.ts';
import { Select } from './select.tsx';

/** So many rigs fit into one list to choose from; of more, one searches first. */
const most = 50;

/** Chooses a rig: a list where there are few, and above it a search where there are many. */
export function RigPicker({
  label,
  none,
  value,
  disabled = false,
  onPick,
}: {
  label: string;
  /** What stands for no choice. */
  none: string;
  value: string;
  disabled?: boolean;
  onPick: (rig: RigHead | null) => void;
}) {
  const [words, setWords] = useState('');
  const asked = useDeferredValue(words.trim());
  const { data } = useFindRigsQuery({ q: asked, limit: most });
  const { data: all } = useFindRigsQuery({ q: '', limit: most });
  const rigs = (data?.rows ?? []).filter((rig) => rig.unreadable === null);
  const isLong = (all?.total ?? 0) > most;
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      {isLong && (
        <input
          type="search"
          aria-label={`Search for: ${label}`}
          placeholder={`Search ${all?.total ?? ''} rigs`}
          className="w-44 border border-rule bg-plate px-2 py-1.5"
          value={words}
          disabled={disabled}
          onChange={(event) => setWords(event.target.value)}
        />
      )}
      <Select
        aria-label={label}
        fit="tall"
        disabled={disabled}
        value={value}
        onChange={(event) => onPick(rigs.find((rig) => rig.id === event.target.value) ?? null)}
      >
        <option value="">{none}</option>
        {rigs.map((rig) => (
          <option key={rig.id} value={rig.id}>
            {rig.name}
          </option>
        ))}
      </Select>
    </span>
  );
}
