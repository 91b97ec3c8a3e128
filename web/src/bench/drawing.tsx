import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { CutThrough } from '../draw/cut';
import {
  across,
  AttractorPlan,
  BedPlan,
  BehindPlan,
  GuidePlan,
  mouthMm,
  PawPrint,
  Stipple,
  TrapPlan,
  up,
  WayPlan,
  type View,
} from '../draw/plan';
import { Ruler } from '../draw/ruler';
import { useSettings } from '../lib/settings';
import type { Answer, FootfallMap, Layout, Rig } from '../lib/types.gen';
import { show, type System } from '../lib/units';
import { plural, word } from '../lib/words';
import type { Moving } from './answer';

const width = 640;
const height = 632;
const still: View = { scale: 0.6, x0: 124, planY: 168, groundY: 446, width, height };
const rulerY = 336;

interface Shift {
  x: number;
  y: number;
}

interface Props {
  layout: Layout;
  target: string;
  soil: string;
  answer: Answer | undefined;
  map: FootfallMap | undefined;
  /** Depth of frost by tomorrow morning; undefined where the weather is not known. */
  frostMm: number | undefined;
  onMove: (layout: Layout, moving: Moving) => void;
  onRest: () => void;
}

const by = <T extends { xMm: number; yMm: number }>(part: T, d: Shift): T => ({ ...part, xMm: part.xMm + d.x, yMm: part.yMm + d.y });

/** Moves a trap with its bed, and with its anchor where that holds no other. */
export const moveRig = (l: Layout, slot: number, d: Shift): Layout => {
  const rig = l.rigs.find((r) => r.slot === slot);
  const twins = l.rigs.filter((r) => r.anchorSlot === rig?.anchorSlot).length > 1;
  return {
    ...l,
    rigs: l.rigs.map((r) => (r.slot === slot ? { ...by(r, d), ...(r.pan && { pan: by(r.pan, d) }) } : r)),
    anchors: l.anchors.map((a) => (a.slot === rig?.anchorSlot && !twins ? by(a, d) : a)),
  };
};

const moveGuide = (l: Layout, index: number, d: Shift): Layout => ({ ...l, guides: l.guides.map((g, i) => (i === index ? by(g, d) : g)) });

/** The first attractor is the origin: when it moves, everything else moves the other way. */
const moveAttractor = (l: Layout, index: number, d: Shift): Layout => {
  const back = { x: -d.x, y: -d.y };
  if (index > 0) return { ...l, attractors: l.attractors.map((a, i) => (i === index ? by(a, d) : a)) };
  return {
    ...l,
    attractors: l.attractors.map((a, i) => (i === 0 ? a : by(a, back))),
    ...(l.way && { way: by(l.way, back) }),
    rigs: l.rigs.map((r) => ({ ...by(r, back), ...(r.pan && { pan: by(r.pan, back) }) })),
    anchors: l.anchors.map((a) => by(a, back)),
    guides: l.guides.map((g) => by(g, back)),
  };
};

