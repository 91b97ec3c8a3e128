import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { routes } from '../lib/ask/routes';
import type { CircumstancesAsked, CircumstancesView, Design } from '../lib/types.gen';

/** By which night's wind the chain is computed. */
export type Night = 'tonight' | 'usual';

/** Under which circumstances a design would stand at its spot, tonight and on an average night. What its parts measure is no matter. */
export function useCircumstances({ lineId, layout, target, spotId, setId }: Design): CircumstancesView | undefined {
  // Only what the answer hangs on is asked with, so that a dragged pan asks nothing.
  const hangsOn = JSON.stringify([
    layout.pattern,
    layout.facingDeg,
    layout.at,
    layout.attractors.map((a) => a.smells),
    target,
    spotId,
    setId,
  ]);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the layout of the moment in which that changed
  const asked = useMemo<CircumstancesAsked>(() => ({ layout, target, spotId, setId: setId ?? '' }), [hangsOn]);
  const { data } = useQuery({
    ...routes.circumstances(lineId, hangsOn, asked),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return data;
}
