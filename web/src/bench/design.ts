import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import { lifted } from '../lib/kept/lift';
import { dropPath, keptNow, onKept, save, seen, sendAgain, type Kept } from '../lib/kept/outbox';
import { useLineID } from '../lib/ask/queries';
import type { LineNow } from '../lib/kept/overlay';
import { useReach } from '../lib/ask/reach';
import type { Design, FieldProblem, Layout } from '../lib/types.gen';
import { Unkept } from '../lib/kept/room';
import { ulid } from '../lib/ulid';

export type Saving =
  { state: 'saved' | 'saving' | 'kept' } | { state: 'refused'; problems: FieldProblem[] } | { state: 'conflict'; theirs: Design };

interface Stored {
  design: Design;
  askedMs: number;
}

/**
 * One design on the bench. Every change is kept in this browser at once and sent when the hand rests; it stays kept here until the
 * program has taken it, over a reload and a dead program too.
 */
class Desk {
  private design: Design | null = null;
  /** Whether a change is being kept, and whether there is a newer one. */
  keeping = false;
  private changed = false;
  /** What this window kept last; what is kept otherwise comes from another window. */
  private last: unknown = null;
  private readonly listeners = new Set<() => void>();
  readonly path: string;
  readonly steps: Steps;

  constructor(line: string, id: string) {
    this.path = `/lines/${line}/designs/${id}`;
    this.steps = new Steps(`steps ${this.path}`);
    this.adopt();
  }

  readonly snapshot = () => this.design;

  readonly subscribe = (listen: () => void) => {
    this.listeners.add(listen);
    return () => this.listeners.delete(listen);
  };

  private show(design: Design) {
    this.design = design;
    this.tell();
  }

  private tell() {
    this.listeners.forEach((listen) => listen());
  }

  /** Takes what is kept of the design, where this window did not enter it. */
  readonly adopt = () => {
    const body = lifted(rowsOf(this.path).at(-1)?.body) as Design | undefined;
    if (body === undefined || this.keeping || said(body) === this.last) return;
    this.last = said(body);
    this.show(body);
  };

  /** The design as the program had it when it was asked; what was entered here since goes over it. */
  readonly arrive = ({ design: stored, askedMs }: Stored) => {
    const here = this.design;
    const newer = this.keeping || rowsOf(this.path).some((w) => w.takenAt === null || w.takenAt >= askedMs);
    if (here === null || !newer) this.show(stored);
    // Which set it became is the program's to say, whatever else is changed here.
    else if (stored.setId !== here.setId) this.show({ ...here, setId: stored.setId });
  };

  readonly edit = (change: (design: Design) => Design) => {
    if (this.design === null) return;
    const next = change(this.design);
    if (said(next) === said(this.design)) return;
    this.steps.note(this.design);
    this.show(next);
    void this.keep();
  };

  /** Goes a step back in what was changed here, or on again. */
  readonly step = (way: 'back' | 'on') => {
    if (this.design === null) return;
    const next = this.steps.go(way, this.design);
    if (next === null) return;
    this.show({ ...this.design, ...next });
    void this.keep();
  };

  private async keep() {
    this.changed = true;
    if (this.keeping) return;
    this.keeping = true;
    try {
      while (this.changed && this.design) {
        this.changed = false;
        this.last = said(this.design);
        await save(this.path, this.design, 'a design');
      }
    } catch (error) {
      if (!(error instanceof Unkept)) throw error; // that is said; the next change tries again
    } finally {
      this.keeping = false;
      this.tell();
    }
  }

  /** Settles a conflict: with what stands in the program, or with what is here over it. */
  readonly settle = async (keep: 'mine' | 'theirs', theirs: Design) => {
    await seen(this.path, theirs.version);
    const mine = rowsOf(this.path).find((w) => w.refused !== null);
    if (keep === 'theirs' || !mine) {
      await dropPath(this.path);
      this.last = null;
      this.show(theirs);
      return;
    }
    const body = { ...(lifted(mine.body) as Design), version: theirs.version };
    await sendAgain(mine.mutation, { mutation: ulid(), sent: false, body });
  };
}

