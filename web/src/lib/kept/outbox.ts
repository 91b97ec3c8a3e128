import { liveQuery } from 'dexie';
import { useSyncExternalStore } from 'react';
import { exchange, Failed, Refused, Unreachable } from '../ask/api';
import { deviceClock } from './clock';
import { isPhoto, isVersioned, newWrite, store, type Kept } from './kept';
import { inTurn, withoutPhoto } from './order';
import { pauseMs, retryMs } from '../ask/pace';
import { noRoom, roomAgain, Unkept } from './room';
import { fileNow, onOlder, onStanding, onStray, setFile as fileIs } from './standing';
import type { Problem } from '../types.gen';
import { ulid } from '../ulid';

export type { Kept } from './kept';

/**
 * What became of a write: the program took it, it is kept here until the program answers, or the program will not have it. Unkept is what
 * this browser had no room for: nothing became of it, and it is still on the screen.
 */
export type Outcome<T = unknown> =
  { state: 'taken'; answer: T } | { state: 'kept' } | { state: 'refused'; problem: Problem } | { state: 'unkept' };

/** Only what the program refuses in its own words is set aside; whatever else it answers is no fault of what was sent. */
const refusals = [400, 404, 409, 410, 413, 415, 422];
/** After so many writes that failed in one go the rest is left for the next. */
const mostFailures = 3;
/** A photo that fails so often is set aside: it must not hold up the look that it belongs to. */
const mostOfAPhoto = 5;

let all: Kept[] = [];
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
  if (fileIs(name)) void flush();
}

/** Whether a write is meant for a file. What was kept before the program ever named one is meant for that which it names first. */
export const isFor = (w: Kept, name: string): boolean => w.file === '' || w.file === name;

/** What is kept for this file, in its order. */
const ofFile = () => {
  const file = fileNow();
  return store.writes
    .orderBy('seq')
    .filter((w) => w.takenAt === null && isFor(w, file))
    .toArray();
};

/** The version that a change to something editable goes on from: what this browser was answered last, when that is newer. */
async function goesOnFrom(path: string, body: unknown): Promise<unknown> {
  if (!isVersioned(body)) return body;
  const known = await store.versions.get(`${fileNow()}|${path}`);
  return known && known.version > body.version ? { ...body, version: known.version } : body;
}

/** Says that this browser has seen a version of what stands under a path. */
export async function seen(path: string, version: number): Promise<void> {
  await store.versions.put({ key: `${fileNow()}|${path}`, version });
}

/** What this browser does with its store: where it has no room, or refuses, nothing moves on and it is said. */
async function keeping<T>(what: string, change: () => Promise<T>): Promise<T> {
  try {
    const done = await change();
    roomAgain();
    return done;
  } catch (error) {
    console.error(error);
    noRoom(what);
    throw new Unkept();
  }
}

interface Entry {
  mutation?: string;
  /** The set that it is about, where its body does not say. */
  set?: string;
  /** Called when it is kept: from then on nothing of it is lost, whatever the program says. */
  onKept?: () => void;
}

/** Enters a write; one that is entered again under its mutation (a file taken in twice) is sent again. */
async function enter(path: string, body: unknown, what: string, { mutation = ulid(), set, onKept }: Entry = {}): Promise<Outcome> {
  await keeping(what, () =>
    store.transaction('rw', store.writes, store.versions, async () => {
      const before = await store.writes.get({ mutation });
      if (before) await store.writes.update(before.seq, { body, takenAt: null, refused: null, failed: 0 });
      else {
        const row = newWrite(path, await goesOnFrom(path, body), what, { file: fileNow(), ...deviceClock(), mutation });
        await store.writes.add(set === undefined ? row : { ...row, set });
      }
    }),
  );
  onKept?.();
  const outcome = new Promise<Outcome>((resolve) => waitingFor.set(mutation, resolve));
  await refresh();
  void flush();
  return outcome;
}

/**
 * Keeps something that was done, and sends it after what was kept before it. It stays here, also when the program will not have
 * it, until it is taken or let go.
 */
export async function act(path: string, body: unknown, what: string, entry?: Entry): Promise<Outcome> {
  try {
    return await enter(path, body, what, entry);
  } catch (error) {
    if (error instanceof Unkept) return { state: 'unkept' };
    throw error;
  }
}

/**
 * Keeps what a form says and sends it. Throws Refused when the program will not have it, and then keeps nothing: the form still
 * holds it; likewise Unkept when this browser cannot keep it.
 */
