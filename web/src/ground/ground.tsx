import { Plans } from '../lib/ask/may';
import { Unread } from '../lib/ask/unread';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useSearchParams } from 'react-router';
import { nowISO } from '../lib/kept/clock';
import { useGround, useKinds, useLine, useWeather } from '../lib/ask/queries';
import { PlacePanel, usePlaceIt } from './placeit';
import type { Feature, FieldProblem, Ground, Kind, LineView, Property } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { featureWord, signWord } from '../lib/words/called';
import { capital } from '../lib/words/words';
import { objections, useChanges } from '../lib/ask/change';
import { PropertyPanel } from './featureform';
import { GroundMap } from './map';
import type { Chosen } from './mapprops';
import { toGlobe, toPlace, toPlane, type Point } from '../lib/plane';
import { AddSign } from './signform';
import { SpotForm, useSpotDraft } from './spotform';
import { GroundTable } from './table';
import { DateSlider, useAges } from './slider';
import { useNarrow } from '../lib/narrow';
import { ChosenPanel } from './chosen';
import { NightWind, DrawMenu, PropertyList } from './lists';

/** The ground: what is marked, where it lies, and what is added to it. */
export function GroundPage() {
  const { data: view } = useLine();
  const { data: ground } = useGround();
  const { data: kinds } = useKinds();
  if (!view || !ground || !kinds) return <Unread />;
  return <Open view={view} ground={ground} kinds={kinds} />;
}

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
          <Plans>
            <DrawMenu kinds={kinds} onKind={(draw) => start({ draw })} />
          </Plans>
        </div>
        <div className="words">
          <button type="button" className="word" onClick={() => start('place')}>
            which side?
          </button>
          <Plans>
            <button type="button" className="word" onClick={() => start('spot')}>
              add a spot
            </button>
            <button type="button" className="word" onClick={() => start('property')}>
              a property
            </button>
          </Plans>
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
        <Plans>
          <div className="words">
            <Link to={`/line/${line.id}/import`}>bring in a file</Link>
            <a href={`/api/lines/${line.id}/export/gpx`} download>
              as GPX
            </a>
            <a href={`/api/lines/${line.id}/export/geojson`} download>
              as GeoJSON
            </a>
          </div>
        </Plans>
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
