import type { Kept } from './kept';
import { lifted } from './lift';
import { among } from '../words/words';
import type {
  BookView,
  CaughtAnimal,
  Day,
  Design,
  Ground,
  LineView,
  Make,
  Mend,
  Property,
  Pull,
  Season,
  SetView,
  Spot,
  Stop,
  Visit,
  Worth,
} from '../types.gen';

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

export interface BookNow extends BookView {
  /** Catches that are kept here and not in the book yet. */
  waiting: CaughtAnimal[];
}

interface Written {
  line: string;
  kind: string;
  id: string;
  undo: boolean;
}

function writtenAt(path: string): Written | null {
  const [, line, kind, id, undo] = /^\/lines\/(\w+)\/(\w+)\/(\w+)(\/undo)?$/.exec(path) ?? [];
  return line === undefined || kind === undefined || id === undefined ? null : { line, kind, id, undo: undo !== undefined };
}

/** Whether a write is to be laid over what was asked for then: not what the program would not have, nor what it had taken by then. */
export const liesOver = (w: Kept, askedMs: number): boolean => w.refused === null && (w.takenAt === null || w.takenAt >= askedMs);

/** What is to be laid over a reading of a line. */
function over(lineID: string, askedMs: number, kept: Kept[]): { at: Written; body: unknown; waits: boolean }[] {
  return kept.flatMap((w) => {
    const at = writtenAt(w.path);
    if (at?.line !== lineID || !liesOver(w, askedMs)) return [];
    return [{ at, body: lifted(w.body), waits: w.takenAt === null }];
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
  uncounted: null,
  bead: { ...set.bead, today: false, late: false, due: null },
});

/** All designs in the order in which they were begun: those that are told by their makes among them. */
function designsOf(read: LineView): Design[] {
  const told = read.sets.flatMap(({ designVersion: version, set, make }): Design[] => {
    const { lineId, target, layout } = make;
    return version ? [{ id: make.designId, lineId, spotId: set.spotId, setId: set.id, target, layout, version }] : [];
  });
  return [...read.designs, ...told].sort((a, b) => (a.id < b.id ? -1 : 1));
}

class Laying {
  view: LineNow;
  /** What a set was before an act, by the act's id. */
  private readonly before = new Map<string, SetNow>();
  /** The set of every make that was met. */
  private readonly setOf = new Map<string, string>();

  constructor(read: Read<LineView>) {
    const sets = read.sets.map((s) => ({ ...s, answered: null, waits: false }));
    this.view = { ...read, designs: designsOf(read), sets, built: [] };
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

  mend(m: Mend) {
    this.view.sets = this.view.sets.map((s) =>
      s.uncounted?.visit.id === m.visitId ? { ...s, uncounted: null, lastVisit: { ...m.visit, id: m.visitId } } : s,
    );
    this.view.sets = this.view.sets.map((s) => (s.lastVisit?.id === m.visitId ? { ...s, lastVisit: { ...m.visit, id: m.visitId } } : s));
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
      if (s.uncounted?.visit.id === act) return { ...s, uncounted: null, bead: { ...s.bead, today: true } };
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
    else if (at.kind === 'mends') laying.mend(body as Mend);
    else if (at.kind === 'makes') laying.make(body as Make, waits);
    else if (at.kind === 'pulls') laying.pull(body as Pull, waits);
    else if (at.kind === 'spots') view.spots = laidIn(view.spots, body as Spot);
    else if (at.kind === 'properties') view.properties = laidIn(view.properties, body as Property);
    else if (at.kind === 'designs') view.designs = laidIn(view.designs, body as Design);
  }
  view.round = roundNow(view);
  view.worth = worthNow(view, read.designs);
  return view;
}

/** The way round with what was begun here: a design takes the place of its spot, what is new comes last of its property. */
function roundNow(view: LineNow): Stop[] {
  const propertyOf = new Map(view.spots.map((s) => [s.id, s.propertyId]));
  const unbuilt = view.designs.filter((d) => d.setId === null);
  const designed = new Set(unbuilt.map((d) => d.spotId));
  const stops = view.round.filter((s) => s.setId !== '' || (propertyOf.has(s.spotId) && (s.designId !== '' || !designed.has(s.spotId))));
  const met = new Set(stops.flatMap((s) => (s.designId === '' ? [s.spotId] : [s.spotId, s.designId])));
  const fresh = [
    ...view.spots.filter((s) => !met.has(s.id) && !designed.has(s.id)).map((s) => ({ setId: '', designId: '', spotId: s.id })),
    ...unbuilt.filter((d) => !met.has(d.id)).map((d) => ({ setId: '', designId: d.id, spotId: d.spotId })),
  ];
  if (fresh.length === 0) return stops;
  const all = [...stops, ...fresh.map((s) => ({ ...s, propertyId: propertyOf.get(s.spotId) ?? '' }))];
  const order = [...new Set(all.map((s) => s.propertyId))];
  return order.flatMap((property) => all.filter((s) => s.propertyId === property));
}

/** What is worth doing, without what was done here and with what was begun here. */
function worthNow(view: LineNow, read: Design[]): Worth[] {
  const done = new Set(view.sets.filter((s) => s.answered === 'remade' || s.answered === 'pulled').map((s) => s.set.id));
  const bare = new Set(view.round.flatMap((s) => (s.setId === '' && s.designId === '' ? [s.spotId] : [])));
  const begun = view.designs.filter((d) => d.setId === null && !read.some((x) => x.id === d.id));
  const still = view.worth.flatMap((w) => {
    if (w.kind === 'remake') return done.has(w.setId) ? [] : [w];
    if (w.kind === 'build') return view.built.includes(w.designId) ? [] : [w];
    const spotIds = w.spotIds.filter((id) => bare.has(id));
    return spotIds.length === 0 ? [] : [{ ...w, spotIds }];
  });
  const begin = still.findIndex((w) => w.kind === 'begin');
  const at = begin < 0 ? still.length : begin;
  const build = begun.map((d) => ({ kind: 'build' as const, setId: '', designId: d.id, spotIds: [d.spotId] }));
  return [...still.slice(0, at), ...build.filter((w) => !view.built.includes(w.designId)), ...still.slice(at)];
}

/** Lays what is kept over a day as it was read. */
export function layDay(read: Read<Day>, lineID: string, kept: Kept[]): Read<Day> {
  let { sets, acts, odd } = read;
  const look = (of: (looks: Visit[]) => Visit[]) => {
    sets = sets.map((s) => ({ ...s, looks: of(s.looks) }));
  };
  for (const { at, body } of over(lineID, read.askedMs, kept)) {
    if (at.undo) {
      look((looks) => looks.filter((v) => v.id !== at.id));
      acts = acts.map((a) => (a.id === at.id ? { ...a, undone: true } : a));
      odd = odd.filter((x) => x.id !== at.id);
    } else if (at.kind === 'visits') {
      const v = body as Visit;
      if (v.at < read.from || v.at >= read.until) continue;
      sets = sets.map((s) =>
        s.make.id === v.makeId || s.built.some((m) => m.id === v.makeId) ? { ...s, looks: laidIn<Visit>(s.looks, v) } : s,
      );
    } else if (at.kind === 'mends') {
      const m = body as Mend;
      odd = odd.filter((x) => x.id !== m.visitId);
      look((looks) => looks.map((v) => (v.id === m.visitId ? { ...m.visit, id: v.id, mendedAt: m.at } : v)));
    } else if (at.kind === 'makes') {
      const m = body as Make;
      sets = sets.map((s) =>
        s.setId === m.setId && s.built.every((b) => b.id !== m.id) ? { ...s, built: [...s.built, { ...m, follows: s.make.id }] } : s,
      );
    }
  }
  return { ...read, sets, acts, odd };
}

/** Whether what was read is of a season that is over: what is done now does not belong to it. */
const isOver = (read: { season: Season | null; open: string }) => read.season !== null && read.season.id !== read.open;

const grounds = ['properties', 'spots', 'signs', 'features', 'falls'] as const;

/** Lays what is kept over the ground of a line as it was read; over that of a season gone by only what is changed of it. */
export function layGround(read: Read<Ground>, lineID: string, kept: Kept[]): Read<Ground> {
  const now: Record<string, unknown> = { ...read };
  const gone = isOver(read);
  for (const { at, body } of over(lineID, read.askedMs, kept)) {
    const kind = grounds.find((one) => one === at.kind);
    const listed = kind && (now[kind] as Listed[]).some((x) => x.id === at.id);
    if (gone && !listed && (kind === 'signs' || kind === 'falls')) continue;
    if (kind && !at.undo) now[kind] = laidIn(now[kind] as Listed[], body as Listed);
  }
  return now as unknown as Read<Ground>;
}

/** Lays what is kept over a line's book as it was read: catches that wait, and none that was taken back. */
export function layBook(read: Read<BookView>, view: LineNow, kept: Kept[], targets: readonly string[]): BookNow {
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
    if (isOver(read)) continue;
    const visit = body as Visit;
    const set = view.sets.find((s) => s.make.id === visit.makeId || s.lastVisit?.id === visit.id);
    waiting = [
      ...visit.catches.map((c) => ({
        ...c,
        visitId: visit.id,
        at: visit.at,
        timed: visit.timed !== false,
        setId: set?.set.id ?? '',
        number: set?.set.number ?? 0,
        target: among(targets, c.species),
      })),
      ...waiting,
    ];
  }
  return { ...read, catches, odd, waiting };
}
