import { useSyncExternalStore } from 'react';

/** Whether the program answers, as the last request showed. */
let answers = true;
const listeners = new Set<() => void>();

export function reached(does: boolean): void {
  if (answers === does) return;
  answers = does;
  listeners.forEach((listen) => listen());
}

export const reachNow = (): boolean => answers;

export const useReach = (): boolean =>
  useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => answers,
  );
