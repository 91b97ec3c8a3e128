import { Link } from 'react-router';
import { Ahead } from '../draw/ahead';
import { NightStrip } from '../draw/nightstrip';
import { Refused } from '../lib/ask/api';
import { Unread } from '../lib/ask/unread';
import { standsIn, useCircumstances } from '../lib/ask/circumstances';
import { usePlaceStory, useSeason, useSetStory, useWeather } from '../lib/ask/queries';
import { Seasons } from '../lib/fields/seasons';
import type { LineNow, SetNow } from '../lib/kept/overlay';
import type { Made, MadeAnother, StoriesView, StoryView, Sum } from '../lib/types.gen';
import { apartWords, heldWords, partsWords } from '../lib/words/apart';
import { Picture } from '../lib/fields/photo';
import { animalWord, findingWord } from '../lib/words/called';
import { pulledWords } from '../lib/words/stillin';
import { figure, ofMakeWords } from '../lib/words/learnt';
import { patternName } from '../lib/words/patterns';
import { dayYear } from '../lib/words/time';
import { nights } from '../lib/words/units';
import { capital, listed } from '../lib/words/words';
import { Chapters } from './chapters';
import { useLeads } from './leads';

/** The story of a set: each make with its nights, what its drawing promised and what came, and what became of each change. */
export function SetStory({ set, view }: { set: string; view: LineNow }) {
  const leads = useLeads();
  const { data, error } = useSetStory(set, useSeason());
  const story = data?.stories[0];
  const spot = view.spots.find((s) => s.id === story?.spotId);
  const standing = view.sets.find((s) => s.set.id === set && s.bead.state === 'working');
  if (error instanceof Refused) return <NoSuch of="set" />;
  if (!data || !story) return <Unread />;
  return (
    <main className="page">
      <Chapters open="set" />
      <Seasons seasons={data.seasons} open={data.open} all />
      <h2>
        The story of set {story.number}
        {spot && `, ${spot.name}`}
        {inSeason(data)}
      </h2>
      <Legend />
      <ItsMakes story={story} view={view} />
      <Pulled story={story} view={view} />
      <Gallery story={story} view={view} />
      {standing && <NextNights set={standing} view={view} />}
      <p className="words">
        <Link to={`/line/${view.line.id}/round/${set}`}>on the round</Link>
        {standing && <Link to={`/line/${view.line.id}/bench/${standing.make.designId}`}>change it on the bench</Link>}
        {standing && <Link to={`/line/${view.line.id}/bench/${standing.make.designId}?stood`}>put right how it stood</Link>}
        {spot && <Link to={leads(`place/${spot.id}`)}>The story of {spot.name}</Link>}
        {spot && <Link to={`/line/${view.line.id}/ground?spot=${spot.id}`}>{capital(spot.name)} on the ground</Link>}
      </p>
    </main>
  );
}

/** The story of a place: all sets that stood there, in the season that is chosen or in all. */
export function PlaceStory({ spot, view }: { spot: string; view: LineNow }) {
  const leads = useLeads();
  const { data, error } = usePlaceStory(spot, useSeason());
  const name = view.spots.find((s) => s.id === spot)?.name ?? 'a place that was removed';
  if (error instanceof Refused) return <NoSuch of="place" />;
  if (!data) return <Unread />;
  return (
    <main className="page">
      <Chapters open="set" />
      <Seasons seasons={data.seasons} open={data.open} all />
      <h2>
        The story of {name}
        {inSeason(data)}
      </h2>
      {data.stories.length === 0 ? <p>No set stood here.</p> : <Legend />}
      {data.stories.map((story) => (
        <section key={story.setId}>
          <h3>
            <Link to={leads(`set/${story.setId}`)}>Set {story.number}</Link>
          </h3>
          <ItsMakes story={story} view={view} />
        </section>
      ))}
      <p className="words">
        <Link to={`/line/${view.line.id}/ground?spot=${spot}`}>{capital(name)} on the ground</Link>
      </p>
    </main>
  );
}

const inSeason = ({ season, seasons }: StoriesView): string => (season ? `, ${season.name}` : seasons.length > 1 ? ', all seasons' : '');

