import { useSyncExternalStore } from 'react';

/** From here on there is room for a column beside the other. */
const wide = '(min-width: 64rem)';

const subscribe = (changed: () => void): (() => void) => {
  const query = matchMedia(wide);
  query.addEventListener('change', changed);
  return () => query.removeEventListener('change', changed);
};

/** Whether the page is wide enough for two columns; without a window to ask (tests of parts) it is. */
export const useWide = (): boolean =>
  useSyncExternalStore(
    typeof matchMedia === 'function' ? subscribe : () => () => undefined,
    () => typeof matchMedia !== 'function' || matchMedia(wide).matches,
  );
