import { select } from 'd3-selection';
import { zoom, zoomIdentity, type D3ZoomEvent, type ZoomBehavior } from 'd3-zoom';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Mark } from '../draw/mark';
import { markOf, placeOf } from '../lib/words/parts';
import { rough } from '../draw/rough';
import { useSettings } from '../lib/settings';
import type { Feature, Ground, LineView, Plane, Side, Sign, Spot, WeatherView } from '../lib/types.gen';
import { showDistance } from '../lib/words/units';
import { animalWord, featureWord, signWord } from '../lib/words/called';
import { placeLabels, type Label } from './labels';
import { fit, fromPlace, metres, pixel, toPlane, type Point, type Window } from '../lib/plane';
import { Shape, SignMark } from './shapes';

/** What on the map is chosen. */
export type Chosen = { what: 'spot' | 'sign' | 'feature'; id: string } | null;

interface Props {
  view: LineView;
  ground: Ground;
  /** How old each sign is at the date shown, in days; sign that was not there yet is left out. */
  ageOf: (sign: Sign) => number | null;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  /** A place being marked, or the points of what is being drawn. */
  drawing: Point[];
  drawingKind: string | null;
  /** What a touch on the ground does; null: nothing but choosing. */
  onPlace: ((p: Point) => void) | null;
  onFinish: () => void;
  onBack: () => void;
  weather: WeatherView | undefined;
  /** The places found beside a travel way, the best first. */
  sides: Side[];
  /** A point of what is chosen was moved. */
  onMove: (index: number, p: Point) => void;
  /** Whether the lists beside the map are folded away. */
  folded: boolean;
  onFold: () => void;
}

const middle = { x: 0, y: 0 };

