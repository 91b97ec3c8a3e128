import { scaleLinear } from 'd3-scale';
import { useNarrow } from '../lib/narrow';
import type { Lost } from '../lib/types.gen';
import { leakKeys, leakNames, leakRow } from '../lib/words/learnt';
import { in100 } from '../lib/words/units';

const [row, top] = [66, 26];

/** Each link that findings tell of: what they show, between what the truth may lie, and what the drawings promised. */
export function LeakTable({ lost }: { lost: Lost }) {
  const [width, from, to] = useNarrow() ? [350, 80, 260] : [590, 120, 440];
  const x = scaleLinear().domain([0, 1]).range([from, to]);
  return (
    <svg viewBox={`0 0 ${width} ${top + row * leakKeys.length}`} width="100%" role="img" aria-label="where animals are lost, link by link">
      {leakKeys.map((key, i) => {
        const y = top + i * row;
        const found = lost.links[key];
        const told = lost.told.links[key];
        const leaks = lost.told.leak === key;
        const apart = lost.told.apart.includes(key);
        const ink = leaks && apart ? 'var(--ember)' : 'var(--ink)';
        return (
          <g key={key}>
            <text className="size-14" x={0} y={y + 5} fontWeight={700} fill={ink}>
              {leakNames[key]}
            </text>
            <path d={`M${x(0)} ${y}H${x(1)}`} stroke="var(--rule)" />
            {found.reached === 0 ? (
              <text className="quiet-text" x={x(0)} y={y + 22}>
                nothing was found that tells of it
              </text>
            ) : (
              <>
                <path d={`M${x(told.low)} ${y}H${x(told.high)}`} stroke={ink} strokeWidth={2.5} />
                <circle cx={x(found.kept / found.reached)} cy={y} r={6} fill={ink} />
                <path d={`M${x(found.model)} ${y - 10}V${y + 10}`} stroke="var(--dun)" strokeWidth={3} />
                <text className="size-13" x={x(1) + 14} y={y + 5} fill={ink}>
                  {in100(found.kept / found.reached)} of 100
                </text>
                <text className="quiet-text" x={x(0)} y={y + 26}>
                  {leakRow(found)}
                  {apart ? '' : '; too few to tell'}
                </text>
              </>
            )}
          </g>
        );
      })}
    </svg>
  );
}
