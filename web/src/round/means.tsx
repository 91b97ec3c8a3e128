import { useState } from 'react';
import { Link } from 'react-router';
import { useMeans } from '../lib/ask/queries';
import type { SetNow } from '../lib/kept/overlay';
import { causeWords, mendWords, movedWords, sureWord } from '../lib/words/advice';
import { figure } from '../lib/words/learnt';
import { plural, capital, count } from '../lib/words/words';

interface Props {
  open: SetNow;
  line: string;
  visit: string;
  onDo: (what: 'remake' | 'look') => void;
}

/** What a finding may mean at this set: what lies behind it, by what, what would tell it from the next, and what to do; to leave it alone always stands there. */
export function Means({ open, line, visit, onDo }: Props) {
  const [said, setSaid] = useState<Record<string, boolean>>({});
  const told = Object.entries(said).map(([fact, is]) =>
    is === fact.startsWith('-') ? `-${fact.replace(/^-/, '')}` : fact.replace(/^-/, ''),
  );
  const { data } = useMeans(visit, told.sort().join(','));
  const [all, setAll] = useState(false);
  if (!data || data.causes.length === 0) return null;
  const shown = all ? data.causes : data.causes.slice(0, 2);
  const first = mendWords(data.first);
  return (
    <section className="means" aria-label="what it may mean">
      <h3>What it may mean</h3>
      <ul className="rows">
        {shown.map((c) => {
          const { is, tells, asks } = causeWords(c.key);
          const by = movedWords(c.moved);
          return (
            <li key={c.key}>
              <b>{capital(sureWord(c.sure))}</b>, {is}
              {by && <span className="quiet">, {by}</span>}.
              {asks ? (
                <div className="see">
                  {capital(asks.question)}?{' '}
                  {[true, false].map((yes) => (
                    <button
                      key={String(yes)}
                      type="button"
                      className="word"
                      aria-pressed={said[asks.fact] === yes}
                      onClick={() => setSaid({ ...said, [asks.fact]: yes })}
                    >
                      {yes ? 'yes' : 'no'}
                    </button>
                  ))}
                </div>
              ) : (
                <div className="quiet">Go and see, {tells}.</div>
              )}
            </li>
          );
        })}
      </ul>
      {data.causes.length > 2 && !all && (
        <button type="button" className="word" onClick={() => setAll(true)}>
          {count(data.causes.length - 2)} more
        </button>
      )}
      {data.first !== 'leave' && data.first !== 'search' && (
        <p>
          <b>{capital(first.does)}.</b>{' '}
          {first.opens === 'remake' && (
            <button type="button" className="word" onClick={() => onDo('remake')}>
              remake it
            </button>
          )}
          {first.opens === 'trap' && (
            <button type="button" className="word" onClick={() => onDo('look')}>
              look at the trap
            </button>
          )}
          {first.opens === 'bench' && <Link to={`/line/${line}/bench/${open.make.designId}`}>on the bench</Link>}
          {first.opens === 'ground' && <Link to={`/line/${line}/ground?spot=${open.set.spotId}`}>on the ground</Link>}
        </p>
      )}
      {data.alone !== null && (
        <p className={data.first === 'leave' ? undefined : 'quiet'}>
          {data.first === 'leave' ? (
            <>
              <b>Leave it alone.</b> It
            </>
          ) : (
            'Left alone, it'
          )}{' '}
          may hold about {figure(data.alone)} {plural(data.target)} in the {count(data.left)} nights that are left.
        </p>
      )}
    </section>
  );
}
