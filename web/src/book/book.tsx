import { useState } from 'react';
import { Unread } from '../lib/ask/unread';
import { scaleLinear } from 'd3-scale';
import { MarkIcon } from '../draw/mark';
import { nowISO, useNow } from '../lib/kept/clock';
import { copyWords } from '../lib/fields/copies';
import { act } from '../lib/kept/outbox';
import { useNarrow } from '../lib/narrow';
import { useBy, useProgram, useBook, useLine, useLineID, useSeason } from '../lib/ask/queries';
import { Link } from 'react-router';
import { SeasonDays, Seasons } from '../lib/fields/seasons';
import { date, dayAt, dayYear, longDate } from '../lib/words/time';
import type { BookNow, LineNow } from '../lib/kept/overlay';
import type { CaughtAnimal, Odd, RateRow } from '../lib/types.gen';
import { whys } from '../lib/words/uncounted';
import { trapNights, trim } from '../lib/words/units';
import { findingWord, wordIn } from '../lib/words/called';
import { capital, many } from '../lib/words/words';
import { caughtDetails, caughtWords } from '../lib/words/looks';
import { timeWords } from '../lib/words/when';

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
      <LastCopy line={view.line.id} />
      <div className="quiet">newest first; the foot, and by pad or toe</div>
      <ul className="rows">
        {byLook(book.waiting).map((of) => (
          <Caught key={of[0]?.id} caught={of} now={view.now} zone={zone} waits />
        ))}
        {byLook(book.catches).map((of) => (
          <Caught key={of[0]?.id} caught={of} now={view.now} zone={zone} />
        ))}
      </ul>
      {book.catches.length + book.waiting.length === 0 && <p>Nothing yet. A catch given on the round is written here.</p>}
      {book.odd.length > 0 && <Uncounted book={book} view={view} />}
      <CannotBeRead book={book} trouble={view.trouble} />
      <p className="words">
        <Link to={`/line/${view.line.id}/done`}>print</Link>
        <Link to={`/line/${view.line.id}/done`}>as CSV</Link>
      </p>
    </section>
  );
}

/** The last whole copy of the data file, always with its age. */
function LastCopy({ line }: { line: string }) {
  const { data: program } = useProgram();
  const now = useNow();
  const to = `/line/${line}/copies`;
  if (!program) return null;
  return (
    <div className="quiet">
      {program.backup && (
        <>
          last whole copy of the data file, <b>{copyWords(program.backup, now)}</b> ·{' '}
        </>
      )}
      <Link to={to}>copies, and moving to another computer</Link>
    </div>
  );
}

/** What of the file is broken, and why nothing can be written to it. */
function CannotBeRead({ book, trouble }: { book: BookNow; trouble: string }) {
  if (trouble === '' && book.unreadable.length === 0) return null;
  return (
    <>
      <h3 className="above-16">{trouble === '' ? 'Cannot be read' : 'The data file is only read'}</h3>
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

/** One look's animals: what was caught, and of each more than that. */
function Caught({ caught, now, zone, waits }: { caught: CaughtAnimal[]; now: string; zone: string; waits?: boolean }) {
  const line = useLineID();
  const by = useBy();
  const c = caught[0];
  if (!c) return null;
  const others = caught.filter((one) => !one.target).length;
  const when = `${dayAt(c.at, now, zone)} ${timeWords(c, zone)}`;
  return (
    <li className="due caught">
      <span className="quiet">{when}</span>
      <span>set {c.number}</span>
      <span>
        <b>caught: {caughtWords(caught)}</b>{' '}
        {others > 0 && <span className="quiet">· {others === caught.length ? 'non-target' : many(others, 'non-target')}</span>}
        <span className="quiet">{by(c.who)}</span>
        {waits && <span className="ember"> · kept here, not sent yet</span>}
      </span>
      <span>
        {caught
          .map((one) => caughtDetails(one))
          .filter(Boolean)
          .join('; ')}
        {!waits && (
          <>
            {' · '}
            <Link
              to={`/line/${line}/round?day=${date(c.at, zone)}`}
              aria-label={`correct ${caughtWords(caught)} of ${dayAt(c.at, now, zone)}`}
            >
              correct
            </Link>
          </>
        )}
      </span>
    </li>
  );
}

/** Animals by the look that found them, in their order. */
const byLook = (caught: CaughtAnimal[]): CaughtAnimal[][] =>
  [...new Set(caught.map((c) => c.visitId))].map((id) => caught.filter((c) => c.visitId === id));

const oddWords = (odd: Odd) =>
  odd.kind === 'make'
    ? 'a remake'
    : odd.kind === 'pull'
      ? 'a pull'
      : `a look, ${odd.catches?.length ? `caught ${caughtWords(odd.catches)}` : findingWord(odd.finding ?? '')}`;

/** What was entered and cannot have been so: it is kept, and counts for nothing. */
function Uncounted({ book, view }: { book: BookNow; view: LineNow }) {
  const { zone, id } = view.line;
  const line = `/lines/${id}`;
  const takeBack = async (odd: Odd) => {
    const kind = odd.kind === 'pull' ? 'pulls' : 'visits';
    await act(`${line}/${kind}/${odd.id}/undo`, { at: nowISO() }, `${oddWords(odd)} at set ${odd.number} undone`, { set: odd.setId });
  };
  return (
    <>
      <h3 className="above-16">Kept, but not counted</h3>
      <div className="quiet">it cannot have been so; correct it, or undo it and enter it anew</div>
      <ul className="rows">
        {book.odd.map((odd) => (
          <li key={odd.id} className="due odd">
            <span className="quiet">{odd.visit ? `${dayYear(odd.at, zone)} ${timeWords(odd.visit, zone)}` : longDate(odd.at, zone)}</span>
            <span>set {odd.number}</span>
            <span>
              {capital(oddWords(odd))}: <span className="dun">{wordIn(whys, odd.why)}</span>
            </span>
            <span>
              {odd.visit && (
                <Link to={`/line/${id}/round?day=${date(odd.at, zone)}`} aria-label={`correct ${oddWords(odd)} at set ${odd.number}`}>
                  correct
                </Link>
              )}
              {odd.visit && ' · '}
              {odd.kind !== 'make' && (
                <button type="button" className="word" onClick={() => void takeBack(odd)}>
                  undo
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
  const narrow = useNarrow();
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
          <svg viewBox={`0 -18 ${width} ${rows.length * high + 48}`} width="100%" role="img" aria-label="rates with their intervals">
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
                  <text className="size-14" x={44} y={y + 5} fontWeight={kind ? 400 : 700}>
                    {name}
                  </text>
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
