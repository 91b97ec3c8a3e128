import type { System } from '../lib/words/units';

interface Props {
  width: number;
  minN: number;
  maxN: number;
  conflict: boolean;
  meanN: number | undefined;
  sdN?: number;
  /** What the core says of this setting. */
  verdict?: string | undefined;
  system: System;
  /** With figures under it and a unit. */
  figures?: boolean;
}

/** Pounds, and half kilograms. */
const most = { us: 8, metric: 7 };
const unit = { us: 4.4482216, metric: 4.903325 };

/** A pan's tension on a ruler over the window that it should lie in. From (0, 0) at the ruler's left end. */
export function PanScale({ width, minN, maxN, conflict, meanN, sdN = 0, verdict, system, figures }: Props) {
  const whole = most[system] * unit[system];
  const x = (n: number) => (Math.min(Math.max(n, 0), whole) / whole) * width;
  const ink = verdict === 'heavy' || verdict === 'light' ? 'var(--ember)' : verdict === 'doubt' ? 'var(--dun)' : 'var(--ink)';
  return (
    <g>
      {!conflict && <rect x={x(minN)} y={-9} width={Math.max(1, x(maxN) - x(minN))} height={9} fill="var(--rule)" />}
      {conflict && maxN >= 0 && (
        <path d={`M${x(maxN)} -9v9M${x(minN)} -9v9M${x(maxN)} -4.5H${x(minN)}`} stroke="var(--dun)" strokeDasharray="2 2" fill="none" />
      )}
      <path
        d={`M0 0H${width}${Array.from({ length: most[system] + 1 }, (_, i) => `M${(i * width) / most[system]} 0v${figures ? -5 : -3}`).join('')}`}
        stroke="var(--ink)"
        strokeWidth={1}
        fill="none"
      />
      {meanN !== undefined && (
        <>
          {sdN > 0 && <path d={`M${x(meanN - sdN)} -13H${x(meanN + sdN)}`} stroke={ink} strokeWidth={1.6} />}
          <path d={`M${x(meanN)} -1l-4 -9h8z`} fill={ink} stroke={ink} />
        </>
      )}
      {figures &&
        Array.from({ length: most[system] + 1 }, (_, i) => (
          <text key={i} className="quiet-text" x={(i * width) / most[system]} y={14} textAnchor="middle">
            {system === 'us' ? i : i / 2}
            {i === most[system] ? (system === 'us' ? ' lb' : ' kg') : ''}
          </text>
        ))}
    </g>
  );
}
