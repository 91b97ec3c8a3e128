import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Mornings } from './mornings';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import type { Layout, Next, Question } from '../lib/types.gen';
import { animalWord } from '../lib/words/called';
import { in100, not } from '../lib/words/units';
import { capital, count } from '../lib/words/words';

interface Props {
  question: Question | undefined;
  /** The set without a change that was tried. */
  before?: Layout | undefined;
}

/** By so many visits of each animal: what is told to the whole hundred needs no more. */
const visits = 4000;

/** What the next fourteen nights may bring, drawn again and again; and, where a change was tried, what they would without it. */
export function Ahead({ question, before }: Props) {
  const [open, setOpen] = useState(false);
  // While a part moves what was drawn of the set before stands.
  const [rested, setRested] = useState(question);
  if (question && question !== rested) setRested(question);
  return (
    <section className="notice" aria-label="the next fourteen nights">
      <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        the next fourteen nights
      </button>
      {open && rested && <Drawn key={rested.target} question={{ ...rested, visits, map: false }} moving={!question} before={before} />}
    </section>
  );
}

const unasked = { enabled: false, queryKey: ['no nights'], queryFn: () => Promise.reject<Next>(new Error('not asked')) };

function Drawn({ question, moving, before }: { question: Question; moving: boolean; before: Layout | undefined }) {
  const stands = {
    placeholderData: (before: Next | undefined) => before,
    retry: (n: number, e: Error) => !(e instanceof Refused) && n < 2,
  };
  const now = useQuery({ ...routes.nights(question), ...stands });
  const was = useQuery({ ...(before ? routes.nights({ ...question, layout: before }) : unasked), ...stands });
  if (now.error)
    return (
      <p className="wrong" role="status">
        They could not be drawn; nothing is changed.{' '}
        <button type="button" className="word" onClick={() => void now.refetch()}>
          draw them again
        </button>
      </p>
    );
  if (!now.data) return <p role="status">Drawing them…</p>;
  const next = now.data;
  const anew = moving || now.isPlaceholderData;
  const name = animalWord(question.target);
  return (
    <div aria-busy={anew}>
      <p role="status">
        In <b className="figure">{in100(not(next.none))} of 100</b> such fortnights it holds a {name}
        {next.more >= 0.005 && `, in ${in100(next.more)} more than one`}
        {next.first !== null && `; half of those have it by morning ${next.first}`}.
        {!anew && before && was.data && ` Without the change it would in ${in100(not(was.data.none))}.`}
      </p>
      <p>
        In {in100(next.others)} something else is held{next.pets >= 0.005 && `, in ${in100(next.pets)} a dog or a cat`}. In{' '}
        {in100(next.lost)} a trap fires and holds nothing, in {in100(next.spoilt)} the set is dug out, robbed or rolled on. In{' '}
        {in100(next.quiet)} it lies quiet on every morning.
      </p>
      <Mornings runs={next.mornings} />
      <p className="quiet">
        {anew && 'Being drawn anew; this is of the set before. '}
        {capital(count(next.mornings.length))} of {next.runs.toLocaleString('en')}, a mark a morning: a dot is quiet, a stroke passed or
        looked, a cross worked, a black spot caught, whatever it is. Looked at every morning, and made again as it was where something
        happened. How many pass is drawn between what a line without a record may give. The weather to come is not in it.
      </p>
    </div>
  );
}
