import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import type { Came } from '../lib/types.gen';
import { useNarrow } from '../lib/narrow';
import { figure } from '../lib/words/learnt';

interface Row {
  name: string;
  came: Came;
  heads: boolean;
  to: string; // where its nights are
}

/** What was promised and what came, a row each: the same where the stroke stands on the dot. */
export function CameRows({ rows }: { rows: Row[] }) {
  const narrow = useNarrow();
  const [width, from, to] = narrow ? [350, 100, 190] : [590, 150, 430];
  const high = 30;
  const most = Math.max(4, ...rows.map((r) => Math.max(r.came.expected, r.came.caught)));
  const x = scaleLinear()
    .domain([0, most * 1.25])
    .range([from, to]);
  return (
    <svg viewBox={`0 0 ${width} ${rows.length * high + 30}`} width="100%" role="group" aria-label="promised and came, by target and kind">
      {rows.map(({ name, came, heads, to: nights }, i) => {
        const y = 20 + i * high;
        return (
          <g key={`${came.animal} ${came.kind}`}>
            <Link to={nights}>
              <rect x={0} y={y - high / 2} width={from - 4} height={high} fill="transparent" />
              <text className="size-14" x={heads ? 0 : 12} y={y + 5} fontWeight={heads ? 700 : 400}>
                {name}
              </text>
            </Link>
            <path d={`M${from} ${y}H${to}`} stroke="var(--rule)" />
            <path d={`M${x(came.low)} ${y}H${Math.min(to, x(came.high))}`} stroke="var(--soft)" strokeWidth={2.5} />
            <circle cx={x(came.caught)} cy={y} r={5} fill="var(--ink)" />
            <path d={`M${x(came.expected)} ${y - 9}V${y + 9}`} stroke="var(--dun)" strokeWidth={3} />
            <text className="size-13" x={to + 12} y={y + 5}>
              {came.caught} came, {figure(came.expected)} promised
            </text>
          </g>
        );
      })}
      <text className="quiet-text" x={from} y={rows.length * high + 26}>
        0
      </text>
    </svg>
  );
}
