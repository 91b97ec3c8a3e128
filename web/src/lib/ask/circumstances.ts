import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { soils, wetnesses } from '../lists.gen';
import type { CircumstancesView, Design, Soil, Spot, WeatherView } from '../types.gen';
import { among } from '../words/words';
import { routes } from './routes';

/** By which night's wind the chain is computed. */
export type Night = 'tonight' | 'usual';

/** Under which circumstances a design would stand at its spot, tonight and on an average night; those from before until it is known. */
export function useCircumstances({
  lineId,
  layout,
  target,
  spotId,
  setId,
}: Pick<Design, 'lineId' | 'layout' | 'target' | 'spotId' | 'setId'>): CircumstancesView | undefined {
  const asked = useMemo(
    () => routes.circumstances(lineId, { layout, target, spotId, setId: setId ?? '' }),
    [lineId, layout, target, spotId, setId],
  );
  const { data } = useQuery({ ...asked, gcTime: 60_000, retry: false });
  const [known, setKnown] = useState(data);
  // What comes to the same is the same, so that what hangs on it is not asked again.
  if (data !== undefined && data !== known && JSON.stringify(data) !== JSON.stringify(known)) setKnown(data);
  return known;
}

export type Frost = WeatherView['spots'][number];

/** What a spot's anchors stand in: its soil, and the frost now and on the worst of the coming mornings, where they are known. */
export const standsIn = (spot: Spot | undefined, frost: Frost | undefined): Soil => ({
  ...(spot && among(soils, spot.soil) && { soil: spot.soil }),
  ...(spot && among(wetnesses, spot.wetness) && { wetness: spot.wetness }),
  ...(frost?.known && { frostMm: frost.depthMm, deepestMm: Math.max(frost.depthMm, ...frost.mornings.map((m) => m.depthMm)) }),
});
