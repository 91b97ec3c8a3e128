import { Unread } from '../lib/ask/unread';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { beginDesign } from '../lib/ask/begin';
import { MarkIcon } from '../draw/mark';
import { WindStrip } from '../draw/windstrip';
import { nowISO } from '../lib/kept/clock';
import { useGround, useKinds, useLine, useSpotStory, useWeather } from '../lib/ask/queries';
import { PlacePanel, usePlaceIt } from './placeit';
import { useSettings } from '../lib/settings';
import { date, day, dayAt, dayYear, daysBetween } from '../lib/words/time';
import type { Feature, FieldProblem, Ground, Kind, LineView, Property, Sign, Spot, WeatherView } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { ageWord, animalWord, featureWord, metWord, setWord, signWord } from '../lib/words/called';
import { bearing, capital } from '../lib/words/words';
import { objections, useChanges, type Changes } from '../lib/ask/change';
import { FeaturePanel, PropertyPanel } from './featureform';
import { KeepRow, useKeep } from '../lib/fields/keep';
import { GroundMap, type Chosen } from './map';
import { toGlobe, toPlace, toPlane, type Point } from '../lib/plane';
import { AddSign, fallWords, SignPanel } from './signform';
import { SpotFields, SpotForm, spotWords, useSpotDraft } from './spotform';
import { GroundTable } from './table';
import { DateSlider, useAges } from './slider';
import { WrongFields, Text } from '../lib/fields/fields';
import { useNarrow } from '../lib/narrow';

/** The ground: what is marked, where it lies, and what is added to it. */
export function GroundPage() {
  const { data: view } = useLine();
  const { data: ground } = useGround();
  const { data: kinds } = useKinds();
  if (!view || !ground || !kinds) return <Unread />;
  return <Open view={view} ground={ground} kinds={kinds} />;
}

/** A form begins anew when another version comes, yet what was just added is the same when its first answer comes. */
const formKey = ({ id, version }: { id: string; version: number }) => `${id} ${Math.max(version, 1)}`;

/** What the hand is at: looking, or adding something. */
type Doing = 'look' | 'sign' | 'spot' | 'property' | 'place' | 'table' | { draw: string };

const chosenIn = (params: URLSearchParams): Chosen => {
  for (const what of ['spot', 'sign', 'feature'] as const) {
    const id = params.get(what);
    if (id) return { what, id };
  }
  return null;
};

