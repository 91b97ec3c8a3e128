import { useSyncExternalStore } from 'react';

/** Whether a newer page than this one has been fetched meanwhile: the next load shows it. */
let newer = false;
const listeners = new Set<() => void>();

// Only a secure context keeps pages. The first page that is kept takes over from none.
if ('serviceWorker' in navigator && navigator.serviceWorker.controller) {
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    newer = true;
    listeners.forEach((listen) => listen());
  });
}

export const useNewer = (): boolean =>
  useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => newer,
  );
