import type { Finding } from '../lib/types.gen';
import { useNarrow } from '../lib/narrow';
import { findingWord } from '../lib/words/called';
import { cameBy } from './mornings';

const [step, high] = [26, 30];

/** A night as the look after it found it: a dot quiet, a stroke where something came by, a ring where it was worked, hatching where it was locked, and a square where it held. */
function night(f: Finding, x: number) {
  const y = high / 2;
  if (f === '') return null;
  if (f === 'quiet') return <circle cx={x} cy={y} r={2.5} fill="var(--ink)" />;
  if (f === 'catch') return <rect x={x - 8} y={y - 8} width={16} height={16} fill="var(--ink)" />;
  if (f === 'locked')
    return <path d={`M${x - 9} ${y + 7}l7 -14M${x - 3} ${y + 7}l7 -14M${x + 3} ${y + 7}l7 -14`} stroke="var(--slate)" strokeWidth={1.6} />;
  if (cameBy(f)) return <path d={`M${x} ${y - 8}V${y + 8}`} stroke="var(--ink)" strokeWidth={1.8} />;
  return <circle cx={x} cy={y} r={7} fill="none" stroke="var(--ink)" strokeWidth={1.8} />;
}

/** The nights of a make along a line, as many in a row as the page has room for. */
export function NightStrip({ nights }: { nights: Finding[] }) {
  const across = useNarrow() ? 14 : 46;
  const says = nights.flatMap((f, i) => (f === '' || f === 'quiet' ? [] : [`night ${i + 1} ${findingWord(f)}`])).join(', ') || 'quiet';
  const rows = Array.from({ length: Math.ceil(nights.length / across) }, (_, row) => nights.slice(row * across, (row + 1) * across));
  return (
    <svg viewBox={`0 0 ${across * step} ${rows.length * high}`} width="100%" role="img" aria-label={says}>
      {rows.map((some, row) => (
        <g key={row} transform={`translate(0 ${row * high})`}>
          <path d={`M0 ${high / 2}H${some.length * step}`} stroke="var(--rule)" />
          {some.map((f, i) => (
            <g key={i}>{night(f, i * step + step / 2)}</g>
          ))}
        </g>
      ))}
    </svg>
  );
}
