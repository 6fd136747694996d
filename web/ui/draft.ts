import { useState } from 'react';

const keyOf = (name: string): string => `vast-surge.draft.${name}`;

function read<T>(name: string, isOne: (value: unknown) => value is T): T | null {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(keyOf(name)) ?? 'null');
    return isOne(value) ? value : null;
  } catch {
    return null;
  }
}

/**
 * What is typed into a form and not sent yet: it is there again after a reload, on this device. Where the device keeps nothing it lives as long
 * as the page.
 *
 * @param isOne whether what the device kept is one of these
 */
export function useDraft<T>(name: string, initial: () => T, isOne: (value: unknown) => value is T) {
  const [draft, setDraft] = useState(() => read(name, isOne) ?? initial());
  const keep = (value: T | null) => {
    try {
      if (value === null) localStorage.removeItem(keyOf(name));
      else localStorage.setItem(keyOf(name), JSON.stringify(value));
    } catch {
      // The page has it still.
    }
  };
  const set = (change: Partial<T>) =>
    setDraft((now) => {
      const next = { ...now, ...change };
      keep(next);
      return next;
    });
  return { draft, set, sent: () => keep(null) };
}
