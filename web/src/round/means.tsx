import { useState } from 'react';
import { Link } from 'react-router';
import { useMeans } from '../lib/ask/queries';
import type { SetNow } from '../lib/kept/overlay';
import type { CauseTold, MeansView, OptionTold } from '../lib/types.gen';
import {
  aloneWord,
  barrenWords,
  causeWords,
  heldByWords,
  mendWords,
  movedWords,
  optionWords,
  sinceWords,
  sureWord,
} from '../lib/words/advice';
import { findingWord } from '../lib/words/called';
import { figure } from '../lib/words/learnt';
import { plural, capital, count } from '../lib/words/words';

interface Props {
  open: SetNow;
  line: string;
  visit: string;
  onDo: (what: 'remake' | 'look', as?: OptionTold) => void;
}

/**
 * What a finding may mean at this set: what lies behind it, by what, what would tell it from the next, and what to do; to leave it alone always stands
 * there, and what it was changed for before is told of.
 */
export function Means({ open, line, visit, onDo }: Props) {
  const [said, setSaid] = useState<Record<string, boolean>>({});
  const told = Object.entries(said).map(([fact, is]) =>
    is === fact.startsWith('-') ? `-${fact.replace(/^-/, '')}` : fact.replace(/^-/, ''),
  );
  const { data } = useMeans(visit, told.sort().join(','));
  const [all, setAll] = useState(false);
  if (!data) return null;
  const shown = all ? data.causes : data.causes.slice(0, 2);
  const [first, ...others] = data.options;
  const leaves = data.first === 'leave';
  const does = (o: OptionTold) => <Does key={o.mend} o={o} data={data} open={open} line={line} onDo={onDo} />;
  return (
    <section className="means" aria-label="what it may mean">
      {data.since && <p>{sinceWords(data.since, findingWord(data.since.after))}</p>}
      {data.held.map((h, i) => {
        const words = heldByWords(h);
        return words && <p key={i}>{capital(words)}.</p>;
      })}
      {data.causes.length > 0 && <h3>What it may mean</h3>}
      <ul className="rows">
        {shown.map((c) => (
          <Cause key={c.key} c={c} said={said} onSaid={(fact, is) => setSaid({ ...said, [fact]: is })} />
        ))}
      </ul>
      {!leaves && first && does(first)}
      {data.alone !== null && (
        <p className={leaves ? undefined : 'quiet'}>
          {leaves && <b>{data.remake ? 'Make it again as it was. ' : 'Leave it alone. '}</b>}
          {leaves && data.causes.length > 0 && aloneWord(data.why) && `${capital(aloneWord(data.why))}. `}
          {leaves ? 'It' : data.remake ? 'Made again as it was, it' : 'Left alone, it'} may hold about {figure(data.alone)}{' '}
          {plural(data.target)} in the {count(data.left)} nights that are left.
        </p>
      )}
      {data.causes.length === 0 && barrenWords(data) && <p className="quiet">{capital(barrenWords(data))}.</p>}
      {leaves && first && does(first)}
      {all && others.map(does)}
      {(data.causes.length > 2 || others.length > 0) && !all && (
        <button type="button" className="word" onClick={() => setAll(true)}>
          what else it may be
        </button>
      )}
      {data.forbidden.length > 0 && <p className="quiet">Something else is not offered, by your card.</p>}
    </section>
  );
}

/** One cause, how sure it is, and what to go and see. */
function Cause({ c, said, onSaid }: { c: CauseTold; said: Record<string, boolean>; onSaid: (fact: string, is: boolean) => void }) {
  const { is, tells, asks } = causeWords(c.key);
  const by = movedWords(c.moved);
  return (
    <li>
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
              onClick={() => onSaid(asks.fact, yes)}
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
}

/** One thing that can be done, what it may bring, and the way to it: the set made again with it, drawn, or an act beside it. */
function Does({ o, data, open, line, onDo }: { o: OptionTold; data: MeansView; open: SetNow; line: string; onDo: Props['onDo'] }) {
  const words = optionWords(o);
  const bench = o.layout && o.parts.length > 0;
  return (
    <p className={o.mend === data.first ? undefined : 'quiet'}>
      {o.mend === data.first ? <b>{capital(mendWords(o.mend))}.</b> : `Or ${mendWords(o.mend)}.`}
      {words && ` ${capital(words)}.`}{' '}
      {o.layout && (
        <button type="button" className="word" aria-label={`make it so, ${mendWords(o.mend)}`} onClick={() => onDo('remake', o)}>
          make it so
        </button>
      )}{' '}
      {bench && (
        <Link to={`/line/${line}/bench/${open.make.designId}`} state={{ lay: o.layout }} aria-label={`draw it, ${mendWords(o.mend)}`}>
          draw it
        </Link>
      )}
      {o.act === 'trap' && (
        <button type="button" className="word" onClick={() => onDo('look')}>
          look at the trap
        </button>
      )}
      {o.act === 'ask' && <Link to={`/line/${line}/ground?spot=${open.set.spotId}`}>whose land it is</Link>}
    </p>
  );
}
