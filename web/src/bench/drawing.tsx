import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { CutThrough } from '../draw/cut';
import { AnchorPlan, AroundPlan, BedPlan, CirclePlan, EdgePlan, GuidePlan, LandPlan, PawPrint, RigPlan, Stipple } from '../draw/plan';
import { asideOf } from '../lib/words/parts';
import { Ruler } from '../draw/ruler';
import { AttractorPlan } from '../draw/things';
import { about, alongMm, beyond, headMm, mouthMm, moved, place, viewOf, type View } from '../draw/view';
import { useSettings } from '../lib/settings';
import type { Anchor, Answer, Attractor, FootfallMap, InLand, Layout, Rig, Way } from '../lib/types.gen';
import { show, showAbout, type System } from '../lib/words/units';
import { anchorWord, animalWord, deviceWord, landWord } from '../lib/words/called';
import { plural } from '../lib/words/words';
import type { Moving } from './answer';

const width = 640;
const height = 632;
const planY = 168;
const groundY = 446;
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
  /** Whether the drawing stands back, to show what a held animal would reach. */
  rigging: boolean;
  /** What of the land lies about the set. */
  land: InLand[];
  frostMm: number | undefined;
  snowMm: number | undefined;
  wet: boolean;
  onMove: (layout: Layout, moving: Moving) => void;
  onRest: () => void;
}

const by = <T extends { xMm: number; yMm: number }>(part: T, d: Shift): T => ({ ...part, xMm: part.xMm + d.x, yMm: part.yMm + d.y });

/** Moves a trap with its bed, and with its anchor where that holds no other. */
export const moveRig = (l: Layout, slot: number, d: Shift): Layout => {
  const rig = l.rigs.find((r) => r.slot === slot);
  const held = l.rigs.filter((r) => r.anchorSlot === rig?.anchorSlot);
  // An anchor goes along when it lies within the trap's chain of it and holds no other trap, as it does when the program moves a trap.
  const goes = (a: Anchor) =>
    rig !== undefined && held.length === 1 && a.slot === rig.anchorSlot && Math.hypot(a.xMm - rig.xMm, a.yMm - rig.yMm) <= rig.chainMm;
  return {
    ...l,
    rigs: l.rigs.map((r) => (r.slot === slot ? { ...by(r, d), ...(r.pan && { pan: by(r.pan, d) }) } : r)),
    anchors: l.anchors.map((a) => (goes(a) ? by(a, d) : a)),
  };
};

const moveGuide = (l: Layout, index: number, d: Shift): Layout => ({ ...l, guides: l.guides.map((g, i) => (i === index ? by(g, d) : g)) });

const moveAnchor = (l: Layout, index: number, d: Shift): Layout => ({
  ...l,
  anchors: l.anchors.map((a, i) => (i === index ? by(a, d) : a)),
});

/** The middle of one edge of a way, a quarter of a page from where the set lies. */
const wayEdge = (way: Way, sign: 1 | -1): Shift => {
  const turn = (way.bearingDeg * Math.PI) / 180;
  const [along, off] = [alongEdgeMm, (sign * way.widthMm) / 2];
  return { x: way.xMm + along * Math.cos(turn) - off * Math.sin(turn), y: way.yMm + along * Math.sin(turn) + off * Math.cos(turn) };
};
const alongEdgeMm = 330;

/** Narrows a way from both sides, or opens it, by one of its edges. */
const widen = (l: Layout, sign: 1 | -1, d: Shift): Layout => {
  if (!l.way) return l;
  const turn = (l.way.bearingDeg * Math.PI) / 180;
  const out = sign * (d.y * Math.cos(turn) - d.x * Math.sin(turn));
  return { ...l, way: { ...l.way, widthMm: Math.max(leastMm, l.way.widthMm + 2 * out) } };
};

/** Draws a trench longer or shorter, and wider or narrower, by a corner of its foot. */
const stretch = (l: Layout, d: Shift): Layout =>
  l.trench
    ? {
        ...l,
        trench: {
          ...l.trench,
          lengthMm: Math.max(leastMm, l.trench.lengthMm + d.y),
          widthMm: Math.max(leastMm, l.trench.widthMm + 2 * d.x),
        },
      }
    : l;
/** Nothing is dragged to less than this. */
const leastMm = 25;

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

