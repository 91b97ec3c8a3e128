import type { Kept } from './kept';
import type { Book, CaughtAnimal, Design, Ground, LineView, Make, Property, Pull, SetView, Spot, Visit } from './types.gen';

/**
 * What was entered here is laid over what was read, until the program has taken it and it is read anew. Only what was answered is
 * said, and that it waits: dues, nights, rates and the order stay as they were read.
 */

/** What was read, and when it was asked for, ms of this device. */
export type Read<T> = T & { askedMs: number };

/** A set with what was answered about it here and is not read again yet. */
export interface SetNow extends SetView {
  answered: 'looked' | 'remade' | 'pulled' | null;
  /** Whether the program does not have that yet. */
  waits: boolean;
}

export interface LineNow extends Omit<LineView, 'sets'> {
  askedMs: number;
  sets: SetNow[];
  /** Designs that were built here, as sets that the program has not numbered yet. */
  built: string[];
}

export interface BookNow extends Book {
  /** Catches that are kept here and not in the book yet. */
  waiting: CaughtAnimal[];
}

interface Place {
  line: string;
  kind: string;
  id: string;
  undo: boolean;
}

function placeOf(path: string): Place | null {
  const [, line, kind, id, undo] = /^\/lines\/(\w+)\/(\w+)\/(\w+)(\/undo)?$/.exec(path) ?? [];
  return line === undefined || kind === undefined || id === undefined ? null : { line, kind, id, undo: undo !== undefined };
}

/** Whether a write is to be laid over what was asked for then: not what the program would not have, nor what it had taken by then. */
export const liesOver = (w: Kept, askedMs: number): boolean => w.refused === null && (w.takenAt === null || w.takenAt >= askedMs);

/** What is to be laid over a reading of a line. */
function over(lineID: string, askedMs: number, kept: Kept[]): { at: Place; body: unknown; waits: boolean }[] {
  return kept.flatMap((w) => {
    const at = placeOf(w.path);
    if (at?.line !== lineID || !liesOver(w, askedMs)) return [];
    return [{ at, body: w.body, waits: w.takenAt === null }];
  });
}

interface Listed {
  id: string;
  deleted?: boolean;
}

/** A list with one thing of it changed, added or deleted. */
function laidIn<T extends Listed>(list: T[], x: T): T[] {
  const rest = list.filter((one) => one.id !== x.id);
  if (x.deleted) return rest;
  return rest.length === list.length ? [...list, x] : list.map((one) => (one.id === x.id ? x : one));
}

/** A set that was seen to here: it leaves what is still to see, and nothing is said any more of when it is due. */
const seenTo = (set: SetNow, answered: SetNow['answered'], waits: boolean): SetNow => ({
  ...set,
  answered,
  waits,
  bead: { ...set.bead, today: false, late: false, due: null },
});

class Laying {
  view: LineNow;
  /** What a set was before an act, by the act's id. */
  private readonly before = new Map<string, SetNow>();
  /** The set of every make that was met. */
  private readonly setOf = new Map<string, string>();

  constructor(read: Read<LineView>) {
    this.view = { ...read, sets: read.sets.map((s) => ({ ...s, answered: null, waits: false })), built: [] };
    for (const s of this.view.sets) this.setOf.set(s.make.id, s.set.id);
  }

  private change(setID: string | undefined, act: string, to: (set: SetNow) => SetNow) {
    this.view.sets = this.view.sets.map((s) => {
      if (s.set.id !== setID) return s;
      this.before.set(act, s);
      return to(s);
    });
  }

  visit(v: Visit, waits: boolean) {
    this.change(this.setOf.get(v.makeId), v.id, (s) => seenTo({ ...s, lastVisit: v }, 'looked', waits));
  }

  make(m: Make, waits: boolean) {
    this.setOf.set(m.id, m.setId);
    if (this.view.sets.some((s) => s.set.id === m.setId)) this.change(m.setId, m.id, (s) => seenTo({ ...s, make: m }, 'remade', waits));
    else this.view.built = [...this.view.built, m.designId];
  }

  pull(p: Pull, waits: boolean) {
    this.change(this.setOf.get(p.makeId), p.id, (s) => seenTo({ ...s, bead: { ...s.bead, state: 'down' } }, 'pulled', waits));
  }

  /** Takes an act back: the set is as it was before; when that was before it was read, it is to be seen again. */
  undo(act: string) {
    const before = this.before.get(act);
    this.view.sets = this.view.sets.map((s) => {
      if (before) return s.set.id === before.set.id ? before : s;
      return s.lastVisit?.id === act ? { ...s, lastVisit: null, bead: { ...s.bead, today: true } } : s;
    });
  }
}

/** Lays what is kept over a line as it was read. */
export function layLine(read: Read<LineView>, kept: Kept[]): LineNow {
  const laying = new Laying(read);
  const { view } = laying;
  for (const { at, body, waits } of over(read.line.id, read.askedMs, kept)) {
    if (at.undo) laying.undo(at.id);
    else if (at.kind === 'visits') laying.visit(body as Visit, waits);
    else if (at.kind === 'makes') laying.make(body as Make, waits);
    else if (at.kind === 'pulls') laying.pull(body as Pull, waits);
    else if (at.kind === 'spots') view.spots = laidIn(view.spots, body as Spot);
    else if (at.kind === 'properties') view.properties = laidIn(view.properties, body as Property);
    else if (at.kind === 'designs') view.designs = laidIn(view.designs, body as Design);
  }
  return view;
}

const grounds = ['properties', 'spots', 'signs', 'features', 'falls'] as const;

/** Lays what is kept over the ground of a line as it was read. */
export function layGround(read: Read<Ground>, lineID: string, kept: Kept[]): Read<Ground> {
  const now: Record<string, unknown> = { ...read };
  for (const { at, body } of over(lineID, read.askedMs, kept)) {
    const kind = grounds.find((one) => one === at.kind);
    if (kind && !at.undo) now[kind] = laidIn(now[kind] as Listed[], body as Listed);
  }
  return now as unknown as Read<Ground>;
}

/** Lays what is kept over a line's book as it was read: catches that wait, and none that was taken back. */
export function layBook(read: Read<Book>, view: LineNow, kept: Kept[], targets: string[]): BookNow {
  let waiting: CaughtAnimal[] = [];
  let { catches, odd } = read;
  for (const { at, body } of over(view.line.id, read.askedMs, kept)) {
    if (at.undo) odd = odd.filter((x) => x.id !== at.id);
    if (at.kind !== 'visits') continue;
    if (at.undo) {
      waiting = waiting.filter((c) => c.visitId !== at.id);
      catches = catches.filter((c) => c.visitId !== at.id);
      continue;
    }
    const visit = body as Visit;
    const set = view.sets.find((s) => s.make.id === visit.makeId || s.lastVisit?.id === visit.id);
    waiting = [
      ...visit.catches.map((c) => ({
        ...c,
        visitId: visit.id,
        at: visit.at,
        setId: set?.set.id ?? '',
        number: set?.set.number ?? 0,
        target: targets.includes(c.species),
      })),
      ...waiting,
    ];
  }
  return { ...read, catches, odd, waiting };
}
