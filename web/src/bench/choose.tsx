import { beginDesign } from '../lib/ask/begin';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { markOf } from '../lib/words/parts';
import { useLineID } from '../lib/ask/queries';
import type { LineNow } from '../lib/kept/overlay';
import type { Design } from '../lib/types.gen';
import { animalWord } from '../lib/words/called';

/** The bench without a design: what lies on it, and where one can be begun. */
export function Choose({ view }: { view: LineNow }) {
  const line = useLineID();
  const navigate = useNavigate();
  const [failed, setFailed] = useState(false);
  const begin = async (spot: string) => {
    try {
      void navigate(`/line/${line}/bench/${await beginDesign(line, spot)}`);
    } catch {
      setFailed(true);
    }
  };
  const numbers = new Map(view.sets.map((s) => [s.set.id, s.set.number]));
  return (
    <div className="page two">
      <section>
        <h2>On the bench</h2>
        <ul className="rows">
          {inOrder(view).map((d) => (
            <li key={d.id}>
              <Link className="due" to={`/line/${line}/bench/${d.id}`}>
                <MarkIcon kind={markOf(d.layout)} />
                <b>{(d.setId && numbers.get(d.setId)) ?? ''}</b>
                <span>
                  {view.spots.find((s) => s.id === d.spotId)?.name} <span className="quiet">· {animalWord(d.target)}</span>
                </span>
                <span className="quiet">{d.setId ? '' : 'not built yet'}</span>
              </Link>
            </li>
          ))}
        </ul>
        {view.designs.length === 0 && <p className="quiet">Nothing yet. Choose a spot on the right and a set is begun there.</p>}
      </section>
      <section>
        <h2>Begin a set at</h2>
        <ul className="rows">
          {view.spots.map((s) => (
            <li key={s.id}>
              <button type="button" className="word" onClick={() => void begin(s.id)}>
                {s.name}
              </button>{' '}
              <span className="quiet">{view.properties.find((p) => p.id === s.propertyId)?.name}</span>
            </li>
          ))}
        </ul>
        {failed && <p className="wrong">The program does not answer. Try again in a moment.</p>}
        {view.spots.length === 0 && (
          <p>
            There is no spot yet. <Link to={`/line/${line}/ground`}>Mark one on the ground first.</Link>
          </p>
        )}
      </section>
    </div>
  );
}

/** Designs in running order, those of one spot together. */
function inOrder(view: LineNow): Design[] {
  const at = (d: Design) => {
    const stop = view.round.findIndex((s) => (d.setId ? s.setId === d.setId : s.designId === d.id));
    return stop < 0 ? view.round.length : stop;
  };
  return [...view.designs].sort((a, b) => at(a) - at(b));
}
