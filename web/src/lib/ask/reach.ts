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

/** Calls back when that is otherwise. */
export const onReach = (listen: () => void) => {
  listeners.add(listen);
  return () => void listeners.delete(listen);
};

export const useReach = (): boolean => useSyncExternalStore(onReach, reachNow);