/** The set to scale, from above and cut through, on one ruler. Every part that has a place can be dragged or nudged. */
export function Drawing({ layout, target, soil, answer, map, rigging, land, frostMm, snowMm, wet, onMove, onRest }: Props) {
  const { system } = useSettings();
  // While the first attractor is dragged the rest stays where it lies on the ground; the ruler goes with what is dragged.
  const [held, setHeld] = useState<Shift>({ x: 0, y: 0 });
  const usual = viewOf(layout, width, height, planY, groundY);
  const circles = rigging ? circlesOf(layout, answer) : [];
  const [widest] = circles;
  const fits = widest ? about(usual, widest.anchor, widest.circle.reachMm, planY - 32) : usual;
  const origin = place(fits, held.x, held.y);
  const view: View = { ...fits, x0: origin.x, planY: origin.y };
  const { attractors, rigs, guides } = layout;
  const part = (moving: Moving, move: (l: Layout, d: Shift) => Layout) => ({
    system,
    start: layout,
    view,
    onMove: (start: Layout, d: Shift) => onMove(move(start, d), moving),
    onRest,
  });
  const where = (at: { xMm: number; yMm: number }) => whereWords(at, view, system);
  const beds = answer?.rigs ?? [];
  const first = attractors[0];
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="group" aria-label="the set drawn to scale">
      <clipPath id="plan">
        <rect x={0} y={20} width={width} height={rulerY - 30} />
      </clipPath>
      <g clipPath="url(#plan)">
        {circles.map(({ anchor, circle }) => (
          <CirclePlan key={anchor.slot} anchor={anchor} circle={circle} view={view} system={system} />
        ))}
        {circles.length > 0 &&
          layout.facingDeg !== undefined &&
          land.map((thing, i) => (
            <LandPlan key={i} thing={thing} facingDeg={layout.facingDeg ?? 0} view={view} name={landWord(thing.kind)} />
          ))}
        {map && circles.length === 0 && <Stipple map={map} view={view} />}
        {first && !layout.way && <WayIn spreadDeg={answer?.feet?.spreadDeg ?? 20} view={view} />}
        {answer?.feet?.paws.map((paw, i) => (
          <PawPrint key={i} paw={paw} view={view} />
        ))}
        {rigs.map((rig) => {
          const bed = beds.find((r) => r.slot === rig.slot)?.bed;
          return bed && <BedPlan key={rig.slot} rig={rig} bed={bed} view={view} />;
        })}
        <AroundPlan layout={layout} view={view} />
        {layout.way &&
          ([-1, 1] as const).map((sign) => {
            const at = wayEdge(layout.way as Way, sign);
            return (
              <Part
                key={sign}
                {...part('other', (l, d) => widen(l, sign, d))}
                name={`${sign > 0 ? 'one' : 'other'} side of the way, ${show('length', layout.way?.widthMm ?? 0, system)} wide`}
                at={at}
                r={14}
              >
                <EdgePlan at={at} bearingDeg={layout.way?.bearingDeg ?? 0} view={view} />
              </Part>
            );
          })}
        {layout.trench && (
          <Part
            {...part('other', stretch)}
            name={`foot of the trench, ${show('length', layout.trench.lengthMm, system)} long, ${show('length', layout.trench.widthMm, system)} wide`}
            at={{ x: layout.trench.widthMm / 2, y: layout.trench.lengthMm - headMm(layout) }}
            r={14}
          >
            <EdgePlan at={{ x: layout.trench.widthMm / 2, y: layout.trench.lengthMm - headMm(layout) }} bearingDeg={90} view={view} />
          </Part>
        )}
        {asideOf(layout).map(({ rig, anchor, index }) => (
          <Part
            key={anchor.slot}
            {...part('other', (l, d) => moveAnchor(l, index, d))}
            name={`${anchorWord(anchor.kind)}, ${where(anchor)}`}
            at={{ x: anchor.xMm, y: anchor.yMm }}
            r={18}
          >
            <AnchorPlan rig={rig} anchor={anchor} view={view} />
          </Part>
        ))}
        {attractors.map((a, i) => {
          const [away, r] = [beyond(layout, a), mouthMm(a) / 2];
          return (
            <Part
              key={a.slot}
              {...part('other', (l, d) => moveAttractor(l, i, d))}
              name={attractorName(a, i, system)}
              at={{ x: a.xMm + away.x * r, y: a.yMm + away.y * r }}
              r={r + 8}
              onMove={(start, d) => {
                if (i === 0) setHeld(d);
                onMove(moveAttractor(start, i, d), 'other');
              }}
              onRest={() => {
                setHeld({ x: 0, y: 0 });
                onRest();
              }}
            >
              <AttractorPlan layout={layout} attractor={a} view={view} />
            </Part>
          );
        })}
        {rigs.map((rig, i) => {
          const at = rig.pan ?? rig;
          return (
            <Part
              key={rig.slot}
              {...part('trap', (l, d) => moveRig(l, rig.slot, d))}
              name={`${rig.pan ? 'pan' : deviceWord(rig.device)}${i === 0 ? '' : ` ${i + 1}`}, ${where(at)}`}
              at={{ x: at.xMm, y: at.yMm }}
              r={(rig.jaws?.spreadMm ?? rig.loop?.diameterMm ?? 0) / 2 + 8}
            >
              <RigPlan rig={rig} view={view} />
            </Part>
          );
        })}
        {guides.map((guide, i) => (
          <Part
            key={i}
            {...part('other', (l, d) => moveGuide(l, i, d))}
            name={`${guide.kind} ${i + 1}, ${where(guide)}`}
            at={{ x: guide.xMm, y: guide.yMm }}
            r={guide.rMm + 6}
          >
            <GuidePlan guide={guide} seed={i + 3} view={view} />
          </Part>
        ))}
        {circles.length === 0 && <Dimensions layout={layout} view={view} system={system} />}
        {answer?.feet?.best && map && circles.length === 0 && (
          <Best x={answer.feet.best.xMm} y={answer.feet.best.yMm} view={view} system={system} />
        )}
      </g>
      <text x={6} y={14}>
        <tspan className="heading">From above</tspan>
        <tspan dx={9} className="quiet-text">
          {answer?.feet === null
            ? 'no footfall is claimed of a loop'
            : circles.length > 0
              ? 'dashed: as far as a held animal reaches'
              : `denser stipple: more ${plural(target)} would put a foot there`}
        </tspan>
      </text>
      <text className="halo slate toned" x={width - 8} y={14} textAnchor="end" color="var(--slate)">
        {animalWord(target)}, {layout.way ? 'passing either way' : 'walking in'}
      </text>
      <Ruler view={view} y={rulerY} system={system} />
      <CutThrough layout={layout} rigs={beds} soil={soil} view={view} system={system} frostMm={frostMm} snowMm={snowMm} wet={wet} />
      <text className="halo" x={width - 8} y={384} textAnchor="end">
        <tspan className="heading">Cut through</tspan>
        {layout.way && <tspan className="quiet-text">, along the way</tspan>}
      </text>
      {answer?.standoff && first && (
        <text className="halo quiet-text" x={width - 8} y={402} textAnchor="end">
          {first.plug === 'none'
            ? `bottom in sight from ${showAbout('length', answer.standoff.standingMm, system)} standing, ${showAbout('length', answer.standoff.crouchedMm, system)} stooping`
            : `${first.plug} hides the bottom at any distance`}
        </text>
      )}
    </svg>
  );
}