function NoSuch({ of }: { of: 'set' | 'place' }) {
  return (
    <main className="page">
      <Chapters open="set" />
      <p>{of === 'set' ? 'No such set stood in this season.' : 'No such place is known.'}</p>
    </main>
  );
}

/** What the next nights may bring to a set that stands and works. */
function NextNights({ set: { set, make }, view }: { set: SetNow; view: LineNow }) {
  const around = useCircumstances({ lineId: view.line.id, layout: make.layout, target: make.target, spotId: set.spotId, setId: set.id });
  const { data: weather } = useWeather();
  const frost = weather?.spots.find((f) => f.spotId === set.spotId);
  if (!around) return null;
  return (
    <Ahead
      question={{
        layout: make.layout,
        target: make.target,
        visits: 1,
        map: false,
        underfoot: frost?.underfoot ?? {},
        ground: standsIn(
          view.spots.find((s) => s.id === set.spotId),
          frost,
        ),
        circumstances: around.usual,
      }}
    />
  );
}

const Legend = () => (
  <div className="quiet">
    each step a night: a dot quiet, a stroke passed or looked, a ring worked, hatching locked by weather, a square held; blank where nobody
    looked that morning
  </div>
);

function ItsMakes({ story, view }: { story: StoryView; view: LineNow }) {
  return (
    <ul className="rows">
      {story.makes.map((made, i) => {
        const change = story.changes[made.makeId];
        return (
          <li key={made.makeId}>
            <NightStrip nights={made.nights} />
            <div>
              {i === 0 ? 'Built' : 'Remade'} {dayYear(made.builtAt, view.line.zone)}, {patternName(made.pattern)}:{' '}
              {nights(made.nights.length)}
              {made.caught.length > 0 && `; held ${listed(made.caught.map(animalWord))}`}
              {promisedWords(made, story.promised[made.makeId])}
            </div>
            {change && <Changed change={change} />}
          </li>
        );
      })}
    </ul>
  );
}

/** How it was pulled, and what was left open there. */
function Pulled({ story, view }: { story: StoryView; view: LineNow }) {
  const { zone } = view.line;
  if (story.pulls.length === 0) return null;
  return (
    <ul className="rows">
      {story.pulls.map((p) => (
        <li key={p.id}>
          {p.later ? 'What had stayed there' : 'Pulled'} {dayYear(p.at, zone)}
          {pulledWords(p)}
          {p.note && <span className="quiet"> · {p.note}</span>}
        </li>
      ))}
    </ul>
  );
}

/** Its pictures in order of time. */
function Gallery({ story, view }: { story: StoryView; view: LineNow }) {
  if (story.pictures.length === 0) return null;
  return (
    <section className="gallery" aria-label="its pictures">
      {story.pictures.map((p) => (
        <figure key={p.photoId}>
          <Picture line={view.line.id} id={p.photoId} what={`set ${story.number}`} />
          <figcaption>
            {dayYear(p.at, view.line.zone)}, {p.finding === '' ? 'as built' : findingWord(p.finding)}
          </figcaption>
        </figure>
      ))}
    </section>
  );
}

/** What a change was meant to do, as its drawing promised, and what it has done. */
function Changed({ change }: { change: MadeAnother }) {
  const { promisedBefore: before, promisedSince: since } = change;
  return (
    <div className="quiet">
      {capital(partsWords(change.parts))}.
      {before !== null && since !== null && ` By the drawings ${figure(before)} in 100 nights before it, ${figure(since)} since.`}{' '}
      {change.known ? (
        <>
          Of targets it held {heldWords(change.a)} before that, and {heldWords(change.b)} since.{' '}
          {change.a.catches + change.b.catches > 0 && apartWords(change, 'the set before it', 'the set since')}
        </>
      ) : (
        'No night has told of it yet.'
      )}
    </div>
  );
}

/** What a make promised, and what came; nothing of one that did not stand through a night. */
const promisedWords = (made: Made, sum: Sum | undefined): string => (made.nights.length === 0 || !sum ? '' : `; ${ofMakeWords(sum)}`);
