import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, Navigate, NavLink, Outlet, useLocation } from 'react-router';
import { groundPath } from './draw/rough';
import { ask, call, Refused } from './lib/ask/api';
import { dropRead } from './lib/ask/reading';
import { NoRoom, SetAside } from './lib/kept/aside';
import { clocksApart, useNow } from './lib/kept/clock';
import { useNewer } from './lib/kept/newer';
import { isFor, isWaiting, useFile, useKept } from './lib/kept/outbox';
import { useAlong, useFreshness, useLine, useLineID, useProgram } from './lib/ask/queries';
import { useReach } from './lib/ask/reach';
import { useOut } from './lib/ask/signedin';
import { useSettings } from './lib/settings';
import type { LineNow } from './lib/kept/overlay';
import { ago, clock, day, longDay } from './lib/words/time';
import { duration } from './lib/words/units';
import { count, many } from './lib/words/words';
import { BeadString } from './string/string';

const pages = ['Today', 'Ground', 'Shed', 'Bench', 'Round', 'Book', 'Practice', 'Rules'];

/** Pages of those who plan, and not of who only walks the round. */
const planned = ['Bench', 'Book', 'Rules'];

/** What stands about every page: the ground line with its tabs above, the string below. */
export function Shell() {
  useFreshness();
  useAlong(useLineID());
  const line = useLine();
  const program = useProgram();
  const { pathname } = useLocation();
  const read = line.data !== undefined;
  const tabs = useRef<HTMLUListElement>(null);
  // Where not all tabs have room, the open one is in sight.
  useEffect(() => {
    tabs.current?.querySelector('.active')?.scrollIntoView({ inline: 'center', block: 'nearest' });
  }, [pathname, read]);
  if (!line.data) return line.error ? <NoLine error={line.error} /> : null;
  const base = `/line/${line.data.line.id}`;
  const helps = program.data?.role === 'helper';

  const inHand = pathname.startsWith(`${base}/round/`);
  return (
    <div className="shell">
      <header className={inHand ? 'head in-hand' : 'head'}>
        <Link to={`${base}/today`} className="name">
          Old Burrow
        </Link>
        <nav aria-label="pages">
          <ul className="tabs" ref={tabs}>
            {pages
              .filter((page) => !(helps && planned.includes(page)))
              .map((page) => (
                <li key={page}>
                  <NavLink to={`${base}/${page.toLowerCase()}`}>{page}</NavLink>
                </li>
              ))}
          </ul>
        </nav>
        <Where />
        <svg className="ground-line" viewBox="0 0 1280 8" preserveAspectRatio="none" aria-hidden="true">
          <path d={groundPath(0, 1280, 4, 3, 7, 22)} fill="none" stroke="var(--ink)" strokeWidth={2.2} vectorEffect="non-scaling-stroke" />
        </svg>
      </header>
      <NoRoom />
      <Outlet />
      <BeadString />
    </div>
  );
}

/** Only where nothing is there to be shown. */
function NoLine({ error }: { error: Error }) {
  if (useOut() !== '') return <Navigate to="/door" replace />;
  return (
    <div className="page">
      <h1>{error instanceof Refused ? 'This line is not in the file' : 'This line cannot be read'}</h1>
      <p>
        {error instanceof Refused
          ? 'Nothing stands under this address.'
          : 'The program does not answer, and this browser has not read the line before.'}{' '}
        <Link to="/">See which lines there are.</Link>
      </p>
    </div>
  );
}

