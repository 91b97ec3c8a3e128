import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import type { Answer, Circumstances, FieldProblem, FootfallMap, Layout, Question, Soil, Underfoot } from '../lib/types.gen';

/** What is being moved on the drawing: the trap alone can be answered from the map that is there. */
export type Moving = 'trap' | 'other' | null;

const full = 20000;
const quick = 2000;

/** The chance at a point of the map, between the cells about it; undefined off the map. */
export function chanceAt(map: FootfallMap, xMm: number, yMm: number): number | undefined {
  const col = (xMm - map.x0Mm) / map.cellMm;
  const row = (yMm - map.y0Mm) / map.cellMm;
  if (!(col >= 0 && row >= 0 && col <= map.cols - 1 && row <= map.rows - 1)) return undefined;
  // At the last centre of a row or column the cells before it are asked, which then do not count.
  const [c, r] = [Math.min(Math.floor(col), map.cols - 2), Math.min(Math.floor(row), map.rows - 2)];
  const at = (i: number, j: number) => map.chance[j * map.cols + i] ?? 0;
  const [dx, dy] = [col - c, row - r];
  return (at(c, r) * (1 - dx) + at(c + 1, r) * dx) * (1 - dy) + (at(c, r + 1) * (1 - dx) + at(c + 1, r + 1) * dx) * dy;
}

/** Asks the newest question as soon as the one before is answered, so that a drag never piles questions up. */
function useNewest(question: Question): { answer: Answer | undefined; error: Error | null } {
  const [asked, setAsked] = useState(question);
  const query = useQuery({
    ...routes.bench(asked),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: (n, error) => !(error instanceof Refused) && n < 100,
    retryDelay: 2000,
  });
  if (!query.isFetching && asked !== question) setAsked(question);
  // What cannot be computed leaves the last answer standing, with the error beside it.
  const [good, setGood] = useState(query.data);
  if (query.data !== undefined && query.data !== good) setGood(query.data);
  return { answer: query.data ?? good, error: query.error };
}

/** What is known of the ground that a set stands in, today and until the coldest morning to come. */
export interface OnGround {
  underfoot: Underfoot | undefined;
  stands: Soil;
  circumstances: Circumstances | undefined;
}

export interface BenchAnswer {
  answer: Answer | undefined;
  map: FootfallMap | undefined;
  /** What the answer was asked by, while nothing moves and nothing is wrong: what follows it is asked by the same. */
  rests: Question | undefined;
  problems: FieldProblem[];
  unanswered: boolean;
}

/**
 * The odds of a layout. While the trap is dragged over a firm bed the chance is read from the map; while anything else moves,
 * quick runs follow it; at rest the full run.
 */
export function useAnswer(layout: Layout, target: string, spares: string[], moving: Moving, ground: OnGround): BenchAnswer {
  const [resting, setResting] = useState(layout);
  const [rig] = layout.rigs;
  const alone = layout.rigs.length === 1 && rig?.bed.firm === true;
  const fromMap = moving === 'trap' && alone;
  if (!fromMap && resting !== layout) setResting(layout);
  const { frozen = false, snow = false } = ground.underfoot ?? {};
  const { soil, wetness, frostMm, deepestMm } = ground.stands;
  const { circumstances } = ground;
  const question = useMemo<Question>(
    () => ({
      layout: resting,
      target,
      spares,
      visits: moving === 'other' || (moving === 'trap' && !alone) ? quick : full,
      map: moving === null || moving === 'trap',
      underfoot: { frozen, snow },
      ground: { soil, wetness, frostMm, deepestMm },
      ...(circumstances && { circumstances }),
    }),
    [resting, target, spares, moving, alone, frozen, snow, soil, wetness, frostMm, deepestMm, circumstances],
  );
  const { answer, error } = useNewest(question);
  const [map, setMap] = useState(answer?.feet?.map);
  if (answer?.feet?.map && answer.feet.map !== map) setMap(answer.feet.map);

  const read = fromMap && map && rig.pan ? chanceAt(map, rig.pan.xMm, rig.pan.yMm) : undefined;
  const shown = answer && read !== undefined ? withStep(answer, read) : answer;
  return {
    answer: shown,
    map: answer?.feet === null ? undefined : map, // of a loop no map is claimed, and the one before was another set's
    rests: moving === null && error === null && answer?.visits === full && circumstances ? question : undefined,
    problems: error instanceof Refused ? (error.problem.fields ?? []) : [],
    unanswered: error !== null && !(error instanceof Refused),
  };
}

/** The answer with another chance to step; what follows a step stays as it was, and so, until the hand rests, does the weakest link. */
function withStep(answer: Answer, step: number): Answer {
  if (!answer.feet) return answer;
  const fires = answer.feet.step > 0 ? answer.feet.fire / answer.feet.step : 0;
  const by = answer.feet.step > 0 ? step / answer.feet.step : 0;
  const { whole } = answer;
  const chain = answer.chain.map((link) => (link.key === 'steps' ? { ...link, chance: step } : link));
  const per100 = whole && { low: whole.per100.low * by, mid: whole.per100.mid * by, high: whole.per100.high * by };
  return { ...answer, chain, ...(whole && per100 && { whole: { ...whole, per100 } }), feet: { ...answer.feet, step, fire: step * fires } };
}
