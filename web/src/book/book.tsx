import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { LeakTable } from '../draw/leaks';
import { Unread } from '../lib/ask/unread';
import { useBook, useLine, useProgram, useSeason, useShowed } from '../lib/ask/queries';
import { copyWords } from '../lib/fields/copies';
import { OneOf } from '../lib/fields/oneof';
import { Seasons } from '../lib/fields/seasons';
import { useNow } from '../lib/kept/clock';
import type { BookNow, LineNow } from '../lib/kept/overlay';
import type { Lost } from '../lib/types.gen';
import { animalWord, findingWord } from '../lib/words/called';
import { accountWords, anewWords, leakKeys, leakNames, lossWords, showedWords, type LeakKey } from '../lib/words/learnt';
import { dayYear } from '../lib/words/time';
import { trapNights, trim } from '../lib/words/units';
import { capital, many } from '../lib/words/words';
import { Apart } from './apart';
import { Catches } from './caught';
import { Came } from './came';
import { Chapters } from './chapters';
import { useLeads } from './leads';
import { Mended } from './mended';
import { Rates } from './rates';
import { PlaceStory, SetStory } from './setstory';

export function BookPage() {
  const { data: view } = useLine();
  const { data: book } = useBook(useSeason());
  const { chapter, set } = useParams();
  if (!view || !book) return <Unread />;
  if (chapter === 'caught')
    return (
      <main className="page two">
        <Catches book={book} view={view} />
        <Rates book={book} view={view} />
      </main>
    );
  if (chapter === 'set' && set !== undefined) return <SetStory set={set} view={view} />;
  if (chapter === 'place' && set !== undefined) return <PlaceStory spot={set} view={view} />;
  if (chapter === 'apart') return <Apart view={view} />;
  if (chapter === 'mended') return <Mended view={view} />;
  if (chapter === 'came') return <Came book={book} view={view} />;
  return <HowItGoes book={book} view={view} />;
}

/** How a season goes, in three sentences and one table. */
function HowItGoes({ book, view }: { book: BookNow; view: LineNow }) {
  const leads = useLeads();
  const { lost } = book.promised;
  const [chosen, choose] = useState('');
  const told = lost.find((l) => l.animal === chosen) ?? mostKnown(lost);
  return (
    <main className="page two">
      <section>
        <Chapters open="" />
        <Seasons seasons={book.seasons} open={book.open} all />
        <h2>{book.season ? `The season ${book.season.name}` : 'All seasons'}</h2>
        <p>
          {book.total.rate ? (
            <>
              <b>
                {capital(many(book.total.catches, 'target'))} in {trapNights(book.total.trapNights)}
              </b>
              {book.since && ` since ${dayYear(book.since, view.line.zone)}`}: {trim(book.total.rate.per100, 1)} in a hundred, likely
              between {trim(book.total.rate.low, 1)} and {trim(book.total.rate.high, 1)}, and {many(book.others, 'non-target')}.
            </>
          ) : (
            'No nights yet. A night counts when a trap stands through midnight.'
          )}
        </p>
        <p>{accountWords(book.promised.all)}</p>
        {told && <p>{lossWords(told)}</p>}
        {book.anew && <p className="dun">{anewWords(book, view)}</p>}
        {book.waiting.length > 0 && (
          <p className="ember">{capital(many(book.waiting.length, 'animal'))} caught, kept here and not sent yet, not counted.</p>
        )}
        {book.odd.length > 0 && (
          <p>
            <Link to={leads('caught')}>{many(book.odd.length, 'entry', 'entries')} kept, but not counted</Link>
          </p>
        )}
        {(view.trouble !== '' || book.unreadable.length > 0) && (
          <p className="ember">
            {view.trouble || 'Something in the file cannot be read'}. <Link to={leads('caught')}>what, and what to do</Link>
          </p>
        )}
        <LastCopy line={view.line.id} />
      </section>
      {told && (
        <section>
          <h2>Where this line loses animals</h2>
          <OneOf label="of which animal" of={lost.map((l) => l.animal)} chosen={told.animal} name={animalWord} onChoose={choose} />
          <div className="quiet">
            The dot: what the findings show, the line through it how far they leave that open. The upright stroke: what the drawings
            promised.
          </div>
          <LeakTable lost={told} />
          <MostAt lost={told} view={view} />
          <Behind key={told.animal} animal={told.animal} view={view} />
          <p className="quiet">
            This cannot see an animal that passed on hard ground, nor one that stood there and left no print. A finding that seldom shows
            stands for several.
          </p>
        </section>
      )}
    </main>
  );
}

/** Of whom the findings say most. */
const mostKnown = (lost: Lost[]): Lost | undefined => [...lost].sort((a, b) => b.links.held.reached - a.links.held.reached)[0];

/** The sets at which most are lost where the line leaks. */
function MostAt({ lost, view }: { lost: Lost; view: LineNow }) {
  const leads = useLeads();
  const leak = lost.told.leak;
  if (leak === null || lost.at.length === 0) return null;
  const name = (setId: string, n: number) => {
    const spot = view.spots.find((s) => s.id === view.sets.find((x) => x.set.id === setId)?.set.spotId)?.name;
    return spot ? `${n}, ${spot}` : String(n);
  };
  return (
    <p>
      Most of them at{' '}
      {lost.at.map((at, i) => (
        <span key={at.setId}>
          {i > 0 && '; '}
          <Link to={leads(`set/${at.setId}`)}>set {name(at.setId, at.number)}</Link>
        </span>
      ))}
      .
    </p>
  );
}

const shown = 10;

/** The findings behind a link of the table, those first that were lost there; opened by its name. */
function Behind({ animal, view }: { animal: string; view: LineNow }) {
  const leads = useLeads();
  const [link, setLink] = useState<LeakKey>();
  const [all, setAll] = useState(false);
  const { data } = useShowed(animal, link !== undefined);
  const there =
    link === undefined
      ? []
      : (data?.showed ?? []).flatMap((one) => (one.kept[link] === undefined ? [] : [{ ...one, lost: !one.kept[link] }]));
  const found = there.reverse().sort((a, b) => Number(b.lost) - Number(a.lost)); // of each the newest first
  return (
    <>
      <div className="quiet">Each opens to the mornings that tell of it.</div>
      <OneOf
        label="the mornings behind it"
        of={leakKeys}
        chosen={link}
        name={(key) => leakNames[key]}
        onChoose={(key) => {
          setLink(key === link ? undefined : key);
          setAll(false);
        }}
      />
      {link && data && (
        <ul className="rows">
          {found.slice(0, all ? undefined : shown).map((one, i) => (
            <li key={i}>
              <Link to={leads(`set/${one.setId}`)}>set {one.number}</Link>, {dayYear(one.at, view.line.zone)}: {findingWord(one.finding)};{' '}
              {showedWords(link, one)}
            </li>
          ))}
          {found.length === 0 && <li>No finding tells of it.</li>}
        </ul>
      )}
      {link && found.length > shown && !all && (
        <button type="button" className="word" onClick={() => setAll(true)}>
          and {found.length - shown} more
        </button>
      )}
    </>
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
