import { useCallback, useState } from 'react';
import { lifted } from './lift';

/**
 * The state of a form, kept in this browser until it is cleared: a reload or a closed browser loses nothing typed. Without a
 * key it is kept in the page alone.
 */
export function useDraft<T>(key: string | undefined, begin: () => T): [T, (next: T) => void, () => void] {
  const [value, setValue] = useState<T>(() => {
    const kept = key === undefined ? null : localStorage.getItem(`form:${key}`);
    return kept === null ? begin() : lifted(JSON.parse(kept) as T);
  });
  const set = useCallback(
    (next: T) => {
      if (key !== undefined) localStorage.setItem(`form:${key}`, JSON.stringify(next));
      setValue(next);
    },
    [key],
  );
  const clear = useCallback(() => {
    if (key !== undefined) localStorage.removeItem(`form:${key}`);
  }, [key]);
  return [value, set, clear];
}