/** The line's land from the user's own lines, north up: it pans, zooms, and takes touches, mouse and keys. */
export function GroundMap(props: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  useLayoutEffect(() => {
    const box = frame.current;
    if (!box) return;
    const measure = () => setSize({ width: box.clientWidth, height: box.clientHeight });
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  return (
    <div className={props.onPlace ? 'map placing' : 'map'} ref={frame}>
      {size && size.width > 0 && <Sheet {...props} width={size.width} height={size.height} />}
    </div>
  );
}

function everything(on: Plane, ground: Ground): Point[] {
  return [
    ...ground.spots.map((s) => toPlane(on, s.latDeg, s.lonDeg)),
    ...ground.features.flatMap((f) => f.points.map((p) => fromPlace(on, p))),
  ];
}

function Sheet({ width, height, ...props }: Props & { width: number; height: number }) {
  const { view, ground, chosen, drawing, onPlace } = props;
  const { system } = useSettings();
  const [start] = useState(() => fit(everything(view.plane, ground), width, height));
  const [win, setWin] = useState<Window>(start);
  const [cross, setCross] = useState<Point | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const layer = useRef<SVGGElement>(null);
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown> | null>(null);
  const painted = useRef(win);
  const tells = useRef({ place: onPlace, finish: props.onFinish });
  /** Whether a hand has moved the ground: until then it fills its frame, however that grows. */
  const moved = useRef(false);
  useEffect(() => {
    painted.current = win;
    tells.current = { place: onPlace, finish: props.onFinish };
    layer.current?.removeAttribute('transform');
  });

  // While it moves only the painted layer is shifted; when it rests everything is drawn anew, marks at their own size.
  useEffect(() => {
    const node = svg.current;
    if (!node) return;
    const windowOf = (t: { k: number; x: number; y: number }): Window => ({ k: t.k, x: t.x, y: t.y });
    const z = zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.01, 40])
      .filter((e: Event) => {
        const inPart = (e.target as Element).closest('.handle') !== null;
        return !inPart && !(e.type === 'dblclick' && tells.current.place !== null) && (e as MouseEvent).button !== 2;
      })
      .on('zoom', (e: D3ZoomEvent<SVGSVGElement, unknown>) => {
        const from = painted.current;
        const s = e.transform.k / from.k;
        layer.current?.setAttribute('transform', `translate(${e.transform.x - from.x * s} ${e.transform.y - from.y * s}) scale(${s})`);
      })
      .on('end', (e: D3ZoomEvent<SVGSVGElement, unknown>) => {
        if (e.sourceEvent) moved.current = true;
        setWin(windowOf(e.transform));
      });
    behaviour.current = z;
    const s = select(node);
    s.call(z);
    s.call(z.transform, zoomIdentity.translate(start.x, start.y).scale(start.k));
    return () => void s.on('.zoom', null);
  }, [start]);

  const move = (act: (z: ZoomBehavior<SVGSVGElement, unknown>) => void) => behaviour.current && act(behaviour.current);
  const whole = () => {
    const w = fit(everything(view.plane, ground), width, height);
    move((z) => svg.current && select(svg.current).call(z.transform, zoomIdentity.translate(w.x, w.y).scale(w.k)));
  };
  useEffect(() => {
    if (!moved.current) whole();
    // A new frame is what it is fitted to; everything else is fitted to when it is asked for.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [width, height]);
  const at = (e: { clientX: number; clientY: number }): Point => {
    const box = svg.current?.getBoundingClientRect();
    return metres(win, { x: e.clientX - (box?.left ?? 0), y: e.clientY - (box?.top ?? 0) });
  };
  const arrows: Record<string, Point> = {
    ArrowLeft: { x: -1, y: 0 },
    ArrowRight: { x: 1, y: 0 },
    ArrowUp: { x: 0, y: -1 },
    ArrowDown: { x: 0, y: 1 },
  };

  /** Arrows move a cross while something is being placed, and the ground otherwise. */
  const onKeyDown = (e: KeyboardEvent<SVGSVGElement>) => {
    if (e.target !== e.currentTarget) return;
    const arrow = arrows[e.key];
    const node = select(e.currentTarget);
    if (arrow && onPlace) {
      const from = cross ?? { x: width / 2, y: height / 2 };
      const step = e.shiftKey ? 40 : 8;
      setCross({
        x: Math.max(0, Math.min(width, from.x + arrow.x * step)),
        y: Math.max(0, Math.min(height, from.y + arrow.y * step)),
      });
    } else if (arrow) move((z) => node.call(z.translateBy, (-arrow.x * 60) / win.k, (-arrow.y * 60) / win.k));
    else if (e.key === '+' || e.key === '=') move((z) => node.call(z.scaleBy, 1.4));
    else if (e.key === '-') move((z) => node.call(z.scaleBy, 1 / 1.4));
    else if (e.key === '0') whole();
    else if (e.key === 'Enter' && onPlace && cross) onPlace(metres(win, cross));
    else if (e.key === 'Enter' && onPlace && drawing.length > 0) props.onFinish();
    else if ((e.key === 'f' || e.key === 'F') && onPlace) props.onFinish();
    else if (e.key === 'Backspace' && onPlace) props.onBack();
    else if (e.key === 'Escape') setCross(null);
    else return;
    e.preventDefault();
  };
  const drawn = drawing.map((p) => pixel(win, p));
  return (
    <>
      <svg
        ref={svg}
        width={width}
        height={height}
        tabIndex={0}
        role="group"
        aria-label={
          onPlace
            ? 'the ground, north up; arrows move the cross, Enter marks its place, F finishes, Backspace takes the last point back'
            : 'the ground, north up; arrows move it, plus and minus zoom, 0 shows the whole line'
        }
        onKeyDown={onKeyDown}
        onClick={(e) => {
          if (onPlace) onPlace(at(e));
          else if (e.target === e.currentTarget) props.onChoose(null);
        }}
        onDoubleClick={onPlace ? props.onFinish : undefined}
      >
        <g ref={layer}>
          <Things {...props} win={win} width={width} height={height} />
          {chosen && <Handles {...props} win={win} svg={svg} />}
          {drawn.length > 0 && props.drawingKind !== null && (
            <g pointerEvents="none">
              <path
                d={`M${drawn.map((p) => `${p.x} ${p.y}`).join('L')}`}
                fill="none"
                stroke="var(--ember)"
                strokeWidth={2}
                strokeDasharray="6 3"
              />
              {drawn.map((p, i) => (
                <circle key={i} cx={p.x} cy={p.y} r={4} fill="var(--paper)" stroke="var(--ember)" strokeWidth={2} />
              ))}
            </g>
          )}
          {drawn[0] && props.drawingKind === null && (
            <path
              d={`M${drawn[0].x - 10} ${drawn[0].y}h20M${drawn[0].x} ${drawn[0].y - 10}v20`}
              stroke="var(--ember)"
              strokeWidth={2.6}
              pointerEvents="none"
            />
          )}
        </g>
        {cross && onPlace && (
          <path
            d={`M${cross.x - 16} ${cross.y}h32M${cross.x} ${cross.y - 16}v32`}
            stroke="var(--ember)"
            strokeWidth={1.4}
            pointerEvents="none"
          />
        )}
        <ScaleBar k={win.k} height={height} system={system} />
      </svg>
      <span className="whole">
        <button type="button" className="word fold" onClick={props.onFold}>
          {props.folded ? 'show the lists' : 'fold the lists away'}
        </button>{' '}
        <button type="button" className="word" onClick={whole}>
          whole line
        </button>
      </span>
    </>
  );
}

/** Everything on the ground, drawn for one window; what lies far outside is left out. */
function Things({
  view,
  ground,
  weather,
  ageOf,
  chosen,
  onChoose,
  onPlace,
  sides,
  win,
  width,
  height,
}: Props & { win: Window; width: number; height: number }) {
  const { plane } = view;
  const features = useMemo(
    () =>
      ground.features
        .map((feature) => ({ feature, points: feature.points.map((p) => pixel(win, fromPlace(plane, p))) }))
        .filter(({ points }) => {
          const xs = points.map((p) => p.x);
          const ys = points.map((p) => p.y);
          return Math.max(...xs) > -width && Math.min(...xs) < 2 * width && Math.max(...ys) > -height && Math.min(...ys) < 2 * height;
        })
        .sort((a, b) => layerOf(a.feature.kind) - layerOf(b.feature.kind)),
    [ground.features, win, plane, width, height],
  );
  const spots = ground.spots.map((spot) => ({ spot, at: pixel(win, toPlane(view.plane, spot.latDeg, spot.lonDeg)) }));
  const signs = ground.signs.flatMap((sign) => {
    const age = ageOf(sign);
    return age === null ? [] : [{ sign, age, at: pixel(win, toPlane(view.plane, sign.latDeg, sign.lonDeg)) }];
  });
  const choose = onPlace ? null : onChoose;
  const found = drawnSides({ view, sides }, win);
  const labels: Label[] = [
    ...found.map(({ key, text, at, ink }, i) => ({ key, text, at, off: 12, bold: i === 0, ink })),
    ...spots.map(({ spot, at }) => ({ key: spot.id, text: spot.name, at, off: 22, bold: chosen?.id === spot.id })),
    ...features
      .filter(({ feature }) => labelOf(feature) !== '')
      .map(({ feature, points }) => ({
        key: feature.id,
        text: labelOf(feature),
        at: labelAt(feature, points),
        off: 12,
      })),
  ];
  const box = (p: Point, r: number) => ({ x0: p.x - r, y0: p.y - r, x1: p.x + r, y1: p.y + r });
  const stood = new Map<string, number>();
  view.sets.forEach((s) => stood.set(s.set.spotId, (stood.get(s.set.spotId) ?? 0) + 1));
  // The sets of a spot hang below each other, each with its number at its upper left.
  const hung = ({ spot, at }: { spot: Spot; at: Point }) => {
    const sets = stood.get(spot.id) ?? 0;
    return sets === 0 ? box(at, 15) : { x0: at.x - 36, y0: at.y - 20, x1: at.x + 16, y1: at.y + (sets - 1) * step + 10 };
  };
  const marks = [...spots.map(hung), ...found.map(({ at }) => box(at, 8)), ...signs.map(({ at }) => box(at, 6))];
  const placed = placeLabels(labels, marks, width, height);
  return (
    <>
      {features.map(({ feature, points }) => (
        <g
          key={feature.id}
          {...part(choose && (() => choose({ what: 'feature', id: feature.id })), chosen?.id === feature.id)}
          aria-label={nameOf(feature)}
        >
          <path d={`M${points.map((p) => `${p.x} ${p.y}`).join('L')}`} fill="none" stroke="transparent" strokeWidth={14} />
          <Shape kind={feature.kind} points={points} k={win.k} widthMm={feature.widthMm} seed={feature.id.charCodeAt(25)} />
        </g>
      ))}
      <Drift view={view} ground={ground} weather={weather} win={win} />
      <Runs view={view} ground={ground} weather={weather} win={win} />
      {signs.map(({ sign, age, at }) => (
        <g
          key={sign.id}
          transform={`translate(${at.x} ${at.y})`}
          opacity={Math.max(0.3, 1 - age / 30)}
          {...part(choose && (() => choose({ what: 'sign', id: sign.id })), chosen?.id === sign.id)}
          aria-label={`${signWord(sign.what)}, ${animalWord(sign.animal)}`}
        >
          <circle r={11} fill={chosen?.id === sign.id ? 'var(--chosen)' : 'transparent'} />
          <SignMark what={sign.what} directionDeg={sign.directionDeg} />
        </g>
      ))}
      {spots.map(({ spot, at }) => (
        <SpotMark key={spot.id} spot={spot} at={at} view={view} chosen={chosen?.id === spot.id} choose={choose} />
      ))}
      <g aria-hidden="true" pointerEvents="none">
        {found.map((side) => (
          <SideMark {...side} key={side.key} />
        ))}
        {placed.map((l) => (
          <text key={l.key} className="halo toned" x={l.x} y={l.y} textAnchor={l.anchor} fontWeight={l.bold ? 700 : 400} color={l.ink}>
            {l.text}
          </text>
        ))}
      </g>
    </>
  );
}

/** How far an animal runs with a set's drag: in the middle of cases, and in all but one of twenty. */
function Runs({ view, ground, weather, win }: Pick<Props, 'view' | 'ground' | 'weather'> & { win: Window }) {
  const { system } = useSettings();
  return view.sets.map(({ set, make }) => {
    const run = weather?.sets.find((s) => s.setId === set.id)?.run;
    const spot = ground.spots.find((s) => s.id === set.spotId);
    const place = placeOf(make.layout) ?? spot;
    if (!run || !place) return null;
    const at = pixel(win, toPlane(view.plane, place.latDeg, place.lonDeg));
    return (
      <g key={set.id} role="img" fill="none" stroke="var(--ink)" pointerEvents="none" aria-label={`set ${set.number} runs on its drag`}>
        <circle cx={at.x} cy={at.y} r={run.medianM * win.k} strokeWidth={1.2} />
        <circle cx={at.x} cy={at.y} r={run.farM * win.k} strokeWidth={1} strokeDasharray="2 5" />
        {win.k > 0.5 && (
          <text className="halo" stroke="none" fill="var(--ink)" x={at.x} y={at.y - run.farM * win.k - 4} textAnchor="middle">
            its drag: about {showDistance(run.medianM, system)}, seldom over {showDistance(run.farM, system)}
          </text>
        )}
      </g>
    );
  });
}

/** Scent as it drifts from each standing attractor by the night wind of the record: strokes that lie downwind. */
function Drift({ view, ground, weather, win }: Pick<Props, 'view' | 'ground' | 'weather'> & { win: Window }) {
  const winds = weather?.nightWind ?? [];
  const total = winds.reduce((a, b) => a + b, 0);
  if (total === 0 || !weather) return null;
  const standing = new Set(weather.sets.map((s) => s.setId));
  let path = '';
  for (const set of view.sets.filter((s) => standing.has(s.set.id))) {
    const spot = ground.spots.find((s) => s.id === set.set.spotId);
    if (!spot || spot.swirls) continue;
    const at = pixel(win, toPlane(view.plane, spot.latDeg, spot.lonDeg));
    const next = rough(set.set.number + 40);
    winds.forEach((n, sector) => {
      for (let i = 0; i < Math.round((n / total) * 26); i++) {
        const turn = ((sector + next() - 0.5) / 16) * 2 * Math.PI + Math.PI;
        const far = 22 + next() * 46;
        const [dx, dy] = [Math.sin(turn), -Math.cos(turn)];
        path += `M${(at.x + dx * far).toFixed(1)} ${(at.y + dy * far).toFixed(1)}l${(dx * 9).toFixed(1)} ${(dy * 9).toFixed(1)}`;
      }
    });
  }
  return <path d={path} stroke="var(--slate)" strokeWidth={1.3} fill="none" opacity={0.75} aria-hidden="true" pointerEvents="none" />;
}

interface DrawnSide {
  key: string;
  /** The point of the way, and the place beside it. */
  from: Point;
  at: Point;
  ink: string;
  /** With the share of night hours that the scent lies across the way. */
  text: string;
}

/** The places found for an attractor. */
const drawnSides = ({ view, sides }: Pick<Props, 'view' | 'sides'>, win: Window): DrawnSide[] =>
  sides.map((side, i) => {
    const from = pixel(win, toPlane(view.plane, side.latDeg, side.lonDeg));
    const turn = (side.compassDeg * Math.PI) / 180;
    const share = `${Math.round(side.record * 100)} %`;
    return {
      key: `side ${side.compassDeg}`,
      from,
      at: { x: from.x + Math.sin(turn) * 26, y: from.y - Math.cos(turn) * 26 },
      ink: i === 0 ? 'var(--ember)' : 'var(--ink)',
      text: i === 0 ? `this side: ${share} of night hours, tonight ${Math.round(side.tonight * 100)} %` : `far side: ${share}`,
    };
  });

const SideMark = ({ from, at, ink }: DrawnSide) => (
  <>
    <path d={`M${at.x} ${at.y}L${from.x} ${from.y}`} stroke={ink} strokeWidth={1.6} strokeDasharray="4 3" />
    <circle cx={at.x} cy={at.y} r={7} fill="var(--paper)" stroke={ink} strokeWidth={2.4} />
  </>
);

/** How something that can be chosen answers to mouse and keys. */
function part(choose: (() => void) | null, pressed: boolean) {
  if (!choose) return { role: 'img' };
  return {
    className: 'spot-mark',
    role: 'button',
    tabIndex: 0,
    'aria-pressed': pressed,
    style: { cursor: 'pointer' },
    onClick: choose,
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === 'Enter' || e.key === ' ') {
        e.preventDefault();
        choose();
      }
    },
  };
}

