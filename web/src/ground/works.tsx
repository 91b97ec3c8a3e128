import { useState } from 'react';
import { useNavigate } from 'react-router';
import { beginAs } from '../lib/ask/begin';
import { useWorks } from '../lib/ask/queries';
import { Choice } from '../lib/fields/fields';
import { targets } from '../lib/lists.gen';
import { useSettings } from '../lib/settings';
import type { Spot, WorksHere } from '../lib/types.gen';
import { animalWord } from '../lib/words/called';
import { figure } from '../lib/words/learnt';
import { lacksWords, patternName } from '../lib/words/patterns';
import { duration } from '../lib/words/units';
import { capital, count, listed, plural } from '../lib/words/words';
import { placeWords, reasonWords } from '../lib/words/works';

/** How many are told before the others are asked for. */
const told = 3;

/** What would work at a spot, by the land, the wind, the season and the record: those that are as good as the best first, each with what speaks for it. */
export function Works({ spot, line, first }: { spot: Spot; line: string; first: string }) {
  const [target, setTarget] = useState(first);
  const [all, setAll] = useState(false);
  const { system } = useSettings();
  const { data } = useWorks(spot.id, target);
  const best = data?.ranked.filter((r) => r.first) ?? [];
  const shown = all ? (data?.ranked ?? []) : best.slice(0, told);
  const more = (data?.ranked.length ?? 0) - shown.length;
  return (
    <section aria-label="what would work here" className="works">
      <Choice label="for" path="target" value={target} options={targets} name={animalWord} onValue={setTarget} />
      {!data && <p className="quiet">Every way of making a set is tried here.</p>}
      {data && !data.decides && (
        <p>
          For {plural(target)} the place hardly decides here, {listed(best.map((r) => patternName(r.pattern)))}, whichever you build best.
          What decides is the side for the wind, what stands here, and what they have met.
        </p>
      )}
      {data && <p>{placeWords(data, target, system).map((one) => `${one}. `)}</p>}
      {spot.swirls && (
        <p>The wind swirls here and cannot be played. Hang a loud lure aside and high first, or lay a set that asks for no scent.</p>
      )}
      <ol className="rows">
        {shown.map((r) => (
          <Way key={r.pattern} r={r} spot={spot} line={line} target={target} />
        ))}
      </ol>
      {data && more > 0 && (
        <button type="button" className="word" onClick={() => setAll(true)}>
          {count(more)} more
        </button>
      )}
      {data && data.forbidden.length > 0 && <p className="quiet">Something else is not offered, by your card.</p>}
      {data && <p className="quiet">Judgements, by what this line has shown so far, of a set that has settled.</p>}
    </section>
  );
}

/** One way of making a set here. */
function Way({ r, spot, line, target }: { r: WorksHere; spot: Spot; line: string; target: string }) {
  const navigate = useNavigate();
  const { system } = useSettings();
  const [failed, setFailed] = useState(false);
  const begin = async () => {
    try {
      void navigate(`/line/${line}/bench/${await beginAs(line, spot.id, target, r.layout)}`);
    } catch {
      setFailed(true);
    }
  };
  return (
    <li>
      <b>{capital(patternName(r.pattern))}</b>
      {r.per100
        ? `, about ${figure(r.per100.mid)} in 100 nights, four times in five between ${figure(r.per100.low)} and ${figure(r.per100.high)}`
        : ', poor here'}
      .
      {r.lacks.map((key) => (
        <div key={key} className="dun">
          {capital(lacksWords(key, r.withinM, system))}.
        </div>
      ))}
      {r.up.length > 0 && <div className="quiet">For it, {listed(r.up.map(reasonWords))}.</div>}
      {r.down.length > 0 && <div className="quiet">Against it, {listed(r.down.map(reasonWords))}.</div>}
      <button type="button" className="word" onClick={() => void begin()}>
        begin it
      </button>{' '}
      <span className="quiet">about {duration(r.minutes)}</span>
      {failed && <div className="wrong">It could not be kept in this browser.</div>}
    </li>
  );
}
