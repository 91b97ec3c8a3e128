import { Plans } from '../lib/ask/may';
import { toSee } from '../lib/kept/tosee';
import { Fragment, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { markOf, onDrag } from '../lib/words/parts';
import { groundPath } from '../draw/rough';
import { useNow } from '../lib/kept/clock';
import { useNarrow } from '../lib/narrow';
import { asksForSomebody, copyWords, NoCopy } from '../lib/fields/copies';
import { useBook, useBy, useJobs, useLine, useProgram, useWeather, useRack } from '../lib/ask/queries';
import { Job, Weighing } from '../lib/jobs';
import { useNotNow } from '../lib/kept/notnow';
import { useSettings, type RoundTime } from '../lib/settings';
import { clock, date, day, dayOf, dueWords } from '../lib/words/time';
import type { BookNow, LineNow, SetNow } from '../lib/kept/overlay';
import type { Worth } from '../lib/types.gen';
import { foundWords } from '../lib/words/looks';
import { timeWords } from '../lib/words/when';
import { stillInWords } from '../lib/words/stillin';
import { uncountedWords } from '../lib/words/uncounted';
import { trapNights, trim } from '../lib/words/units';
import { capital, count, listed, many } from '../lib/words/words';
import { WhatTheNightDid } from './night';

export function TodayPage() {
  const { data: view } = useLine();
  const { data: book } = useBook();
  if (!view) return null;
  return (
    <main className="page">
      <div className="two">
        <div>
          <BeforeLight view={view} />
          <NeedsYou view={view} />
        </div>
        <section>
          <WhatTheNightDid view={view} />
          <Plans>
            <h2>Worth doing</h2>
            <WorthDoing view={view} />
          </Plans>
        </section>
      </div>
      <svg className="ground-line across" viewBox="0 0 1224 8" preserveAspectRatio="none" aria-hidden="true">
        <path d={groundPath(0, 1224, 4, 3, 5, 22)} fill="none" stroke="var(--ink)" strokeWidth={1.8} vectorEffect="non-scaling-stroke" />
      </svg>
      {book && <Season book={book} view={view} />}
    </main>
  );
}

/** What the round is called by when it is worked, and that in words. */
const rounds: Record<RoundTime, { name: string; when: string }> = {
  morning: { name: 'Before light', when: 'before light' },
  evening: { name: 'After work', when: 'after work' },
  both: { name: 'The round', when: 'both' },
};

/** Until the first set stands: the next step of the work. */
function NextStep({ view }: { view: LineNow }) {
  const line = `/line/${view.line.id}`;
  const design = view.designs.find((d) => d.setId === null);
  const [to, what, why] =
    view.spots.length === 0
      ? [`${line}/ground`, 'First mark a spot', 'a name and a place are enough; what else is known of it can be said later']
      : design === undefined
        ? [`${line}/bench`, 'Then lay out a set', 'for a spot that is marked; the bench says what its feet would do']
        : [`${line}/bench/${design.id}`, 'Then build it', 'as it was laid out, when it is in the ground'];
  return (
    <p>
      Nothing stands yet.{' '}
      <Link to={to}>
        <b>{what}</b>
      </Link>
      : {why}.
    </p>
  );
}

function BeforeLight({ view }: { view: LineNow }) {
  const { zone, id } = view.line;
  const { round, setRound } = useSettings();
  const due = toSee(view);
  const named = due.filter(standsByName);
  const quiet = due.filter((s) => !standsByName(s));
  const propertyOf = (s: SetNow) => view.spots.find((x) => x.id === s.set.spotId)?.propertyId;
  const late = due.filter((s) => s.bead.late).length;
  const standing = view.sets.filter((s) => s.bead.state !== 'down').length;
  const { firstLight, sunrise } = view.light;
  return (
    <section>
      <h2>{rounds[round].name}</h2>
      {view.sets.length === 0 ? (
        <NextStep view={view} />
      ) : (
        <p>
          {due.length === 0
            ? standing === 0
              ? 'No set is in the ground.'
              : 'Every set has been seen; nothing is due before tomorrow.'
            : `${capital(many(due.length, 'set'))} to see by midnight`}
          {due.length > 0 &&
            (late === 0 ? (
              ', none late.'
            ) : (
              <>
                ,{' '}
                <b className="ember">
                  {due.length === 1 ? 'and it is late' : late === 1 ? 'one of them late' : `${count(late)} of them late`}
                </b>
                .
              </>
            ))}{' '}
          A look every calendar day is our habit, not a rule.{' '}
          {firstLight && sunrise ? (
            <>
              First light <b>{clock(firstLight, zone)}</b>, sunrise {clock(sunrise, zone)}.
            </>
          ) : (
            'The sun neither rises nor sets here today.'
          )}
        </p>
      )}
      <ul className="rows">
        {named.map((s) => (
          <DueSet key={s.set.id} set={s} view={view} />
        ))}
        {[...new Set(quiet.map(propertyOf))].map((id) => {
          const there = quiet.filter((s) => propertyOf(s) === id);
          return there.length === 0 ? null : there.length === 1 && there[0] ? (
            <DueSet key={id} set={there[0]} view={view} />
          ) : (
            <DueThere key={id} name={view.properties.find((p) => p.id === id)?.name ?? ''} sets={there} view={view} />
          );
        })}
      </ul>
      {due[0] && (
        <div className="build">
          <Link className="btn btn-primary" to={`/line/${id}/round/${due[0].set.id}`}>
            Start the round
          </Link>
          <Link to={`/line/${id}/round`}>the whole round, in order</Link>
        </div>
      )}
      {view.sets.length > 0 && (
        <div className="quiet" role="group" aria-label="when the round is worked">
          You run the line{' '}
          {(Object.keys(rounds) as RoundTime[]).map((key, i) => (
            <Fragment key={key}>
              {i > 0 && ' · '}
              <button
                type="button"
                className={key === round ? 'word chosen' : 'word'}
                aria-pressed={key === round}
                onClick={() => setRound(key)}
              >
                {rounds[key].when}
              </button>
            </Fragment>
          ))}
        </div>
      )}
    </section>
  );
}

/** A set that asks for more than a look stands by itself. */
const standsByName = (s: SetNow): boolean => s.bead.late || s.bead.state === 'sought' || onDrag(s.make.layout);

/** A set that is to be seen. */
function DueSet({ set: s, view }: { set: SetNow; view: LineNow }) {
  const { zone, id } = view.line;
  const by = useBy();
  return (
    <li>
      <Link className="due" to={`/line/${id}/round/${s.set.id}`}>
        <MarkIcon kind={markOf(s.make.layout)} />
        <b>{s.set.number}</b>
        <span>
          {view.spots.find((x) => x.id === s.set.spotId)?.name}{' '}
          <span className="quiet">· {onDrag(s.make.layout) ? 'on a drag, look first' : `${lastSeen(s, zone)}${by(s.lastVisit?.who)}`}</span>
        </span>
        <b className={s.bead.late ? 'ember' : undefined}>{s.bead.due && dueWords(s.bead.due, view.now, zone)}</b>
      </Link>
    </li>
  );
}

/** The other sets of a property, in one row until it is touched. */
function DueThere({ name, sets, view }: { name: string; sets: SetNow[]; view: LineNow }) {
  const [open, setOpen] = useState(false);
  const first = sets[0]?.bead.due;
  return (
    <>
      <li>
        <button type="button" className="due there" aria-expanded={open} onClick={() => setOpen(!open)}>
          <span>
            <b>{name}</b> <span className="quiet">· sets {sets.map((s) => s.set.number).join(', ')}</span>
          </span>
          <b>{first && dueWords(first, view.now, view.line.zone)}</b>
        </button>
      </li>
      {open && sets.map((s) => <DueSet key={s.set.id} set={s} view={view} />)}
    </>
  );
}

const mostNeeds = 4;

/** What asks for somebody, the gravest first; what has nothing to say has no line. */
function NeedsYou({ view }: { view: LineNow }) {
  const [all, setAll] = useState(false);
  const needs = [...uncountedOf(view), ...endingsOf(view), ...useFreezing(view), ...useThawed(view), ...useNoNewCopy(view)];
  if (needs.length === 0) return null;
  const shown = all ? needs : needs.slice(0, mostNeeds);
  const more = needs.length - shown.length;
  return (
    <section className="above-16">
      <h2>Needs you</h2>
      {shown}
      {more > 0 && (
        <p>
          <button type="button" className="word" onClick={() => setAll(true)}>
            and {count(more)} more
          </button>
        </p>
      )}
    </section>
  );
}

/** Sets that are answered by what does not count: they are not asked for again. */
const uncountedOf = (view: LineNow): ReactNode[] =>
  view.sets.flatMap((s) =>
    s.uncounted
      ? [
          <p key={s.set.id}>
            <Link to={`/line/${view.line.id}/round/${s.set.id}`}>Set {s.set.number}</Link>:{' '}
            <span className="ember">{uncountedWords(s.uncounted, view.now, view.line.zone)}</span>.
          </p>,
        ]
      : [],
  );

/** Permissions that end soon, or have ended, while sets stand on their land. */
const endingsOf = (view: LineNow): ReactNode[] =>
  view.endings.flatMap((e) => {
    const standing = view.sets.filter((s) => e.setIds.includes(s.set.id) && s.bead.state !== 'down');
    if (standing.length === 0) return [];
    const sets = `${standing.length === 1 ? 'set' : 'sets'} ${listed(standing.map((s) => String(s.set.number)))}`;
    return [
      <p key={e.propertyId}>
        <b className="ember">
          {e.name}, permission {e.over ? 'ended' : 'ends'} {dayOf(e.until)}
        </b>
        . {capital(sets)} {standing.length === 1 ? 'stands' : 'stand'} there. Pull {standing.length === 1 ? 'it' : 'them'}, or ask anew.
      </p>,
    ];
  });

/** Anchors that the frost of the coming mornings takes, by the day on which they can still be pulled. */
function useFreezing(view: LineNow): ReactNode[] {
  const { data: weather } = useWeather();
  const freezing = weather?.sets.filter((s) => s.freezesIn !== '') ?? [];
  return [...new Set(freezing.map((s) => s.freezesIn))].sort().map((on) => {
    const sets = freezing
      .filter((s) => s.freezesIn === on)
      .map((s) => String(view.sets.find((x) => x.set.id === s.setId)?.set.number ?? ''));
    const one = sets.length === 1;
    return (
      <p key={on}>
        {on === date(view.now, view.line.zone) ? 'Pull today' : `Pull by ${day(`${on}T12:00:00Z`, 'UTC')}`} what you want home, the{' '}
        {one ? 'anchor of set' : 'anchors of sets'} <b className="dun">{listed(sets)}</b> {one ? 'freezes' : 'freeze'} in.
      </p>
    );
  });
}

/** What was frozen in where it was pulled, and can come out today. */
function useThawed(view: LineNow): ReactNode[] {
  const { data: rack } = useRack();
  return view.stillIn
    .filter((x) => x.due)
    .map((x) => (
      <p key={`${x.makeId} ${x.slot}`}>
        <Link to={`/line/${view.line.id}/round`}>Fetch it from set {x.number}</Link>,{' '}
        {view.spots.find((s) => s.id === x.spotId)?.name ?? ''}:{' '}
        {stillInWords(x, rack?.traps.find((h) => h.trap.id === x.trapId)?.trap.number)}, and the ground gives it back now.
      </p>
    ));
}

/** The data file could not be copied, or was not for two days: what was written since is in one place alone. */
function useNoNewCopy(view: LineNow): ReactNode[] {
  const { data: program } = useProgram();
  const now = useNow();
  const backup = program?.backup;
  if (!backup || !asksForSomebody(backup, now)) return [];
  return [
    <Fragment key="copy">
      <NoCopy backup={backup} />
      <p>
        Last whole copy of the data file, <b className={backup.why === '' ? 'ember' : undefined}>{copyWords(backup, now)}</b>.{' '}
        <Link to={`/line/${view.line.id}/copies`}>Make one now</Link>, or nothing brings back what was written since.
      </p>
    </Fragment>,
  ];
}

/** When a set was last seen, or built where nobody has looked since. */
function lastSeen({ bead, lastVisit, make }: SetNow, zone: string): string {
  if (lastVisit) return `last seen ${day(lastVisit.at, zone)} ${timeWords(lastVisit, zone)}`;
  return `${make.follows === null ? 'built' : 'remade'} ${day(bead.last, zone)} ${clock(bead.last, zone)}`;
}

/** Why a set has to be remade: what it was last found as. */
function whyOpen(view: LineNow, setId: string): string {
  const visit = view.sets.find((s) => s.set.id === setId)?.lastVisit;
  return visit
    ? `it was found on ${day(visit.at, view.line.zone)}, ${foundWords(visit).replace(': ', ' ')}`
    : 'it was found so that it cannot fire';
}

/** What is worth doing, in words. */
function inWords(w: Worth, view: LineNow) {
  const line = `/line/${view.line.id}`;
  const names = w.spotIds.map((id) => view.spots.find((s) => s.id === id)?.name ?? '');
  const name = names[0] ?? '';
  switch (w.kind) {
    case 'remake':
      return {
        to: `${line}/round/${w.setId}`,
        what: `Remake set ${view.sets.find((s) => s.set.id === w.setId)?.set.number ?? ''}, or pull it`,
        why: `${whyOpen(view, w.setId)}, and earns nothing as it is`,
      };
    case 'build':
      return {
        to: `${line}/bench/${w.designId}`,
        what: `Build the set designed at ${name}`,
        why: 'designed, not built',
      };
  }
  if (names.length === 1) {
    return {
      to: `${line}/ground?spot=${w.spotIds[0] ?? ''}`,
      what: `Begin a set at ${name}`,
      why: 'the spot is marked and nothing stands there',
    };
  }
  const others = names.length > 3 ? ' and others' : '';
  return {
    to: `${line}/bench`,
    what: `Begin a set at one of ${count(names.length)} marked spots`,
    why: `nothing stands at ${names.slice(0, 3).join(', ')}${others}`,
  };
}

const mostWorth = 3;

/** What waits to be remade or built, and then what brings most for the time that it takes. */
function WorthDoing({ view }: { view: LineNow }) {
  const [all, setAll] = useState(false);
  const now = useNow();
  const notNow = useNotNow(view.line.id, now);
  const { data } = useJobs({ without: notNow.keys });
  const waits = view.worth.filter((w) => w.kind !== 'begin').map((w) => inWords(w, view));
  const begins = view.worth.filter((w) => w.kind === 'begin').map((w) => inWords(w, view));
  const jobs = data?.jobs ?? [];
  const stands = view.sets.some((s) => s.bead.state !== 'down');
  const row = (item: ReturnType<typeof inWords>) => (
    <li key={item.to}>
      <Link to={item.to}>
        <b>{item.what}</b>
      </Link>
      <div className="quiet">{item.why}</div>
    </li>
  );
  const rows = [
    ...waits.map(row),
    ...jobs.map((job) => (
      <li key={job.key}>
        <Job job={job} view={view} onNotNow={(days) => notNow.quietFor(job.key, days)} />
      </li>
    )),
    ...begins.map(row),
  ];
  const shown = all ? rows : rows.slice(0, mostWorth);
  return (
    <>
      {rows.length === 0 && !stands && <p className="quiet">No set is in the ground.</p>}
      {rows.length === 0 && stands && data && data.told === data.of && (
        <p>Nothing to remake, build or change. Leave quiet sets alone, a coyote set earns from the third to the sixth night.</p>
      )}
      <ul className="rows">{shown}</ul>
      {data && <Weighing told={data.told} of={data.of} />}
      {shown.length < rows.length && (
        <button type="button" className="word" onClick={() => setAll(true)}>
          and {count(rows.length - shown.length)} more
        </button>
      )}
      {all && data && data.costly.length > 0 && (
        <p className="quiet">
          For the looks that they ask, {listed(data.costly.map((id) => view.spots.find((s) => s.id === id)?.name ?? ''))} bring
          {data.costly.length === 1 ? 's' : ''} little.
        </p>
      )}
      {all && notNow.keys.length > 0 && (
        <button type="button" className="word" onClick={notNow.hear}>
          what was not for now
        </button>
      )}
    </>
  );
}

function Season({ book, view }: { book: BookNow; view: LineNow }) {
  if (book.since === null) return null;
  const { total } = book;
  return (
    <div className="two">
      <div>
        <div className="quiet">the season so far, {day(book.since, view.line.zone)} to today</div>
        <div className="season">
          {trapNights(total.trapNights)}, {many(total.catches, 'target')} caught
          {total.rate && (
            <>
              : <b>{trim(total.rate.per100, 1)} in 100 nights</b>, likely between {trim(total.rate.low, 1)} and {trim(total.rate.high, 1)}
            </>
          )}
          . {book.waiting.length > 0 && !book.takenAt && `${capital(count(book.waiting.length))} more kept here, not counted yet. `}
          {capital(many(book.others, 'non-target'))}.
        </div>
      </div>
      <SeasonDrawing book={book} />
    </div>
  );
}

/** Every night since the first set: a bar as high as the traps standing, a square for each animal held. */
function SeasonDrawing({ book }: { book: BookNow }) {
  const nights = book.nights;
  const narrow = useNarrow();
  const width = narrow ? 350 : 584;
  const step = Math.min(15, width / Math.max(1, nights.length));
  const most = Math.max(1, ...nights.map((n) => n.traps));
  const unit = 34 / most;
  return (
    <svg
      viewBox={`0 0 ${width} 84`}
      width="100%"
      role="img"
      aria-label={`${many(nights.length, 'night')}, ${many(
        nights.reduce((sum, n) => sum + n.held, 0),
        'animal',
      )} caught`}
    >
      <text className="quiet-text" x={width} y={11} textAnchor="end">
        {narrow
          ? 'a bar for the traps standing, a square for each caught'
          : 'a bar as high as the traps standing, a square for each animal caught'}
      </text>
      {nights.map((n, i) => (
        <g key={n.evening}>
          <rect x={i * step} y={64 - n.traps * unit} width={step * 0.52} height={n.traps * unit} fill="var(--rule)" />
          {Array.from({ length: n.held }, (_, k) => (
            <rect key={k} x={i * step - 0.5} y={55 - k * 11} width={8} height={8} fill="var(--ink)" />
          ))}
          {(i === 0 || (i % 7 === 0 && nights.length - i > 3)) && (
            <text className="quiet-text" x={i * step} y={80}>
              {new Date(n.evening).toLocaleDateString('en-GB', {
                day: 'numeric',
                month: i === 0 || Number(n.evening.slice(8)) <= 7 ? 'short' : undefined,
                timeZone: 'UTC',
              })}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}
