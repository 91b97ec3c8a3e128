import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, NavLink, Outlet, useLocation } from 'react-router';
import { groundPath } from './draw/rough';
import { call } from './lib/api';
import { say } from './lib/fields';
import { drop, useKept } from './lib/outbox';
import { useAbout, useFreshness, useLine } from './lib/queries';
import { useSettings } from './lib/settings';
import { clock, longDay } from './lib/time';
import { count } from './lib/words';
import { BeadString } from './string/string';

const pages = ['Today', 'Ground', 'Shed', 'Bench', 'Round', 'Book', 'Practice', 'Rules'];

/** What stands about every page: the ground line with its tabs above, the string below. */
export function Shell() {
  useFreshness();
  const line = useLine();
  const { pathname } = useLocation();
  if (line.isError) {
    return (
      <div className="page">
        <h1>This line is not in the file</h1>
        <p>
          Nothing stands under this address, or the program does not answer. <Link to="/">See which lines there are.</Link>
        </p>
      </div>
    );
  }
  if (!line.data) return null;
  const base = `/line/${line.data.line.id}`;
  const inHand = pathname.startsWith(`${base}/round/`);
  return (
    <div className="shell">
      <header className={inHand ? 'head in-hand' : 'head'}>
        <Link to={`${base}/today`} className="name">
          Old Burrow
        </Link>
        <nav aria-label="pages">
          <ul className="tabs">
            {pages.map((page) => (
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
      <Outlet />
      <BeadString />
    </div>
  );
}

/** Which line, what time, which units and theme, and what is not sent yet. */
function Where() {
  const { data: view } = useLine();
  const about = useAbout();
  const { system, lamp, setSystem, setLamp } = useSettings();
  if (!view) return null;
  const now = about.data?.now ?? view.now;
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
        <button type="button" className="word" onClick={() => setLamp(!lamp)}>
          {lamp ? 'day' : 'lamp'}
        </button>
        {about.data?.demo && <MoveOn />}
      </span>
      <NotSent />
    </div>
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

function NotSent() {
  const kept = useKept();
  const { system } = useSettings();
  const refused = kept.filter((k) => k.refused);
  const waiting = kept.length - refused.length;
  return (
    <>
      {waiting > 0 && (
        <div className="ember" role="status">
          {count(waiting)} not sent yet, kept in this browser
        </div>
      )}
      {refused.map((k) => (
        <div key={k.mutation} className="ember" role="alert">
          Not accepted, still kept here: {k.what}. {say(k.refused?.detail ?? '', system)}{' '}
          <button type="button" className="word" onClick={() => void drop(k.mutation)}>
            let it go
          </button>
        </div>
      ))}
    </>
  );
}
