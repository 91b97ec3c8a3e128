import { useRef } from 'react';

/** How long a button rests that can be pressed again and again: the second of two quick taps of cold fingers comes sooner. */
export const tapMs = 700;

/**
 * An act that is not begun again while it is under way, nor until it has rested. It resolves to whether it was done: a tap in
 * between does nothing and resolves to false. What was refused can be tried again at once.
 */
export function useOnce<A extends unknown[]>(act: (...args: A) => Promise<boolean>, restMs = 0): (...args: A) => Promise<boolean> {
  const busy = useRef(false);
  const restedAt = useRef(0);
  return async (...args) => {
    if (busy.current || performance.now() < restedAt.current) return false;
    busy.current = true;
    try {
      const done = await act(...args);
      if (done) restedAt.current = performance.now() + restMs;
      return done;
    } finally {
      busy.current = false;
    }
  };
}
