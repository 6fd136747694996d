import { useCallback, useSyncExternalStore } from 'react';

/** From here on there is room for a column beside the other. */
const wide = '(min-width: 64rem)';

/** Whether a media query holds; `other` where there is no window to ask (tests of parts). */
function useMedia(query: string, other: boolean): boolean {
  const subscribe = useCallback(
    (changed: () => void) => {
      if (typeof matchMedia !== 'function') return () => undefined;
      const list = matchMedia(query);
      list.addEventListener('change', changed);
      return () => list.removeEventListener('change', changed);
    },
    [query],
  );
  return useSyncExternalStore(subscribe, () => (typeof matchMedia === 'function' ? matchMedia(query).matches : other));
}

/** Whether the page is wide enough for two columns. */
export const useWide = (): boolean => useMedia(wide, true);

/** Whether the page is high enough for five rows where three stand otherwise. */
export const useHigh = (): boolean => useMedia('(min-height: 56rem)', false);