/** What of a design can be changed on the bench. */
type Drawn = Pick<Design, 'target' | 'layout'>;

const mostSteps = 80;

/** What a design was before each change in this window, and what was gone back from: kept over a reload. */
export class Steps {
  private back: Drawn[] = [];
  private on: Drawn[] = [];

  constructor(private readonly key: string) {
    try {
      const kept = JSON.parse(sessionStorage.getItem(key) ?? 'null') as { back: Drawn[]; on: Drawn[] } | null;
      if (kept) [this.back, this.on] = [kept.back, kept.on];
    } catch {
      // What cannot be read is no step.
    }
  }

  get can() {
    return { back: this.back.length > 0, on: this.on.length > 0 };
  }

  note(before: Drawn) {
    this.back = [...this.back, drawn(before)].slice(-mostSteps);
    this.on = [];
    this.keep();
  }

  go(way: 'back' | 'on', now: Drawn): Drawn | null {
    const [from, to] = way === 'back' ? [this.back, this.on] : [this.on, this.back];
    const next = from.pop();
    if (next === undefined) return null;
    to.push(drawn(now));
    this.keep();
    return next;
  }

  private keep() {
    try {
      sessionStorage.setItem(this.key, JSON.stringify({ back: this.back, on: this.on }));
    } catch {
      // A full store keeps the steps for as long as the page is open.
    }
  }
}

const drawn = ({ target, layout }: Drawn): Drawn => ({ target, layout });

const rowsOf = (path: string): Kept[] => keptNow().filter((w) => w.path === path);

/** What a design says, whatever the program counts of it. */
const said = (design: Design): string => JSON.stringify({ ...design, version: 0, setId: null });

/** Whether two designs are laid out alike. */
export const alike = (a: Layout, b: Layout): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A design by its id, with how its saving stands. */
export function useDesign(id: string, view: LineNow) {
  const line = useLineID();
  const [desk] = useState(() => new Desk(line, id));
  const design = useSyncExternalStore(desk.subscribe, desk.snapshot);
  const keeping = useSyncExternalStore(desk.subscribe, () => desk.keeping);
  const kept = useSyncExternalStore(onKept, keptNow);
  const answers = useReach();
  const stored = useQuery({
    ...routes.design(line, id),
    gcTime: Infinity,
    refetchOnWindowFocus: false,
  });
  useEffect(() => onKept(desk.adopt), [desk]);
  // Until it has been read by itself, it is as it was read with the line.
  const { designs, askedMs } = view;
  const arrived = stored.data;
  useEffect(() => {
    const listed = designs.find((d) => d.id === id);
    if (arrived !== undefined) desk.arrive(arrived);
    else if (listed) desk.arrive({ design: listed, askedMs });
  }, [arrived, askedMs, desk, designs, id]);
  return {
    design,
    saving: savingOf(
      kept.filter((w) => w.path === desk.path && w.takenAt === null),
      keeping,
      answers,
    ),
    edit: desk.edit,
    step: desk.step,
    can: desk.steps.can,
    settle: desk.settle,
    missing: stored.error instanceof Refused && design === null,
  };
}

function savingOf(waiting: Kept[], keeping: boolean, answers: boolean): Saving {
  const refused = waiting.find((w) => w.refused !== null)?.refused;
  if (refused?.theirs) return { state: 'conflict', theirs: refused.theirs as Design };
  if (refused) return { state: 'refused', problems: refused.fields ?? [{ field: 'design', says: refused.detail }] };
  if (keeping) return { state: 'saving' };
  if (waiting.length === 0) return { state: 'saved' };
  return { state: answers ? 'saving' : 'kept' };
}
