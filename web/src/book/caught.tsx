import { Link } from 'react-router';
import { nowISO } from '../lib/kept/clock';
import { act } from '../lib/kept/outbox';
import { useBy, useLineID } from '../lib/ask/queries';
import { SeasonDays, Seasons } from '../lib/fields/seasons';
import { date, dayAt, dayYear, longDate } from '../lib/words/time';
import type { BookNow, LineNow } from '../lib/kept/overlay';
import type { CaughtAnimal, Odd } from '../lib/types.gen';
import { whys } from '../lib/words/uncounted';
import { findingWord, wordIn } from '../lib/words/called';
import { capital, many } from '../lib/words/words';
import { caughtDetails, caughtWords } from '../lib/words/looks';
import { timeWords } from '../lib/words/when';
import { Chapters } from './chapters';

/** What was caught, the newest first, and what is kept and not counted. */
export function Catches({ book, view }: { book: BookNow; view: LineNow }) {
  const { zone } = view.line;
  return (
    <section>
      <Chapters open="caught" />
      <Seasons seasons={book.seasons} open={book.open} all />
      <h2>What was caught{book.season ? ` in ${book.season.name}` : book.seasons.length > 1 ? ' in all seasons' : ''}</h2>
      {book.season && <SeasonDays season={book.season} />}
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
      <span>
        <Link to={`/line/${line}/book/set/${c.setId}`}>set {c.number}</Link>
      </span>
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
