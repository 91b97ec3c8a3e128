import { hatching, rough, stonePath } from './rough';
import type { Attractor, BedOutput, FootfallMap, Guide, Layout, Paw, Rig, Way } from '../lib/types.gen';

/** Where things stand on the bench's drawing: px of setback 0 and offset 0, and px per mm. Setback runs to the right. */
export interface View {
  scale: number;
  x0: number;
  planY: number;
  groundY: number;
  width: number;
  height: number;
}

export const across = (view: View, setbackMm: number) => view.x0 + setbackMm * view.scale;
/** The right of an animal that comes from the right of the drawing lies up. */
export const up = (view: View, offsetMm: number) => view.planY - offsetMm * view.scale;

/** The chance map as stipple: the darker the dots, the more animals would put a foot on a pan there. */
export function Stipple({ map, view }: { map: FootfallMap; view: View }) {
  const classes = 7;
  const top = Math.max(0.05, ...map.chance);
  const paths = Array.from({ length: classes }, () => '');
  map.chance.forEach((chance, i) => {
    const size = Math.round((chance / top) * classes);
    if (size === 0) return;
    const x = across(view, map.y0Mm + map.cellMm * Math.floor(i / map.cols));
    const y = up(view, map.x0Mm + map.cellMm * (i % map.cols));
    paths[size - 1] = `${paths[size - 1] ?? ''}M${x.toFixed(1)} ${y.toFixed(1)}h0`;
  });
  return (
    <g stroke="var(--stipple)" strokeLinecap="round" aria-hidden="true">
      {paths.map((path, size) => (
        <path key={size} d={path} strokeWidth={0.7 + size * 0.55} opacity={0.75} />
      ))}
    </g>
  );
}

/** A paw as its print: the pad and four toes, pointing to the attractor. */
export function PawPrint({ paw, view }: { paw: Paw; view: View }) {
  const l = paw.lengthMm * view.scale;
  const w = paw.widthMm * view.scale;
  return (
    <g
      transform={`translate(${across(view, paw.yMm)} ${up(view, paw.xMm)}) rotate(${paw.turnDeg})`}
      fill="none"
      stroke="var(--slate)"
      strokeWidth={1.4}
      opacity={paw.standing ? 1 : 0.45}
      aria-hidden="true"
    >
      <path d={`M${l * 0.02} 0C${l * 0.05} ${-w * 0.42} ${l * 0.5} ${-w * 0.4} ${l * 0.48} 0S${l * 0.05} ${w * 0.42} ${l * 0.02} 0Z`} />
      {[-0.36, -0.13, 0.13, 0.36].map((side) => (
        <ellipse key={side} cx={-l * (0.44 - Math.abs(side) * 0.62)} cy={w * side * 1.1} rx={l * 0.15} ry={w * 0.115} />
      ))}
    </g>
  );
}

/** How long a hole's mouth is along its slant. */
export const mouthMm = (a: Attractor): number =>
  a.hole ? a.hole.diameterMm / Math.sin((a.hole.angleDeg * Math.PI) / 180) : 2 * (a.radiusMm ?? 0);

/** What an animal comes to, as it shows from above; a hole's mouth is as long as the slant makes it. */
export function AttractorPlan({ attractor, view }: { attractor: Attractor; view: View }) {
  const long = mouthMm(attractor) * view.scale;
  const x = across(view, attractor.yMm);
  const y = up(view, attractor.xMm);
  if (attractor.hole) {
    return <ellipse cx={x - long / 2} cy={y} rx={long / 2} ry={(attractor.hole.diameterMm / 2) * view.scale} fill="var(--ink)" />;
  }
  return <path d={stonePath(x - long / 2, y, long / 2, long / 2, 21, 9)} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.7} />;
}

/** The soil that lies about, and what stands behind the first attractor. */
export function BehindPlan({ layout, view }: { layout: Layout; view: View }) {
  const first = layout.attractors[0];
  if (!first) return null;
  const behind = across(view, first.yMm) - mouthMm(first) * view.scale;
  const y = up(view, first.xMm);
  return (
    <g>
      {layout.show === 'dug_out' && (
        <path d={hatching(view.x0 - 112, behind - 6, y - 92, y + 92, 5)} stroke="var(--rule)" strokeWidth={1.3} aria-hidden="true" />
      )}
      <Backing kind={layout.backing} x={behind + 4} y={y} view={view} />
    </g>
  );
}

/** The edges of the way that an animal walks. */
export function WayPlan({ way, view }: { way: Way; view: View }) {
  const half = (way.widthMm / 2) * view.scale;
  return (
    <g transform={turned(way.xMm, way.yMm, way.bearingDeg, view)}>
      <path d={`M${-half} -900V900M${half} -900V900`} stroke="var(--soft)" strokeWidth={1.4} strokeDasharray="9 6" />
    </g>
  );
}

/** Puts what is drawn about (0, 0), its length up and down the page, at a place of the plan and turns it from the x axis toward y. */
const turned = (xMm: number, yMm: number, deg: number, view: View) =>
  `translate(${across(view, yMm)} ${up(view, xMm)})${deg === 0 ? '' : ` rotate(${deg})`}`;

