import { Picture } from '../lib/fields/photo';
import { Works } from './works';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useNavigate } from 'react-router';
import { beginDesign } from '../lib/ask/begin';
import { MarkIcon } from '../draw/mark';
import { useBy, useSpotStory } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { day, dayAt, dayYear, daysBetween } from '../lib/words/time';
import type { Ground, Kind, LineView, Sign, Spot } from '../lib/types.gen';
import { ageWord, animalWord, metWord, setWord, signWord } from '../lib/words/called';
import { bearing, capital } from '../lib/words/words';
import type { Changes } from '../lib/ask/change';
import { FeaturePanel } from './featureform';
import { KeepForm, useKeep } from '../lib/fields/keep';
import type { Chosen } from './mapprops';
import { fallWords, SignPanel } from './signform';
import { SpotFields, spotWords } from './spotform';
import { Text } from '../lib/fields/fields';

/** A form begins anew when another version comes, yet what was just added is the same when its first answer comes. */
export const formKey = ({ id, version }: { id: string; version: number }) => `${id} ${Math.max(version, 1)}`;

interface ChosenProps {
  view: LineView;
  ground: Ground;
  kinds: Kind[];
  chosen: Chosen;
  changes: Changes;
  onGone: () => void;
}

export function ChosenPanel({ view, ground, kinds, chosen, changes, onGone }: ChosenProps) {
  const spot = chosen?.what === 'spot' ? ground.spots.find((s) => s.id === chosen.id) : undefined;
  const sign = chosen?.what === 'sign' ? ground.signs.find((s) => s.id === chosen.id) : undefined;
  const feature = chosen?.what === 'feature' ? ground.features.find((f) => f.id === chosen.id) : undefined;
  if (spot) return <ChosenSpot key={formKey(spot)} view={view} ground={ground} spot={spot} changes={changes} onGone={onGone} />;
  if (sign) return <SignPanel key={formKey(sign)} view={view} ground={ground} sign={sign} changes={changes} onGone={onGone} />;
  if (feature) return <FeaturePanel key={formKey(feature)} view={view} kinds={kinds} feature={feature} changes={changes} onGone={onGone} />;
  return (
    <>
      <h2>Choose something</h2>
      <p>Touch a spot, a sign or a line on the ground to see what is known of it.</p>
      <h3>Sign, newest first</h3>
      <SignList view={view} ground={ground} signs={ground.signs.slice(0, 9)} />
    </>
  );
}

/** How old a sign was when it was seen: told of its own day. */
const ageWords = (s: Sign, days: number): string => (s.age === 'last_night' && days === 0 ? 'fresh (last night)' : ageWord(s.age));

function SignList({ view, ground, signs }: { view: LineView; ground: Ground; signs: Sign[] }) {
  const spot = new Map(ground.spots.map((s) => [s.id, s.name]));
  return (
    <ul className="rows">
      {signs.map((s) => {
        const days = daysBetween(s.seenAt, view.now, view.line.zone);
        return (
          <li key={s.id}>
            <Link to={`?sign=${s.id}`} className="plain">
              <b>
                {s.what === 'none'
                  ? 'No sign'
                  : `${capital(signWord(s.what))}, ${s.candidates.length > 0 ? s.candidates.map(animalWord).join(' or ') + '?' : animalWord(s.animal)}`}
              </b>
            </Link>{' '}
            <span className="quiet">
              {days === 0 ? 'today' : days === 1 ? 'yesterday' : dayAt(s.seenAt, view.now, view.line.zone)}
              {s.youngerThan
                ? `, younger than the ${fallWords(ground, s.youngerThan, view.line.zone)}`
                : s.what === 'none'
                  ? ''
                  : s.age === ''
                    ? ', age not said'
                    : `, ${ageWords(s, days)}`}
            </span>
            <div className="quiet">
              {[s.spotId ? spot.get(s.spotId) : '', s.directionDeg === null ? '' : `going ${bearing(s.directionDeg)}`, s.note]
                .filter(Boolean)
                .join('; ')}
            </div>
          </li>
        );
      })}
    </ul>
  );
}

