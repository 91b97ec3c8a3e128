import { liveQuery } from 'dexie';
import { useSyncExternalStore } from 'react';
import { call, Failed, Refused } from './api';
import { deviceClock } from './clock';
import { newWrite, store, type Kept } from './kept';
import { pauseMs, retryMs } from './pace';
import type { Problem } from './types.gen';
import { ulid } from './ulid';

export type { Kept } from './kept';

/** What became of a write: the program took it, it is kept here until the program answers, or the program will not have it. */
export type Outcome<T = unknown> = { state: 'taken'; answer: T } | { state: 'kept' } | { state: 'refused'; problem: Problem };

/** A write that the program answers so often that it cannot be done is set aside, so that the rest goes on. */
const mostFailures = 3;
/** What the program answers to a write that is meant for another file than the one it has open. */
const otherFile = 421;

let all: Kept[] = [];
let file = localStorage.getItem('file') ?? '';
const listeners = new Set<() => void>();
const heard = new Set<(path: string) => void>();
const waitingFor = new Map<string, (outcome: Outcome) => void>();
const tabs = new BroadcastChannel('old-burrow');

interface News {
  mutation: string;
  path: string;
  outcome: Outcome;
}

/** Tells whoever waits for a write what became of it, in this window; and whoever reads, that something was taken. */
function tell({ mutation, path, outcome }: News) {
  waitingFor.get(mutation)?.(outcome);
  waitingFor.delete(mutation);
  if (outcome.state === 'taken') heard.forEach((listen) => listen(path));
}

function spread(news: News) {
  tell(news);
  tabs.postMessage(news);
}

tabs.onmessage = (e: MessageEvent<News>) => tell(e.data);

async function refresh() {
  show(await store.writes.orderBy('seq').toArray());
}

function show(rows: Kept[]) {
  all = rows;
  listeners.forEach((listen) => listen());
}

/** The data file that the program has open: what is entered is meant for it, and goes to no other. */
export function setFile(name: string): void {
  if (file === name) return;
  file = name;
  localStorage.setItem('file', name);
  void flush();
}

/** Whether a write is meant for a file. What was kept before the program ever named one is meant for that which it names first. */
export const isFor = (w: Kept, name: string): boolean => w.file === '' || w.file === name;

/** What is still to be sent to this file, in its order. */
const toSend = () => store.writes.orderBy('seq').filter((w) => w.refused === null && w.takenAt === null && isFor(w, file));

/** The version that a change to something editable goes on from: what this browser was answered last, when that is newer. */
async function goesOnFrom(path: string, body: unknown): Promise<unknown> {
  if (!isVersioned(body)) return body;
  const known = await store.versions.get(`${file}|${path}`);
  return known && known.version > body.version ? { ...body, version: known.version } : body;
}

const isVersioned = (body: unknown): body is { version: number } =>
  typeof body === 'object' && body !== null && typeof (body as { version?: unknown }).version === 'number';

/** Says that this browser has seen a version of what stands under a path. */
export async function seen(path: string, version: number): Promise<void> {
  await store.versions.put({ key: `${file}|${path}`, version });
}

/** Enters a write; one that is entered again under its mutation (a file taken in twice) is sent again. */
async function enter(path: string, body: unknown, what: string, mutation = ulid()): Promise<Outcome> {
  const outcome = new Promise<Outcome>((resolve) => waitingFor.set(mutation, resolve));
  await store.transaction('rw', store.writes, store.versions, async () => {
    const before = await store.writes.get({ mutation });
    if (before) await store.writes.update(before.seq, { body, takenAt: null, refused: null, failed: 0 });
    else await store.writes.add(newWrite(path, await goesOnFrom(path, body), what, { file, ...deviceClock(), mutation }));
  });
  await refresh();
  void flush();
  return outcome;
}

/**
 * Keeps something that was done, and sends it after what was kept before it. It stays here, also when the program will not have
 * it, until it is taken or let go.
 */
export async function act<T>(path: string, body: unknown, what: string): Promise<Outcome<T>> {
  return (await enter(path, body, what)) as Outcome<T>;
}

/**
 * Keeps what a form says and sends it. Throws Refused when the program will not have it, and then keeps nothing: the form still
 * holds it.
 */
export async function write<T>(
  path: string,
  body: unknown,
  what: string,
  mutation?: string,
): Promise<Exclude<Outcome<T>, { state: 'refused' }>> {
  const outcome = (await enter(path, body, what, mutation)) as Outcome<T>;
  if (outcome.state !== 'refused') return outcome;
  await store.writes
    .where({ path })
    .filter((w) => w.refused !== null)
    .delete();
  await refresh();
  throw new Refused(outcome.problem);
}

/**
 * Keeps something that is still being worked on, at once, in the place of what was kept of it and not yet sent. It is sent when
 * the hand rests.
 */
export async function save(path: string, body: unknown, what: string): Promise<void> {
  await store.transaction('rw', store.writes, store.versions, async () => {
    const rows = await store.writes.where({ path }).sortBy('seq');
    const notBefore = Date.now() + pauseMs;
    const asideByConflict = rows.find((w) => w.refused?.status === 409);
    const unsent = rows.find((w) => !w.sent && w.takenAt === null && isFor(w, file));
    const mine = asideByConflict ?? unsent;
    if (mine) {
      const { version } = mine.body as { version: number };
      await store.writes.update(mine.seq, { body: { ...(body as object), version }, notBefore });
      return;
    }
    // What the program would not have is overtaken by this.
    await store.writes.bulkDelete(rows.filter((w) => w.refused !== null).map((w) => w.seq));
    const row = newWrite(path, await goesOnFrom(path, body), what, { file, ...deviceClock() });
    await store.writes.add({ ...row, notBefore });
  });
  await refresh();
  void flush();
}

