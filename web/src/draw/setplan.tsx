import type { MouseEvent } from 'react';
import type { Layout, Print } from '../lib/types.gen';
import { across, AttractorPlan, BehindPlan, GuidePlan, TrapPlan, up, WayPlan, type View } from './plan';

const view: View = { scale: 0.5, x0: 90, planY: 110, groundY: 0, width: 350, height: 220 };

interface Props {
  layout: Layout;
  prints: Print[];
  onPrint: (print: Print) => void;
}

/** A set from above, small: a touch puts a print where a foot was. */
export function SetPlan({ layout, prints, onPrint }: Props) {
  const touch = (e: MouseEvent<SVGSVGElement>) => {
    const matrix = e.currentTarget.getScreenCTM()?.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    onPrint({ xMm: Math.round((view.planY - p.y) / view.scale), yMm: Math.round((p.x - view.x0) / view.scale) });
  };
  return (
    <svg
      className="set-plan"
      viewBox={`0 0 ${view.width} ${view.height}`}
      width="100%"
      role="img"
      aria-label="the set from above: touch where a foot was"
      onClick={touch}
    >
      {layout.way && <WayPlan way={layout.way} view={view} />}
      <BehindPlan layout={layout} view={view} />
      {layout.attractors.map((a) => (
        <AttractorPlan key={a.slot} attractor={a} view={view} />
      ))}
      {layout.rigs.map((r) => (
        <TrapPlan key={r.slot} rig={r} view={view} />
      ))}
      {layout.guides.map((g, i) => (
        <GuidePlan key={i} guide={g} seed={i + 3} view={view} />
      ))}
      {prints.map((p, i) => (
        <circle key={i} cx={across(view, p.yMm)} cy={up(view, p.xMm)} r={9} fill="var(--slate)" />
      ))}
      <text className="quiet-text" x={view.width - 4} y={view.height - 6} textAnchor="end">
        touch where a foot was
      </text>
    </svg>
  );
}
