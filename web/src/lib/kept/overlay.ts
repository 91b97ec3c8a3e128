import type { Kept } from './kept';
import { lifted } from './lift';
import { among } from '../words/words';
import type {
  BookView,
  CaughtAnimal,
  Design,
  Fall,
  Feature,
  Ground,
  LineView,
  Make,
  Property,
  Pull,
  SetView,
  Sign,
  Spot,
  Visit,
} from '../types.gen';

/**
 * What was entered here and is on its way is said of what was read: which sets were answered, and that it waits. What follows from it the
 * program works out, or the core here while the program is silent.
 */

/** What was read, and when it was asked for, ms of this device; where the core here answered, from when it had what it answered from. */
export type Read<T> = T & { askedMs: number; takenAt?: string };

/** A set with what was answered about it here and is not read again yet. */
export interface SetNow extends SetView {
  answered: 'looked' | 'remade' | 'pulled' | null;
  /** Whether the program does not have that yet. */
  waits: boolean;
}

export interface LineNow extends Omit<LineView, 'sets'> {
  askedMs: number;
  takenAt?: string;
  sets: SetNow[];
  /** Designs that were built here, as sets that the program has not numbered yet. */
  built: string[];
}

export interface BookNow extends BookView {
  takenAt?: string;
  /** Catches that are kept here and that the program does not have yet. */
  waiting: CaughtAnimal[];
}

/** Whether a write is to be laid over what was asked for then: not what the program would not have, nor what it had taken by then. */
export const liesOver = (w: Kept, askedMs: number): boolean => w.refused === null && (w.takenAt === null || w.takenAt >= askedMs);

/** What is told in lists, by the path under which it is put, and what answers a set. */
interface Listed {
  designs: Design & { deleted?: boolean };
  properties: Property;
  spots: Spot;
  signs: Sign;
  features: Feature;
  falls: Fall;
}

interface Kinds extends Listed {
  visits: Visit;
  makes: Make;
  pulls: Pull;
}

/** What lies over a reading of a line, without what was taken back, which is told apart. */
class Over {
  private readonly writes: Kept[];
  private readonly root: string;
  readonly undone: Set<string>;

  constructor(lineID: string, askedMs: number, kept: Kept[]) {
    this.root = `/lines/${lineID}/`;
    const over = kept.filter((w) => w.path.startsWith(this.root) && liesOver(w, askedMs));
    const ofUndo = (w: Kept) => w.path.split('/')[5] === 'undo';
    this.undone = new Set(over.filter(ofUndo).map((w) => w.path.split('/')[4] ?? ''));
    this.writes = over.filter((w) => !ofUndo(w) && !this.undone.has(w.path.split('/')[4] ?? ''));
  }

  /** What was entered of a kind, each with its place in the order of entering, and whether it waits. */
  of<K extends keyof Kinds>(kind: K): { body: Kinds[K]; place: number; waits: boolean }[] {
    return this.writes.flatMap((w, place) =>
      w.path.startsWith(`${this.root}${kind}/`) ? [{ body: lifted(w.body as Kinds[K]), place, waits: w.takenAt === null }] : [],
    );
  }

  /** A list with what was changed of it, added or deleted. */
  laidIn<K extends keyof Listed>(kind: K, list: Listed[K][]): Listed[K][] {
    return this.of(kind).reduce<Listed[K][]>((now, { body: x }) => {
      const rest = now.filter((one) => one.id !== x.id);
      if (x.deleted) return rest;
      return rest.length === now.length ? [...now, x] : now.map((one) => (one.id === x.id ? x : one));
    }, list);
  }
}

