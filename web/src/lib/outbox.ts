import Dexie, { type EntityTable } from 'dexie';
import { useSyncExternalStore } from 'react';
import { call, Refused } from './api';
import type { Problem } from './types.gen';
import { ulid } from './ulid';

/** A write on its way: it is kept in this browser until the program has answered. */
export interface Kept {
  mutation: string;
  path: string;
  body: unknown;
  what: string;
  refused?: Problem;
}

/** What became of a write: the program's answer, or kept here to be sent when the program answers again. */
export type Sent<T> = { sent: true; answer: T } | { sent: false };

const store = new Dexie('old-burrow', { chromeTransactionDurability: 'strict' }) as Dexie & {
  kept: EntityTable<Kept, 'mutation'>;
};
store.version(1).stores({ kept: 'mutation' });

let waiting: Kept[] = [];
const listeners = new Set<() => void>();
const heard = new Set<(path: string) => void>();
const outcomes = new Map<string, { resolve: (sent: Sent<unknown>) => void; reject: (error: unknown) => void }>();
let sending = false;
let retry: number | undefined;

async function refresh() {
  waiting = await store.kept.orderBy('mutation').toArray();
  listeners.forEach((listen) => listen());
}

/**
 * Keeps a write and sends it, after those kept before it. Resolves as soon as the program has answered or is known to be out
 * of reach; rejects with Refused when the program will not have it, and then keeps nothing: the form still holds it.
 */
export async function write<T>(path: string, body: unknown, what: string, mutation = ulid()): Promise<Sent<T>> {
  await store.kept.put({ mutation, path, body, what });
  await refresh();
  const outcome = new Promise<Sent<unknown>>((resolve, reject) => outcomes.set(mutation, { resolve, reject }));
  void flush();
  return (await outcome) as Sent<T>;
}

/** Sends what is kept, oldest first, until the program does not answer. */
export async function flush(): Promise<void> {
  if (sending) return;
  sending = true;
  window.clearTimeout(retry);
  try {
    await refresh();
    for (let next = waiting.find((w) => !w.refused); next; next = waiting.find((w) => !w.refused)) {
      if (!(await sendOne(next))) {
        outcomes.forEach((outcome) => outcome.resolve({ sent: false }));
        outcomes.clear();
        retry = window.setTimeout(() => void flush(), 4000);
        return;
      }
      await refresh();
    }
  } finally {
    sending = false;
  }
}

/** Sends one write; false when the program does not answer. */
async function sendOne(kept: Kept): Promise<boolean> {
  const outcome = outcomes.get(kept.mutation);
  try {
    const answer = await call('PUT', kept.path, kept.body, kept.mutation);
    await store.kept.delete(kept.mutation);
    outcome?.resolve({ sent: true, answer });
    heard.forEach((listen) => listen(kept.path));
  } catch (error) {
    if (!(error instanceof Refused)) return false;
    if (outcome) {
      await store.kept.delete(kept.mutation);
      outcome.reject(error);
    } else {
      await store.kept.update(kept.mutation, { refused: error.problem });
    }
  }
  outcomes.delete(kept.mutation);
  return true;
}

/** Lets go of a write that the program would not have. */
export async function drop(mutation: string): Promise<void> {
  await store.kept.delete(mutation);
  await refresh();
}

/** Calls back with the path of every write that the program has taken. */
export function onSent(listen: (path: string) => void): () => void {
  heard.add(listen);
  return () => heard.delete(listen);
}

/** The writes that are still on their way. */
export function useKept(): Kept[] {
  return useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => waiting,
  );
}

window.addEventListener('online', () => void flush());
void flush();
// Only a secure context has it.
if ('storage' in navigator) void navigator.storage.persist();