const order = [
  'hay',
  'cover',
  'livestock',
  'boundary',
  'pond',
  'deep_water',
  'travel_way',
  'stream',
  'breaks',
  'two_track',
  'road',
  'public_road',
  'fence',
];
const layerOf = (kind: string) => (order.includes(kind) ? order.indexOf(kind) : order.length);

export const nameOf = (f: Feature) => (f.name === '' ? featureWord(f.kind) : f.name);
const labelOf = (f: Feature) => (f.points.length === 1 ? nameOf(f) : f.name);

function labelAt(feature: Feature, points: Point[]): Point {
  if (feature.kind === 'boundary') return points.reduce((a, b) => (b.x + b.y < a.x + a.y ? b : a), points[0] ?? middle);
  return points[Math.floor((points.length - 1) / 2)] ?? middle;
}

interface SpotMarkProps {
  spot: Spot;
  at: Point;
  view: LineView;
  chosen: boolean;
  choose: ((chosen: Chosen) => void) | null;
}

/** How far below each other the sets of a spot hang, px. */
const step = 22;

function SpotMark({ spot, at, view, chosen, choose }: SpotMarkProps) {
  const sets = view.sets.filter((s) => s.set.spotId === spot.id);
  const ink = sets.some((s) => s.bead.late) ? 'var(--ember)' : 'var(--ink)';
  const ground = chosen ? 'var(--chosen)' : 'var(--paper)';
  return (
    <g transform={`translate(${at.x} ${at.y})`} color={ink}>
      <g {...part(choose && (() => choose({ what: 'spot', id: spot.id })), chosen)} aria-label={`spot ${spot.name}`}>
        <circle className="ring" r={21} strokeWidth={1.4} />
        {sets.length === 0 && <path d="M-6 -6l12 12m0 -12l-12 12" stroke={ink} strokeWidth={2} />}
        {sets.map((s, i) => (
          <g key={s.set.id} transform={`translate(0 ${i * step})`}>
            <rect x={-16} y={-9} width={32} height={18} fill={ground} />
            <Mark kind={markOf(s.make.layout)} />
          </g>
        ))}
      </g>
      {sets.map((s, i) => (
        <text
          key={s.set.id}
          aria-hidden="true"
          className="halo numeral size-15 toned"
          x={-16}
          y={i * step - 9}
          textAnchor="end"
          color={ink}
        >
          {s.set.number}
        </text>
      ))}
    </g>
  );
}

