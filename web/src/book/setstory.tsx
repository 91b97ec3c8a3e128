import { Link } from 'react-router';
import { NightStrip } from '../draw/nightstrip';
import { Refused } from '../lib/ask/api';
import { Unread } from '../lib/ask/unread';
import { useSeason, useSetStory } from '../lib/ask/queries';
import type { LineNow } from '../lib/kept/overlay';
import type { Made, Sum } from '../lib/types.gen';
import { ofMakeWords } from '../lib/words/learnt';
import { patternName } from '../lib/words/patterns';
import { dayYear } from '../lib/words/time';
import { nights } from '../lib/words/units';
import { capital } from '../lib/words/words';
import { Chapters } from './chapters';

/** The story of a set: each make with its nights, what its drawing promised and what came. */
export function SetStory({ set, view }: { set: string; view: LineNow }) {
  const { data: story, error } = useSetStory(set, useSeason());
  if (error instanceof Refused)
    return (
      <main className="page">
        <Chapters open="set" />
        <p>No such set stood in this season.</p>
      </main>
    );
  if (!story) return <Unread />;
  const spot = view.spots.find((s) => s.id === story.spotId);
  return (
    <main className="page">
      <Chapters open="set" />
      <h2>
        The story of set {story.number}
        {spot && `, ${spot.name}`}
      </h2>
      <div className="quiet">
        each step a night: a dot quiet, a stroke passed or looked, a ring worked, hatching locked by weather, a square held; blank where
        nobody looked that morning
      </div>
      <ul className="rows">
        {story.makes.map((made, i) => (
          <li key={made.makeId}>
            <NightStrip nights={made.nights} />
            <div>
              {i === 0 ? 'Built' : 'Remade'} {dayYear(made.builtAt, view.line.zone)}, {patternName(made.pattern)}:{' '}
              {nights(made.nights.length)}
              {promisedWords(made, story.promised[made.makeId])}
            </div>
          </li>
        ))}
      </ul>
      <p className="words">
        <Link to={`/line/${view.line.id}/round/${set}`}>on the round</Link>
        {spot && <Link to={`/line/${view.line.id}/ground?spot=${spot.id}`}>{capital(spot.name)}</Link>}
      </p>
    </main>
  );
}

/** What a make promised, and what came; nothing of one that did not stand through a night. */
const promisedWords = (made: Made, sum: Sum | undefined): string => (made.nights.length === 0 || !sum ? '' : `; ${ofMakeWords(sum)}`);
