import { winds } from '../lib/lists.gen';
import { useState } from 'react';
import { Link } from 'react-router';
import { SearchRings } from '../draw/search';
import { useWeather } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { onDrag } from '../lib/words/parts';
import { showDistance } from '../lib/words/units';
import { Choice, Measure, Text } from '../lib/fields/fields';
import type { SetNow } from '../lib/kept/overlay';
import type { Finding, Search, Visit } from '../lib/types.gen';
import { Back, EachTrap } from './eachtrap';

const windNames: Record<string, string> = {
  n: 'north',
  ne: 'north-east',
  e: 'east',
  se: 'south-east',
  s: 'south',
  sw: 'south-west',
  w: 'west',
  nw: 'north-west',
};

const noSearch: Search = { toward: '', cover: '', farM: null, hungOn: '' };

/** A trap is gone: what is known of where it went, so that it can be searched for. */
export function GoneForm({ onBack, onGone }: { onBack: () => void; onGone: (search: Search) => void }) {
  const [search, setSearch] = useState(noSearch);
  return (
    <>
      <h2>Trap gone</h2>
      <p>The set stays on the round, late, until the trap is found or given up.</p>
      <div className="whose">
        <Choice
          label="it went toward, if that can be told"
          path="search.toward"
          value={search.toward}
          options={winds}
          name={(key) => windNames[key] ?? key}
          onValue={(toward) => setSearch({ ...search, toward: toward === search.toward ? '' : toward })}
        />
        <Text
          label="cover there, and what was last seen"
          path="search.cover"
          value={search.cover}
          onValue={(cover) => setSearch({ ...search, cover })}
        />
      </div>
      <button type="button" className="btn btn-primary next" onClick={() => onGone(search)}>
        Search for it
      </button>
      <Back onBack={onBack} />
    </>
  );
}

/** How far it can be, drawn and said, what to take along, and when to ask for help. */
export function SearchCard({ open, line, toward }: { open: SetNow; line: string; toward: string }) {
  const { system } = useSettings();
  const { data: weather } = useWeather();
  const run = weather?.sets.find((s) => s.setId === open.set.id)?.run;
  const drags = onDrag(open.make.layout);
  return (
    <section aria-label="where to search">
      {run ? (
        <>
          <SearchRings run={run} toward={toward} system={system} />
          <p>
            In such cover it lies as often as not within <b>{showDistance(run.medianM, system)}</b> of the set, seldom beyond{' '}
            <b>{showDistance(run.farM, system)}</b>, by the trade’s habit and by what you found before.{' '}
            <Link to={`/line/${line}/ground?set=${open.set.id}`}>on the map</Link>
          </p>
        </>
      ) : (
        <p>
          {drags
            ? 'How far a drag runs hangs on the cover that it can hang in, and that was not said.'
            : 'It was fixed, so nobody can say how far it went. Begin at the hole where it was anchored.'}{' '}
          Go round it in rings, each a little wider, and look for the first scrape.
        </p>
      )}
      <p className="quiet">
        Take along a light, gloves, a catch pole, cutters, tape to mark where you have been, and somebody. Ask for help where it is not
        found before dark, where the trail leads over a boundary, a road or ice, or where it may be a pet or an animal that is protected.
        Ask the landowner before you cross; check with your agency.
      </p>
    </section>
  );
}

interface SearchProps {
  open: SetNow;
  line: string;
  onFound: (finding: Finding, told: Partial<Visit>) => void;
  onHolds: () => void;
}

/** A search that is open: found, not found today, or given up. */
export function SearchForm({ open, line, onFound, onHolds }: SearchProps) {
  const [search, setSearch] = useState<Search>({ ...noSearch, toward: open.lastVisit?.search?.toward ?? '' });
  const [found, setFound] = useState(false);
  const [rigs, setRigs] = useState(open.lastVisit?.rigs ?? []);
  const known = open.lastVisit?.search;
  // Found or given up is said of the trap that was gone: what the others were found as stands beside it.
  const others = rigs.filter((r) => r.state !== 'gone');
  const change = (part: Partial<Search>) => setSearch({ ...search, ...part });
  const seen = known && [known.toward && `toward the ${windNames[known.toward] ?? known.toward}`, known.cover].filter(Boolean).join('; ');
  return (
    <>
      <h2>Its trap is searched for</h2>
      <p>
        {seen ? `It went ${seen}.` : 'Nothing is known of where it went.'}{' '}
        <b>It may hold an animal. Come up to it from where you can see it first.</b>
      </p>
      {!found && <SearchCard open={open} line={line} toward={known?.toward ?? ''} />}
      <EachTrap make={open.make} rigs={rigs} onRigs={setRigs} />
      {!found ? (
        <div className="answers settling" key="search">
          {(
            [
              ['Found', 'how far, which way, on what it hung', () => setFound(true)],
              ['Not found today', 'the search goes on', () => onFound('gone', { search: known ?? noSearch, rigs })],
              [
                'Given up',
                'remake the set with another trap, or pull it',
                () => onFound('given_up', { search: known ?? noSearch, rigs: others }),
              ],
            ] as const
          ).map(([name, hint, onClick]) => (
            <button key={name} type="button" className="answer" onClick={onClick}>
              <b>{name}</b>
              <span>{hint}</span>
            </button>
          ))}
        </div>
      ) : (
        <div className="whose">
          <Measure
            label="how far off"
            path="search.farM"
            kind="ground"
            value={search.farM === null ? null : search.farM * 1000}
            onValue={(mm) => change({ farM: mm / 1000 })}
            onBlank={() => change({ farM: null })}
          />
          <Choice
            label="which way"
            path="search.toward"
            value={search.toward}
            options={winds}
            name={(key) => windNames[key] ?? key}
            onValue={(toward) => change({ toward: toward === search.toward ? '' : toward })}
          />
          <Text label="on what it hung" path="search.hungOn" value={search.hungOn} onValue={(hungOn) => change({ hungOn })} />
          <button type="button" className="btn btn-primary next" onClick={() => onFound('found', { search, rigs: others })}>
            Found, empty
          </button>
          <button
            type="button"
            className="btn btn-primary next"
            onClick={() => {
              onFound('', { search, rigs: others });
              onHolds();
            }}
          >
            Found, with an animal
          </button>
        </div>
      )}
    </>
  );
}
