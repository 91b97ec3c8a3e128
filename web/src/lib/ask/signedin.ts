import { useSyncExternalStore } from 'react';
import type { Problem } from '../types.gen';

/** Why the program lets this device in no more: it never came in, or its session was ended; blank while it does. */
export type Out = '' | 'session' | 'ended';

let out: Out = '';
const listeners = new Set<() => void>();

function set(is: Out): void {
  if (out === is) return;
  out = is;
  listeners.forEach((listen) => listen());
}

/** Takes what an answer says of that. */
export function heardAtDoor(problem: Problem): void {
  if (problem.status === 401 && (problem.code === 'session' || problem.code === 'ended')) set(problem.code);
}

export const letIn = (): void => set('');

export const onDoor = (listen: () => void) => {
  listeners.add(listen);
  return () => void listeners.delete(listen);
};

export const outNow = (): Out => out;

export const useOut = (): Out => useSyncExternalStore(onDoor, outNow);
