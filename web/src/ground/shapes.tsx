import { memo } from 'react';
import { rough } from '../draw/rough';
import type { Point } from '../lib/plane';

const d = (points: Point[], closed = false) =>
  points.length === 0 ? '' : `M${points.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('L')}${closed ? 'Z' : ''}`;

/** Short strokes or crosses set along a line every so many pixels. */
function along(points: Point[], every: number, mark: (at: Point, dir: Point) => string): string {
  let path = '';
  let rest = every / 2;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1] ?? { x: 0, y: 0 }, points[i] ?? { x: 0, y: 0 }];
    const long = Math.hypot(b.x - a.x, b.y - a.y);
    if (long === 0) continue;
    const dir = { x: (b.x - a.x) / long, y: (b.y - a.y) / long };
    for (; rest < long; rest += every) {
      if (path.length > 60_000) return path;
      path += mark({ x: a.x + dir.x * rest, y: a.y + dir.y * rest }, dir);
    }
    rest -= long;
  }
  return path;
}

function inside(points: Point[], x: number, y: number): boolean {
  let odd = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [a, b] = [points[i] ?? { x: 0, y: 0 }, points[j] ?? { x: 0, y: 0 }];
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) odd = !odd;
  }
  return odd;
}

/** Marks strewn over an area, as many as its size on the drawing asks for, the same at every painting. */
function strewn(points: Point[], seed: number, room: number, mark: (x: number, y: number, turn: number) => string): string {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const next = rough(seed);
  const n = Math.min(400, Math.round(((x1 - x0) * (y1 - y0)) / room));
  let path = '';
  for (let i = 0; i < n; i++) {
    const [x, y, turn] = [x0 + next() * (x1 - x0), y0 + next() * (y1 - y0), next()];
    if (inside(points, x, y)) path += mark(x, y, turn);
  }
  return path;
}