function ChosenSpot({
  view,
  ground,
  spot,
  changes,
  onGone,
}: {
  view: LineView;
  ground: Ground;
  spot: Spot;
  changes: Changes;
  onGone: () => void;
}) {
  const { system } = useSettings();
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const [works, setWorks] = useState(false);
  const [failed, setFailed] = useState('');
  const designs = view.designs.filter((d) => d.spotId === spot.id);
  const sets = view.sets.filter((s) => s.set.spotId === spot.id);
  const signs = ground.signs.filter((s) => s.spotId === spot.id);
  const bench = async () => {
    try {
      void navigate(`/line/${view.line.id}/bench/${await beginDesign(view.line.id, spot.id)}`);
    } catch {
      setFailed('The program does not answer. Try again in a moment.');
    }
  };
  return (
    <div>
      <h2>{spot.name}</h2>
      <div className="quiet">
        {spotWords(spot, system)}
        {spot.seenBy && `; seen by ${spot.seenBy}`}
      </div>
      {spot.photoId && <Picture line={view.line.id} id={spot.photoId} what={spot.name} />}
      {spot.swirls && <div className="dun">Wind swirls here. Use a loud scent.</div>}
      {spot.shy && <div className="dun">Animals are trap-shy here.</div>}
      <div className="build">
        <Button onClick={() => void bench()}>Design a set here</Button>
        <button type="button" className="word" aria-expanded={editing} onClick={() => setEditing(!editing)}>
          change it
        </button>
      </div>
      {failed && <p className="wrong">{failed}</p>}
      <p className="below-0">
        <button type="button" className="word" aria-expanded={works} onClick={() => setWorks(!works)}>
          what would work here
        </button>
      </p>
      {works && <Works spot={spot} line={view.line.id} first={designs[0]?.target ?? view.sets[0]?.make.target ?? 'coyote'} />}
      {editing && <EditSpot spot={spot} changes={changes} onGone={onGone} />}
      {designs.length > 0 && (
        <p className="above-8 below-0">
          {designs.map((d) => (
            <Link className="apart" key={d.id} to={`/line/${view.line.id}/bench/${d.id}`}>
              {d.setId ? `set ${sets.find((s) => s.set.id === d.setId)?.set.number ?? ''}` : 'a design, not built yet'}
            </Link>
          ))}
        </p>
      )}
      <h3 className="above-12">Lures and sets used here</h3>
      <MetList view={view} spot={spot} />
      <h3 className="above-12">Sign, newest first</h3>
      <SignList view={view} ground={ground} signs={signs} />
      {signs.length === 0 && <p className="quiet">None yet. What is there, or that nothing is, decides which set belongs here.</p>}
    </div>
  );
}

/** What animals may remember of a place: this line's own sets and lures of all seasons, and what the user wrote down. */
function MetList({ view, spot }: { view: LineView; spot: Spot }) {
  const { data: story } = useSpotStory(spot.id);
  const own = story ?? [];
  const by = useBy();
  const { zone } = view.line;
  if (own.length === 0 && spot.met.length === 0) return <p className="quiet">Nothing that is known of.</p>;
  return (
    <ul className="rows">
      {own.map((s) => (
        <li key={s.setId} className="met">
          <MarkIcon kind={s.kind} height={14} />
          <span>
            set {s.number}, {setWord(s.kind)}
            {s.smells.length > 0 && `, ${s.smells.join(', ')}`}{' '}
            <span className="quiet">
              {s.until ? `${dayYear(s.from, zone)} to ${dayYear(s.until, zone)}` : `since ${day(s.from, zone)}`}
              {s.caught > 0 && `; ${s.caught} caught`}
              {by(s.who)}
            </span>
          </span>
        </li>
      ))}
      {spot.met.map((m, i) => (
        <li key={i} className="met">
          <span />
          <span>
            {metWord(m.what)}
            {m.note && `: ${m.note}`} <span className="quiet">{m.on && day(m.on + 'T12:00:00Z', zone)}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}

function EditSpot({ spot, changes, onGone }: { spot: Spot; changes: Changes; onGone: () => void }) {
  const { x, set, problems, said, keep } = useKeep(changes, 'spots', spot);
  return (
    <KeepForm
      className="notice form-grid"
      said={said}
      problems={problems}
      onDelete={() => void keep({ ...x, deleted: true }, `${x.name} removed`).then((ok) => ok && onGone())}
      onKeep={() => void keep(x, `${x.name} changed`)}
    >
      <Text label="name" path="name" wide value={x.name} onValue={(name) => set({ name })} />
      <SpotFields spot={x} set={set} />
    </KeepForm>
  );
}
