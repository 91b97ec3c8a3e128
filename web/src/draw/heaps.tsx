import { scaleLinear } from 'd3-scale';
import type { Alike, First } from '../lib/types.gen';
import { useNarrow } from '../lib/narrow';

const high = 26;

/** One rate with how far its nights leave it open, against the most that any of its kind may be; the thin stroke is a place told by the line too. */
export function RateBar({ of, most }: { of: Alike; most: number }) {
  const width = useNarrow() ? 150 : 230;
  const x = scaleLinear()
    .domain([0, most])
    .range([4, width - 8])
    .clamp(true);
  if (!of.rate) return null;
  return (
    <svg className="rate-bar" viewBox={`0 0 ${width} ${high}`} width={width} height={high} aria-hidden="true">
      <path d={`M${x(0)} ${high / 2}H${width - 8}`} stroke="var(--rule)" />
      <path d={`M${x(of.rate.low)} ${high / 2}H${x(of.rate.high)}`} stroke="var(--soft)" strokeWidth={3} />
      {of.shrunk != null && <path d={`M${x(of.shrunk)} 4V${high - 4}`} stroke="var(--dun)" strokeWidth={2} />}
      <circle cx={x(of.rate.per100)} cy={high / 2} r={5.5} fill="var(--ink)" />
    </svg>
  );
}

const [top, tall] = [16, 190];

/** How many sets of each kind have not caught yet, night by night. */
export function FirstSteps({ first, name }: { first: First[]; name: (kind: string) => string }) {
  const [width, from, to] = useNarrow() ? [350, 34, 230] : [590, 44, 430];
  const last = Math.max(10, ...first.flatMap((f) => f.steps.map((s) => s.night + 2)));
  const x = scaleLinear().domain([0, last]).range([from, to]);
  const y = scaleLinear()
    .domain([0, 1])
    .range([top + tall, top]);
  const dashes = ['', '7 4', '2 4', '10 3 2 3', '4 2'];
  const ends = first.map((f, i) => ({ i, f, at: y(f.steps.at(-1)?.still ?? 1) })).sort((a, b) => a.at - b.at);
  // Names that would stand on each other stand below each other.
  const names = ends.reduce<typeof ends>((placed, e) => [...placed, { ...e, at: Math.max(e.at, (placed.at(-1)?.at ?? -17) + 17) }], []);
  return (
    <svg
      viewBox={`0 0 ${width} ${top + tall + 44}`}
      width="100%"
      role="img"
      aria-label="how long sets of each kind stand before they catch"
    >
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <path d={`M${from} ${y(share)}H${to}`} stroke="var(--rule)" />
          <text className="quiet-text" x={from - 8} y={y(share) + 4} textAnchor="end">
            {share === 0.5 ? 'half' : share === 1 ? 'all' : 'none'}
          </text>
        </g>
      ))}
      {x.ticks(6).map((night) => (
        <text key={night} className="quiet-text" x={x(night)} y={top + tall + 18} textAnchor="middle">
          {night}
        </text>
      ))}
      <text className="quiet-text" x={to} y={top + tall + 38} textAnchor="end">
        night
      </text>
      {first.map((f, i) => (
        <path
          key={f.kind}
          d={`M${x(0)} ${y(1)}${f.steps.map((s) => `H${x(s.night)}V${y(s.still)}`).join('')}H${to}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.8}
          strokeDasharray={dashes[i % dashes.length]}
        />
      ))}
      {names.map(({ f, i, at }) => (
        <g key={f.kind}>
          <path d={`M${to + 6} ${at}H${to + 30}`} stroke="var(--ink)" strokeWidth={1.8} strokeDasharray={dashes[i % dashes.length]} />
          <text className="size-13" x={to + 36} y={at + 5}>
            {name(f.kind)}
          </text>
        </g>
      ))}
    </svg>
  );
}