let timer: number | undefined;
let flushing = false;
let again = false;

function later(ms: number) {
  window.clearTimeout(timer);
  timer = window.setTimeout(() => void flush(), ms);
}

/** Sends what is kept, in its order, until the program does not answer. One window sends for all. */
export async function flush(): Promise<void> {
  again = true;
  if (flushing) return;
  flushing = true;
  try {
    while (again) {
      again = false;
      // Only a secure context has locks. Without them two windows may send the same write: the program takes it once.
      if ('locks' in navigator) await navigator.locks.request('old-burrow outbox', sendAll);
      else await sendAll();
    }
  } finally {
    flushing = false;
  }
}

async function sendAll(): Promise<void> {
  for (;;) {
    const [next, behind] = await toSend().limit(2).toArray();
    if (!next) return;
    const rests = next.notBefore - Date.now();
    if (rests > 0 && !behind) {
      later(rests);
      return;
    }
    // What is sent is what stands there now; from here on it is not changed any more.
    const row = await store.transaction('rw', store.writes, async () => {
      await store.writes.update(next.seq, { sent: true });
      return store.writes.get(next.seq);
    });
    if (row && !(await sendOne(row))) {
      const stalled = await toSend().toArray();
      await store.writes.bulkUpdate(stalled.map((w) => ({ key: w.seq, changes: { stalled: true } })));
      await refresh();
      for (const w of stalled) spread({ mutation: w.mutation, path: w.path, outcome: { state: 'kept' } });
      later(retryMs);
      return;
    }
    await refresh();
  }
}

/** Sends one write; false when it has to be tried again later. */
async function sendOne(row: Kept): Promise<boolean> {
  const news = (outcome: Outcome) => spread({ mutation: row.mutation, path: row.path, outcome });
  try {
    const answer = await call('PUT', row.path, row.body, row);
    await take(row, answer);
    news({ state: 'taken', answer });
  } catch (error) {
    if (error instanceof Refused && error.problem.status === otherFile) {
      heard.forEach((listen) => listen('')); // which file it is has to be asked anew
      return false;
    }
    if (error instanceof Refused) {
      await store.writes.update(row.seq, { refused: error.problem });
      news({ state: 'refused', problem: error.problem });
    } else if (error instanceof Failed && error.problem.code) {
      // Nothing can be kept there now, and this is not to blame: it waits, however long that takes.
      await store.writes.update(row.seq, { why: error.problem.detail });
      return false;
    } else if (error instanceof Failed && row.failed + 1 >= mostFailures) {
      await store.writes.update(row.seq, { failed: row.failed + 1, refused: error.problem });
      news({ state: 'refused', problem: error.problem });
    } else {
      if (error instanceof Failed) await store.writes.update(row.seq, { failed: row.failed + 1 });
      return false;
    }
  }
  return true;
}

/** Notes that a write was taken; what was entered after it on the same thing goes on from the version that it became. */
async function take(row: Kept, answer: unknown): Promise<void> {
  await store.transaction('rw', store.writes, store.versions, async () => {
    await store.writes.update(row.seq, { takenAt: Date.now(), body: row.body instanceof Blob ? null : row.body });
    if (!isVersioned(answer)) return;
    await store.versions.put({ key: `${row.file}|${row.path}`, version: answer.version });
    const behind = await store.writes
      .where({ path: row.path })
      .filter((w) => w.seq > row.seq && !w.sent && isVersioned(w.body))
      .toArray();
    for (const w of behind) await store.writes.update(w.seq, { body: { ...(w.body as object), version: answer.version } });
  });
}

/** Forgets what was taken before a time, ms: what it changed has been read since, and that is kept. */
export async function forgetTaken(before: number): Promise<void> {
  const n = await store.writes.filter((w) => w.takenAt !== null && w.takenAt < before).delete();
  if (n > 0) await refresh();
}

/** Lets go of a write, whatever has become of it. */
export async function drop(mutation: string): Promise<void> {
  await store.writes.where({ mutation }).delete();
  await refresh();
}

/** Sends again what was set aside, with what has to be changed of it. */
export async function sendAgain(mutation: string, change: Partial<Kept> = {}): Promise<void> {
  await store.writes.where({ mutation }).modify({ refused: null, failed: 0, why: null, ...change });
  await refresh();
  void flush();
}

/** Lets go of everything that is kept of a path. */
export async function dropPath(path: string): Promise<void> {
  await store.writes.where({ path }).delete();
  await refresh();
}

/** Calls back with the path of every write that the program has taken; blank when it has another file open than was thought. */
export function onTaken(listen: (path: string) => void): () => void {
  heard.add(listen);
  return () => void heard.delete(listen);
}

/** Calls back whenever what is kept has changed. */
export const onKept = (listen: () => void) => {
  listeners.add(listen);
  return () => void listeners.delete(listen);
};

export const keptNow = (): Kept[] => all;

/** Everything that this browser keeps, in the order in which it was entered; also what was taken and not read again since. */
export const useKept = (): Kept[] => useSyncExternalStore(onKept, keptNow);

export const isWaiting = (w: Kept): boolean => w.refused === null && w.takenAt === null;

/** The file that the program has open, as this browser knows it. */
export const useFile = (): string => useSyncExternalStore(onKept, () => file);

liveQuery(() => store.writes.orderBy('seq').toArray()).subscribe(show);
window.addEventListener('online', () => void flush());
window.addEventListener('visibilitychange', () => void flush());
void flush();
// Only a secure context has it.
if ('storage' in navigator) void navigator.storage.persist();