/** The set to scale, from above and cut through, on one ruler. Trap, hole and guides can be dragged or nudged. */
export function Drawing({ layout, target, soil, answer, map, frostMm, onMove, onRest }: Props) {
  const { system } = useSettings();
  // While the hole is dragged the rest stays where it lies on the ground; the ruler goes with the hole.
  const [held, setHeld] = useState<Shift>({ x: 0, y: 0 });
  const view: View = { ...still, x0: still.x0 + held.y * still.scale, planY: still.planY - held.x * still.scale };
  const { attractors, rigs, guides } = layout;
  const spread = ((answer?.spreadDeg ?? 20) * Math.PI) / 180;
  const far = { x: (height / view.scale) * Math.sin(spread), y: (height / view.scale) * Math.cos(spread) };
  const part = (moving: Moving, move: (l: Layout, d: Shift) => Layout) => ({
    system,
    start: layout,
    onMove: (start: Layout, d: Shift) => onMove(move(start, d), moving),
    onRest,
  });
  const beds = answer?.rigs ?? [];
  const first = attractors[0];
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="group" aria-label="the set drawn to scale">
      <clipPath id="plan">
        <rect x={0} y={20} width={width} height={rulerY - 30} />
      </clipPath>
      <g clipPath="url(#plan)">
        {map && <Stipple map={map} view={view} />}
        {layout.way && <WayPlan way={layout.way} view={view} />}
        {first &&
          [far.x, -far.x].map((x) => (
            <path
              key={x}
              d={`M${across(view, 0)} ${up(view, 0)}L${across(view, far.y)} ${up(view, x)}`}
              stroke="var(--soft)"
              strokeDasharray="1 5"
              fill="none"
            />
          ))}
        {answer?.paws.map((paw, i) => (
          <PawPrint key={i} paw={paw} view={view} />
        ))}
        {rigs.map((rig) => {
          const bed = beds.find((r) => r.slot === rig.slot)?.bed;
          return bed && <BedPlan key={rig.slot} rig={rig} bed={bed} view={view} />;
        })}
        <BehindPlan layout={layout} view={view} />
        {attractors.map((a, i) => (
          <Part
            key={a.slot}
            {...part('other', (l, d) => moveAttractor(l, i, d))}
            name={`${a.kind}${i === 0 ? '' : ` ${i + 1}`}, ${show('length', a.hole?.diameterMm ?? mouthMm(a), system)} across`}
            at={{ x: a.xMm, y: a.yMm - mouthMm(a) / 2 }}
            r={mouthMm(a) / 2 + 8}
            view={view}
            onMove={(start, d) => {
              if (i === 0) setHeld(d);
              onMove(moveAttractor(start, i, d), 'other');
            }}
            onRest={() => {
              setHeld({ x: 0, y: 0 });
              onRest();
            }}
          >
            <AttractorPlan attractor={a} view={view} />
          </Part>
        ))}
        {rigs.map((rig, i) => {
          const at = rig.pan ?? rig;
          return (
            <Part
              key={rig.slot}
              {...part('trap', (l, d) => moveRig(l, rig.slot, d))}
              name={`pan${i === 0 ? '' : ` ${i + 1}`}, ${show('length', at.yMm, system)} back, ${side(at.xMm, system)}`}
              at={{ x: at.xMm, y: at.yMm }}
              r={(rig.jaws?.spreadMm ?? 0) / 2 + 8}
              view={view}
            >
              <TrapPlan rig={rig} view={view} />
            </Part>
          );
        })}
        {guides.map((guide, i) => (
          <Part
            key={i}
            {...part('other', (l, d) => moveGuide(l, i, d))}
            name={`${guide.kind} ${i + 1}, ${show('length', guide.yMm, system)} back, ${side(guide.xMm, system)}`}
            at={{ x: guide.xMm, y: guide.yMm }}
            r={guide.rMm + 6}
            view={view}
          >
            <GuidePlan guide={guide} seed={i + 3} view={view} />
          </Part>
        ))}
        {rigs[0] && <Dimensions rig={rigs[0]} view={view} system={system} />}
        {answer?.best && map && <Best x={answer.best.xMm} y={answer.best.yMm} view={view} system={system} />}
      </g>
      <text x={6} y={14}>
        <tspan className="heading">From above</tspan>
        <tspan dx={9} className="quiet-text">
          denser stipple: more {plural(target)} would put a foot there
        </tspan>
      </text>
      <text className="halo slate" x={across(view, 616)} y={up(view, -112)} style={{ fill: 'var(--slate)' }}>
        {word(target)}, walking in
      </text>
      <Ruler view={view} y={rulerY} system={system} />
      {beds.length > 0 && <CutThrough layout={layout} rigs={beds} soil={soil} view={view} system={system} frostMm={frostMm} />}
      <text className="halo" x={across(view, 425)} y={384}>
        <tspan className="heading">Cut through</tspan>
      </text>
      {answer?.standoff && first && (
        <text className="halo quiet-text" x={across(view, 425)} y={402}>
          {first.plug === 'none'
            ? `bottom in sight from ${show('length', answer.standoff.standingMm, system)} standing, ${show('length', answer.standoff.crouchedMm, system)} stooping`
            : `${first.plug} hides the bottom at any distance`}
        </text>
      )}
    </svg>
  );
}

/** An offset in words. */
export function side(xMm: number, system: System): string {
  if (Math.abs(xMm) < 1) return 'on the axis';
  return `${show('length', Math.abs(xMm), system)} to the ${xMm > 0 ? 'right' : 'left'}`;
}

