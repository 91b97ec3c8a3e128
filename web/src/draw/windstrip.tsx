import { bearing } from '../lib/words/words';
/** The night wind as an unrolled strip of the directions that it comes from: the record as bars, tonight as marks over them. */
export function WindStrip({ record, tonight }: { record: number[]; tonight: number[] }) {
  const most = Math.max(1, ...record);
  const mostTonight = Math.max(1, ...tonight);
  const step = 240 / 16;
  // North lies at both ends, so that wind about north is seen whole.
  const sectors = Array.from({ length: 17 }, (_, i) => (i + 16) % 16);
  return (
    <svg
      viewBox="0 0 256 62"
      width="100%"
      role="img"
      aria-label={`night wind, most often from the ${bearing(record.indexOf(most) * 22.5)}`}
    >
      {sectors.map((sector, i) => {
        const n = record[sector] ?? 0;
        const t = tonight[sector] ?? 0;
        const x = 8 + i * step;
        return (
          <g key={i}>
            <rect x={x - 4} y={44 - (n / most) * 32} width={8} height={Math.max(1.5, (n / most) * 32)} fill="var(--slate)" />
            {t > 0 && <path d={`M${x - 6} ${44 - (t / mostTonight) * 32 - 4}h12`} stroke="var(--ember)" strokeWidth={2.2} />}
            {i % 4 === 0 && (
              <text className="quiet-text" x={x} y={58} textAnchor="middle">
                {['N', 'E', 'S', 'W', 'N'][i / 4]}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
