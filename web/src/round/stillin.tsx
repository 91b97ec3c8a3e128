import { nowISO } from '../lib/kept/clock';
import { useOnce } from '../lib/fields/once';
import { act } from '../lib/kept/outbox';
import type { LineNow } from '../lib/kept/overlay';
import type { Pull, StillNow } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { useRack } from '../lib/ask/queries';
import { stillInWords } from '../lib/words/stillin';
import { day } from '../lib/words/time';
import { capital } from '../lib/words/words';

/** What pulls left in the ground: it comes out, or is given up, with one tap. */
export function StillIn({ view, of, here }: { view: LineNow; of: StillNow[]; here?: boolean }) {
  const { data: rack } = useRack();
  const say = useOnce(async (x: StillNow, told: 'fetched' | 'lost') => {
    const id = ulid();
    const trap = told === 'lost' && x.trap === 'frozen_in' ? 'lost' : 'home';
    const pull: Pull = {
      id,
      lineId: view.line.id,
      makeId: x.makeId,
      at: nowISO(),
      later: true,
      rigs: [{ slot: x.slot, trap, sprung: false, anchor: 'out' }],
      done: [],
      note: '',
      undoneAt: null,
    };
    const outcome = await act(`/lines/${view.line.id}/pulls/${id}`, pull, `what stayed at set ${x.number}, ${told}`, { set: x.setId });
    return outcome.state !== 'unkept';
  });
  return (
    <ul className="rows still">
      {of.map((x) => {
        const number = rack?.traps.find((h) => h.trap.id === x.trapId)?.trap.number;
        const spot = view.spots.find((s) => s.id === x.spotId)?.name ?? '';
        return (
          <li key={`${x.makeId} ${x.slot}`}>
            {here ? '' : `Set ${x.number}, ${spot}, `}
            {(here ? capital : (words: string) => words)(stillInWords(x, number))} since {day(x.since, view.line.zone)}.
            {x.due && <b className="dun"> The ground gives it back now.</b>}
            <div className="foot above-0">
              <button type="button" className="word" onClick={() => void say(x, 'fetched')}>
                fetched
              </button>
              <button type="button" className="word" onClick={() => void say(x, 'lost')}>
                given up
              </button>
            </div>
          </li>
        );
      })}
    </ul>
  );
}