/** The circles of fixed anchors, the widest first. */
const circlesOf = (layout: Layout, answer: Answer | undefined) =>
  layout.anchors
    .flatMap((anchor) => {
      const circle = answer?.anchors.find((h) => h.slot === anchor.slot)?.circle;
      return circle ? [{ anchor, circle }] : [];
    })
    .sort((a, b) => b.circle.reachMm - a.circle.reachMm);

/** Where an animal that comes to the set comes from, most often between these lines. */
function WayIn({ spreadDeg, view }: { spreadDeg: number; view: View }) {
  const spread = (Math.min(80, spreadDeg) * Math.PI) / 180;
  const [x, y] = [(height / view.scale) * Math.sin(spread), (height / view.scale) * Math.cos(spread)];
  const from = place(view, 0, 0);
  return [place(view, x, y), place(view, -x, y)].map((to) => (
    <path key={to.y} d={`M${from.x} ${from.y}L${to.x} ${to.y}`} stroke="var(--soft)" strokeDasharray="1 5" fill="none" />
  ));
}

function attractorName(a: Attractor, i: number, system: System): string {
  const size = a.hole?.diameterMm ?? mouthMm(a);
  const name = a.hole ? (a.of ?? 'hole') : (a.of ?? a.kind);
  return `${name}${i === 0 ? '' : ` ${i + 1}`}${size > 0 ? `, ${show('length', size, system)} across` : ''}`;
}

