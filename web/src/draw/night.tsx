import { scaleLinear } from 'd3-scale';
import { useNarrow } from '../lib/narrow';
import { clock } from '../lib/words/time';
import type { Night } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';

/** A night from dusk to an hour after sunrise: its temperature against freezing, its wind as strokes, rain and snow under them. */
export function NightDrawing({ night, zone, system }: { night: Night; zone: string; system: System }) {
  // Its words are as large in the hand as at the table.
  const width = useNarrow() ? 350 : 610;
  const hours = night.hours;
  const temps = hours.map((h) => h.tempC);
  const x = scaleLinear()
    .domain([0, Math.max(1, hours.length - 1)])
    .range([18, width - 20]);
  const y = scaleLinear()
    .domain([Math.min(-2, ...temps), Math.max(2, ...temps)])
    .range([86, 18]);
  const coldest = temps.indexOf(Math.min(...temps));
  const line = hours.map((h, i) => `${x(i).toFixed(1)} ${y(h.tempC).toFixed(1)}`).join('L');
  return (
    <svg
      viewBox={`0 0 ${width} 138`}
      width="100%"
      role="img"
      aria-label={`the night, coldest ${show('temperature', night.coldestC, system)}`}
    >
      <path d={`M0 ${y(0)}H${width}`} stroke="var(--slate)" strokeDasharray="6 4" />
      <text className="toned" x={width} y={y(0) - 4} textAnchor="end" color="var(--slate)">
        freezing
      </text>
      <path d={`M${line}`} fill="none" stroke="var(--ink)" strokeWidth={2.6} strokeLinejoin="round" />
      <text className="halo" x={x(0)} y={y(temps[0] ?? 0) - 8}>
        {show('temperature', temps[0] ?? 0, system)}
      </text>
      {coldest > 0 && (
        <text className="halo heading" x={x(coldest)} y={y(temps[coldest] ?? 0) + 16} textAnchor="middle">
          {show('temperature', night.coldestC, system)}
        </text>
      )}
      {hours.map((h, i) => {
        const to = ((h.windFromDeg + 180) * Math.PI) / 180;
        const long = 3 + Math.min(9, h.windMs * 1.5);
        return (
          <g key={h.at}>
            {h.windMs >= 0.5 && (
              <path
                d={`M${x(i) - Math.sin(to) * long} ${110 + Math.cos(to) * long}l${2 * Math.sin(to) * long} ${-2 * Math.cos(to) * long}`}
                stroke="var(--slate)"
                strokeWidth={2}
              />
            )}
            {h.rainMm > 0 && <path d={`M${x(i) - 3} 92l-3 8m6 -8l-3 8`} stroke="var(--slate)" strokeWidth={1.4} />}
            {h.snowCm > 0 && <path d={`M${x(i) - 4} 95h8m-6 -4l4 8m0 -8l-4 8`} stroke="var(--slate)" strokeWidth={1.2} />}
            {i % 2 === 0 && (
              <text className="quiet-text" x={x(i)} y={134} textAnchor="middle">
                {Number(clock(h.at, zone).slice(0, 2))}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
