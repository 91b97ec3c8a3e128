import { usePlans } from '../lib/ask/may';
import { useState } from 'react';
import type { LineNow } from '../lib/kept/overlay';
import { useMends } from '../lib/ask/queries';
import { longDay } from '../lib/words/time';
import type { Day, Make, Odd, Visit } from '../lib/types.gen';
import { whys } from '../lib/words/uncounted';
import { bedFeltWord, findingWord, sideWord, wordIn } from '../lib/words/called';
import { MendRow } from './entry';
import { caughtDetails, foundWords, whoseWords } from '../lib/words/looks';
import { timeWords } from '../lib/words/when';

interface NotedProps {
  view: LineNow;
  day: Day;
  look: Visit;
  make: Make;
  setId: string;
  number: number;
}

/** What was noted of a set, in one line; it can be corrected. */
export function Noted({ view, day, look, make, setId, number }: NotedProps) {
  const [mending, setMending] = useState(false);
  const plans = usePlans();
  const { zone } = view.line;
  const also = look.also.map((f) => `${findingWord(f.finding)}${whoseWords(f)}`);
  const details = look.catches.map((c) => caughtDetails(c, make.layout)).filter(Boolean);
  const rest = [
    ...details,
    look.side && `from the ${sideWord(look.side)}`,
    look.finding !== 'locked' && look.bed && `bed ${bedFeltWord(look.bed)}`,
    look.note,
  ].filter(Boolean);
  return (
    <div className="noted">
      {timeWords(look, zone)} <b>{foundWords(look)}</b>
      {look.catches.length === 0 && whoseWords(look)}
      {also.length > 0 && `; also ${also.join('; ')}`}
      {rest.length > 0 && <span className="quiet">; {rest.join('; ')}</span>}{' '}
      {!mending && plans && (
        <button type="button" className="word" onClick={() => setMending(true)}>
          correct
        </button>
      )}
      {look.mendedAt !== null && <Before view={view} look={look} />}
      {mending && <MendRow view={view} day={day} look={look} make={make} setId={setId} number={number} onDone={() => setMending(false)} />}
    </div>
  );
}

/** What stood before a look was corrected. */
function Before({ view, look }: { view: LineNow; look: Visit }) {
  const { data: mends } = useMends(look.id);
  const { zone } = view.line;
  return mends?.map((m) => (
    <div className="quiet" key={m.id}>
      Corrected on {longDay(m.at, zone)}
      {m.reason && `: ${m.reason}`}.{' '}
      {m.before &&
        `Before it said ${timeWords(m.before, zone)} ${foundWords(m.before).replace(': ', ' ')}${whoseWords(m.before).replace(': ', ', ')}.`}
    </div>
  ));
}

interface NotCountedProps {
  view: LineNow;
  day: Day;
  odd: Odd;
  make: Make | undefined;
}

/** A look that is kept and counts for nothing, with the reason: it can be corrected. */
export function NotCounted({ view, day, odd, make }: NotCountedProps) {
  const [mending, setMending] = useState(false);
  const plans = usePlans();
  return (
    <div className="noted">
      {odd.visit ? timeWords(odd.visit, view.line.zone) : ''} set {odd.number}, <b>{findingWord(odd.finding ?? '')}</b>; kept, but not
      counted: <span className="dun">{wordIn(whys, odd.why)}</span>{' '}
      {!mending && plans && odd.visit && (
        <button type="button" className="word" onClick={() => setMending(true)}>
          correct
        </button>
      )}
      {mending && odd.visit && (
        <MendRow
          view={view}
          day={day}
          look={odd.visit}
          make={make}
          setId={odd.setId}
          number={odd.number}
          onDone={() => setMending(false)}
        />
      )}
    </div>
  );
}