interface PartProps {
  name: string;
  at: Shift;
  r: number;
  view: View;
  system: System;
  start: Layout;
  children: ReactNode;
  onMove: (start: Layout, d: Shift) => void;
  onRest: () => void;
}

/** A part of the drawing that can be dragged with a pointer or nudged with the arrow keys. */
function Part({ name, at, r, view, system, start, children, onMove, onRest }: PartProps) {
  const drag = useRef<{ from: Shift; start: Layout } | null>(null);
  const snap = system === 'us' ? 25.4 / 8 : 2;
  const fine = system === 'us' ? 25.4 / 4 : 5;
  const coarse = system === 'us' ? 25.4 : 25;

  const point = (e: PointerEvent<SVGGElement>): Shift => {
    const matrix = e.currentTarget.ownerSVGElement?.getScreenCTM()?.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    return { x: -p.y / view.scale, y: p.x / view.scale };
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const by = e.shiftKey ? coarse : fine;
    const step: Record<string, Shift> = {
      ArrowRight: { x: 0, y: by },
      ArrowLeft: { x: 0, y: -by },
      ArrowUp: { x: by, y: 0 },
      ArrowDown: { x: -by, y: 0 },
    };
    const d = step[e.key];
    if (!d) return;
    e.preventDefault();
    onMove(start, d);
    onRest();
  };
  return (
    <g
      className="drag"
      tabIndex={0}
      role="button"
      aria-label={`${name}; arrows move it`}
      onKeyDown={onKeyDown}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { from: point(e), start };
      }}
      onPointerMove={(e) => {
        if (!drag.current) return;
        const to = point(e);
        const snapped = (mm: number) => Math.round(mm / snap) * snap;
        onMove(drag.current.start, { x: snapped(to.x - drag.current.from.x), y: snapped(to.y - drag.current.from.y) });
      }}
      onPointerUp={() => {
        if (!drag.current) return;
        drag.current = null;
        onRest();
      }}
      onPointerCancel={() => {
        drag.current = null;
        onRest();
      }}
    >
      {children}
      <circle className="focus-ring" cx={across(view, at.y)} cy={up(view, at.x)} r={r * view.scale} />
    </g>
  );
}

/** Setback, and offset where there is one. */
function Dimensions({ rig, view, system }: { rig: Rig; view: View; system: System }) {
  const { pan, jaws } = rig;
  if (!pan || !jaws) return null;
  const x0 = across(view, 0);
  const x1 = across(view, pan.yMm);
  const panY = up(view, pan.xMm);
  const below = up(view, pan.xMm - jaws.frameMm / 2) + 22;
  const y = Math.min(below, rulerY - 24);
  return (
    <g pointerEvents="none">
      <path d={`M${x0} ${y}H${x1}M${x0} ${y - 6}v12M${x1} ${y - 6}v12`} stroke="var(--ink)" strokeWidth={1.1} fill="none" />
      <text className="halo heading" x={(x0 + x1) / 2} y={y + 5} textAnchor="middle">
        {show('length', pan.yMm, system)}
      </text>
      {Math.abs(pan.xMm) >= 1 && (
        <>
          <path d={`M${x1} ${up(view, 0)}V${panY}M${x1 - 6} ${up(view, 0)}h12`} stroke="var(--ink)" strokeWidth={1.1} fill="none" />
          <text className="halo heading" x={x1 + 12} y={(up(view, 0) + panY) / 2 + 4}>
            {side(pan.xMm, system)}
          </text>
        </>
      )}
    </g>
  );
}

/** The point where a pan would meet the most feet. */
function Best({ x, y, view, system }: { x: number; y: number; view: View; system: System }) {
  const px = across(view, y);
  const aside = Math.abs(x) > 25 ? `, ${side(x, system)}` : '';
  return (
    <g pointerEvents="none">
      <path d={`M${px - 5} ${up(view, x) - 5}l10 10m0 -10l-10 10`} stroke="var(--ember)" strokeWidth={2} />
      <path d={`M${px - 6} ${rulerY - 18}l6 8l6 -8`} stroke="var(--ember)" strokeWidth={1.8} fill="none" />
      <text className="halo" x={px + 11} y={rulerY - 11} style={{ fill: 'var(--ember)' }}>
        best at {show('length', y, system)}
        {aside}
      </text>
    </g>
  );
}
