import { useEffect, useRef, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Link, useSearchParams } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { markOf } from '../lib/words/parts';
import { useNow } from '../lib/kept/clock';
import type { LineNow } from '../lib/kept/overlay';
import { useNarrow } from '../lib/narrow';
import { useDay } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { clock, date as dateOf, longDay } from '../lib/words/time';
import type { Day, OfDay } from '../lib/types.gen';
import { DayActs } from './dayacts';
import { EntryRow, standsWords } from './entry';
import { Noted, NotCounted } from './noted';

/** A day before or after another, by their dates. */
const beside = (date: string, days: number) => new Date(Date.parse(`${date}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** The round on one sheet: every set of a day in order, written up by keyboard from row to row. */
export function Sheet({ view }: { view: LineNow }) {
  const [params, setParams] = useSearchParams();
  const now = useNow();
  const { zone } = view.line;
  const today = dateOf(now, zone);
  const date = params.get('day') ?? today;
  const { data: day } = useDay(date);
  const rows = useRef(new Map<string, HTMLElement>());
  // The hand begins in the first row that is not written yet, where there is a keyboard.
  const narrow = useNarrow();
  const begun = day?.date === date ? date : null;
  useEffect(() => {
    if (begun === null || narrow) return;
    const first = [...rows.current.values()].map((row) => row.querySelector<HTMLElement>('.entry input')).find((input) => input !== null);
    first?.focus({ preventScroll: true });
  }, [begun, narrow]);
  const open = (to: string) => setParams(to === today ? {} : { day: to });
  const onward = (from: string) => {
    const order = day?.sets.map((s) => s.setId) ?? [];
    const next = order.slice(order.indexOf(from) + 1).find((id) => rows.current.get(id)?.querySelector('input'));
    rows.current
      .get(next ?? '')
      ?.querySelector('input')
      ?.focus();
  };
  return (
    <section className="sheet">
      <div className="sheet-head">
        <h2>{date === today ? 'Today' : longDay(`${date}T12:00:00Z`, 'UTC')}</h2>
        <button type="button" className="word" onClick={() => open(beside(date, -1))}>
          the day before
        </button>
        {date < today && (
          <button type="button" className="word" onClick={() => open(beside(date, 1))}>
            the day after
          </button>
        )}
        <Form.Control
          type="date"
          aria-label="another day"
          value={date}
          max={today}
          onChange={(e) => e.target.value && open(e.target.value)}
        />
        <span className="quiet">
          Enter saves a row and goes to the next.{date < today && ' No time is needed: a blank one is that morning.'}
        </span>
      </div>
      {day?.date === date && day.sets.length > 0 && (
        <div className="sheet-row heads" aria-hidden="true">
          <span>set</span>
          <div className="entry">
            <div className="cells">
              <span>time</span>
              <span>found</span>
              <span className="story">whose, told by, from which side</span>
              <span>bed</span>
              <span>note</span>
            </div>
          </div>
        </div>
      )}
      {day?.sets.length === 0 && <p className="quiet">Nothing stood on this day.</p>}
      {day?.date === date &&
        day.sets.map((row) => (
          <div
            key={row.setId}
            className="sheet-row"
            ref={(el) => {
              if (el) rows.current.set(row.setId, el);
              else rows.current.delete(row.setId);
            }}
          >
            <Row
              view={view}
              day={day}
              row={row}
              odd={day.odd.filter((x) => x.setId === row.setId)}
              isToday={date === today}
              onKept={() => onward(row.setId)}
            />
          </div>
        ))}
      {day?.date === date &&
        day.odd
          .filter((odd) => day.sets.every((s) => s.setId !== odd.setId))
          .map((odd) => (
            <NotCounted key={odd.id} view={view} day={day} odd={odd} make={view.sets.find((s) => s.set.id === odd.setId)?.make} />
          ))}
      {day?.date === date && <DayActs view={view} day={day} />}
    </section>
  );
}

interface RowProps {
  view: LineNow;
  day: Day;
  row: OfDay;
  odd: Day['odd'];
  isToday: boolean;
  onKept: () => void;
}

/** A set on the sheet: what was noted of it on the day, and a row for what is not noted yet. */
function Row({ view, day, row, odd, isToday, onKept }: RowProps) {
  const set = view.sets.find((s) => s.set.id === row.setId);
  const spot = view.spots.find((s) => s.id === set?.set.spotId);
  const number = set?.set.number ?? 0;
  const [more, setMore] = useState(false);
  const entry = useRef<HTMLDivElement>(null);
  const { system } = useSettings();
  const { zone, id } = view.line;
  useEffect(() => {
    if (more) entry.current?.querySelector('input')?.focus();
  }, [more]);
  const open = (row.looks.length === 0 && odd.length === 0) || more;
  return (
    <>
      <Link className="which" to={`/line/${id}/round/${row.setId}`} tabIndex={-1}>
        <MarkIcon kind={markOf(row.make.layout)} />
        <b>{number}</b>
        <span>{spot?.name}</span>
      </Link>
      <div>
        {row.looks.length > 0 && !more && <div className="quiet">{standsWords(row.make, zone, system)}</div>}
        {row.looks.map((look) => (
          <Noted key={look.id} view={view} day={day} look={look} make={row.make} setId={row.setId} number={number} />
        ))}
        {odd.map((x) => (
          <NotCounted key={x.id} view={view} day={day} odd={x} make={row.make} />
        ))}
        {row.built.map((m) => (
          <div className="noted" key={m.id}>
            {clock(m.builtAt, zone)} <b>{m.follows === null ? 'built' : 'remade'}</b>
          </div>
        ))}
        {open ? (
          <div ref={entry}>
            <EntryRow view={view} day={day} row={row} isToday={isToday} number={number} onKept={onKept} />
          </div>
        ) : (
          <button type="button" className="word" onClick={() => setMore(true)}>
            another look
          </button>
        )}
      </div>
    </>
  );
}
