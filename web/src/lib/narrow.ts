import { useSyncExternalStore } from 'react';

const query = window.matchMedia('(max-width: 800px)');

const subscribe = (listen: () => void) => {
  query.addEventListener('change', listen);
  return () => query.removeEventListener('change', listen);
};

/** Whether the page is read in the hand. */
export const useNarrow = (): boolean => useSyncExternalStore(subscribe, () => query.matches);