function Backing({ kind, x, y, view }: { kind: string; x: number; y: number; view: View }) {
  const size = 105 * view.scale;
  if (kind === 'none') return null;
  if (kind === 'tuft') {
    const next = rough(8);
    const blades = Array.from({ length: 22 }, () => {
      const turn = Math.PI * (0.55 + next() * 0.9);
      const length = size * (0.5 + next() * 0.6);
      return `M${x - 12} ${y + (next() - 0.5) * size}l${(length * Math.cos(turn)).toFixed(1)} ${(length * Math.sin(turn) * 0.9).toFixed(1)}`;
    });
    return <path d={blades.join('')} stroke="var(--ink)" strokeWidth={1.5} fill="none" />;
  }
  if (kind === 'bank') {
    const next = rough(3);
    let ticks = '';
    for (let at = y - 130; at < y + 130; at += 9)
      ticks += `M${x - 10} ${at}l${(-8 - next() * 12).toFixed(1)} ${((next() - 0.5) * 4).toFixed(1)}`;
    return <path d={`M${x - 10} ${y - 132}V${y + 132}${ticks}`} stroke="var(--ink)" strokeWidth={1.8} fill="none" />;
  }
  const stone = kind === 'stone';
  return (
    <g>
      <path
        d={stonePath(x - size * 0.42, y, size * 0.44, size * 1.02, stone ? 21 : 34, stone ? 8 : 13)}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.7}
        strokeDasharray={stone ? undefined : '5 2'}
      />
      {stone && (
        <path
          d={[-0.62, -0.45, -0.3]
            .map((at) => `M${x + size * at} ${y - size * 0.55}q${size * 0.12} ${size * 0.5} ${-size * 0.02} ${size * 1.05}`)
            .join('')}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={0.9}
        />
      )}
    </g>
  );
}

/** A bed's outline on the ground; its length runs along the levers. */
export function BedPlan({ rig, bed, view }: { rig: Rig; bed: BedOutput; view: View }) {
  const [long, wide] = [bed.lengthMm * view.scale, bed.widthMm * view.scale];
  return (
    <rect
      transform={turned(rig.xMm, rig.yMm, rig.axisDeg ?? 0, view)}
      x={-wide / 2}
      y={-long / 2}
      width={wide}
      height={long}
      fill="none"
      stroke="var(--ink)"
      strokeDasharray="2 3"
      strokeWidth={1}
    />
  );
}

/** A trap lying set: jaws, levers across the approach unless it is turned, the dog away from the animal, the pan. */
export function TrapPlan({ rig, view }: { rig: Rig; view: View }) {
  const { jaws, pan } = rig;
  if (!jaws || !pan) return null;
  const jaw = (jaws.spreadMm / 2) * view.scale;
  const frame = (jaws.frameMm / 2) * view.scale;
  const r = (pan.diameterMm / 2) * view.scale;
  return (
    <g stroke="var(--ink)" fill="none" transform={turned(pan.xMm, pan.yMm, rig.axisDeg ?? 0, view)}>
      <circle r={jaw} strokeWidth={2.6} />
      <circle r={jaw - 4} strokeWidth={0.9} />
      <path d={`M0 ${-jaw}V${-frame}M-6 ${-frame}h12M0 ${jaw}V${frame}M-6 ${frame}h12`} strokeWidth={2.6} />
      <path d={`M${-jaw} 0H${-r}`} strokeWidth={3} />
      <circle r={r} fill="var(--paper)" strokeWidth={2} />
      <path d="M-4 0h8M0 -4v8" strokeWidth={1.2} />
    </g>
  );
}

/** A stone, clod or stick that steers a foot. */
export function GuidePlan({ guide, seed, view }: { guide: Guide; seed: number; view: View }) {
  const x = across(view, guide.yMm);
  const y = up(view, guide.xMm);
  const r = guide.rMm * view.scale;
  if (guide.lengthMm) {
    const half = (guide.lengthMm / 2) * view.scale;
    return (
      <path
        transform={turned(guide.xMm, guide.yMm, guide.turnDeg ?? 0, view)}
        d={`M0 ${-half}V${half}`}
        stroke="var(--ink)"
        strokeWidth={guide.kind === 'stick' ? 3.5 : 2 * r}
        strokeLinecap="round"
      />
    );
  }
  if (guide.kind === 'stick') {
    return <path d={`M${x - r * 0.2} ${y - r}L${x + r * 0.25} ${y + r}`} stroke="var(--ink)" strokeWidth={3.5} strokeLinecap="round" />;
  }
  return (
    <path
      d={stonePath(x, y, r, r, seed, guide.kind === 'clod' ? 11 : 7)}
      fill="var(--chosen)"
      stroke="var(--ink)"
      strokeWidth={1.6}
      strokeDasharray={guide.kind === 'clod' ? '3 1.6' : undefined}
    />
  );
}