/** A place in words, as the drawing has it. */
function whereWords(at: { xMm: number; yMm: number }, view: View, system: System): string {
  if (!view.turned) return `${show('length', at.yMm, system)} back, ${side(at.xMm, system)}`;
  const along = Math.abs(at.xMm) < 1 ? 'at the middle' : `${show('length', Math.abs(at.xMm), system)} ${at.xMm > 0 ? 'on' : 'before'}`;
  return `${along}, ${show('length', at.yMm, system)} across`;
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
    return moved(view, p.x, p.y);
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const by = e.shiftKey ? coarse : fine;
    const step: Record<string, [number, number]> = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
    const d = step[e.key];
    if (!d) return;
    e.preventDefault();
    const px = by * view.scale;
    onMove(start, moved(view, d[0] * px, d[1] * px));
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
      <circle className="focus-ring" cx={place(view, at.x, at.y).x} cy={place(view, at.x, at.y).y} r={r * view.scale} />
    </g>
  );
}

/** Setback, and offset where there is one; on a way how far each pan lies from its middle, along it and across. */
function Dimensions({ layout, view, system }: { layout: Layout; view: View; system: System }) {
  if (!view.turned) {
    const [rig] = layout.rigs;
    return rig && <Measured rig={rig} from={{ x: 0, y: 0 }} below={true} view={view} system={system} />;
  }
  const from = { x: 0, y: layout.way?.yMm ?? 0 };
  return layout.rigs.map((rig, i) => (
    <Measured key={rig.slot} rig={rig} from={from} below={i > 0 || layout.rigs.length === 1} view={view} system={system} />
  ));
}

interface MeasuredProps {
  rig: Rig;
  from: Shift;
  below: boolean;
  view: View;
  system: System;
}

function Measured({ rig, from, below, view, system }: MeasuredProps) {
  const { pan, jaws } = rig;
  if (!pan || !jaws) return null;
  const [start, end] = [place(view, from.x, from.y), place(view, pan.xMm, pan.yMm)];
  const beside = (jaws.frameMm / 2) * view.scale + 22;
  const y = below ? Math.min(end.y + beside, rulerY - 24) : Math.max(end.y - beside, 44);
  // Beside the trap's bed, where nothing of the trap is drawn.
  const away = end.x < start.x ? -1 : 1;
  const outer = end.x + away * (Math.max((jaws.frameMm / 2) * view.scale, (jaws.spreadMm / 2) * view.scale) + 14);
  const along = alongMm(view, pan) - (view.turned ? from.x : from.y);
  const off = view.turned ? pan.yMm - from.y : pan.xMm;
  const offWords = view.turned ? show('length', Math.abs(off), system) : side(off, system);
  return (
    <g pointerEvents="none">
      {Math.abs(along) >= 1 && (
        <>
          <path
            d={`M${start.x} ${y}H${end.x}M${start.x} ${y - 6}v12M${end.x} ${y - 6}v12`}
            stroke="var(--ink)"
            strokeWidth={1.1}
            fill="none"
          />
          <text className="halo heading" x={(start.x + end.x) / 2} y={y + 5} textAnchor="middle">
            {show('length', Math.abs(along), system)}
          </text>
        </>
      )}
      {Math.abs(off) >= (view.turned ? 20 : 1) && (
        <>
          <path
            d={`M${outer} ${start.y}V${end.y}M${outer - 6} ${start.y}h12M${outer - 6} ${end.y}h12`}
            stroke="var(--ink)"
            strokeWidth={1.1}
            fill="none"
          />
          <text className="halo heading" x={outer + away * 10} y={(start.y + end.y) / 2 + 4} textAnchor={away < 0 ? 'end' : 'start'}>
            {offWords}
          </text>
        </>
      )}
    </g>
  );
}

/** The point where a pan would meet the most feet. */
function Best({ x, y, view, system }: { x: number; y: number; view: View; system: System }) {
  const at = place(view, x, y);
  const along = alongMm(view, { xMm: x, yMm: y });
  const aside = !view.turned && Math.abs(x) > 25 ? `, ${showAbout('length', Math.abs(x), system)} to the ${x > 0 ? 'right' : 'left'}` : '';
  const left = at.x > width - 170;
  return (
    <g pointerEvents="none">
      <path d={`M${at.x - 5} ${at.y - 5}l10 10m0 -10l-10 10`} stroke="var(--ember)" strokeWidth={2} />
      <path d={`M${at.x - 6} ${rulerY - 18}l6 8l6 -8`} stroke="var(--ember)" strokeWidth={1.8} fill="none" />
      <text className="halo toned" x={at.x + (left ? -11 : 11)} y={rulerY - 11} textAnchor={left ? 'end' : 'start'} color="var(--ember)">
        best at {showAbout('length', Math.abs(along), system)}
        {aside}
      </text>
    </g>
  );
}
