import { rulerY, side, width } from './sheet';
import { alongMm, place, type View } from '../draw/view';
import type { Answer, Layout, Rig } from '../lib/types.gen';
import { show, showAbout, type System } from '../lib/words/units';
import type { Shift } from './moves';

/** The circles of fixed anchors, the widest first. */
export const circlesOf = (layout: Layout, answer: Answer | undefined) =>
  layout.anchors
    .flatMap((anchor) => {
      const circle = answer?.anchors.find((h) => h.slot === anchor.slot)?.circle;
      return circle ? [{ anchor, circle }] : [];
    })
    .sort((a, b) => b.circle.reachMm - a.circle.reachMm);

/** Setback, and offset where there is one; on a way how far each pan lies from its middle, along it and across. */
export function Dimensions({ layout, view, system }: { layout: Layout; view: View; system: System }) {
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
export function Best({ x, y, view, system }: { x: number; y: number; view: View; system: System }) {
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
