import type { MouseEvent } from 'react';
import { Mark } from '../draw/mark';
import { rough } from '../draw/rough';
import { useSettings } from '../lib/settings';
import type { Ground, LineView, Spot } from '../lib/types.gen';
import { showDistance } from '../lib/units';
import { toPlane, type Point } from './plane';

const width = 664;
const height = 600;

interface Props {
  view: LineView;
  ground: Ground;
  chosen: string | null;
  /** A place being marked, and what a touch on the map does with it. */
  placing: Point | null;
  onPlace: ((p: Point) => void) | null;
  onChoose: (spotID: string) => void;
}

/** The line's land as far as it is marked: spots with their travel ways and sign, sets as plan marks. North is up. */
export function GroundMap({ view, ground, chosen, placing, onPlace, onChoose }: Props) {
  const { system } = useSettings();
  const points = ground.spots.map((s) => toPlane(view.line, s.latDeg, s.lonDeg));
  const frame = fit(points);
  const px = (p: Point) => ({
    x: width / 2 + (p.x - frame.middle.x) * frame.scale,
    y: height / 2 - (p.y - frame.middle.y) * frame.scale,
  });
  const place = (e: MouseEvent<SVGSVGElement>) => {
    const matrix = e.currentTarget.getScreenCTM()?.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    onPlace?.({
      x: frame.middle.x + (p.x - width / 2) / frame.scale,
      y: frame.middle.y - (p.y - height / 2) / frame.scale,
    });
  };
  const mark = placing && px(placing);
  return (
    <div className={onPlace ? 'map placing' : 'map'}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="xMidYMid meet"
        onClick={onPlace ? place : undefined}
        role="group"
        aria-label="the ground, north up"
      >
        {ground.spots.map((s, i) => (
          <Way key={s.id} spot={s} at={px(points[i] ?? { x: 0, y: 0 })} />
        ))}
        {ground.spots.map((s, i) => (
          <SpotMark
            key={s.id}
            spot={s}
            at={px(points[i] ?? { x: 0, y: 0 })}
            view={view}
            signs={ground.signs.filter((g) => g.spotId === s.id && g.what !== 'none').length}
            chosen={s.id === chosen}
            onChoose={onPlace ? null : onChoose}
          />
        ))}
        {mark && (
          <path d={`M${mark.x - 9} ${mark.y}h18M${mark.x} ${mark.y - 9}v18`} stroke="var(--ember)" strokeWidth={2.4} />
        )}
        <ScaleBar scale={frame.scale} system={system} />
        {ground.spots.length === 0 && !placing && (
          <text x={width / 2} y={height / 2} textAnchor="middle">
            nothing is marked yet; add a spot and touch its place here
          </text>
        )}
      </svg>
    </div>
  );
}

/** The frame that shows all points with room about them, never closer than some hundred metres. */
function fit(points: Point[]): { middle: Point; scale: number } {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const [west, east, south, north] =
    points.length === 0 ? [-400, 400, -400, 400] : [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = Math.min((width - 190) / Math.max(400, east - west), (height - 150) / Math.max(400, north - south));
  return { middle: { x: (west + east) / 2, y: (south + north) / 2 }, scale };
}

/** The travel way that passes a spot: a band along its bearing, dotted along its middle. */
function Way({ spot, at }: { spot: Spot; at: Point }) {
  const next = rough(spot.id.charCodeAt(25) + spot.id.charCodeAt(24) * 3);
  const turn = (spot.travelBearingDeg * Math.PI) / 180;
  const [dx, dy] = [Math.sin(turn), -Math.cos(turn)];
  const points = [-1, -0.5, 0, 0.5, 1].map((t) => {
    const aside = t === 0 ? 0 : (next() - 0.5) * 9;
    return `${(at.x + dx * 62 * t - dy * aside).toFixed(1)} ${(at.y + dy * 62 * t + dx * aside).toFixed(1)}`;
  });
  const path = `M${points.join('L')}`;
  const band = Math.min(16, 7 + spot.travelWidthMm / 250);
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round" aria-hidden="true">
      <path d={path} stroke="var(--way)" strokeWidth={band} />
      <path d={path} stroke="var(--dun)" strokeWidth={1.6} strokeDasharray="0 7" />
    </g>
  );
}

