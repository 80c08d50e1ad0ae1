import { useSyncExternalStore } from 'react';

const narrow = window.matchMedia('(max-width: 47.99em)');

const listen = (onChange: () => void) => {
  narrow.addEventListener('change', onChange);
  return () => narrow.removeEventListener('change', onChange);
};

/** Whether the page is as narrow as on a phone. */
export const useIsNarrow = (): boolean => useSyncExternalStore(listen, () => narrow.matches);
