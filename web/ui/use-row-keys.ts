import { useLayoutEffect, useRef, useState, type FocusEvent, type KeyboardEvent } from 'react';

const controls = 'a[href], button, input, select';
const steps: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, Home: -Infinity, End: Infinity };

/**
 * A table of which one row is a stop of Tab, and the arrow keys go from row to row, to the control in the same place.
 *
 * @returns what its body takes
 */
export function useRowKeys() {
  const ref = useRef<HTMLTableSectionElement>(null);
  const [current, setCurrent] = useState(0);
  const inRow = (row: HTMLTableRowElement | undefined) => [...(row?.querySelectorAll<HTMLElement>(controls) ?? [])];
  // Headings between rows are no stops.
  const rows = () => [...(ref.current?.rows ?? [])].filter((row) => inRow(row).length > 0);
  // After every drawing: rows come and go, and some bring controls later.
  useLayoutEffect(() => {
    const all = rows();
    const stop = Math.min(current, all.length - 1);
    all.forEach((row, i) => inRow(row).forEach((control) => (control.tabIndex = i === stop ? 0 : -1)));
  });
  return {
    ref,
    onFocus: (event: FocusEvent) => {
      const at = rows().findIndex((row) => row.contains(event.target));
      if (at >= 0 && at !== current) setCurrent(at);
    },
    onKeyDown: (event: KeyboardEvent) => {
      const step = steps[event.key];
      if (step === undefined || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
      const target = event.target as HTMLElement;
      if (['INPUT', 'SELECT', 'TEXTAREA'].includes(target.tagName)) return;
      const all = rows();
      const from = all.findIndex((row) => row.contains(target));
      if (from < 0) return;
      event.preventDefault();
      const to = all[Math.min(all.length - 1, Math.max(0, from + step))];
      const place = inRow(all[from]).indexOf(target);
      const there = inRow(to);
      (there[place] ?? there[0])?.focus();
    },
  };
}
