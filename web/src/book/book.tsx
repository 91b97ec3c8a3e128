import { Unread } from '../lib/unread';
import { scaleLinear } from 'd3-scale';
import { MarkIcon } from '../draw/mark';
import { nowISO } from '../lib/clock';
import { act } from '../lib/outbox';
import { useBook, useLine, useLineID, useSeason } from '../lib/queries';
import { Link } from 'react-router';
import { SeasonDays, Seasons } from '../lib/seasons';
import { clock, date, dayAt, longDate } from '../lib/time';
import type { BookNow, LineNow } from '../lib/overlay';
import type { CaughtAnimal, Odd, RateRow } from '../lib/types.gen';
import { whys } from '../lib/uncounted';
import { trim } from '../lib/units';
import { capital, count, word } from '../lib/words';

export function BookPage() {
  const { data: view } = useLine();
  const { data: book } = useBook(useSeason());
  if (!view || !book) return <Unread />;
  return (
    <main className="page two">
      <Catches book={book} view={view} />
      <Rates book={book} view={view} />
    </main>
  );
}

function Catches({ book, view }: { book: BookNow; view: LineNow }) {
  const { zone } = view.line;
  return (
    <section>
      <Seasons seasons={book.seasons} open={book.open} all />
      <h2>What was caught{book.season ? ` in ${book.season.name}` : book.seasons.length > 1 ? ' in all seasons' : ''}</h2>
      {book.season && <SeasonDays season={book.season} />}
      <div className="quiet">newest first; the foot, and by pad or toe</div>
      <ul className="rows">
        {book.waiting.map((c) => (
          <Caught key={c.id} caught={c} now={view.now} zone={zone} waits />
        ))}
        {book.catches.map((c) => (
          <Caught key={c.id} caught={c} now={view.now} zone={zone} />
        ))}
      </ul>
      {book.catches.length + book.waiting.length === 0 && <p>Nothing yet. A catch given on the round is written here.</p>}
      {book.odd.length > 0 && <Uncounted book={book} view={view} />}
      <CannotBeRead book={book} trouble={view.trouble} />
    </section>
  );
}

/** What of the file is broken, and why nothing can be written to it. */
function CannotBeRead({ book, trouble }: { book: BookNow; trouble: string }) {
  if (trouble === '' && book.unreadable.length === 0) return null;
  return (
    <>
      <h3 style={{ marginTop: 16 }}>{trouble === '' ? 'Cannot be read' : 'The data file is only read'}</h3>
      {trouble !== '' && <p>{trouble}</p>}
      <ul className="rows">
        {book.unreadable.map((x) => (
          <li key={`${x.what} ${x.id}`}>
            A {x.what}
            {x.id && ` (${x.id})`}: <span className="dun">{x.why}</span>. It stays in the file as it is and counts for nothing; a copy of
            the file from before may still have it whole.
          </li>
        ))}
      </ul>
    </>
  );
}

function Caught({ caught: c, now, zone, waits }: { caught: CaughtAnimal; now: string; zone: string; waits?: boolean }) {
  const line = useLineID();
  return (
    <li className="due caught">
      <span className="quiet">
        {dayAt(c.at, now, zone)} {clock(c.at, zone)}
      </span>
      <b>{c.number}</b>
      <span>
        {capital(word(c.species))}
        {c.sex === 'unknown' ? '' : `, ${c.sex}`} {!c.target && <span className="quiet">· not a target</span>}
        {waits && <span className="ember"> · kept here, not sent yet</span>}
      </span>
      <span>
        {[c.foot, c.hold].filter(Boolean).map(word).join(', ')}
        {!waits && (
          <>
            {' · '}
            <Link
              to={`/line/${line}/round?day=${date(c.at, zone)}`}
              aria-label={`put it right: ${word(c.species)} of ${dayAt(c.at, now, zone)}`}
            >
              put it right
            </Link>
          </>
        )}
      </span>
    </li>
  );
}

const oddWords = (odd: Odd) =>
  odd.kind === 'make'
    ? 'a remake'
    : odd.kind === 'pull'
      ? 'a pull'
      : `a look: ${word(odd.finding ?? '')}${odd.catches?.length ? `, ${odd.catches.map((c) => word(c.species)).join(', ')}` : ''}`;

