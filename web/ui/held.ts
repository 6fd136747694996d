/** Whether a slider of the page is held just now: what depends on its value may then be worked out elsewhere. */
let held = false;
const listeners = new Set<() => void>();

export const heldSlider = {
  get: (): boolean => held,
  set(now: boolean): void {
    if (held === now) return;
    held = now;
    for (const listener of listeners) listener();
  },
  subscribe(listener: () => void): () => void {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
};
