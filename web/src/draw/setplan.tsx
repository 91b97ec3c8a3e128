import type { MouseEvent } from 'react';
import type { Layout, Print } from '../lib/types.gen';
import { StillPlan } from './plan';
import { moved, place, turned, viewOf } from './view';

const [width, height] = [350, 220];

interface Props {
  layout: Layout;
  prints: Print[];
  /** Those that were marked here before. */
  before: Print[];
  onPrint: (print: Print) => void;
}

/** A set from above, small: a touch puts a print where a foot was. */
export function SetPlan({ layout, prints, before, onPrint }: Props) {
  const view = viewOf(layout, width, height, height / 2, 0);
  const origin = place(view, 0, 0);
  const touch = (e: MouseEvent<SVGSVGElement>) => {
    const matrix = e.currentTarget.getScreenCTM()?.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    const at = moved(view, p.x - origin.x, p.y - origin.y);
    onPrint({ xMm: Math.round(at.x), yMm: Math.round(at.y) });
  };
  return (
    <svg
      className="set-plan"
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label="the set from above: touch where a foot was"
      onClick={touch}
    >
      <StillPlan layout={layout} view={view} />
      {before.map((p, i) => (
        <circle key={i} transform={turned(view, p.xMm, p.yMm)} r={7} fill="none" stroke="var(--slate)" strokeWidth={1.4} />
      ))}
      {prints.map((p, i) => (
        <circle key={i} transform={turned(view, p.xMm, p.yMm)} r={9} fill="var(--slate)" />
      ))}
      <text className="quiet-text" x={width - 4} y={height - 6} textAnchor="end">
        touch where a foot was{before.length > 0 ? '; the rings are prints of before' : ''}
      </text>
    </svg>
  );
}