export async function write<T>(
  path: string,
  body: unknown,
  what: string,
  entry?: Entry,
): Promise<Exclude<Outcome<T>, { state: 'refused' } | { state: 'unkept' }>> {
  const outcome = (await enter(path, body, what, entry)) as Outcome<T>;
  if (outcome.state === 'unkept') throw new Unkept();
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
  const file = fileNow();
  const change = async () => {
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
  };
  await keeping(what, () => store.transaction('rw', store.writes, store.versions, change));
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
  const failed = new Set<string>();
  for (;;) {
    const rows = await ofFile();
    const { goes, waits } = inTurn(rows, failed);
    const [next, behind] = goes;
    if (!next || failed.size >= mostFailures) {
      await stall([...goes, ...waits, ...rows.filter((w) => failed.has(w.mutation))]);
      if (failed.size > 0) later(retryMs);
      return;
    }
    const rests = next.notBefore - Date.now();
    if (rests > 0 && !behind) {
      await stall(waits);
      later(rests);
      return;
    }
    // What is sent is what stands there now; from here on it is not changed any more.
    const row = await store.transaction('rw', store.writes, async () => {
      const stands = await store.writes.get(next.seq);
      if (stands) await store.writes.update(next.seq, { sent: true, body: stands.sent ? stands.body : withoutPhoto(stands, rows) });
      return store.writes.get(next.seq);
    });
    const came = row ? await sendOne(row) : 'done';
    if (came === 'silent') {
      await stall(rows);
      later(retryMs);
      return;
    }
    if (came !== 'failed') continue;
    failed.add(next.mutation);
    await refresh();
  }
}

/** Says of what was not sent that it is kept: whoever waits for it goes on. */
async function stall(rows: Kept[]): Promise<void> {
  const left = rows.filter((w) => w.refused === null);
  if (left.length === 0) return;
  await store.writes.bulkUpdate(left.map((w) => ({ key: w.seq, changes: { stalled: true } })));
  await refresh();
  for (const w of left) spread({ mutation: w.mutation, path: w.path, outcome: { state: 'kept' } });
}

/** Sends one write. One that failed is tried again later by itself, and the others go on; where nobody answers, or nothing can be kept there, all wait. */
async function sendOne(row: Kept): Promise<'done' | 'failed' | 'silent'> {
  const news = (outcome: Outcome) => spread({ mutation: row.mutation, path: row.path, outcome });
  const aside = async (problem: Problem) => {
    await store.writes.update(row.seq, { refused: problem, why: null });
    await refresh();
    news({ state: 'refused', problem });
    return 'done' as const;
  };
  try {
    const { answer, writes } = await exchange('PUT', row.path, row.body, row);
    await take(row, answer, writes);
    await refresh(); // whoever hears of it sees what waits now
    news({ state: 'taken', answer });
    return 'done';
  } catch (error) {
    if (error instanceof Unreachable) return 'silent';
    if (!(error instanceof Refused || error instanceof Failed)) throw error;
    const { problem } = error;
    // A newer page than the program: it waits until that is brought up to date.
    const newer = problem.code === 'unknown_field';
    if ((refusals.includes(problem.status) && !newer) || problem.code === 'role') return aside(problem);
    const failed = row.failed + 1;
    if (isPhoto(row) && problem.code === undefined && failed >= mostOfAPhoto) return aside(problem);
    await store.writes.update(row.seq, { why: problem.detail, failed });
    return problem.code === undefined && problem.status >= 500 ? 'failed' : 'silent';
  }
}

/** Notes that a write was taken; what was entered after it on the same thing goes on from the version that it became. */
async function take(row: Kept, answer: unknown, count: number): Promise<void> {
  await store.transaction('rw', store.writes, store.versions, async () => {
    await store.writes.update(row.seq, { takenAt: Date.now(), count, why: null });
    if (!isVersioned(answer)) return;
    await store.versions.put({ key: `${row.file}|${row.path}`, version: answer.version });
    const behind = await store.writes
      .where({ path: row.path })
      .filter((w) => w.seq > row.seq && !w.sent && isVersioned(w.body))
      .toArray();
    for (const w of behind) await store.writes.update(w.seq, { body: { ...(w.body as object), version: answer.version } });
  });
}

/** How long what was taken is kept, should an older copy of the file be put back, ms; and how large its photos may be in all, bytes. */
const keptMs = 14 * 86_400_000;
const mostOfPhotos = 20 << 20;

const sizeOf = (w: Kept): number => (w.body instanceof Blob ? w.body.size : 0);

