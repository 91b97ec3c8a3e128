import { select } from 'd3-selection';
import { zoom, zoomIdentity, type D3ZoomEvent, type ZoomBehavior } from 'd3-zoom';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useSettings } from '../lib/settings';
import type { Feature, Ground, Plane } from '../lib/types.gen';
import { animalWord, featureWord, signWord } from '../lib/words/called';
import { haveRoom, placeLabels, placeNumbers, type Box, type Label } from './labels';
import { fit, fromPlace, metres, pixel, toPlane, type Point, type Window } from '../lib/plane';
import { Shape, SignMark } from './shapes';
import { Runs, Drift, drawnSides, SideMark, part, step, SpotMark, Handles, ScaleBar } from './marks';
import type { MapProps } from './mapprops';

export const middle = { x: 0, y: 0 };

/** The line's land from the user's own lines, north up: it pans, zooms, and takes touches, mouse and keys. */
export function GroundMap(props: MapProps) {
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

function Sheet({ width, height, ...props }: MapProps & { width: number; height: number }) {
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
}: MapProps & { win: Window; width: number; height: number }) {
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
  const box = (p: Point, r: number): Box => ({ x0: p.x - r, y0: p.y - r, x1: p.x + r, y1: p.y + r });
  const standing = spots.map(({ spot, at }) => {
    const sets = view.sets.filter((s) => s.set.spotId === spot.id);
    // The sets of a spot hang below each other, each with its number at its upper left.
    const hung = { x0: at.x - 36, y0: at.y - 20, x1: at.x + 16, y1: at.y + (sets.length - 1) * step + 10 };
    return { spot, at, sets, late: sets.some((s) => s.bead.late), mark: sets.length === 0 ? box(at, 15) : hung };
  });
  // Where they lie too close for all of them, what is chosen and what is late is drawn whole, and the others as points with their numbers.
  const urgent = (s: (typeof standing)[number]) => (s.spot.id === chosen?.id ? 0 : s.late ? 1 : s.sets.length > 0 ? 2 : 3);
  standing.sort((a, b) => urgent(a) - urgent(b));
  const room = haveRoom(standing.map((s) => s.mark));
  const whole = standing.filter((_, i) => room[i]);
  const close = standing.filter((_, i) => !room[i]);
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
  const marks = [...whole.map((s) => s.mark), ...close.map(({ at }) => box(at, 4)), ...found.map(({ at }) => box(at, 8))];
  const numbers = placeNumbers(
    close
      .filter((s) => s.sets.length > 0)
      .map(({ spot, sets, at, late }) => ({
        key: `${spot.id} numbers`,
        text: sets.map((s) => s.set.number).join(', '),
        at,
        numeral: true,
        ink: late ? 'var(--ember)' : 'var(--ink)',
      })),
    marks,
    width,
    height,
  );
  const named = placeLabels(labels, [...marks, ...numbers.map((n) => n.box), ...signs.map(({ at }) => box(at, 6))], width, height);
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
      <Drift view={view} spots={whole.map((s) => s.spot)} weather={weather} win={win} />
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
      {[...close, ...whole].map((s) => (
        <SpotMark key={s.spot.id} {...s} whole={whole.includes(s)} chosen={chosen?.id === s.spot.id} choose={choose} />
      ))}
      <g aria-hidden="true" pointerEvents="none">
        {found.map((side) => (
          <SideMark {...side} key={side.key} />
        ))}
        {numbers.map(({ key, at, box: { x0, x1, y0, y1 }, ink }) => (
          <path key={key} d={`M${at.x} ${at.y}L${(x0 + x1) / 2} ${(y0 + y1) / 2}`} stroke={ink} strokeWidth={1} />
        ))}
        {[...numbers, ...named].map((l) => (
          <text
            key={l.key}
            className={l.numeral ? 'halo numeral size-15 toned' : 'halo toned'}
            x={l.x}
            y={l.y}
            textAnchor={l.anchor}
            fontWeight={l.bold ? 700 : 400}
            color={l.ink}
          >
            {l.text}
          </text>
        ))}
      </g>
    </>
  );
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