/** What was entered and cannot have been so: it is kept, and counts for nothing. */
function Uncounted({ book, view }: { book: BookNow; view: LineNow }) {
  const { zone, id } = view.line;
  const line = `/lines/${id}`;
  const takeBack = async (odd: Odd) => {
    const kind = odd.kind === 'pull' ? 'pulls' : 'visits';
    await act(`${line}/${kind}/${odd.id}/undo`, { at: nowISO() }, `${oddWords(odd)} at set ${odd.number} taken back`, { set: odd.setId });
  };
  return (
    <>
      <h3 style={{ marginTop: 16 }}>Kept, but not counted</h3>
      <div className="quiet">it cannot have been so; put it right, or take it back and enter it anew</div>
      <ul className="rows">
        {book.odd.map((odd) => (
          <li key={odd.id} className="due" style={{ gridTemplateColumns: '136px 30px 1fr auto' }}>
            <span className="quiet">{longDate(odd.at, zone)}</span>
            <b>{odd.number}</b>
            <span>
              {capital(oddWords(odd))}: <span className="dun">{whys[odd.why]}</span>
            </span>
            <span>
              {odd.visit && (
                <Link to={`/line/${id}/round?day=${date(odd.at, zone)}`} aria-label={`put it right: ${oddWords(odd)} at set ${odd.number}`}>
                  put it right
                </Link>
              )}
              {odd.visit && ' · '}
              {odd.kind !== 'make' && (
                <button type="button" className="word" onClick={() => void takeBack(odd)}>
                  take it back
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function Rates({ book, view }: { book: BookNow; view: LineNow }) {
  const { total } = book;
  const most = Math.max(4, ...book.sets.map((s) => Math.min(40, s.rate?.high ?? 0)));
  const x = scaleLinear().domain([0, most]).range([250, 490]).nice();
  const rows: { name: string; kind?: string; row: RateRow }[] = [
    { name: 'the whole line', row: total },
    ...book.sets.map((row) => {
      return { name: `${row.number}  ${view.spots.find((s) => s.id === row.spotId)?.name ?? ''}`, kind: row.kind, row };
    }),
  ];
  const thickest = Math.max(1, ...book.sets.map((s) => s.trapNights));
  return (
    <section>
      <h2>Caught in 100 trap-nights</h2>
      <div className="quiet">
        target animals, set by set; the line is what the truth may well be (95 of 100 times), its thickness the nights behind it
      </div>
      {total.rate === null ? (
        <p>No trap-night has been earned yet: a trap earns one when it stands through midnight.</p>
      ) : (
        <>
          <svg viewBox={`0 -18 590 ${rows.length * 40 + 48}`} width="100%" role="img" aria-label="rates with their intervals">
            {x.ticks(4).map((tick) => (
              <g key={tick}>
                <path d={`M${x(tick)} 0V${rows.length * 40}`} stroke="var(--rule)" />
                {[-5, rows.length * 40 + 18].map((y) => (
                  <text key={y} className="quiet-text" x={x(tick)} y={y} textAnchor="middle">
                    {tick}
                  </text>
                ))}
              </g>
            ))}
            {rows.map(({ name, kind, row }, i) => {
              const y = i * 40 + 22;
              return (
                <g key={row.setId}>
                  {kind && (
                    <g transform={`translate(0 ${y - 10})`}>
                      <MarkIcon kind={kind} />
                    </g>
                  )}
                  <text x={44} y={y + 5} style={{ fontWeight: kind ? 400 : 700, fontSize: 14 }}>
                    {name}
                  </text>
                  {row.rate && (
                    <>
                      <path
                        d={`M${x(row.rate.low)} ${y}H${x(Math.min(row.rate.high, most))}`}
                        stroke="var(--soft)"
                        strokeOpacity={0.55}
                        strokeWidth={2 + (6 * Math.min(row.trapNights, thickest)) / thickest}
                      />
                      <circle cx={x(row.rate.per100)} cy={y} r={6} fill="var(--ink)" />
                    </>
                  )}
                  <text x={502} y={y + 5}>
                    {row.catches} in {trim(row.trapNights, 1)}
                  </text>
                </g>
              );
            })}
          </svg>
          <p>
            <b>{trim(total.rate.per100, 1)} in 100 trap-nights</b>, likely between {trim(total.rate.low, 1)} and {trim(total.rate.high, 1)}:{' '}
            {total.catches} target {total.catches === 1 ? 'animal' : 'animals'} in {trim(total.trapNights, 1)} trap-nights; nineteen times
            in twenty the true rate lies between the bars.{' '}
            {book.others > 0 && `${capital(count(book.others))} ${book.others === 1 ? 'other was' : 'others were'} caught.`}{' '}
            {book.waiting.length > 0 && 'What is kept here and not sent yet is not counted. '}Nights found sprung, locked by weather or
            holding count half.
          </p>
        </>
      )}
    </section>
  );
}
