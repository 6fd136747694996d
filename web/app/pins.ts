import { useSyncExternalStore } from 'react';

const key = 'vast-surge.pins';

const read = (): readonly string[] => {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
    return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string') : [];
  } catch {
    return [];
  }
};

let pins = read();
const listeners = new Set<() => void>();

/** Pins a figure to the top of its page on this device, or takes it off again. */
export function togglePin(id: string): void {
  pins = pins.includes(id) ? pins.filter((one) => one !== id) : [...pins, id];
  try {
    localStorage.setItem(key, JSON.stringify(pins));
  } catch {
    // Without room on the device it is pinned as long as the page is open.
  }
  for (const changed of listeners) changed();
}

/** Ids of the figures that are pinned, in the order in which they were. */
export const usePins = (): readonly string[] =>
  useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      return () => listeners.delete(changed);
    },
    () => pins,
  );
