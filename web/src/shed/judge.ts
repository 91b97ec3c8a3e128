import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ask, Refused } from '../lib/api';
import type { PanAnswer, PanQuestion } from '../lib/types.gen';
import type { AtGauge } from './gauge';

export interface Judged {
  answer: PanAnswer | undefined;
  trouble: string;
}

/** What the core says of the presses so far and of the window. */
export function useJudge(at: AtGauge, factor: number, panDiameterMm: number): Judged {
  const question: PanQuestion = { target: at.target, spares: at.spares, cover: at.cover, panDiameterMm, presses: at.presses, factor };
  const { data, error } = useQuery({
    queryKey: ['pan', question],
    queryFn: () => ask<PanAnswer>('/pan', question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  return {
    answer: data,
    trouble:
      error === null ? '' : error instanceof Refused ? error.problem.detail : 'The program does not answer; it asks again by itself.',
  };
}
