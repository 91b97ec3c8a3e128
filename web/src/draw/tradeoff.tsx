import { scaleLinear } from 'd3-scale';
import type { PanAnswer } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';
import { plural } from '../lib/words/words';

const width = 600;
const height = 330;
const left = 46;
const right = 104;
const top = 26;
const foot = 292;

/** Chance to fire against the gauge's setting, a line for each animal, with the window and the presses on the same ruler. */
export function TradeOff({ answer, presses, system }: { answer: PanAnswer; presses: number[]; system: System }) {
  const { wanted, curves, stepN, measured } = answer;
  const mostN = stepN * ((curves[0]?.chance.length ?? 1) - 1);
  const x = scaleLinear([0, mostN], [left, width - right]);
  const y = scaleLinear([0, 1], [foot, top]);
  const unit = system === 'us' ? 4.4482216 : 4.903325;
  const marks = Array.from({ length: Math.floor(mostN / unit) + 1 }, (_, i) => i);
  const target = wanted.targets[0] ?? '';
  const inks = [
    { stroke: 'var(--ink)', strokeWidth: 2.6 },
    { stroke: 'var(--slate)', strokeWidth: 1.8 },
    { stroke: 'var(--slate)', strokeWidth: 1.8, strokeDasharray: '7 3' },
    { stroke: 'var(--slate)', strokeWidth: 1.8, strokeDasharray: '2 3' },
  ];
  const out = answer.verdict === 'light' || answer.verdict === 'heavy';
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label={`chance to fire against tension for ${curves.map((c) => plural(c.species)).join(', ')}`}
    >
      <text x={left} y={13} className="heading">
        Who fires it, at which setting
      </text>
      {!wanted.conflict && wanted.maxN > 0 && (
        <rect
          x={x(wanted.minN)}
          y={top}
          width={Math.max(1, x(Math.min(wanted.maxN, mostN)) - x(wanted.minN))}
          height={foot - top}
          fill="var(--lower)"
        />
      )}
      {wanted.conflict && wanted.maxN > 0 && (
        <g stroke="var(--dun)" strokeWidth={1} fill="none">
          <path d={`M${x(wanted.maxN)} ${foot}V${y(0.95)}M${x(wanted.minN)} ${foot}V${y(0.1)}`} strokeDasharray="3 3" />
          <path
            d={Array.from({ length: 14 }, (_, i) => x(wanted.maxN) + (i * (x(wanted.minN) - x(wanted.maxN))) / 14)
              .map((at) => `M${at} ${foot - 2}l6 -12`)
              .join('')}
          />
        </g>
      )}
      {[
        [0.95, `95 of 100 ${plural(target)}`],
        [0.1, wanted.spares.length > 0 ? '10 of 100 to spare' : ''],
      ].map(([level, says]) =>
        says ? (
          <g key={String(level)}>
            <path d={`M${left} ${y(Number(level))}H${width - right}`} stroke="var(--rule)" strokeDasharray="2 4" />
            <text className="quiet-text" x={width - right - 6} y={y(Number(level)) - 4} textAnchor="end">
              {says}
            </text>
          </g>
        ) : null,
      )}
      {[0, 0.25, 0.5, 0.75, 1].map((share) => (
        <text key={share} className="quiet-text" x={left - 8} y={y(share) + 4} textAnchor="end">
          {share * 100}
        </text>
      ))}
      <path d={`M${left} ${top}V${foot}H${width - right}`} fill="none" stroke="var(--ink)" strokeWidth={1.2} />
      <path d={marks.map((i) => `M${x(i * unit)} ${foot}v-5`).join('')} stroke="var(--ink)" strokeWidth={1.1} />
      {marks.map((i) => (
        <text key={i} className="quiet-text" x={x(i * unit)} y={foot + 30} textAnchor="middle">
          {system === 'us' ? i : i / 2}
          {i === marks.length - 1 ? (system === 'us' ? ' lb' : ' kg') : ''}
        </text>
      ))}
      {curves.map((c, i) => (
        <path
          key={c.species}
          d={`M${c.chance.map((chance, k) => `${x(k * stepN).toFixed(1)} ${y(chance).toFixed(1)}`).join('L')}`}
          fill="none"
          {...(inks[i] ?? inks[3])}
        />
      ))}
      {labels(curves.map((c) => ({ name: plural(c.species), y: y(c.chance.at(-1) ?? 0) }))).map((l, i) => (
        <g key={l.name}>
          <path d={`M${width - right + 3} ${l.from}L${width - right + 14} ${l.y}`} stroke="var(--rule)" />
          <text
            className="toned"
            x={width - right + 18}
            y={l.y + 4}
            fontWeight={i === 0 ? 700 : 400}
            color={i === 0 ? 'var(--ink)' : 'var(--slate)'}
          >
            {l.name}
          </text>
        </g>
      ))}
      {presses.map((n, i) => (
        <path key={i} d={`M${x(Math.min(n, mostN))} ${foot + 2}v9`} stroke="var(--ink)" strokeWidth={1.8} />
      ))}
      {measured && (
        <g>
          <path
            d={`M${x(Math.min(measured.meanN, mostN))} ${top}V${foot}`}
            stroke={out ? 'var(--ember)' : 'var(--ink)'}
            strokeWidth={1.6}
          />
          <text
            x={x(Math.min(measured.meanN, mostN)) + 6}
            y={top + 10}
            className="halo toned"
            color={out ? 'var(--ember)' : 'var(--ink)'}
            fontWeight={700}
          >
            {show('force', measured.meanN, system)}
          </text>
        </g>
      )}
    </svg>
  );
}

/** Names at the ends of lines, moved apart so that none lies on another. */
function labels(ends: { name: string; y: number }[]): { name: string; y: number; from: number }[] {
  const placed: { name: string; y: number; from: number }[] = ends.map((e) => ({ ...e, from: e.y }));
  const byHeight = [...placed].sort((a, b) => b.y - a.y);
  byHeight.forEach((label, i) => {
    const below = byHeight[i - 1];
    if (below && below.y - label.y < 16) label.y = below.y - 16;
  });
  return placed;
}
