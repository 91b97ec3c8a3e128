import Dexie, { type EntityTable } from 'dexie';
import type { PersistedClient } from '@tanstack/react-query-persist-client';
import type { Stamp } from '../ask/api';
import type { Taken } from '../ask/taken';
import type { Problem } from '../types.gen';
import { ulid } from '../ulid';

/** A write on its way, as it is kept in this browser. */
export interface Kept extends Stamp {
  /** The order in which it was entered. */
  seq: number;
  path: string;
  body: unknown;
  what: string;
  /** The set that it is about; blank where it is about none. */
  set: string;
  /** It has been sent at least once: it goes again just as it was. */
  sent: boolean;
  /** The program did not answer when it was its turn. */
  stalled: boolean;
  /** Why the program cannot keep anything now, in its words. */
  why: string | null;
  /** How often the program answered that it could not do it. */
  failed: number;
  /** It is not sent before this time of this device, ms, unless something else waits behind it. */
  notBefore: number;
  /** Set aside: the program will not have it, or always fails at it. */
  refused: Problem | null;
  /** When the program took it, ms: it lies over what was read until what it changed has been read. */
  takenAt: number | null;
  /** How many writes the file had taken then. */
  count: number | null;
  /** The file that is open now is a copy from before it was taken. */
  lost: boolean;
}

/** A photo that the program would not take, or cannot: what names it goes without it. */
export const isPhoto = (w: Pick<Kept, 'path'>): boolean => w.path.includes('/photos/');

/** The version of something editable that this browser was last answered. */
interface Version {
  key: string;
  version: number;
}

/** The first program's way of keeping a write. */
interface First {
  mutation: string;
  path: string;
  body: unknown;
  what: string;
  refused?: Problem;
}

type Store = Dexie & {
  writes: EntityTable<Kept, 'seq'>;
  /** What was taken and read since: kept for a while, should an older copy of the file be put back. */
  sent: EntityTable<Kept, 'seq'>;
  versions: EntityTable<Version, 'key'>;
  read: EntityTable<{ key: string; client: PersistedClient }, 'key'>;
  taken: EntityTable<Taken, 'line'>;
};

/** What this browser keeps: writes on their way, what was read last, and what was taken along. */
export const store = new Dexie('old-burrow', { chromeTransactionDurability: 'strict' }) as Store;
store.version(1).stores({ kept: 'mutation' });
store
  .version(2)
  .stores({ writes: '++seq, path, mutation', versions: 'key', read: 'key' })
  .upgrade(async (change) => {
    const before = (await change.table('kept').orderBy('mutation').toArray()) as First[];
    await change.table('writes').bulkAdd(before.map(carriedOver));
    for (let i = localStorage.length - 1; i >= 0; i--) {
      const key = localStorage.key(i);
      const draft = key?.startsWith('draft:') ? localStorage.getItem(key) : null;
      if (key === null || draft === null) continue;
      const design = JSON.parse(draft) as { id: string; lineId: string };
      const path = `/lines/${design.lineId}/designs/${design.id}`;
      if (!before.some((w) => w.path === path)) await change.table('writes').add(newWrite(path, design, 'a design'));
      localStorage.removeItem(key);
    }
  });
store.version(3).stores({ kept: null });
store
  .version(4)
  .stores({ sent: 'seq, mutation' })
  .upgrade((change) => change.table('writes').toCollection().modify({ set: '', count: null, lost: false }));

store.version(5).stores({ taken: 'line' });

/** A write as it is entered, without its place in the order. */
export function newWrite(path: string, body: unknown, what: string, stamp?: Partial<Stamp>): Omit<Kept, 'seq'> {
  return {
    mutation: ulid(),
    file: '',
    deviceAt: new Date().toISOString(),
    offsetMs: null,
    ...stamp,
    path,
    body,
    what,
    set: setOf(body),
    sent: false,
    stalled: false,
    why: null,
    failed: 0,
    notBefore: 0,
    refused: null,
    takenAt: null,
    count: null,
    lost: false,
  };
}

export const isVersioned = (body: unknown): body is { version: number } =>
  typeof body === 'object' && body !== null && typeof (body as { version?: unknown }).version === 'number';

/** The set that something done names. What is only edited, a design of it, is not done there. */
const setOf = (body: unknown): string =>
  typeof body === 'object' && body !== null && !isVersioned(body) && 'setId' in body && typeof body.setId === 'string' ? body.setId : '';

/** A write of the first program: it may have been sent already, and a pull was no act of its own then. */
export function carriedOver(first: First): Omit<Kept, 'seq'> {
  const { mutation, path, body, what, refused } = first;
  const kept = { ...newWrite(path, body, what, { mutation }), sent: true, refused: refused ?? null };
  const [, line, make] = /^\/lines\/(\w+)\/makes\/(\w+)\/pull$/.exec(path) ?? [];
  if (line === undefined || make === undefined) return kept;
  const pull = {
    id: ulid(),
    lineId: line,
    makeId: make,
    at: (body as { at: string }).at,
    later: false,
    rigs: [],
    done: [],
    note: '',
    undoneAt: null,
  };
  return { ...kept, sent: false, path: `/lines/${line}/pulls/${pull.id}`, body: pull };
}
