import { useSyncExternalStore } from 'react';

/** Where three columns have no room: a phone, or a window at 200 % zoom. */
const NARROW = '(max-width: 767px)';

const listen = (onChange: () => void) => {
  const query = window.matchMedia(NARROW);
  query.addEventListener('change', onChange);
  return () => query.removeEventListener('change', onChange);
};

/** Whether there is room for one column only. */
export const useNarrow = (): boolean => useSyncExternalStore(listen, () => window.matchMedia(NARROW).matches);
