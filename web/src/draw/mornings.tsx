import type { ReactNode } from 'react';
import { findingWord } from '../lib/words/called';
import type { Finding } from '../lib/types.gen';

const [step, high] = [17, 18];

/** Whether a finding tells that something came to the set, or only by it. */
export const cameBy = (f: Finding): boolean => f === 'passed' || f === 'looked';

/** A morning in ink: a dot where it lies quiet, a stroke where something came by, a cross where it was worked, and a black spot where it holds. */
function mark(f: Finding, x: number, y: number): ReactNode {
  const ink = { stroke: 'var(--ink)', strokeWidth: 1.4, fill: 'none' };
  if (f === 'quiet') return <circle cx={x} cy={y} r={1} fill="var(--soft)" />;
  if (f === 'catch') return <circle cx={x} cy={y} r={5} fill="var(--ink)" />;
  if (cameBy(f)) return <path d={`M${x} ${y - 4}V${y + 4}`} {...ink} />;
  return <path d={`M${x - 4} ${y - 4}L${x + 4} ${y + 4}M${x + 4} ${y - 4}L${x - 4} ${y + 4}`} {...ink} />;
}

/** Runs of mornings beneath each other, a mark for each. */
export function Mornings({ runs }: { runs: Finding[][] }) {
  const nights = Math.max(0, ...runs.map((r) => r.length));
  const says = (run: Finding[]) =>
    run.flatMap((f, i) => (f === 'quiet' ? [] : [`${findingWord(f)} on morning ${i + 1}`])).join(', ') || 'quiet on every morning';
  return (
    <svg viewBox={`0 0 ${nights * step + 8} ${runs.length * high}`} width="100%" role="group" aria-label="mornings as they may come">
      {runs.map((run, row) => (
        <g key={row} role="img" aria-label={says(run)}>
          <path d={`M4 ${row * high + 9}H${nights * step + 4}`} stroke="var(--rule)" />
          {run.map((f, i) => (
            <g key={i}>{mark(f, i * step + 12, row * high + 9)}</g>
          ))}
        </g>
      ))}
    </svg>
  );
}
