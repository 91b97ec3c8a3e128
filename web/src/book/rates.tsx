import { useState } from 'react';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { useNarrow } from '../lib/narrow';
import type { BookNow, LineNow } from '../lib/kept/overlay';
import type { RateRow } from '../lib/types.gen';
import { trapNights, trim } from '../lib/words/units';
import { capital, many } from '../lib/words/words';
import { useLeads } from './leads';

/** What was caught in a hundred trap-nights, on the line and at each set. */
export function Rates({ book, view }: { book: BookNow; view: LineNow }) {
  const { total } = book;
  const narrow = useNarrow();
  const leads = useLeads();
  // In the hand each set has two lines, and its words stay as large.
  const [width, high, under, beside] = narrow ? [350, 62, 24, 206] : [590, 40, 0, 440];
  const most = Math.max(4, ...book.sets.map((s) => Math.min(40, s.rate?.high ?? 0)));
  const x = scaleLinear()
    .domain([0, most])
    .range(narrow ? [10, 190] : [250, 420])
    .nice();
  const [best, setBest] = useState(false);
  const sets = best ? [...book.sets].sort((a, b) => (b.rate?.per100 ?? -1) - (a.rate?.per100 ?? -1)) : book.sets;
  const rows: { name: string; kind?: string; row: RateRow }[] = [
    { name: 'the whole line', row: total },
    ...sets.map((row) => {
      return { name: `${row.number}  ${view.spots.find((s) => s.id === row.spotId)?.name ?? ''}`, kind: row.kind, row };
    }),
  ];
  const thickest = Math.max(1, ...book.sets.map((s) => s.trapNights));
  return (
    <section>
      <h2>Caught in 100 trap-nights</h2>
      <div className="quiet">
        targets caught, set by set; bar: 95 % interval, as thick as the nights behind it ·{' '}
        <button type="button" className="word" aria-pressed={best} onClick={() => setBest(!best)}>
          {best ? 'in running order' : 'by what they bring'}
        </button>
      </div>
      {total.rate === null ? (
        <p>No trap-night has been earned yet: a trap earns one when it stands through midnight.</p>
      ) : (
        <>
          <svg viewBox={`0 -18 ${width} ${rows.length * high + 48}`} width="100%" role="group" aria-label="rates with their intervals">
            {x.ticks(4).map((tick) => (
              <g key={tick}>
                <path d={`M${x(tick)} 0V${rows.length * high}`} stroke="var(--rule)" />
                {[-5, rows.length * high + 18].map((y) => (
                  <text key={y} className="quiet-text" x={x(tick)} y={y} textAnchor="middle">
                    {tick}
                  </text>
                ))}
              </g>
            ))}
            {rows.map(({ name, kind, row }, i) => {
              const y = i * high + 22;
              const bar = y + under;
              return (
                <g key={row.setId}>
                  {kind && (
                    <g transform={`translate(0 ${y - 10})`}>
                      <MarkIcon kind={kind} />
                    </g>
                  )}
                  <Link to={row.setId ? leads(`set/${row.setId}`) : leads('apart', { by: 'place' })}>
                    <rect x={44} y={y - 16} width={190} height={32} fill="transparent" />
                    <text className="size-14" x={44} y={y + 5} fontWeight={kind ? 400 : 700}>
                      {name}
                    </text>
                  </Link>
                  {row.rate && (
                    <>
                      <path
                        d={`M${x(row.rate.low)} ${bar}H${x(Math.min(row.rate.high, most))}`}
                        stroke="var(--soft)"
                        strokeOpacity={0.55}
                        strokeWidth={2 + (6 * Math.min(row.trapNights, thickest)) / thickest}
                      />
                      <circle cx={x(row.rate.per100)} cy={bar} r={6} fill="var(--ink)" />
                    </>
                  )}
                  <text className="size-13" x={beside} y={bar + 5}>
                    {row.catches} in {trapNights(row.trapNights)}
                  </text>
                  {row.halved > 0 && (
                    <text className="quiet-text" x={beside} y={bar + 18}>
                      {trim(row.halved, 0)} of them counted half
                    </text>
                  )}
                </g>
              );
            })}
          </svg>
          <p>
            <b>{trim(total.rate.per100, 1)} in 100 trap-nights</b>, likely between {trim(total.rate.low, 1)} and {trim(total.rate.high, 1)}:{' '}
            {many(total.catches, 'target')} in {trapNights(total.trapNights)}. {capital(many(book.others, 'non-target'))} caught.{' '}
            {book.waiting.length > 0 && !book.takenAt && 'What is kept here and not sent yet is not counted. '}Nights before a look that
            found it sprung, locked by weather or with an animal caught count half
            {total.halved > 0 && `, ${trim(total.halved, 0)} of them although one look alone followed four nights or more`}.
          </p>
        </>
      )}
    </section>
  );
}
