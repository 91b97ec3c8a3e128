import { memo } from 'react';
import { showAbout, type System } from '../lib/words/units';
import type { Anchor, BedOutput, Circle, FootfallMap, InLand, Guide, Layout, Paw, Rig } from '../lib/types.gen';
import { standsItself } from '../lib/words/parts';
import { hatching, rough, stonePath } from './rough';
import { AttractorPlan, blades } from './things';
import { alikeViews, headMm, mouthMm, place, turned, type View } from './view';
import { TrenchPlan, WayPlan } from './ways';

interface StippleProps {
  map: FootfallMap;
  view: View;
}

/**
 * The chance map as stipple: the darker the dots, the more animals would put a foot on a pan there. It is drawn anew only where it says
 * something else: where feet fall does not hang on the pan that is dragged over it.
 */
export const Stipple = memo(Dots, (was, is) => alikeMaps(was.map, is.map) && alikeViews(was.view, is.view));

const alikeMaps = (a: FootfallMap, b: FootfallMap): boolean =>
  a === b ||
  (a.x0Mm === b.x0Mm &&
    a.y0Mm === b.y0Mm &&
    a.cols === b.cols &&
    a.chance.length === b.chance.length &&
    a.chance.every((x, i) => x === b.chance[i]));

/** The cells of a whole map; while a part moves they are larger, and their dots with them. */
const fineMm = 10;