/** Puts what was taken before a time, ms, with what was sent: what it changed has been read since, and it lies over nothing any more. */
export async function putAway(before: number): Promise<void> {
  const now = Date.now();
  await store.transaction('rw', store.writes, store.sent, async () => {
    const read = await store.writes.filter((w) => w.takenAt !== null && w.takenAt < before).toArray();
    if (read.length === 0) return;
    await store.sent.bulkPut(read);
    await store.writes.bulkDelete(read.map((w) => w.seq));
    await store.sent.filter((w) => !w.lost && (w.takenAt ?? 0) < now - keptMs).delete();
    let room = mostOfPhotos;
    for (const w of await store.sent
      .orderBy('seq')
      .reverse()
      .filter((one) => isPhoto(one) && !one.lost)
      .toArray()) {
      room -= sizeOf(w);
      if (room < 0) await store.sent.delete(w.seq);
    }
  });
  await refresh();
}

/** What was taken by this file and is not in it any more, since an older copy of it was put back, in its order. */
export async function lostNow(): Promise<Kept[]> {
  const file = fileNow();
  const lost = (w: Kept) => w.lost && w.file === file;
  const rows = [...(await store.sent.filter(lost).toArray()), ...(await store.writes.filter(lost).toArray())];
  return rows.sort((a, b) => a.seq - b.seq);
}

onOlder((file, before, writes) => {
  const after = (w: Kept) => w.file === before && w.takenAt !== null && (w.count ?? 0) > writes;
  const mark = async () => {
    for (const table of [store.writes, store.sent]) await table.filter(after).modify({ lost: true, file });
    // What this browser knows of versions is of the file as it was.
    await store.versions.where('key').startsWith(`${file}|`).delete();
  };
  void store.transaction('rw', store.writes, store.sent, store.versions, mark).then(refresh);
});

/** Sends what an older copy of the file lacks once more, as it was, the oldest first. */
export async function sendLost(rows: Kept[]): Promise<void> {
  await store.transaction('rw', store.writes, store.sent, async () => {
    await store.sent.bulkDelete(rows.map((w) => w.seq));
    await store.writes.bulkPut(
      rows.map((w) => ({ ...w, lost: false, takenAt: null, count: null, refused: null, failed: 0, stalled: false })),
    );
  });
  await refresh();
  void flush();
}

/** Leaves what an older copy of the file lacks as it is. */
export async function leaveLost(): Promise<void> {
  const file = fileNow();
  for (const table of [store.writes, store.sent]) await table.filter((w) => w.lost && w.file === file).modify({ lost: false });
  await refresh();
}

/** Lets go of what was sent, which is kept only against an older copy of the file; what such a copy lacks stays. */
export async function letGoOfSent(): Promise<void> {
  await store.sent.filter((w) => !w.lost).delete();
}

/** Lets go of a write, whatever has become of it, and of what took it back. */
export async function drop(mutation: string): Promise<void> {
  const row = await store.writes.get({ mutation });
  await store.writes.where({ mutation }).delete();
  if (row) await store.writes.where({ path: `${row.path}/undo` }).delete();
  await refresh();
}

/** Sends again what was set aside, with what has to be changed of it. */
export async function sendAgain(mutation: string, change: Partial<Kept> = {}): Promise<void> {
  await store.writes.where({ mutation }).modify({ refused: null, failed: 0, why: null, ...change });
  await refresh();
  void flush();
}

/** Sends everything again that was set aside, in its order. */
export async function sendAllAgain(): Promise<void> {
  const file = fileNow();
  await store.writes.filter((w) => w.refused !== null && isFor(w, file)).modify({ refused: null, failed: 0, why: null });
  await refresh();
  void flush();
}

/** Sends what was entered for another file to the one that is open, in its order. */
export async function sendHere(rows: Kept[]): Promise<void> {
  const file = fileNow();
  await store.writes.bulkUpdate(rows.map((w) => ({ key: w.seq, changes: { file, refused: null, failed: 0, why: null, stalled: false } })));
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
export const useFile = (): string => useSyncExternalStore(onStanding, fileNow);

// Something else answers at this address, or another file is open: which one has to be asked anew.
onStray(() => heard.forEach((listen) => listen('')));

liveQuery(() => store.writes.orderBy('seq').toArray()).subscribe(show);
window.addEventListener('online', () => void flush());
window.addEventListener('visibilitychange', () => void flush());
void flush();
// Only a secure context has it.
if ('storage' in navigator) void navigator.storage.persist();