function Open({ view, ground, kinds }: { view: LineView; ground: Ground; kinds: Kind[] }) {
  const [params, setParams] = useSearchParams();
  const changes = useChanges();
  const draft = useSpotDraft(view.line);
  const [begun, setDoing] = useState<Doing | null>(null);
  const empty = ground.spots.length === 0 && ground.features.length === 0;
  const doing = begun ?? (empty ? 'spot' : 'look');
  const [fold, setFold] = useState(false);
  const [place, setPlace] = useState<Point | null>(null);
  const [points, setPoints] = useState<Point[]>([]);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  /** The property that is open in its list; one form is open at a time. */
  const [property, setProperty] = useState<string | null>(null);
  const panel = useRef<HTMLDivElement>(null);
  const narrow = useNarrow();
  useEffect(() => {
    if (!narrow || doing === 'look') return;
    // Where a place is wanted the ground to touch comes first, else the form.
    const first = panel.current?.parentElement?.classList.contains('placing') ? panel.current.parentElement : panel.current;
    first?.scrollIntoView({ block: 'start' });
  }, [narrow, doing]);
  const ages = useAges(view, ground);
  const placeIt = usePlaceIt(view);
  const { data: weather } = useWeather();
  const chosen = chosenIn(params);
  const choose = (c: Chosen) => {
    const season = params.get('season');
    setParams({ ...(season && { season }), ...(c && { [c.what]: c.id }) }, { replace: true });
  };
  const start = (what: Doing) => {
    setDoing(what);
    setProperty(null);
    setPlace(null);
    setPoints([]);
    setProblems([]);
    placeIt.clear();
    choose(null);
  };
  // What was begun is over when the program has answered; a hand that has gone on to something else by then is left at that.
  const at = useRef(begun);
  useEffect(() => {
    at.current = begun;
  }, [begun]);
  const over = (was: Doing, show: Chosen) => {
    if (at.current !== null && at.current !== was) return;
    start('look');
    choose(show);
  };
  const line = view.line;
  const drawKind = typeof doing === 'object' ? kinds.find((k) => k.key === doing.draw) : undefined;

  const finish = async (all: Point[]) => {
    if (!drawKind) return;
    // A double click has marked the last point twice.
    const clean = all.filter((p, i) => i === 0 || Math.hypot(p.x - (all[i - 1]?.x ?? 0), p.y - (all[i - 1]?.y ?? 0)) > 0.5);
    const feature: Feature = {
      id: ulid(),
      lineId: line.id,
      kind: drawKind.key,
      name: '',
      note: '',
      points: clean.map((p) => toPlace(view.plane, p)),
      widthMm: drawKind.key === 'travel_way' ? 900 : 0,
      propertyId: null,
      madeAt: nowISO(),
      deleted: false,
      version: 0,
    };
    try {
      await changes.change('features', null, feature, `${featureWord(drawKind.key)} drawn`);
      over(doing, { what: 'feature', id: feature.id });
    } catch (error) {
      setProblems(objections(error));
    }
  };
  const onPlace = (p: Point) => {
    if (doing === 'sign') setPlace(p);
    else if (doing === 'place') placeIt.point(p);
    else if (doing === 'spot') draft.set({ ...draft.value, placed: true, spot: { ...draft.value.spot, ...toGlobe(view.plane, p) } });
    else if (drawKind?.form === 'point') void finish([p]);
    else if (drawKind) setPoints((all) => [...all, p]);
  };
  const onMove = (index: number, p: Point) => {
    if (chosen?.what === 'feature') {
      const f = ground.features.find((one) => one.id === chosen.id);
      if (f)
        void changes.change(
          'features',
          f,
          { ...f, points: f.points.map((old, i) => (i === index ? toPlace(view.plane, p) : old)) },
          `${featureWord(f.kind)} moved`,
        );
    } else if (chosen?.what === 'spot') {
      const s = ground.spots.find((one) => one.id === chosen.id);
      if (s) void changes.change('spots', s, { ...s, ...toGlobe(view.plane, p) }, `${s.name} moved`);
    } else {
      const s = ground.signs.find((one) => one.id === chosen?.id);
      if (s) void changes.change('signs', s, { ...s, ...toGlobe(view.plane, p) }, `${signWord(s.what)} moved`);
    }
  };
  const placing = doing === 'sign' || doing === 'spot' || doing === 'place' || drawKind !== undefined;
  const busy = doing !== 'look' || chosen !== null;
  const marked =
    doing === 'sign' && place
      ? [place]
      : doing === 'spot' && draft.value.placed
        ? [toPlane(view.plane, draft.value.spot.latDeg, draft.value.spot.lonDeg)]
        : points;
  return (
    <main className={`page ground-page${busy ? ' busy' : fold ? ' folded' : ''}${placing ? ' placing' : ''}`}>
      <div className="ground-left">
        <div className="build above-0">
          <Button onClick={() => start('sign')}>Add sign</Button>
          <DrawMenu kinds={kinds} onKind={(draw) => start({ draw })} />
        </div>
        <div className="words">
          <button type="button" className="word" onClick={() => start('place')}>
            which side?
          </button>
          <button type="button" className="word" onClick={() => start('spot')}>
            add a spot
          </button>
          <button type="button" className="word" onClick={() => start('property')}>
            a property
          </button>
          <button type="button" className="word" onClick={() => start(doing === 'table' ? 'look' : 'table')}>
            {doing === 'table' ? 'as a map' : 'as a table'}
          </button>
          <button type="button" className="word" disabled={!changes.last} onClick={() => void changes.undo()} title={changes.last}>
            undo{changes.last ? `: ${changes.last}` : ''}
          </button>
        </div>
        <PropertyList
          changes={changes}
          view={view}
          ground={ground}
          chosen={chosen}
          open={property}
          onOpen={(id) => {
            start('look');
            setProperty(id);
          }}
          onChoose={(c) => {
            start('look');
            choose(c);
          }}
        />
        <DateSlider view={view} ground={ground} ages={ages} changes={changes} />
        <NightWind weather={weather} />
        <div className="words">
          <Link to={`/line/${line.id}/import`}>bring in a file</Link>
          <a href={`/api/lines/${line.id}/export/gpx`} download>
            as GPX
          </a>
          <a href={`/api/lines/${line.id}/export/geojson`} download>
            as GeoJSON
          </a>
        </div>
      </div>
      {doing === 'table' ? (
        <GroundTable view={view} ground={ground} kinds={kinds} changes={changes} />
      ) : (
        <GroundMap
          folded={fold && !busy}
          onFold={() => setFold(!fold)}
          view={view}
          ground={ground}
          ageOf={ages.ageOf}
          chosen={chosen}
          onChoose={choose}
          drawing={marked}
          drawingKind={drawKind?.key ?? null}
          onPlace={placing ? onPlace : null}
          onFinish={() => void finish(points)}
          onBack={() => setPoints(points.slice(0, -1))}
          onMove={onMove}
          weather={weather}
          sides={doing === 'place' ? (placeIt.answer?.sides ?? []) : []}
        />
      )}
      <div ref={panel}>
        {doing === 'place' && (
          <PlacePanel
            view={view}
            place={placeIt}
            changes={changes}
            onSpot={(id) => {
              start('look');
              choose({ what: 'spot', id });
            }}
          />
        )}
        {doing === 'sign' && (
          <AddSign
            view={view}
            ground={ground}
            place={place}
            onPlace={setPlace}
            changes={changes}
            onDone={(s) => over('sign', { what: 'sign', id: s.id })}
          />
        )}
        {doing === 'spot' && (
          <SpotForm
            key={draft.value.spot.id}
            view={view}
            draft={draft}
            changes={changes}
            onDone={(id) => over('spot', { what: 'spot', id })}
          />
        )}
        {doing === 'property' && <PropertyPanel property={newProperty(line.id)} changes={changes} onGone={() => over('property', null)} />}
        {drawKind && (
          <Drawing kind={drawKind} points={points} problems={problems} onFinish={() => void finish(points)} onStop={() => start('look')} />
        )}
        {(doing === 'look' || doing === 'table') && (
          <ChosenPanel view={view} ground={ground} kinds={kinds} chosen={chosen} changes={changes} onGone={() => choose(null)} />
        )}
      </div>
    </main>
  );
}