function Dots({ map, view }: StippleProps) {
  const classes = 7;
  const top = Math.max(0.05, ...map.chance);
  const paths = Array.from({ length: classes }, () => '');
  map.chance.forEach((chance, i) => {
    const size = Math.round((chance / top) * classes);
    if (size === 0) return;
    const { x, y } = place(view, map.x0Mm + map.cellMm * (i % map.cols), map.y0Mm + map.cellMm * Math.floor(i / map.cols));
    paths[size - 1] = `${paths[size - 1] ?? ''}M${x.toFixed(1)} ${y.toFixed(1)}h0`;
  });
  return (
    <g stroke="var(--stipple)" strokeLinecap="round" aria-hidden="true" className="still">
      {paths.map((path, size) => (
        <path key={size} d={path} strokeWidth={((0.7 + size * 0.55) * map.cellMm) / fineMm} opacity={0.75} />
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
      transform={turned(view, paw.xMm, paw.yMm, paw.turnDeg)}
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

/** The soil that lies about, and what stands behind the first attractor. */
function BehindPlan({ layout, view }: { layout: Layout; view: View }) {
  const first = layout.attractors[0];
  if (!first) return null;
  const behind = -mouthMm(first) * view.scale;
  return (
    <g transform={turned(view, first.xMm, first.yMm)}>
      {layout.show === 'dug_out' && !layout.trench && (
        <path d={hatching(-112, behind - 6, -92, 92, 5)} stroke="var(--rule)" strokeWidth={1.3} aria-hidden="true" />
      )}
      {!standsItself.includes(first.of ?? '') && <Backing kind={layout.backing} x={behind + 4} y={0} view={view} />}
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
  if (kind === 'log') {
    const [wide, long] = [size * 0.55, size * 1.3];
    return (
      <g stroke="var(--ink)" fill="none">
        <rect x={x - wide} y={y - long} width={wide} height={2 * long} rx={5} fill="var(--paper)" strokeWidth={1.8} />
        <path
          d={[0.25, 0.55, 0.8].map((at) => `M${x - wide * at} ${y - long + 8}q${wide * 0.08} ${long} 0 ${2 * long - 16}`).join('')}
          stroke="var(--soft)"
          strokeWidth={0.9}
        />
      </g>
    );
  }
  if (kind === 'stump') {
    const r = size * 0.62;
    return (
      <g stroke="var(--ink)" fill="none">
        <path d={stonePath(x - r, y, r, r, 27, 15)} fill="var(--paper)" strokeWidth={1.8} />
        <path
          d={[0.72, 0.48, 0.22].map((at) => stonePath(x - r, y, r * at, r * at, 27, 15)).join('')}
          stroke="var(--soft)"
          strokeWidth={0.9}
        />
      </g>
    );
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
      transform={turned(view, rig.xMm, rig.yMm, rig.axisDeg)}
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
function TrapPlan({ rig, view }: { rig: Rig; view: View }) {
  const { jaws, pan } = rig;
  if (!jaws || !pan) return null;
  const jaw = (jaws.spreadMm / 2) * view.scale;
  const frame = (jaws.frameMm / 2) * view.scale;
  const r = (pan.diameterMm / 2) * view.scale;
  return (
    <g stroke="var(--ink)" fill="none" transform={turned(view, pan.xMm, pan.yMm, rig.axisDeg)}>
      {/* The jaw that the dog holds, and the loose one across from it. */}
      <path d={`M0 ${-jaw}A${jaw} ${jaw} 0 0 0 0 ${jaw}`} strokeWidth={3} />
      <path d={`M0 ${-jaw}A${jaw} ${jaw} 0 0 1 0 ${jaw}`} strokeWidth={1.5} />
      <path d={`M0 ${4 - jaw}A${jaw - 4} ${jaw - 4} 0 0 1 0 ${jaw - 4}`} strokeWidth={0.9} strokeDasharray="5 3" />
      <path d={`M0 ${-jaw}V${-frame}M-6 ${-frame}h12M0 ${jaw}V${frame}M-6 ${frame}h12`} strokeWidth={2.6} />
      {/* The dog, over its jaw and under the pan's edge. */}
      <path d={`M${-jaw - 7} 0H${-r}`} strokeWidth={3.4} />
      <path d={`M${-jaw - 7} -5v10`} strokeWidth={2.6} />
      <circle r={r} fill="var(--paper)" strokeWidth={2} />
      <path d="M-4 0h8M0 -4v8" strokeWidth={1.2} />
    </g>
  );
}

/** A loop that closes on what goes through it or steps into it, with its lock. */
function LoopPlan({ rig, view }: { rig: Rig; view: View }) {
  if (!rig.loop) return null;
  const r = (rig.loop.diameterMm / 2) * view.scale;
  const flat = rig.device === 'foot_loop';
  return (
    <g stroke="var(--ink)" fill="none" transform={turned(view, rig.xMm, rig.yMm, rig.axisDeg)}>
      {flat ? <circle r={r} strokeWidth={2} /> : <path d={`M${-5} ${-r}L5 ${r}`} strokeWidth={3} />}
      {flat && <path d={`M${-r * 0.5} ${-r * 0.5}h${r}v${r}h${-r}z`} strokeWidth={1} strokeDasharray="3 2" />}
      <rect x={-4} y={r - 4} width={9} height={8} fill="var(--paper)" strokeWidth={1.8} />
    </g>
  );
}

/** An anchor to the side of what it holds, with the chain that runs to it. */
export function AnchorPlan({ rig, anchor, view }: { rig: Rig; anchor: Anchor; view: View }) {
  const [from, to] = [place(view, rig.xMm, rig.yMm), place(view, anchor.xMm, anchor.yMm)];
  return (
    <g stroke="var(--ink)" fill="none">
      <path d={`M${from.x} ${from.y}L${to.x} ${to.y}`} strokeDasharray="4 2.5" strokeWidth={1.2} opacity={0.6} />
      <circle cx={to.x} cy={to.y} r={7} fill="var(--paper)" strokeWidth={1.6} />
      <path d={`M${to.x - 4} ${to.y}h8M${to.x} ${to.y - 4}v8`} strokeWidth={1.6} />
    </g>
  );
}

/** Where an edge is taken to be moved: a short stroke along it, with a stroke across. */
export function EdgePlan({ at, bearingDeg, view }: { at: { x: number; y: number }; bearingDeg: number; view: View }) {
  return (
    <g transform={turned(view, at.x, at.y, bearingDeg)} stroke="var(--ink)" fill="none" strokeWidth={2}>
      <circle r={13} fill="transparent" stroke="none" />
      <path d="M0 -9V9M-5 0h10" />
    </g>
  );
}

/** What an animal held there churns up, and how far it reaches; what is kept of the pattern lies in the dotted ring. */
export function CirclePlan({ anchor, circle, view, system }: { anchor: Anchor; circle: Circle; view: View; system: System }) {
  const at = place(view, anchor.xMm, anchor.yMm);
  const [wear, reach] = [circle.wearMm * view.scale, circle.reachMm * view.scale];
  const origin = place(view, 0, 0);
  return (
    <g fill="none" pointerEvents="none">
      <path d={stonePath(at.x, at.y, wear, wear, 5, 64)} fill="var(--chosen)" fillOpacity={0.6} stroke="var(--ink)" strokeWidth={1.2} />
      <circle
        cx={at.x}
        cy={at.y}
        r={reach}
        stroke={circle.near.length > 0 ? 'var(--ember)' : 'var(--ink)'}
        strokeWidth={1.6}
        strokeDasharray="7 5"
      />
      <circle cx={origin.x} cy={origin.y} r={300 * view.scale} stroke="var(--moss)" strokeWidth={1.4} strokeDasharray="1 4" />
      <text className="halo" x={at.x + wear * 0.6} y={at.y + wear * 0.8 + 12}>
        torn up, {showAbout('ground', circle.wearMm, system)}
      </text>
      <text
        className="halo toned"
        x={at.x + reach * 0.72}
        y={at.y - reach * 0.72}
        color={circle.near.length > 0 ? 'var(--ember)' : 'var(--ink)'}
      >
        reached, {showAbout('ground', circle.reachMm, system)}
      </text>
    </g>
  );
}

/** A piece of something on the land, across the way to it, where it lies from a set that faces so. */
export function LandPlan({ thing, facingDeg, name, view }: { thing: InLand; facingDeg: number; name: string; view: View }) {
  const turn = ((thing.towardDeg - facingDeg) * Math.PI) / 180;
  const [x, y] = [-Math.sin(turn) * thing.m * 1000, Math.cos(turn) * thing.m * 1000];
  const [at, from] = [place(view, x, y), place(view, 0, 0)];
  const off = Math.hypot(at.x - from.x, at.y - from.y) || 1;
  const [ax, ay] = [(-(at.y - from.y) / off) * 60, ((at.x - from.x) / off) * 60];
  return (
    <g pointerEvents="none">
      <path
        d={`M${at.x - ax} ${at.y - ay}L${at.x + ax} ${at.y + ay}`}
        stroke="var(--ember)"
        strokeWidth={2.4}
        strokeDasharray="10 3"
        fill="none"
      />
      <text className="halo toned" x={at.x + 6} y={at.y - 6} color="var(--ember)">
        {name}
      </text>
    </g>
  );
}

/** A cable between two posts, clear of what the animal came under. */
function SlidePlan({ rig, anchor, view }: { rig: Rig; anchor: Anchor; view: View }) {
  const half = ((anchor.lengthMm ?? 0) / 2) * view.scale;
  const [from, to] = [place(view, rig.xMm, rig.yMm), place(view, anchor.xMm, anchor.yMm)];
  return (
    <g stroke="var(--ink)" fill="none">
      <path d={`M${from.x} ${from.y}L${to.x} ${to.y}`} strokeDasharray="4 2.5" strokeWidth={1.4} />
      <g transform={turned(view, anchor.xMm, anchor.yMm, 0)}>
        <path d={`M0 ${-half}V${half}`} strokeWidth={1.2} />
        <path d={`M-4 ${-half}h8M-4 ${half}h8`} strokeWidth={6} />
      </g>
    </g>
  );
}

/** A stone, clod, tuft, stick or log that steers a foot. */
export function GuidePlan({ guide, seed, view }: { guide: Guide; seed: number; view: View }) {
  const r = guide.rMm * view.scale;
  const half = ((guide.lengthMm ?? 0) / 2) * view.scale;
  return (
    <g transform={turned(view, guide.xMm, guide.yMm, guide.turnDeg)} stroke="var(--ink)" fill="none">
      <GuideShape kind={guide.kind} r={r} half={half} seed={seed} />
    </g>
  );
}

function GuideShape({ kind, r, half, seed }: { kind: string; r: number; half: number; seed: number }) {
  switch (kind) {
    case 'stick':
      return (
        <path
          d={`M${half > 0 ? 0 : -r * 0.2} ${-(half || r)}L${half > 0 ? 0 : r * 0.25} ${half || r}`}
          strokeWidth={3.5}
          strokeLinecap="round"
        />
      );
    case 'log':
      return (
        <>
          <path d={`M${-r} ${-(half || r)}H${r}V${half || r}H${-r}Z`} fill="var(--paper)" strokeWidth={2} />
          <path
            d={[-0.5, 0, 0.45].map((at) => `M${r * at} ${-half + 6}q${r * 0.1} ${half} 0 ${2 * half - 12}`).join('')}
            stroke="var(--soft)"
          />
        </>
      );
    case 'tuft':
      return <path d={blades(r, 16, seed)} strokeWidth={1.2} />;
  }
  return (
    <path
      d={stonePath(0, 0, r, half || r, seed, kind === 'clod' ? 11 : 7)}
      fill="var(--chosen)"
      strokeWidth={1.6}
      strokeDasharray={kind === 'clod' ? '3 1.6' : undefined}
    />
  );
}

interface SetProps {
  layout: Layout;
  view: View;
}

/** Everything of a set that does not move by itself: its way, its trench, and what lies about. */
export function AroundPlan({ layout, view }: SetProps) {
  return (
    <>
      {layout.way && <WayPlan way={layout.way} view={view} />}
      {layout.trench && <TrenchPlan trench={layout.trench} headMm={headMm(layout)} view={view} />}
      {layout.kind === 'spring' && <WaterPlan layout={layout} view={view} />}
      <BehindPlan layout={layout} view={view} />
      {layout.anchors
        .filter((a) => a.kind === 'slide')
        .map((a) =>
          layout.rigs.filter((r) => r.anchorSlot === a.slot).map((r) => <SlidePlan key={r.slot} rig={r} anchor={a} view={view} />),
        )}
    </>
  );
}

/** The edge of shallow water about a set, and moss over its pan. */
function WaterPlan({ layout, view }: SetProps) {
  const pan = layout.rigs[0]?.pan;
  const r = 330 * view.scale;
  return (
    <g fill="none" stroke="var(--slate)">
      <path transform={turned(view, 0, pan?.yMm ?? 0)} d={stonePath(0, 0, r, r * 0.62, 17, 19)} strokeWidth={1.5} />
      {pan && <path transform={turned(view, pan.xMm, pan.yMm)} d={blades(60 * view.scale, 40, 9)} stroke="var(--moss)" strokeWidth={1.1} />}
    </g>
  );
}

/** A trap, or a device that closes a loop. */
export function RigPlan({ rig, view }: { rig: Rig; view: View }) {
  return rig.jaws ? <TrapPlan rig={rig} view={view} /> : <LoopPlan rig={rig} view={view} />;
}

/** A whole set from above, with nothing computed of it. */
export function StillPlan({ layout, view }: SetProps) {
  return (
    <>
      <AroundPlan layout={layout} view={view} />
      {layout.attractors.map((a) => (
        <AttractorPlan key={a.slot} layout={layout} attractor={a} view={view} />
      ))}
      {layout.rigs.map((r) => (
        <RigPlan key={r.slot} rig={r} view={view} />
      ))}
      {layout.guides.map((g, i) => (
        <GuidePlan key={i} guide={g} seed={i + 3} view={view} />
      ))}
    </>
  );
}
