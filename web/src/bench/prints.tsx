import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused } from '../lib/ask/api';
import { useLineID } from '../lib/ask/queries';
import { routes } from '../lib/ask/routes';
import { keepLocal, local } from '../lib/kept/local';
import type { Question, Setback, Reached } from '../lib/types.gen';
import { useSettings } from '../lib/settings';
import { in100, show, type System } from '../lib/words/units';
import { many, plural } from '../lib/words/words';
import type { Tried } from './helps';

interface Props {
  question: Question | undefined;
  onTry: (tried: Tried | null) => void;
}

const visits = 20000;

/** What the prints that were marked on a line say of where its animals stand, and what that does to the setback; it can be put back, line by line. */
export function Prints({ question, onTry }: Props) {
  const line = useLineID();
  const { system } = useSettings();
  const key = `prints put back ${line} ${question?.target ?? ''}`;
  const [said, setSaid] = useState<boolean>();
  const back = said ?? local(key, false);
  const marked = question?.circumstances?.record?.animals[question.target]?.prints;
  const some = (marked?.reach?.length ?? 0) + (marked?.step?.length ?? 0) > 0;
  const { data, isError } = useQuery({
    ...routes.stance({ ...question, visits, map: false } as Question),
    enabled: some && !back,
    retry: (n, e) => !(e instanceof Refused) && n < 2,
  });
  const put = (next: boolean) => {
    keepLocal(key, JSON.stringify(next));
    setSaid(next);
  };
  if (!question || !some) return null;
  const whose = plural(question.target);
  if (back)
    return (
      <div>
        Told as {whose} stand elsewhere, whatever was marked here.{' '}
        <button type="button" className="word" onClick={() => put(false)}>
          by the prints of this line
        </button>
      </div>
    );
  if (isError) return <div className="dun">Where {whose} stand by the prints of this line could not be worked out just now.</div>;
  if (!data) return null;
  const { reach, step, setback } = data;
  const after = setback?.after;
  if (!reach && !step) return <div>Prints of {whose} were marked, too few to tell where they stand.</div>;
  return (
    <div>
      {reach && `${stoodWords(reach, `of ${whose}`, system)} back from what they smell. `}
      {step && `${stoodWords(step, `of ${whose}`, system)} apart along a way. `}
      {setback && setbackWords(setback, system)}{' '}
      {after && setback.there > setback.here && (
        <button
          type="button"
          className="word"
          onClick={() => onTry({ words: 'The pan where the prints of this line ask for it', before: question.layout, after })}
        >
          set the pan there
        </button>
      )}{' '}
      <button type="button" className="word" onClick={() => put(true)}>
        as they stand elsewhere
      </button>
    </div>
  );
}

const stoodWords = ({ meanMm, priorMm, n }: Reached, whose: string, system: System): string =>
  `By ${many(n, 'print')} ${whose}, they come down ${show('length', meanMm, system)} (elsewhere ${show('length', priorMm, system)})`;

const setbackWords = ({ priorMm, ownMm, here, there }: Setback, system: System): string =>
  `A pan is best met ${show('length', ownMm, system)} back, elsewhere ${show('length', priorMm, system)}: of 100 that stand so ${in100(here)} fire this set, ${in100(there)} with its pan there.`;