/** Which line, what time, which units and theme, and what is not sent yet. */
function Where() {
  const { data: view } = useLine();
  const program = useProgram();
  const { system, lamp, setSystem, setLamp } = useSettings();
  const now = useNow();
  // Its room is kept, so that nothing moves when the line, or who sits here, is known later than the page.
  if (!view || (program.isPending && program.failureCount === 0)) {
    return (
      <div className="where" aria-hidden="true">
        <b>&nbsp;</b>
        <span>&nbsp;</span>
        <div className="state" />
      </div>
    );
  }
  return (
    <div className="where">
      <b>{view.line.name}</b>
      <span className="quiet">
        {longDay(now, view.line.zone)}, {clock(now, view.line.zone)} ·{' '}
        <button
          type="button"
          className="word"
          onClick={() => setSystem(system === 'us' ? 'metric' : 'us')}
          aria-label={`${system === 'us' ? 'US units' : 'metric'}; change units`}
        >
          {system === 'us' ? 'US units' : 'metric'}
        </button>{' '}
        ·{' '}
        <button
          type="button"
          className="word"
          aria-label={lamp ? 'day, night light off' : 'lamp, night light on'}
          onClick={() => setLamp(!lamp)}
        >
          {lamp ? 'day' : 'lamp'}
        </button>
        {program.data?.role === 'owner' && (
          <span className="to-phone">
            {' · '}
            <Link to={`/line/${view.line.id}/phone`}>on the phone</Link>
          </span>
        )}
        {program.data?.who && <SignOut />}
        {program.data?.demo && <MoveOn />}
      </span>
      <div className="state">
        <AsRead takenAt={view.takenAt} at={view.now} now={now} zone={view.line.zone} />
        <SignIn />
        <NotSent />
        <Clocks view={view} demo={program.data?.demo ?? true} />
        <Newer />
        {view.trouble !== '' && (
          <span className="ember" role="alert">
            The data file is only read now: <Link to={`/line/${view.line.id}/book`}>why, and what to do</Link>
          </span>
        )}
      </div>
      <SetAside />
    </div>
  );
}

/** What is entered here waits until whoever holds this device has come in again. */
function SignIn() {
  const out = useOut();
  const file = useFile();
  const waits = useKept().filter((w) => isFor(w, file) && isWaiting(w)).length;
  if (out === '') return null;
  return (
    <a className="ember" href="/door/">
      {waits > 0 ? `sign in to send ${many(waits, 'answer')}` : 'sign in'}
    </a>
  );
}

/** Whoever walks the round for somebody, and gives the phone back. */
function SignOut() {
  const [failed, setFailed] = useState(false);
  const out = async () => {
    try {
      await ask('/sign-out', {});
      await dropRead();
      window.location.replace('/door/');
    } catch {
      setFailed(true);
    }
  };
  return (
    <>
      {' · '}
      <button type="button" className="word" onClick={() => void out()}>
        {failed ? 'no answer; try again' : 'sign out'}
      </button>
    </>
  );
}

/** Only in the demo: the clock moves to the next morning. */
function MoveOn() {
  const client = useQueryClient();
  const [failed, setFailed] = useState(false);
  const move = async () => {
    try {
      await call('POST', '/demo/night', {});
      setFailed(false);
      await client.invalidateQueries();
    } catch {
      setFailed(true);
    }
  };
  return (
    <>
      {' · '}
      <button type="button" className="word" onClick={() => void move()} title="demo: moves the made-up clock to the next morning">
        {failed ? 'no answer; try again' : 'move on a night'}
      </button>
    </>
  );
}

/** When the program does not answer: how old is what stands on the page. */
function AsRead({ at, takenAt, now, zone }: { at: string; takenAt: string | undefined; now: string; zone: string }) {
  if (useReach()) return null;
  return (
    <span className="quiet" role="status">
      no answer; {takenAt ? 'computed here, from' : 'as read at'} {clock(takenAt ?? at, zone)}, {ago(takenAt ?? at, now)}
    </span>
  );
}

/** Whether the clocks of program and device can be trusted. */
function Clocks({ view, demo }: { view: LineNow; demo: boolean }) {
  useNow();
  const apart = demo ? null : clocksApart();
  const { zone } = view.line;
  const before = view.behind && (day(view.behind, zone) === day(view.now, zone) ? clock(view.behind, zone) : longDay(view.behind, zone));
  return (
    <>
      {before && (
        <span className="ember" role="status">
          the program’s clock went back, from {before} to {clock(view.now, zone)}
        </span>
      )}
      {apart !== null && (
        <span className="ember" role="status">
          this device’s clock is {duration(Math.abs(apart) / 60_000)} {apart > 0 ? 'behind' : 'ahead of'} the program’s
        </span>
      )}
    </>
  );
}

/** After the program was renewed this page is still the one from before. */
function Newer() {
  if (!useNewer()) return null;
  return (
    <span role="status">
      a newer page is here:{' '}
      <button type="button" className="word" onClick={() => window.location.reload()}>
        open it
      </button>
    </span>
  );
}

/** How much of what was entered has not reached the program. */
function NotSent() {
  const kept = useKept();
  const file = useFile();
  // What is on its way to a program that answers is no news.
  const waiting = kept.filter((w) => isFor(w, file) && isWaiting(w) && w.stalled);
  if (waiting.length === 0) return null;
  return (
    <span className="ember" role="status" title={waiting[0]?.why ?? undefined}>
      {count(waiting.length)} not sent yet, kept in this browser
    </span>
  );
}
