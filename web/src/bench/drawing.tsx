import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { CutThrough } from '../draw/cut';
import { across, BedPlan, GuidePlan, HolePlan, PawPrint, Stipple, TrapPlan, up, type View } from '../draw/plan';
import { Ruler } from '../draw/ruler';
import { useSettings } from '../lib/settings';
import type { Answer, FootfallMap, Layout } from '../lib/types.gen';
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

export const moveTrap = (l: Layout, d: Shift): Layout => ({
  ...l,
  pan: { ...l.pan, xMm: l.pan.xMm + d.x, yMm: l.pan.yMm + d.y },
  bed: { ...l.bed, xMm: l.bed.xMm + d.x, yMm: l.bed.yMm + d.y },
});

const moveGuide = (l: Layout, index: number, d: Shift): Layout => ({
  ...l,
  guides: l.guides.map((g, i) => (i === index ? { ...g, xMm: g.xMm + d.x, yMm: g.yMm + d.y } : g)),
});

/** The hole is the origin: when it moves, everything else moves the other way. */
const moveHole = (l: Layout, d: Shift): Layout => {
  const back = { x: -d.x, y: -d.y };
  return l.guides.reduce((moved, _, i) => moveGuide(moved, i, back), moveTrap(l, back));
};

/** The set to scale, from above and cut through, on one ruler. Trap, hole and guides can be dragged or nudged. */
export function Drawing({ layout, target, soil, answer, map, frostMm, onMove, onRest }: Props) {
  const { system } = useSettings();
  // While the hole is dragged the rest stays where it lies on the ground; the ruler goes with the hole.
  const [held, setHeld] = useState<Shift>({ x: 0, y: 0 });
  const view: View = { ...still, x0: still.x0 + held.y * still.scale, planY: still.planY - held.x * still.scale };
  const { pan, guides, hole } = layout;
  const spread = ((answer?.spreadDeg ?? 20) * Math.PI) / 180;
  const far = { x: (height / view.scale) * Math.sin(spread), y: (height / view.scale) * Math.cos(spread) };
  const part = (moving: Moving, move: (l: Layout, d: Shift) => Layout) => ({
    system,
    start: layout,
    onMove: (start: Layout, d: Shift) => onMove(move(start, d), moving),
    onRest,
  });
  const bed = answer?.bed;
  const mouth = hole.diameterMm / Math.sin((hole.angleDeg * Math.PI) / 180);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="group" aria-label="the set drawn to scale">
      <clipPath id="plan">
        <rect x={0} y={20} width={width} height={rulerY - 30} />
      </clipPath>
      <g clipPath="url(#plan)">
        {map && <Stipple map={map} view={view} />}
        {[far.x, -far.x].map((x) => (
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
        {bed && <BedPlan layout={layout} lengthMm={bed.lengthMm} widthMm={bed.widthMm} view={view} />}
        <Part
          {...part('other', moveHole)}
          name={`hole, ${show('length', hole.diameterMm, system)} across`}
          at={{ x: 0, y: -mouth / 2 }}
          r={mouth / 2 + 8}
          view={view}
          onMove={(start, d) => {
            setHeld(d);
            onMove(moveHole(start, d), 'other');
          }}
          onRest={() => {
            setHeld({ x: 0, y: 0 });
            onRest();
          }}
        >
          <HolePlan layout={layout} view={view} />
        </Part>
        <Part
          {...part('trap', moveTrap)}
          name={`pan, ${show('length', pan.yMm, system)} back, ${side(pan.xMm, system)}`}
          at={{ x: pan.xMm, y: pan.yMm }}
          r={layout.trap.jawSpreadMm / 2 + 8}
          view={view}
        >
          <TrapPlan layout={layout} view={view} />
        </Part>
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
        <Dimensions layout={layout} view={view} system={system} />
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
      {bed && <CutThrough layout={layout} bed={bed} soil={soil} view={view} system={system} frostMm={frostMm} />}
      <text className="halo" x={across(view, 425)} y={384}>
        <tspan className="heading">Cut through</tspan>
      </text>
      {answer && (
        <text className="halo quiet-text" x={across(view, 425)} y={402}>
          {layout.attractant.plug === 'none'
            ? `bottom in sight from ${show('length', answer.standoff.standingMm, system)} standing, ${show('length', answer.standoff.crouchedMm, system)} stooping`
            : `${layout.attractant.plug} hides the bottom at any distance`}
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
function Dimensions({ layout, view, system }: { layout: Layout; view: View; system: System }) {
  const { pan, trap } = layout;
  const x0 = across(view, 0);
  const x1 = across(view, pan.yMm);
  const panY = up(view, pan.xMm);
  const below = up(view, pan.xMm - trap.frameLengthMm / 2) + 22;
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
