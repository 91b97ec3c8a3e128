import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Mark } from '../draw/mark';
import { markOf, placeOf } from '../lib/words/parts';
import { rough } from '../draw/rough';
import { useSettings } from '../lib/settings';
import type { SetView, Spot } from '../lib/types.gen';
import { showDistance } from '../lib/words/units';
import { fromPlace, metres, pixel, toPlane, type Point, type Window } from '../lib/plane';
import type { Chosen, MapProps } from './mapprops';

/** How far an animal runs with a set's drag: in the middle of cases, and in all but one of twenty. */
export function Runs({ view, ground, weather, win }: Pick<MapProps, 'view' | 'ground' | 'weather'> & { win: Window }) {
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
export function Drift({ view, spots, weather, win }: Pick<MapProps, 'view' | 'weather'> & { spots: Spot[]; win: Window }) {
  const winds = weather?.nightWind ?? [];
  const total = winds.reduce((a, b) => a + b, 0);
  if (total === 0 || !weather) return null;
  const standing = new Set(weather.sets.map((s) => s.setId));
  let path = '';
  for (const set of view.sets.filter((s) => standing.has(s.set.id))) {
    const spot = spots.find((s) => s.id === set.set.spotId);
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
export const drawnSides = ({ view, sides }: Pick<MapProps, 'view' | 'sides'>, win: Window): DrawnSide[] =>
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

export const SideMark = ({ from, at, ink }: DrawnSide) => (
  <>
    <path d={`M${at.x} ${at.y}L${from.x} ${from.y}`} stroke={ink} strokeWidth={1.6} strokeDasharray="4 3" />
    <circle cx={at.x} cy={at.y} r={7} fill="var(--paper)" stroke={ink} strokeWidth={2.4} />
  </>
);

/** How something that can be chosen answers to mouse and keys. */
export function part(choose: (() => void) | null, pressed: boolean) {
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

interface SpotMarkProps {
  spot: Spot;
  at: Point;
  sets: SetView[];
  late: boolean;
  /** Whether it has room for the marks of its sets, with their numbers; else it is a point, and its numbers stand beside it. */
  whole: boolean;
  chosen: boolean;
  choose: ((chosen: Chosen) => void) | null;
}

/** How far below each other the sets of a spot hang, px. */
export const step = 22;

export function SpotMark({ spot, at, sets, late, whole, chosen, choose }: SpotMarkProps) {
  const ink = late ? 'var(--ember)' : 'var(--ink)';
  return (
    <g transform={`translate(${at.x} ${at.y})`} color={ink}>
      <g {...part(choose && (() => choose({ what: 'spot', id: spot.id })), chosen)} aria-label={`spot ${spot.name}`}>
        <circle className="ring" r={whole ? 21 : 8} strokeWidth={1.4} />
        {!whole && <circle r={3.2} fill={sets.length === 0 ? 'none' : ink} stroke={ink} strokeWidth={1.6} />}
        {whole && sets.length === 0 && <path d="M-6 -6l12 12m0 -12l-12 12" stroke={ink} strokeWidth={2} />}
        {whole &&
          sets.map((s, i) => (
            <g key={s.set.id} transform={`translate(0 ${i * step})`}>
              <rect x={-16} y={-9} width={32} height={18} fill={chosen ? 'var(--chosen)' : 'var(--paper)'} />
              <Mark kind={markOf(s.make.layout)} />
            </g>
          ))}
      </g>
      {whole &&
        sets.map((s, i) => (
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
export function Handles({ view, ground, chosen, onMove, win, svg }: MapProps & { win: Window; svg: { current: SVGSVGElement | null } }) {
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

export function ScaleBar({ k, height, system }: { k: number; height: number; system: 'us' | 'metric' }) {
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
