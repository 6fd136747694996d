import { useCallback, useState } from 'react';

/** The width of an element in px, as it is laid out; `start` before that, and where nobody measures (tests of parts). */
export function useWidth(
  start: number,
): readonly [ref: (element: HTMLElement | null) => (() => void) | undefined, width: number] {
  const [width, setWidth] = useState(start);
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element || typeof ResizeObserver === 'undefined') return undefined;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}
