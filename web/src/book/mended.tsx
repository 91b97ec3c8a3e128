import { useMended, useSeason } from '../lib/ask/queries';
import { Unread } from '../lib/ask/unread';
import { Seasons } from '../lib/fields/seasons';
import type { LineNow } from '../lib/kept/overlay';
import { circuitWords, cureWords, lureWords } from '../lib/words/mended';
import { findingWord } from '../lib/words/called';
import { capital } from '../lib/words/words';
import { Chapters } from './chapters';

/** What was done about trouble and what came of it, what each lure brought, and how often the targets come by. */
export function Mended({ view }: { view: LineNow }) {
  const { data } = useMended(useSeason());
  if (!data) return <Unread />;
  const troubles = [...new Set(data.cures.map((c) => c.after))];
  const spot = (id: string) => view.spots.find((s) => s.id === id)?.name ?? '';
  const told = data.circuits.filter((c) => c.known);
  return (
    <main className="page two">
      <section>
        <Chapters open="mended" />
        <Seasons seasons={data.seasons} open={data.open} all />
        <h2>What mended</h2>
        {troubles.length === 0 && <p>Nothing was made again after trouble yet.</p>}
        {troubles.map((after) => (
          <div key={after}>
            <h3>After {findingWord(after)}</h3>
            <ul className="rows">
              {data.cures
                .filter((c) => c.after === after)
                .map((c) => (
                  <li key={c.part}>{capital(cureWords(c))}.</li>
                ))}
            </ul>
          </div>
        ))}
        <p className="quiet">
          Counted is what was found of the targets since, at what the trouble had failed at, and how far that leaves it open. Two ways whose
          shares reach into each other are not told apart.
        </p>
      </section>
      <section>
        <h2>What each lure brought</h2>
        {data.lures.length === 0 ? (
          <p>No lure lay anywhere yet.</p>
        ) : (
          <ul className="rows">
            {data.lures.map((l) => (
              <li key={l.lureId + l.name}>
                <b>{l.name}</b>, {lureWords(l)}.
              </li>
            ))}
          </ul>
        )}
        <h2 className="above-16">How often they come by</h2>
        {told.length === 0 && (
          <p>It cannot be told yet. It takes four nights in which it was known whose tracks they were, at one place.</p>
        )}
        <ul className="rows">
          {told.map((c) => (
            <li key={c.spotId + c.animal}>
              <b>{spot(c.spotId)}</b>, {circuitWords(c)}.
            </li>
          ))}
        </ul>
      </section>
    </main>
  );
}
