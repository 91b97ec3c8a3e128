import { showDistance, type System } from '../lib/words/units';

/** Toward which side of the compass each wind lies, degrees from north. */
const bearings: Record<string, number> = { n: 0, ne: 45, e: 90, se: 135, s: 180, sw: 225, w: 270, nw: 315 };

interface Props {
  run: { medianM: number; farM: number };
  /** Which way it went, as far as that is known. */
  toward: string;
  system: System;
}

const middle = { x: 150, y: 132 };
const farPx = 104;

/** About the set, north up: within which ring a drag lies as often as not, within which it seldom does not, and the side that it went to. */
export function SearchRings({ run, toward, system }: Props) {
  const nearPx = (run.medianM / run.farM) * farPx;
  const at = (deg: number, px: number) => {
    const rad = ((deg - 90) * Math.PI) / 180;
    return `${(middle.x + px * Math.cos(rad)).toFixed(1)} ${(middle.y + px * Math.sin(rad)).toFixed(1)}`;
  };
  const bearing = bearings[toward];
  const strokes: string[] = [];
  if (bearing !== undefined) for (let deg = bearing - 40; deg <= bearing + 40; deg += 8) strokes.push(`M${at(deg, 14)}L${at(deg, farPx)}`);
  return (
    <svg
      viewBox="0 0 300 264"
      width="100%"
      role="img"
      aria-label={`as often as not within ${showDistance(run.medianM, system)} of the set, seldom beyond ${showDistance(run.farM, system)}`}
    >
      <path d={strokes.join('')} stroke="var(--slate)" strokeWidth={0.9} fill="none" />
      <circle cx={middle.x} cy={middle.y} r={nearPx} fill="none" stroke="var(--ink)" strokeWidth={1.6} />
      <circle cx={middle.x} cy={middle.y} r={farPx} fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray="2 5" />
      <rect x={middle.x - 5} y={middle.y - 5} width={10} height={10} fill="var(--ink)" />
      <path d={`M${middle.x} ${middle.y - farPx - 4}v-12m-4 5l4-5l4 5`} stroke="var(--ink)" strokeWidth={1.2} fill="none" />
      <text className="halo" x={middle.x} y={middle.y + nearPx + 15} textAnchor="middle" fill="var(--ink)">
        {showDistance(run.medianM, system)}
      </text>
      <text className="halo" x={middle.x} y={middle.y + farPx + 16} textAnchor="middle" fill="var(--ink)">
        {showDistance(run.farM, system)}
      </text>
    </svg>
  );
}
