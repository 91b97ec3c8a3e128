import { Refused, Unreachable } from './answers';
import { exchange } from './api';
import { pageCore } from './core';
import { againMs } from './pace';
import { nowISO } from '../kept/clock';
import { store, type Kept } from '../kept/kept';
import { isFor, keptNow } from '../kept/outbox';
import { fileNow } from '../kept/standing';
import { whoNow } from '../kept/who';
import type { BundlePart, BundleView } from '../types.gen';

/**
 * The open season of a line, as this browser took it along: while the program is silent the core answers from it what pages ask, with what was
 * entered since laid over it.
 */
export interface Taken {
  line: string;
  file: string;
  form: number;
  /** When it was asked for, ms of this device: what was taken before that is in it; and when that was by the program's clock. */
  askedMs: number;
  at: string;
  parts: Record<string, BundlePart>;
}

const lastTaken = new Map<string, number>();
let later: number | undefined;

/** Takes the season along, or what of it is otherwise than it was; no oftener than once in a while: what comes sooner comes then. */
export async function take(line: string): Promise<void> {
  const askedMs = Date.now();
  const soonest = (lastTaken.get(line) ?? 0) + againMs;
  window.clearTimeout(later);
  if (askedMs < soonest) {
    later = window.setTimeout(() => void take(line), soonest - askedMs);
    return;
  }
  lastTaken.set(line, askedMs);
  const file = fileNow();
  const before = await store.taken.get(line);
  const goesOn = before?.file === file ? before : undefined;
  const have = Object.fromEntries(Object.entries(goesOn?.parts ?? {}).map(([name, part]) => [name, part.digest]));
  try {
    const { answer } = await exchange<BundleView>('POST', `/lines/${line}/bundle`, { have });
    const parts = { ...goesOn?.parts, ...answer.parts };
    await store.taken.put({ line, file, form: answer.form, askedMs, at: answer.at, parts });
  } catch {
    lastTaken.delete(line); // it is tried again when it is wanted next
  }
}

/** What of what is kept is laid over it: all that it cannot have in it and that the program would have. */
const liesOver = (w: Kept, { line, askedMs }: Taken): boolean =>
  w.refused === null &&
  (w.takenAt === null || w.takenAt >= askedMs) &&
  !(w.body instanceof Blob) &&
  isFor(w, fileNow()) &&
  (w.path === `/lines/${line}` || w.path.startsWith(`/lines/${line}/`));

/** What was entered since, in its order: also what the program has taken and the pages have read anew, which is put away by then. */
async function since(taken: Taken): Promise<Kept[]> {
  const sent = await store.sent
    .orderBy('seq')
    .reverse()
    .until((w) => (w.takenAt ?? 0) < taken.askedMs)
    .toArray();
  return [...sent.reverse(), ...keptNow()].filter((w) => liesOver(w, taken)).sort((a, b) => a.seq - b.seq);
}

/** A write as the core reads it. */
const written = ({ path, body, deviceAt, offsetMs }: Kept) => ({
  path,
  body,
  who: whoNow(),
  at: new Date(Date.parse(deviceAt) + (offsetMs ?? 0)).toISOString(),
  deviceAt,
  aheadMs: offsetMs,
});

/** The whole of it, put together from its parts. */
function whole({ parts }: Taken): unknown {
  const { head, ...rows } = parts;
  return { ...(head?.is as object), rows: Object.fromEntries(Object.entries(rows).map(([name, part]) => [name, part.is])) };
}

/** What the core was last told to hold, by which of its workers. */
let held = { of: '', writes: '', born: -1 };

/** Tells the core what to hold, where it is not that already; gives when that was taken along. */
async function hold(line: string): Promise<string> {
  const taken = await store.taken.get(line);
  if (taken?.file !== fileNow()) throw new Unreachable();
  const of = `${line} ${taken.file} ${taken.askedMs}`;
  const laid = (await since(taken)).map(written);
  const writes = JSON.stringify(laid);
  const same = held.born === pageCore.born && held.of === of;
  if (same && held.writes === writes) return taken.at;
  const told = pageCore.ask('/hold', { bundle: same ? undefined : whole(taken), writes: laid });
  held = { of, writes, born: pageCore.born };
  await told;
  return taken.at;
}

const isNotHere = (error: unknown) => error instanceof Refused && error.problem.code === 'not_here';

/** Asks the core what a page asks of a line; with when it was taken along. Throws Unreachable where this browser did not take that along. */
export async function askTaken(line: string, path: string, body: unknown): Promise<{ answer: unknown; takenAt: string }> {
  const [bare = '', query = ''] = path.split('?');
  for (let left = 1; ; left--) {
    const { born } = pageCore;
    try {
      const takenAt = await hold(line);
      const answer = await pageCore.ask(bare, { now: nowISO(), query: Object.fromEntries(new URLSearchParams(query)), body });
      return { answer, takenAt };
    } catch (error) {
      // A worker that was begun anew meanwhile holds nothing.
      if (isNotHere(error) && pageCore.born !== born && left > 0) continue;
      throw isNotHere(error) ? new Unreachable() : error;
    }
  }
}