/** The points of what is chosen, to be moved. */
function Handles({ view, ground, chosen, onMove, win, svg }: Props & { win: Window; svg: { current: SVGSVGElement | null } }) {
  const [moving, setMoving] = useState<{ index: number; to: Point } | null>(null);
  const spot = chosen?.what === 'spot' ? ground.spots.find((s) => s.id === chosen.id) : undefined;
  const sign = chosen?.what === 'sign' ? ground.signs.find((s) => s.id === chosen.id) : undefined;
  const feature = chosen?.what === 'feature' ? ground.features.find((f) => f.id === chosen.id) : undefined;
  const single = spot ?? sign;
  const points = single
    ? [toPlane(view.plane, single.latDeg, single.lonDeg)]
    : (feature?.points.map((p) => fromPlace(view.plane, p)) ?? []);
  if (points.length > 400) return null;
  const at = (e: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    return metres(win, { x: e.clientX - (box?.left ?? 0), y: e.clientY - (box?.top ?? 0) });
  };
  return (
    <g>
      {points.map((p, i) => {
        const px = pixel(win, moving?.index === i ? moving.to : p);
        // A single point is held by a grip below it, so that its own mark stays in sight.
        const grip = points.length === 1 ? { x: px.x, y: px.y + 30 } : px;
        return (
          <g
            key={i}
            className="handle"
            role="button"
            tabIndex={0}
            aria-label={`move point ${i + 1}; arrows move it`}
            cursor="move"
            onClick={(e) => e.stopPropagation()}
            onPointerDown={(e) => {
              e.stopPropagation();
              e.currentTarget.setPointerCapture(e.pointerId);
              setMoving({ index: i, to: p });
            }}
            onPointerMove={(e) => {
              if (moving?.index !== i) return;
              const to = at(e);
              setMoving({ index: i, to: points.length === 1 ? { x: to.x, y: to.y + 30 / win.k } : to });
            }}
            onPointerUp={() => {
              if (moving?.index === i && (moving.to.x !== p.x || moving.to.y !== p.y)) onMove(i, moving.to);
              setMoving(null);
            }}
            onKeyDown={(e) => {
              const step = (e.shiftKey ? 20 : 4) / win.k;
              const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
              if (!by) return;
              e.preventDefault();
              e.stopPropagation();
              onMove(i, { x: p.x + (by[0] ?? 0) * step, y: p.y + (by[1] ?? 0) * step });
            }}
          >
            {points.length === 1 && <path d={`M${px.x} ${px.y + 12}V${grip.y}`} stroke="var(--ember)" strokeWidth={1.4} />}
            <circle cx={grip.x} cy={grip.y} r={6.5} fill="var(--paper)" stroke="var(--ember)" strokeWidth={2.2} />
          </g>
        );
      })}
    </g>
  );
}

function ScaleBar({ k, height, system }: { k: number; height: number; system: 'us' | 'metric' }) {
  const unit = system === 'us' ? 0.9144 : 1;
  const wanted = 90 / k / unit;
  const round = [1, 2, 5, 10, 20, 50, 100, 200, 400, 800, 1600, 3200, 8000, 16000].find((n) => n >= wanted) ?? 50000;
  const long = round * unit * k;
  return (
    <g aria-hidden="true" pointerEvents="none">
      <path d={`M16 ${height - 16}h${long}M16 ${height - 21}v10M${16 + long} ${height - 21}v10`} stroke="var(--ink)" strokeWidth={1.6} />
      <text x={16 + long / 2} y={height - 22} textAnchor="middle" className="halo">
        {showDistance(round * unit, system)}
      </text>
    </g>
  );
}
