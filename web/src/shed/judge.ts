import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import type { Layer, PanAnswer, PanQuestion } from '../lib/types.gen';

/** What is at the gauge: the presses so far, kept in this browser until they are recorded. */
export interface AtGauge {
  id: string;
  presses: number[];
  /** Of each press, whether a connected gauge read it; the others were typed. */
  read?: boolean[];
  turned: number;
  target: string;
  spares: string[];
  cover: Layer[];
  /** Pressed at the bed, through the cover. */
  covered?: boolean;
  /** The pan is the one dry footing in water. */
  footing?: boolean;
}

export interface Judged {
  answer: PanAnswer | undefined;
  /** What these very presses come to, once the core has said it. */
  meanN: number | undefined;
  trouble: string;
}

/** What the core says of the presses so far and of the window. */
export function useJudge(at: AtGauge, factor: number, panDiameterMm: number, perQuarterN: number): Judged {
  const question: PanQuestion = {
    target: at.target,
    spares: at.spares,
    cover: at.cover,
    panDiameterMm,
    presses: at.presses,
    covered: at.covered ?? false,
    footing: at.footing ?? false,
    factor,
    perQuarterN,
  };
  const { data, error, isPlaceholderData, failureCount } = useQuery({
    ...routes.pan(question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const lost = failureCount > 0 && !(error instanceof Refused); // what was said of other presses is not shown for these
  return {
    answer: lost ? undefined : data,
    meanN: isPlaceholderData ? undefined : data?.measured?.meanN,
    trouble: lost ? 'The program does not answer; it asks again by itself.' : error instanceof Refused ? error.problem.detail : '',
  };
}
