import { useState } from 'react';
import { keepLocal, local } from './local';

/** Until when a job is kept quiet on this device, by its key. */
type Quiet = Record<string, string>;

const of = (line: string) => `not now ${line}`;

/** Jobs that are kept quiet for some days on this device, by their keys, and a way to keep one quiet, or to hear of all again. */
export function useNotNow(line: string, now: string) {
  const [quiet, setQuiet] = useState<Quiet>(() => local<Quiet>(of(line), {}));
  const keep = (next: Quiet) => {
    keepLocal(of(line), JSON.stringify(next));
    setQuiet(next);
  };
  const still = Object.entries(quiet).filter(([, until]) => until > now);
  return {
    keys: still.map(([key]) => key).sort(),
    quietFor: (key: string, days: number) =>
      keep({ ...Object.fromEntries(still), [key]: new Date(Date.parse(now) + days * 86_400_000).toISOString() }),
    hear: () => keep({}),
  };
}
