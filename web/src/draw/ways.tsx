import type { ReactNode } from 'react';
import type { Trench, Way } from '../lib/types.gen';
import { hatching, rough } from './rough';
import { blades } from './things';
import { turned, type View } from './view';

/** How far a way is drawn on either side of the set, px; and what it lies between where it opens, and where it is walked. */
type Edges = (p: { far: number; open: number; walked: number; scale: number }) => ReactNode;

const ink = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.5 } as const;

/** Brush and stones that leave an animal so much room, drawn from a width inward and thickest where the set lies. */
function Brush({ from, to, reach }: { from: number; to: number; reach: number }) {
  if (from - to < 4) return null;
  const next = rough(12);
  const clumps = [-1, 1].flatMap((sideways) =>
    [-0.62, -0.3, 0, 0.3, 0.62].map((at) => {
      const near = to + (from - to) * Math.abs(at) * 0.8;
      const r = Math.max(7, (from - near) / 2);
      return { x: sideways * (near + r), y: at * reach * (0.95 + 0.1 * next()), r, seed: Math.round(40 * (at + 2)) + sideways };
    }),
  );
  return (
    <g {...ink} strokeWidth={1.1}>
      {clumps.map((c) => (
        <path key={`${c.x} ${c.y}`} transform={`translate(${c.x} ${c.y})`} d={blades(c.r, 13, c.seed + 60)} />
      ))}
    </g>
  );
}

/** A bank along one side: its edge, and strokes down its slope. */
function bank(x: number, far: number, seed: number): string {
  const next = rough(seed);
  let path = `M${x} ${-far}`;
  for (let y = -far + 30; y <= far; y += 30) path += `L${(x + (next() - 0.5) * 5).toFixed(1)} ${y}`;
  for (let y = -far; y < far; y += 10)
    path += `M${x} ${y}l${(Math.sign(x) * (8 + next() * 13)).toFixed(1)} ${((next() - 0.5) * 4).toFixed(1)}`;
  return path;
}

const edges: Record<string, Edges> = {
  brush: ({ open, walked, far }) => <Brush from={Math.max(open, walked + 60)} to={walked} reach={far * 0.5} />,
  banks: ({ open, walked, far }) => (
    <>
      <path d={bank(open, far, 3) + bank(-open, far, 5)} {...ink} />
      <Brush from={open} to={walked} reach={far * 0.3} />
    </>
  ),
  culvert: ({ open, walked, far, scale }) => {
    const mouth = 230 * scale;
    return (
      <>
        <path d={`M${open} ${far}V${mouth}l40 -56M${-open} ${far}V${mouth}l-40 -56`} {...ink} strokeWidth={3} />
        <path d={`M${open + 7} ${far}V${mouth + 6}M${-open - 7} ${far}V${mouth + 6}M${-open} ${mouth}H${open}`} {...ink} strokeWidth={1} />
        <path d={hatching(-open + 4, open - 4, mouth + 6, far, 8)} {...ink} stroke="var(--rule)" />
        <Brush from={open} to={walked} reach={160 * scale} />
      </>
    );
  },
  fence: ({ walked }) => (
    <>
      <path d={`M-900 -3H900M-900 3H900`} {...ink} strokeWidth={1} />
      <path d={[-3, -2, -1, 1, 2, 3].map((n) => `M${n * 110} -6v12`).join('') + `M${-walked} 0h${2 * walked}`} {...ink} strokeWidth={3.4} />
      <Brush from={walked + 60} to={walked} reach={90} />
    </>
  ),
  ruts: ({ walked, far }) => (
    <path
      d={[-1, 1].map((s) => `M${s * walked} ${-far}V${far}`).join('') + hatching(-walked, walked, -far, far, 15)}
      {...ink}
      stroke="var(--soft)"
      strokeWidth={1.2}
    />
  ),
};

/** What an animal passes along: its walked edges, and what stands on both sides. */
export function WayPlan({ way, view }: { way: Way; view: View }) {
  const walked = (way.widthMm / 2) * view.scale;
  const open = ((way.openMm ?? 0) / 2) * view.scale;
  const far = Math.max(view.width, view.height);
  return (
    <g transform={turned(view, way.xMm, way.yMm, way.bearingDeg)}>
      <path d={`M${-walked} ${-far}V${far}M${walked} ${-far}V${far}`} {...ink} stroke="var(--soft)" strokeDasharray="9 6" />
      {edges[way.between ?? '']?.({ far, open, walked, scale: view.scale })}
    </g>
  );
}

/** A trench from its head to where its floor comes up, with the soil heaped on both sides. */
export function TrenchPlan({ trench, headMm, view }: { trench: Trench; headMm: number; view: View }) {
  const [half, long, head] = [(trench.widthMm / 2) * view.scale, trench.lengthMm * view.scale, headMm * view.scale];
  const heap = 34;
  return (
    <g transform={turned(view, 0, 0)}>
      <path
        d={hatching(-head, long - head + 14, -half - heap, -half - 6, 6) + hatching(-head, long - head + 14, half + 4, half + heap, 7)}
        {...ink}
        strokeWidth={1.2}
      />
      <path
        d={`M${long - head + 30} ${-half - 22}L${long - head} ${-half}H${-head}V${half}H${long - head}L${long - head + 30} ${half + 22}`}
        {...ink}
        strokeWidth={2.2}
      />
      <path
        d={[0.25, 0.5, 0.75].map((at) => `M${-head + long * at} ${-half + 4}V${half - 4}`).join('')}
        {...ink}
        stroke="var(--rule)"
        strokeWidth={1}
      />
    </g>
  );
}