function SpotMark({
  spot,
  at,
  view,
  signs,
  chosen,
  onChoose,
}: {
  spot: Spot;
  at: Point;
  view: LineView;
  signs: number;
  chosen: boolean;
  onChoose: ((id: string) => void) | null;
}) {
  const sets = view.sets.filter((s) => s.set.spotId === spot.id);
  const late = sets.some((s) => s.bead.late);
  const ink = late ? 'var(--ember)' : 'var(--ink)';
  return (
    <g
      transform={`translate(${at.x} ${at.y})`}
      style={{ color: ink, cursor: onChoose ? 'pointer' : undefined }}
      onClick={onChoose ? () => onChoose(spot.id) : undefined}
    >
      <g
        className="spot-mark"
        tabIndex={onChoose ? 0 : undefined}
        role={onChoose ? 'button' : 'img'}
        aria-label={`spot ${spot.name}`}
        aria-pressed={onChoose ? chosen : undefined}
        onKeyDown={(e) => e.key === 'Enter' && onChoose?.(spot.id)}
      >
        <circle className="ring" r={24} strokeWidth={1.4} />
        {sets.length === 0 && <path d="M-6 -6l12 12m0 -12l-12 12" stroke={ink} strokeWidth={2} />}
        {sets.map((s, i) => (
          <g key={s.set.id} transform={`translate(0 ${i * 22})`}>
            <rect x={-17} y={-10} width={34} height={20} fill={chosen ? 'var(--chosen)' : 'var(--paper)'} />
            <Mark kind={s.make.layout.kind} />
          </g>
        ))}
      </g>
      <g aria-hidden="true">
        {sets.map((s, i) => (
          <text
            key={s.set.id}
            x={-20}
            y={i * 22 - 8}
            textAnchor="end"
            className="halo"
            style={{ fontFamily: 'Aleo', fontSize: 15, fill: ink }}
          >
            {s.set.number}
          </text>
        ))}
        {Array.from({ length: Math.min(signs, 4) }, (_, i) => (
          <g key={i} transform={`translate(${-18 + i * 12} 21) rotate(${-20 + i * 17})`} fill="var(--ink)">
            <ellipse rx={2.6} ry={3} cy={1.6} />
            <circle cx={-3} cy={-2.4} r={1.2} />
            <circle cx={-1} cy={-4} r={1.2} />
            <circle cx={1.4} cy={-4} r={1.2} />
            <circle cx={3.2} cy={-2.2} r={1.2} />
          </g>
        ))}
        <text
          className="halo"
          x={at.x > width * 0.78 ? -26 : 26}
          y={5}
          textAnchor={at.x > width * 0.78 ? 'end' : 'start'}
          style={{ fill: ink, fontWeight: chosen ? 700 : 400 }}
        >
          {spot.name}
        </text>
      </g>
    </g>
  );
}

function ScaleBar({ scale, system }: { scale: number; system: 'us' | 'metric' }) {
  const unit = system === 'us' ? 0.9144 : 1;
  const wanted = 110 / scale / unit;
  const round = [10, 20, 50, 100, 200, 400, 800, 1600, 3200].find((n) => n >= wanted) ?? 5000;
  const long = round * unit * scale;
  return (
    <g aria-hidden="true">
      <path
        d={`M18 ${height - 20}h${long}M18 ${height - 25}v10M${18 + long} ${height - 25}v10`}
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      <text x={18 + long / 2} y={height - 26} textAnchor="middle" className="halo">
        {showDistance(round * unit, system)}
      </text>
    </g>
  );
}
