import { useEffect, useMemo, useState } from 'react';
import { follow, Refused, Unreachable } from '../lib/ask/api';
import { pauseMs, retryMs } from '../lib/ask/pace';
import type { Company, Following, Question, Remedy, Sparing } from '../lib/types.gen';

/** What follows the chain of a set, as far as it has come. */
export interface Follows {
  company: Company | null;
  remedies: Remedy[];
  sparings: Sparing[];
  done: boolean;
}

const nothing: Follows = { company: null, remedies: [], sparings: [], done: false };

/** What was found of which question. */
interface Found {
  of: string | undefined;
  follows: Follows;
}

const joined = (f: Follows, { company, remedy, sparing, done }: Following): Follows => ({
  company: company ?? f.company,
  remedies: remedy ? [...f.remedies, remedy].sort((a, b) => b.gain - a.gain) : f.remedies,
  sparings: sparing ? [...f.sparings, sparing].sort((a, b) => b.fewer - a.fewer) : f.sparings,
  done: done ?? f.done,
});

/**
 * Who else a set would catch, what would help it and what would spare the others. It is asked when the hand rests, and a newer question
 * ends the older, here and in the program. What was found of the set before stands until the new answer is whole.
 */
export function useFollowing(question: Question | undefined): Follows & { busy: boolean } {
  // The map is drawn and not weighed: with it and without it is one question.
  const asked = useMemo(() => question && JSON.stringify({ ...question, map: false }), [question]);
  const [coming, setComing] = useState<Found>({ of: undefined, follows: nothing });
  const [whole, setWhole] = useState(nothing);
  useEffect(() => {
    if (asked === undefined) return;
    const leave = new AbortController();
    let again: ReturnType<typeof setTimeout>;
    const ask = async () => {
      let found = nothing;
      setComing({ of: asked, follows: found });
      try {
        await follow('/bench/following', JSON.parse(asked), leave.signal, (line) => {
          found = joined(found, line as Following);
          setComing({ of: asked, follows: found });
        });
        if (found.done) setWhole(found);
        else throw new Unreachable(); // it broke off
      } catch (error) {
        if (!leave.signal.aborted && !(error instanceof Refused)) again = setTimeout(() => void ask(), retryMs);
      }
    };
    again = setTimeout(() => void ask(), pauseMs);
    return () => {
      clearTimeout(again);
      leave.abort();
    };
  }, [asked]);
  const shown = coming.follows.done || !whole.done ? coming.follows : whole;
  // Until all of this very set is in, what is shown may be of the one before.
  return { ...shown, busy: coming.of !== asked || !coming.follows.done };
}