/** Level strokes across an area. */
function levels(points: Point[], every: number): string {
  const ys = points.map((p) => p.y);
  let path = '';
  for (let y = Math.min(...ys) + every / 2; y < Math.max(...ys) && path.length < 40_000; y += every) {
    const cuts: number[] = [];
    for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
      const [a, b] = [points[i] ?? { x: 0, y: 0 }, points[j] ?? { x: 0, y: 0 }];
      if (a.y > y !== b.y > y) cuts.push(((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x);
    }
    cuts.sort((a, b) => a - b);
    for (let i = 0; i + 1 < cuts.length; i += 2) path += `M${(cuts[i] ?? 0).toFixed(1)} ${y.toFixed(1)}H${(cuts[i + 1] ?? 0).toFixed(1)}`;
  }
  return path;
}

const ink = 'var(--ink)';
const slate = 'var(--slate)';

interface ShapeProps {
  kind: string;
  points: Point[];
  /** Pixels per metre, for what has a width on the ground. */
  k: number;
  widthMm: number;
  seed: number;
}

/** A thing on the map, drawn so that it can be told without colour. */
export const Shape = memo(function Shape({ kind, points, k, widthMm, seed }: ShapeProps) {
  const path = d(points);
  switch (kind) {
    case 'boundary':
      return <path d={d(points, true)} fill="none" stroke={ink} strokeWidth={1.1} strokeDasharray="14 4 2 4" />;
    case 'travel_way':
      return (
        <g fill="none" strokeLinejoin="round" strokeLinecap="round">
          <path d={path} stroke="var(--way)" strokeWidth={Math.max(9, (widthMm / 1000) * k)} />
          <path d={path} stroke="var(--dun)" strokeWidth={1.7} strokeDasharray="0 7" />
        </g>
      );
    case 'road':
    case 'public_road':
      return (
        <g fill="none" strokeLinejoin="round">
          <path d={path} stroke={ink} strokeWidth={kind === 'road' ? 5 : 7} />
          <path d={path} stroke="var(--paper)" strokeWidth={kind === 'road' ? 2.6 : 4} />
        </g>
      );
    case 'two_track':
      return (
        <g fill="none" strokeDasharray="8 5">
          <path d={path} stroke={ink} strokeWidth={5.5} />
          <path d={path} stroke="var(--paper)" strokeWidth={3.1} strokeDasharray="none" />
        </g>
      );
    case 'fence':
      return (
        <path
          d={path + along(points, 24, (p) => `M${(p.x - 3).toFixed(1)} ${(p.y - 3).toFixed(1)}l6 6m0 -6l-6 6`)}
          fill="none"
          stroke={ink}
          strokeWidth={1.1}
        />
      );
    case 'stream':
      return (
        <g fill="none" stroke={slate} strokeLinejoin="round">
          <path d={path} strokeWidth={2.8} />
          <path d={path} strokeWidth={1} transform="translate(2 5)" />
        </g>
      );
    case 'breaks':
    case 'steep_bank':
      return (
        <path
          d={
            path +
            along(
              points,
              kind === 'breaks' ? 12 : 7,
              (p, dir) => `M${p.x.toFixed(1)} ${p.y.toFixed(1)}l${(-dir.y * 9 + dir.x * 1.5).toFixed(1)} ${(dir.x * 9).toFixed(1)}`,
            )
          }
          fill="none"
          stroke={ink}
          strokeWidth={1.1}
        />
      );
    case 'machinery_lane':
      return <path d={path} fill="none" stroke={ink} strokeWidth={2} strokeDasharray="20 8" />;
    case 'peoples_trail':
      return <path d={path} fill="none" stroke={ink} strokeWidth={2.2} strokeDasharray="0 6" strokeLinecap="round" />;
    case 'hay':
      return <path d={levels(points, 13)} fill="none" stroke="var(--rule)" strokeWidth={1.2} strokeDasharray="16 7" />;
    case 'pond':
    case 'deep_water':
      return (
        <g fill="none" stroke={slate}>
          <path d={d(points, true)} strokeWidth={kind === 'pond' ? 1.6 : 2.8} />
          <path d={levels(points, 7)} strokeWidth={0.8} />
        </g>
      );
    case 'cover':
      return (
        <path
          d={strewn(points, seed, 260, (x, y, turn) => `M${x.toFixed(1)} ${y.toFixed(1)}v-${(6 + turn * 3).toFixed(1)}m-3 3l3 -3l3 3`)}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={1}
        />
      );
    case 'livestock':
      return <path d={d(points, true)} fill="none" stroke={ink} strokeWidth={1.6} strokeDasharray="2 5" />;
    default:
      return <PointMark kind={kind} at={points[0] ?? { x: 0, y: 0 }} />;
  }
});

/** A feature, hazard or lookout at a point. */
function PointMark({ kind, at }: { kind: string; at: Point }) {
  const shapes: Record<string, string> = {
    gate: 'M-7 -5v10M7 -5v10M-7 0l11 -5',
    culvert: 'M-8 5v-4a8 8 0 0 1 16 0v4M-4 5v-3a4 4 0 0 1 8 0v3',
    log: 'M-9 3h15a3 3 0 0 0 0 -6h-15zM-9 3a3 3 0 0 1 0 -6M-4 -3l2 -4',
    spring: 'M-8 2q4 -4 8 0t8 0M-6 6q3 -3 6 0t6 0M0 -8v5M-3 -5l3 3l3 -3',
    bridge: 'M-9 -4q9 5 18 0M-9 4q9 -5 18 0',
    saddle: 'M-9 -4q9 10 18 0',
    lone_tree: 'M0 7v-6M0 -8l-6 9h12z',
    lone_stone: 'M-6 4l2 -8l7 -1l3 7l-4 3z',
    bale_row: 'M-9 -3h5v6h-5zM-2.5 -3h5v6h-5zM4 -3h5v6h-5z',
    creek_crossing: 'M-9 -3h4m3 0h4m3 0h4M-9 3h4m3 0h4m3 0h4',
    carcass: 'M-7 -4l14 8M-7 4l14 -8M-9 -4a2 2 0 1 0 3 -2M9 4a2 2 0 1 0 -3 2',
    dwelling: 'M-7 7v-9l7 -6l7 6v9z',
    others_set: 'M-5 -5h10v10h-10zM-8 8L8 -8',
    seen_from: 'M-9 0q9 -9 18 0q-9 9 -18 0M0 -2.6a2.6 2.6 0 1 0 0.01 0',
  };
  const fallback = 'M-8 6L0 0M8 6L0 0M0 -8V0';
  return (
    <g transform={`translate(${at.x.toFixed(1)} ${at.y.toFixed(1)})`}>
      <circle r={9} fill="var(--paper)" opacity={0.85} />
      <path d={shapes[kind] ?? fallback} fill="none" stroke={ink} strokeWidth={1.6} strokeLinejoin="round" />
    </g>
  );
}

/** What a kind of sign looks like: tracks as a print, the rest as small marks. */
export function SignMark({ what, directionDeg }: { what: string; directionDeg: number | null }) {
  if (what === 'tracks') {
    return (
      <g transform={`rotate(${directionDeg ?? -20})`} fill={ink}>
        <ellipse rx={4} ry={4.4} cy={2.6} />
        <circle cx={-4.6} cy={-2.6} r={1.9} />
        <circle cx={-1.6} cy={-5.6} r={1.9} />
        <circle cx={2} cy={-5.6} r={1.9} />
        <circle cx={4.8} cy={-2.4} r={1.9} />
      </g>
    );
  }
  const marks: Record<string, string> = {
    scat: 'M-7 3q2 -8 4 -1t4 -1t4 -1q2 -5 3 0',
    scratched: 'M-6 -6l3 12M-1 -6l2 12M4 -6l3 12',
    fence_gap: 'M-8 -4h16M-5 4q5 -9 10 0',
    worn_trail: 'M-7 -7q4 7 0 14M7 -7q-4 7 0 14',
    den: 'M-7 5a7 8 0 0 1 14 0z',
    kill: 'M-6 -6l12 12m0 -12l-12 12',
    hair: 'M-6 5q2 -8 4 -10M-1 6q1 -8 3 -11M4 6q0 -7 3 -9',
    bed: 'M-8 0a8 5 0 1 0 16 0a8 5 0 1 0 -16 0',
  };
  if (what === 'none') return <circle r={6} fill="none" stroke={ink} strokeDasharray="2.5 2.5" />;
  return <path d={marks[what] ?? 'M-4 0h8'} fill={what === 'den' ? ink : 'none'} stroke={ink} strokeWidth={2.2} strokeLinecap="round" />;
}