/** All designs in the order in which they were begun: those that are told by their makes among them, and what has no number yet as a design. */
function designsOf(read: LineView): Design[] {
  const told = read.sets.flatMap(({ designVersion: version, set, make }): Design[] => {
    const { lineId, target, layout } = make;
    return version ? [{ id: make.designId, lineId, spotId: set.spotId, setId: set.id, target, layout, version }] : [];
  });
  const bare = new Set(read.sets.filter((s) => s.set.number === 0).map((s) => s.set.id));
  return [...read.designs, ...told]
    .map((d) => (bare.has(d.setId ?? '') ? { ...d, setId: null } : d))
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** Lays what is kept over a line as it was read. */
export function layLine(read: Read<LineView>, kept: Kept[]): LineNow {
  const over = new Over(read.line.id, read.askedMs, kept);
  const numbered = read.sets.filter((s) => s.set.number > 0);
  const newly = new Map(read.sets.filter((s) => s.set.number === 0).map((s) => [s.set.id, s.make]));
  const makes = over.of('makes');
  const setOf = new Map([...read.sets.map((s) => s.make), ...makes.map((m) => m.body)].map((m) => [m.id, m.setId]));
  const answers = [
    ...over.of('visits').map((w) => ({ ...w, answered: 'looked' as const, set: setOf.get(w.body.makeId) })),
    ...makes.map((w) => ({ ...w, answered: 'remade' as const, set: w.body.setId })),
    ...over
      .of('pulls')
      .flatMap((w) => (w.body.later ? [] : [w]))
      .map((w) => ({ ...w, answered: 'pulled' as const, set: setOf.get(w.body.makeId) })),
  ].sort((a, b) => a.place - b.place);
  const sets = numbered.map((s) => answers.filter((a) => a.set === s.set.id).reduce(answeredBy, asked(s, over)));
  const known = new Set(numbered.map((s) => s.set.id));
  const mine = new Map(makes.map((m) => [m.body.id, m.body])); // of one that was said again, how it was built, what was said last
  const built = [...newly.values(), ...[...mine.values()].filter((m) => !known.has(m.setId) && !newly.has(m.setId))];
  const round = read.round.map((s) => {
    const make = newly.get(s.setId);
    return make ? { ...s, setId: '', designId: make.designId } : s;
  });
  const out = over.of('pulls').flatMap((w) => (w.body.later ? w.body.rigs.map((r) => `${w.body.makeId} ${r.slot}`) : []));
  return {
    ...read,
    sets,
    stillIn: read.stillIn.filter((x) => !out.includes(`${x.makeId} ${x.slot}`)),
    round,
    built: built.map((m) => m.designId),
    designs: over.laidIn('designs', designsOf(read)),
    spots: over.laidIn('spots', read.spots),
    properties: over.laidIn('properties', read.properties),
  };
}

/** A set as it was read; of which a look was taken back is asked again. */
function asked(s: SetView, { undone }: Over): SetNow {
  const now = { ...s, answered: null, waits: false };
  if (s.pull && undone.has(s.pull.id)) return { ...now, pull: null, bead: { ...s.bead, state: 'working' } };
  const [last, odd] = [s.lastVisit && undone.has(s.lastVisit.id), s.uncounted && undone.has(s.uncounted.visit.id)];
  if (!last && !odd) return now;
  return { ...now, bead: { ...s.bead, today: true }, ...(last ? { lastVisit: null } : { uncounted: null }) };
}

type Act = { waits: boolean } & (
  { answered: 'looked'; body: Visit } | { answered: 'remade'; body: Make } | { answered: 'pulled'; body: Pull }
);

/** A set that was seen to here: it leaves what is still to see, until it is said anew when it is due. */
function answeredBy(set: SetNow, { answered, waits, body }: Act): SetNow {
  const now = { ...set, answered, waits };
  const seen = { ...set.bead, today: false, late: false, due: null };
  if (answered === 'looked') {
    if (set.lastVisit?.id === body.id || set.uncounted?.visit.id === body.id) return now;
    return { ...now, uncounted: null, bead: seen, lastVisit: body };
  }
  if (answered === 'remade' && set.make.id === body.id)
    return body.asBuilt ? { ...now, make: { ...set.make, layout: body.layout, asBuilt: body.asBuilt } } : now;
  if (answered === 'remade') return { ...now, uncounted: null, bead: seen, make: body };
  return set.bead.state === 'down' ? now : { ...now, uncounted: null, pull: body, bead: { ...seen, state: 'down' } };
}

/** Lays what is kept over the ground of a line as it was read; over that of a season gone by only what is changed of it. */
export function layGround(read: Read<Ground>, lineID: string, kept: Kept[]): Read<Ground> {
  const over = new Over(lineID, read.askedMs, kept);
  const gone = read.season !== null && read.season.id !== read.open;
  const listed = <K extends 'signs' | 'falls'>(kind: K, list: Listed[K][]) => {
    const had = new Set(list.map((x) => x.id));
    return over.laidIn(kind, list).filter((x) => !gone || had.has(x.id));
  };
  return {
    ...read,
    properties: over.laidIn('properties', read.properties),
    spots: over.laidIn('spots', read.spots),
    features: over.laidIn('features', read.features),
    signs: listed('signs', read.signs),
    falls: listed('falls', read.falls),
  };
}

/** Tells the catches of a line's book that wait here from those that the program has; none that was taken back. */
export function layBook(read: Read<BookView>, view: LineNow, kept: Kept[], targets: readonly string[]): BookNow {
  const over = new Over(view.line.id, read.askedMs, kept);
  const gone = read.season !== null && read.season.id !== read.open;
  const looks = gone ? [] : over.of('visits');
  const mine = new Set(looks.map((w) => w.body.id));
  const waiting = looks.flatMap(({ body: visit }) => {
    const set = view.sets.find((s) => s.make.id === visit.makeId || s.lastVisit?.id === visit.id)?.set;
    const of = { visitId: visit.id, at: visit.at, timed: visit.timed !== false, setId: set?.id ?? '', number: set?.number ?? 0 };
    return visit.catches.map((c) => ({ ...c, ...of, target: among(targets, c.species) }));
  });
  return {
    ...read,
    catches: read.catches.filter((c) => !over.undone.has(c.visitId) && !mine.has(c.visitId)),
    odd: read.odd.filter((x) => !over.undone.has(x.id)),
    waiting: waiting.reverse(),
  };
}
