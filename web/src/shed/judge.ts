import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ask, Refused } from '../lib/api';
import type { Cover, PanAnswer, PanQuestion } from '../lib/types.gen';

/** What is at the gauge: the presses so far, kept in this browser until they are recorded. */
export interface AtGauge {
  id: string;
  presses: number[];
  standIn: boolean;
  turned: number;
  target: string;
  spares: string[];
  cover: Cover;
}

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
