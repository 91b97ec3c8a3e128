import { hatching, rough, stonePath } from './rough';
import type { FootfallMap, Guide, Layout, Paw } from '../lib/types.gen';

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
      transform={`translate(${across(view, paw.yMm)} ${up(view, paw.xMm)})`}
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

/** Hole and backing as they show from above; the mouth is as long as the slant makes it. */
export function HolePlan({ layout, view }: { layout: Layout; view: View }) {
  const { hole, backing, look } = layout;
  const long = (hole.diameterMm / Math.sin((hole.angleDeg * Math.PI) / 180)) * view.scale;
  const wide = hole.diameterMm * view.scale;
  const x = across(view, 0);
  const y = up(view, 0);
  const behind = x - long;
  return (
    <g>
      {look === 'dug_out' && (
        <path d={hatching(view.x0 - 112, behind - 6, y - 92, y + 92, 5)} stroke="var(--rule)" strokeWidth={1.3} aria-hidden="true" />
      )}
      <Backing kind={backing} x={behind + 4} y={y} view={view} />
      <ellipse cx={x - long / 2} cy={y} rx={long / 2} ry={wide / 2} fill="var(--ink)" />
    </g>
  );
}

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

/** The bed's outline on the ground. */
export function BedPlan({ layout, lengthMm, widthMm, view }: { layout: Layout; lengthMm: number; widthMm: number; view: View }) {
  return (
    <rect
      x={across(view, layout.bed.yMm - widthMm / 2)}
      y={up(view, layout.bed.xMm + lengthMm / 2)}
      width={widthMm * view.scale}
      height={lengthMm * view.scale}
      fill="none"
      stroke="var(--ink)"
      strokeDasharray="2 3"
      strokeWidth={1}
    />
  );
}

/** The trap lying set: jaws, levers across the approach, the dog away from the animal, the pan. */
export function TrapPlan({ layout, view }: { layout: Layout; view: View }) {
  const { trap, pan } = layout;
  const x = across(view, pan.yMm);
  const y = up(view, pan.xMm);
  const jaw = (trap.jawSpreadMm / 2) * view.scale;
  const frame = (trap.frameLengthMm / 2) * view.scale;
  const r = (pan.diameterMm / 2) * view.scale;
  return (
    <g stroke="var(--ink)" fill="none">
      <circle cx={x} cy={y} r={jaw} strokeWidth={2.6} />
      <circle cx={x} cy={y} r={jaw - 4} strokeWidth={0.9} />
      <path
        d={`M${x} ${y - jaw}V${y - frame}M${x - 6} ${y - frame}h12M${x} ${y + jaw}V${y + frame}M${x - 6} ${y + frame}h12`}
        strokeWidth={2.6}
      />
      <path d={`M${x - jaw} ${y}H${x - r}`} strokeWidth={3} />
      <circle cx={x} cy={y} r={r} fill="var(--paper)" strokeWidth={2} />
      <path d={`M${x - 4} ${y}h8M${x} ${y - 4}v8`} strokeWidth={1.2} />
    </g>
  );
}

/** A stone, clod or stick that steers a foot. */
export function GuidePlan({ guide, seed, view }: { guide: Guide; seed: number; view: View }) {
  const x = across(view, guide.yMm);
  const y = up(view, guide.xMm);
  const r = guide.rMm * view.scale;
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
