import { groundY, height, planY, rulerY, side, width } from './sheet';
import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { CutThrough } from '../draw/cut';
import { AnchorPlan, AroundPlan, BedPlan, CirclePlan, EdgePlan, GuidePlan, LandPlan, PawPrint, RigPlan, Stipple } from '../draw/plan';
import { asideOf } from '../lib/words/parts';
import { Ruler } from '../draw/ruler';
import { AttractorPlan } from '../draw/things';
import { closeUp, beyond, headMm, mouthMm, moved, place, viewOf, type View } from '../draw/view';
import { useSettings } from '../lib/settings';
import type { Answer, Attractor, InLand, Layout, Way } from '../lib/types.gen';
import { show, showAbout, type System } from '../lib/words/units';
import { anchorWord, animalWord, deviceWord, landWord } from '../lib/words/called';
import { plural } from '../lib/words/words';
import { type Shift, moveRig, moveGuide, moveAnchor, wayEdge, widen, stretch, moveAttractor } from './moves';
import { circlesOf, Dimensions, Best } from './measured';

interface Props {
  layout: Layout;
  target: string;
  soil: string;
  answer: Answer | undefined;
  /** Whether the drawing stands back, to show what a held animal would reach. */
  rigging: boolean;
  /** What of the land lies about the set. */
  land: InLand[];
  /** Depth of frost by tomorrow morning; undefined where the weather is not known. */
  frostMm: number | undefined;
  snowMm: number | undefined;
  wet: boolean;
  onMove: (layout: Layout) => void;
  onRest: () => void;
}

/** The set to scale, from above and cut through, on one ruler. Every part that has a place can be dragged or nudged. */
export function Drawing({ layout, target, soil, answer, rigging, land, frostMm, snowMm, wet, onMove, onRest }: Props) {
  const { system } = useSettings();
  // While the first attractor is dragged the rest stays where it lies on the ground; the ruler goes with what is dragged.
  const [held, setHeld] = useState<Shift>({ x: 0, y: 0 });
  const usual = viewOf(layout, width, height, planY, groundY);
  const circles = rigging ? circlesOf(layout, answer) : [];
  const [widest] = circles;
  const fits = widest ? closeUp(usual, widest.anchor, widest.circle.reachMm, planY - 32) : usual;
  const origin = place(fits, held.x, held.y);
  const view: View = { ...fits, x0: origin.x, planY: origin.y };
  const { attractors, rigs, guides } = layout;
  const part = (move: (l: Layout, d: Shift) => Layout) => ({
    system,
    start: layout,
    view,
    onMove: (start: Layout, d: Shift) => onMove(move(start, d)),
    onRest,
  });
  const where = (at: { xMm: number; yMm: number }) => whereWords(at, view, system);
  const beds = answer?.rigs ?? [];
  const map = answer?.feet?.map;
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
                {...part((l, d) => widen(l, sign, d))}
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
            {...part(stretch)}
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
            {...part((l, d) => moveAnchor(l, index, d))}
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
              {...part((l, d) => moveAttractor(l, i, d))}
              name={attractorName(a, i, system)}
              at={{ x: a.xMm + away.x * r, y: a.yMm + away.y * r }}
              r={r + 8}
              onMove={(start, d) => {
                if (i === 0) setHeld(d);
                onMove(moveAttractor(start, i, d));
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
              {...part((l, d) => moveRig(l, rig.slot, d, answer?.along ?? []))}
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
            {...part((l, d) => moveGuide(l, i, d))}
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
              : `denser: more ${plural(target)} would step there`}
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
  const drag = useRef<{ onPage: DOMMatrix; from: Shift; start: Layout } | null>(null);
  const snap = system === 'us' ? 25.4 / 8 : 2;
  const fine = system === 'us' ? 25.4 / 4 : 5;
  const coarse = system === 'us' ? 25.4 : 25;

  const point = (e: PointerEvent<SVGGElement>, onPage: DOMMatrix): Shift => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(onPage);
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
        // The page lies still under a drag: to ask again where it lies would have it laid out at every move.
        const onPage = e.currentTarget.ownerSVGElement?.getScreenCTM()?.inverse() ?? new DOMMatrix();
        drag.current = { onPage, from: point(e, onPage), start };
      }}
      onPointerMove={(e) => {
        if (!drag.current) return;
        const to = point(e, drag.current.onPage);
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
