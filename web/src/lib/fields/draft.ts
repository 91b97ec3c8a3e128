import { useCallback, useState } from 'react';
import { lifted } from '../kept/lift';
import { keepLocal, local } from '../kept/local';
import { noRoom } from '../kept/room';

/**
 * The state of a form, kept in this browser until it is cleared: a reload or a closed browser loses nothing typed. Without a
 * key it is kept in the page alone.
 */
export function useDraft<T>(key: string | undefined, begin: () => T): [T, (next: T) => void, () => void] {
  const [value, setValue] = useState<T>(() => {
    const kept = key === undefined ? null : local<T | null>(`form:${key}`, null);
    return kept === null ? begin() : lifted(kept);
  });
  const set = useCallback(
    (next: T) => {
      if (key !== undefined && !keepLocal(`form:${key}`, JSON.stringify(next))) noRoom('what is being typed');
      setValue(next);
    },
    [key],
  );
  const clear = useCallback(() => {
    if (key !== undefined) localStorage.removeItem(`form:${key}`);
  }, [key]);
  return [value, set, clear];
}
