import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { routes } from '../lib/ask/routes';
import type { CircumstancesView, Design } from '../lib/types.gen';

/** By which night's wind the chain is computed. */
export type Night = 'tonight' | 'usual';

/** Under which circumstances a design would stand at its spot, tonight and on an average night; those from before until it is known. */
export function useCircumstances({ lineId, layout, target, spotId, setId }: Design): CircumstancesView | undefined {
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
