import { useLayoutEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import type { Answer, Circumstances, FieldProblem, Layout, Question, Soil, Underfoot } from '../lib/types.gen';

const full = 20000;
const retryMs = 2000;

/** While a part moves, by as many visits as come in the time that a hand leaves: what is told of a place that it left long ago is of no use. */
const quick = { most: 2000, least: 500, soonMs: 12, lateMs: 24 };

/** What is known of a question: the last answer, to which question it was, and why the newest has none. */
interface Found {
  answer: Answer | undefined;
  of: Question | undefined;
  error: Error | null;
}

/** What the map hangs on, where feet fall: not on the traps that are moved over it. */
const treads = ({ layout, target }: Question): string => JSON.stringify([{ ...layout, rigs: layout.rigs.length }, target]);

/** Asks the newest question as soon as the one before is answered, so that a drag never piles questions up. */
class Newest {
  private found: Found = { answer: undefined, of: undefined, error: null };
  private newest: Question | undefined;
  /** What waits to be asked. */
  private next: Question | undefined;
  private asking = false;
  private visits = quick.most;
  private readonly listeners = new Set<() => void>();

  readonly snapshot = () => this.found;

  readonly subscribe = (listen: () => void) => {
    this.listeners.add(listen);
    return () => this.listeners.delete(listen);
  };

  readonly ask = (question: Question | undefined) => {
    this.newest = this.next = question;
    if (!this.asking) void this.answer();
  };

  private async answer() {
    this.asking = true;
    while (this.next) {
      const question = this.next;
      this.next = undefined;
      try {
        this.tell({ answer: await this.worked(question), of: question, error: null });
      } catch (error) {
        // What cannot be computed leaves the last answer standing, with the error beside it.
        this.tell({ ...this.found, error: error as Error });
        if (!(error instanceof Refused)) setTimeout(() => this.newest === question && this.ask(question), retryMs);
      }
    }
    this.asking = false;
  }

  private async worked(question: Question): Promise<Answer> {
    if (question.visits === full) return routes.bench(question).queryFn();
    const { answer: before, of } = this.found;
    const mapped = before?.feet?.map && of && treads(of) === treads(question) ? before.feet : undefined;
    const from = performance.now();
    const answer = await routes.bench({ ...question, visits: this.visits, map: !mapped }).queryFn();
    const took = performance.now() - from;
    if (took > quick.lateMs) this.visits = Math.max(quick.least, this.visits / 2);
    else if (took < quick.soonMs) this.visits = Math.min(quick.most, this.visits * 2);
    return mapped && answer.feet ? { ...answer, feet: { ...answer.feet, map: mapped.map, best: mapped.best } } : answer;
  }

  private tell(found: Found) {
    this.found = found;
    this.listeners.forEach((listen) => listen());
  }
}

/** What is known of the ground that a set stands in, today and until the coldest morning to come. */
export interface OnGround {
  underfoot: Underfoot | undefined;
  stands: Soil;
  circumstances: Circumstances | undefined;
}

export interface BenchAnswer {
  answer: Answer | undefined;
  /** What the answer was asked by, while nothing moves and nothing is wrong: what follows it is asked by the same. */
  rests: Question | undefined;
  problems: FieldProblem[];
  unanswered: boolean;
}

/** The odds of a layout: quick runs follow the hand while a part moves, the full run comes when it rests. */
export function useAnswer(layout: Layout, target: string, spares: string[], moving: boolean, ground: OnGround): BenchAnswer {
  const { frozen = false, snow = false } = ground.underfoot ?? {};
  const { soil, wetness, frostMm, deepestMm } = ground.stands;
  const { circumstances } = ground;
  const question = useMemo<Question>(
    () => ({
      layout,
      target,
      spares,
      visits: moving ? quick.most : full,
      map: true,
      underfoot: { frozen, snow },
      ground: { soil, wetness, frostMm, deepestMm },
      ...(circumstances && { circumstances }),
    }),
    [layout, target, spares, moving, frozen, snow, soil, wetness, frostMm, deepestMm, circumstances],
  );
  const [asks] = useState(() => new Newest());
  // Before the page is painted: a frame later is a frame too old.
  useLayoutEffect(() => {
    asks.ask(question);
    return () => asks.ask(undefined);
  }, [asks, question]);
  const { answer, of, error } = useSyncExternalStore(asks.subscribe, asks.snapshot);
  return {
    answer,
    rests: !moving && error === null && of === question && circumstances ? question : undefined,
    problems: error instanceof Refused ? (error.problem.fields ?? []) : [],
    unanswered: error !== null && !(error instanceof Refused),
  };
}
