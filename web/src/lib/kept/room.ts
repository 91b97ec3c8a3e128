import { useSyncExternalStore } from 'react';

/** What this browser could not keep, since it has no room left or refuses; null while it keeps everything. */
let unkept: string | null = null;
const listeners = new Set<() => void>();

function say(what: string | null) {
  unkept = what;
  listeners.forEach((listen) => listen());
}

export const noRoom = (what: string): void => say(what);
export const roomAgain = (): void => {
  if (unkept !== null) say(null);
};

export const useNoRoom = (): string | null =>
  useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => unkept,
  );

/** This browser could not keep something: nothing has been sent, and the screen stays as it is. */
export class Unkept extends Error {
  constructor() {
    super('This browser could not keep it.');
  }
}