/** The wind of the nights on record, and of the coming one. */
function NightWind({ weather }: { weather: WeatherView | undefined }) {
  if (!weather) return null;
  if (!weather.known) return <div className="quiet">Night wind is not known: no weather is entered.</div>;
  return (
    <div>
      <div className="quiet">
        night wind, last {weather.nights} nights; <span className="ember">tonight</span>
      </div>
      <WindStrip record={weather.nightWind} tonight={weather.tonightWind} />
    </div>
  );
}

const newProperty = (lineID: string): Property => ({
  id: ulid(),
  lineId: lineID,
  name: '',
  permission: '',
  asked: '',
  until: '',
  deleted: false,
  version: 0,
});

function DrawMenu({ kinds, onKind }: { kinds: Kind[]; onKind: (key: string) => void }) {
  const groups = [
    ['land', 'the land'],
    ['gathers', 'what gathers travel'],
    ['hazards', 'hazards'],
    ['watchers', 'who would see'],
  ] as const;
  return (
    <select className="form-select draw-menu" aria-label="draw" value="" onChange={(e) => onKind(e.target.value)}>
      <option value="">Draw</option>
      {groups.map(([key, name]) => (
        <optgroup key={key} label={name}>
          {kinds
            .filter((k) => k.group === key)
            .map((k) => (
              <option key={k.key} value={k.key}>
                {featureWord(k.key)}
              </option>
            ))}
        </optgroup>
      ))}
    </select>
  );
}

function Drawing({
  kind,
  points,
  problems,
  onFinish,
  onStop,
}: {
  kind: Kind;
  points: Point[];
  problems: FieldProblem[];
  onFinish: () => void;
  onStop: () => void;
}) {
  const least = { point: 1, line: 2, area: 3 }[kind.form] ?? 1;
  return (
    <div>
      <h2>{capital(featureWord(kind.key))}</h2>
      <p>
        {kind.form === 'point'
          ? 'Touch its place on the ground.'
          : `Touch the ground point by point along ${kind.form === 'area' ? 'its edge; it closes by itself' : 'it'}. A double touch ends it; Backspace takes the last point back.`}
      </p>
      {kind.form !== 'point' && (
        <div className="build">
          <Button onClick={onFinish} disabled={points.length < least}>
            Done, {points.length} points
          </Button>
        </div>
      )}
      <p>
        <button type="button" className="word" onClick={onStop}>
          stop drawing
        </button>
      </p>
      {problems.map((p) => (
        <div key={p.field} className="wrong" role="alert">
          {p.field} {p.says}
        </div>
      ))}
    </div>
  );
}

function PropertyList({
  view,
  ground,
  chosen,
  changes,
  open,
  onOpen,
  onChoose,
}: {
  open: string | null;
  onOpen: (id: string | null) => void;
  view: LineView;
  ground: Ground;
  chosen: Chosen;
  changes: Changes;
  onChoose: (c: Chosen) => void;
}) {
  const now = date(view.now, view.line.zone);
  return (
    <div className="places">
      {ground.properties.map((p) => {
        const over = p.until !== '' && p.until < now;
        const spots = ground.spots.filter((s) => s.propertyId === p.id);
        return (
          <section key={p.id}>
            <h3>
              <button
                type="button"
                className="word plain"
                aria-expanded={open === p.id}
                onClick={() => onOpen(open === p.id ? null : p.id)}
              >
                {p.name}
              </button>
            </h3>
            <div className={over ? 'wrong' : 'quiet'}>{permissionWords(p, over)}</div>
            {open === p.id && <PropertyInPlace property={p} changes={changes} />}
            <div>
              {spots.map((s) => (
                <button
                  key={s.id}
                  type="button"
                  className="word place"
                  aria-current={chosen?.id === s.id}
                  onClick={() => onChoose({ what: 'spot', id: s.id })}
                >
                  {s.name}
                </button>
              ))}
            </div>
          </section>
        );
      })}
    </div>
  );
}

function PropertyInPlace({ property, changes }: { property: Property; changes: Changes }) {
  return <PropertyPanel key={property.version} property={property} changes={changes} onGone={() => undefined} />;
}

function permissionWords(p: Property, over: boolean): string {
  const date = (d: string) => new Date(d).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' });
  const parts = [
    p.until !== ''
      ? over
        ? `permission ended ${date(p.until)}, ask again`
        : `permission to ${date(p.until)}`
      : p.asked !== ''
        ? 'permission, no end said'
        : 'no permission noted',
    p.asked !== '' ? `asked ${date(p.asked)}` : '',
    p.permission,
  ];
  return parts.filter(Boolean).join('; ');
}

interface ChosenProps {
  view: LineView;
  ground: Ground;
  kinds: Kind[];
  chosen: Chosen;
  changes: Changes;
  onGone: () => void;
}

function ChosenPanel({ view, ground, kinds, chosen, changes, onGone }: ChosenProps) {
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
      {spot.swirls && <div className="dun">Wind swirls here. Use a loud scent.</div>}
      {spot.shy && <div className="dun">Animals are trap-shy here.</div>}
      <div className="build">
        <Button onClick={() => void bench()}>Design a set here</Button>
        <button type="button" className="word" aria-expanded={editing} onClick={() => setEditing(!editing)}>
          change it
        </button>
      </div>
      {failed && <p className="wrong">{failed}</p>}
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
    <WrongFields problems={problems}>
      <form
        className="notice form-grid"
        onSubmit={(e) => {
          e.preventDefault();
          void keep(x, `${x.name} changed`);
        }}
      >
        <Text label="name" path="name" wide value={x.name} onValue={(name) => set({ name })} />
        <SpotFields spot={x} set={set} />
        <KeepRow
          said={said}
          problems={problems}
          onDelete={() => void keep({ ...x, deleted: true }, `${x.name} removed`).then((ok) => ok && onGone())}
        />
      </form>
    </WrongFields>
  );
}
