import { useRef, useState, type KeyboardEvent } from 'react';
import Form from 'react-bootstrap/Form';
import { Link, useSearchParams } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { heldWords, markOf } from '../draw/parts';
import { useNow } from '../lib/clock';
import { useDraft } from '../lib/draft';
import { say } from '../lib/fields';
import { useOnce } from '../lib/once';
import { Refused } from '../lib/api';
import { act, write } from '../lib/outbox';
import type { LineNow } from '../lib/overlay';
import { useDay, useMends } from '../lib/queries';
import { useSettings } from '../lib/settings';
import { clock, date as dateOf, day as dayShort, instant, longDay } from '../lib/time';
import type { Make, Mend, Odd, OfDay, Visit } from '../lib/types.gen';
import type { System } from '../lib/units';
import { ulid } from '../lib/ulid';
import { capital, word } from '../lib/words';
import { DayActs } from './dayacts';
import { LookCells, MoreOfLook } from './lookfields';
import { whys } from '../lib/uncounted';
import { doubtWords } from './doubts';
import { newLook } from './looks';
import { whoseWords } from './says';

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
        <span className="quiet">Enter keeps a row and goes to the next.</span>
      </div>
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
              row={row}
              odd={day.odd.filter((x) => x.setId === row.setId)}
              date={date}
              isToday={date === today}
              onKept={() => onward(row.setId)}
            />
          </div>
        ))}
      {day?.date === date &&
        day.odd
          .filter((odd) => day.sets.every((s) => s.setId !== odd.setId))
          .map((odd) => (
            <NotCounted key={odd.id} view={view} odd={odd} make={view.sets.find((s) => s.set.id === odd.setId)?.make} date={date} />
          ))}
      {day?.date === date && <DayActs view={view} day={day} />}
    </section>
  );
}

/** A look that is kept and counts for nothing, with the reason: it can be put right. */
function NotCounted({ view, odd, make, date }: { view: LineNow; odd: Odd; make: Make | undefined; date: string }) {
  const [mending, setMending] = useState(false);
  return (
    <div className="noted">
      {clock(odd.at, view.line.zone)} set {odd.number}: <b>{word(odd.finding ?? '')}</b>; kept, but not counted:{' '}
      <span className="dun">{whys[odd.why]}</span>{' '}
      {!mending && odd.visit && (
        <button type="button" className="word" onClick={() => setMending(true)}>
          put it right
        </button>
      )}
      {mending && odd.visit && (
        <MendRow view={view} look={odd.visit} make={make} number={odd.number} date={date} onDone={() => setMending(false)} />
      )}
    </div>
  );
}

/** How a set is rigged, and since when it stands. */
function standsWords(make: Make, zone: string, system: System): string {
  const held = heldWords(make.layout, system);
  const says = held.map((h) => `${h.drag ? 'drag, ' : ''}${h.says}`);
  const rigged =
    new Set(says).size === 1
      ? `${says.length > 1 ? 'each: ' : ''}${says[0] ?? ''}`
      : held.map((h, i) => `${h.name}: ${says[i] ?? ''}`).join('; ');
  return `${rigged} · since ${dayShort(make.builtAt, zone)}`;
}

interface Entry {
  time: string;
  look: Visit;
  remade: boolean;
}

interface RowProps {
  view: LineNow;
  row: OfDay;
  date: string;
  isToday: boolean;
  onKept: () => void;
}

function Row({ view, row, odd, date, isToday, onKept }: RowProps & { odd: Odd[] }) {
  const set = view.sets.find((s) => s.set.id === row.setId);
  const spot = view.spots.find((s) => s.id === set?.set.spotId);
  const [more, setMore] = useState(false);
  const { system } = useSettings();
  const { zone } = view.line;
  return (
    <>
      <Link className="which" to={`/line/${view.line.id}/round/${row.setId}`}>
        <MarkIcon kind={markOf(row.make.layout)} />
        <b>{set?.set.number}</b>
        <span>{spot?.name}</span>
      </Link>
      <div>
        {row.looks.length > 0 && !more && <div className="quiet">{standsWords(row.make, view.line.zone, system)}</div>}
        {row.looks.map((look) => (
          <Noted key={look.id} view={view} look={look} make={row.make} number={set?.set.number ?? 0} date={date} />
        ))}
        {odd.map((x) => (
          <NotCounted key={x.id} view={view} odd={x} make={row.make} date={date} />
        ))}
        {row.built.map((m) => (
          <div className="noted" key={m.id}>
            {clock(m.builtAt, zone)} <b>{m.follows === null ? 'built' : 'remade'}</b>
          </div>
        ))}
        {(row.looks.length === 0 && odd.length === 0) || more ? (
          <EntryRow view={view} row={row} date={date} isToday={isToday} number={set?.set.number ?? 0} onKept={onKept} />
        ) : (
          <button type="button" className="word" onClick={() => setMore(true)}>
            another look
          </button>
        )}
      </div>
    </>
  );
}

/** A time as it is typed in a hurry: 7:05, 705, 0705, 7. */
function timeOf(typed: string): string | null {
  const [, hours, minutes] = /^(\d{1,2})(?:[:.]?(\d\d))?$/.exec(typed.trim()) ?? [];
  if (hours === undefined || Number(hours) > 23 || Number(minutes ?? 0) > 59) return null;
  return `${hours.padStart(2, '0')}:${minutes ?? '00'}`;
}

/** How far a typed time may lie ahead of the program's clock: two clocks never agree to the minute. */
const aheadMs = 2 * 60_000;

/** When a look was, by what was typed on a day: now where nothing was typed today; else why it cannot be told, or cannot have been. */
function whenOf(typed: string, date: string, zone: string, now: string, isToday: boolean): { at: string } | { wrong: string } {
  if (typed.trim() === '' && isToday) return { at: now };
  const time = timeOf(typed);
  if (time === null)
    return { wrong: `time: ${typed.trim() === '' ? 'is missing: when was the look' : 'cannot be read: write one such as 7:05'}` };
  const at = instant(`${date}T${time}`, zone);
  if (Number.isNaN(at)) return { wrong: 'time: does not exist on that day: the clocks went ahead over it' };
  if (at > Date.parse(now) + aheadMs)
    return { wrong: `time: ${time} still lies ahead: it is ${clock(now, zone)} on ${longDay(now, zone)}. Write when the look was` };
  return { at: new Date(at).toISOString() };
}

/** The sentences of a problem with its fields. */
const inWords = (problem: { detail: string }) => problem.detail;

const emptyEntry = (line: string, makeId: string): Entry => ({ time: '', look: newLook(line, makeId), remade: false });

function EntryRow({ view, row, date, isToday, number, onKept }: RowProps & { number: number }) {
  const { system } = useSettings();
  const now = useNow();
  const line = view.line.id;
  const [entry, setEntry, clear] = useDraft<Entry>(`sheet:${date}:${row.setId}`, () => emptyEntry(line, row.make.id));
  const [wrong, setWrong] = useState('');
  const { look } = entry;
  const bead = view.sets.find((s) => s.set.id === row.setId)?.bead;
  const sought = bead?.state === 'sought' || row.looks.some((v) => v.finding === 'gone' || v.rigs.some((r) => r.state === 'gone'));
  const touched = look.finding !== '' || entry.remade || entry.time !== '';
  const keep = useOnce(async () => {
    if (!touched) {
      onKept();
      return true;
    }
    const when = whenOf(entry.time, date, view.line.zone, now, isToday);
    if ('wrong' in when || look.finding === '') {
      setWrong('wrong' in when ? when.wrong : 'found: is missing: choose what was found');
      return false;
    }
    const id = ulid();
    const visit: Visit = {
      ...look,
      id,
      makeId: row.make.id,
      at: when.at,
      catches: look.catches.map((c) => ({ ...c, id: c.id || ulid() })),
    };
    // The row still holds what is refused: it is mended here, and nothing of it stands aside.
    try {
      await write(`/lines/${line}/visits/${id}`, visit, `set ${number}: ${word(look.finding)}`, { set: row.setId });
    } catch (error) {
      setWrong(error instanceof Refused ? inWords(error.problem) : '');
      return false;
    }
    if (entry.remade) await remake(view, row.make, when.at, now, number);
    clear();
    setEntry(emptyEntry(line, row.make.id));
    setWrong('');
    onKept();
    return true;
  });
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' || e.target instanceof HTMLButtonElement) return;
    e.preventDefault();
    void keep();
  };
  const set = (change: Partial<Entry>) => {
    setEntry({ ...entry, ...change });
    setWrong('');
  };
  return (
    <div className="entry" onKeyDown={onKeyDown}>
      <div className="cells">
        <Form.Control
          aria-label={`set ${number}, time`}
          placeholder={isToday ? 'now' : 'time'}
          autoComplete="off"
          value={entry.time}
          onChange={(e) => set({ time: e.target.value })}
        />
        <LookCells
          look={look}
          onLook={(change) => set({ look: { ...look, ...change } })}
          stands={standsWords(row.make, view.line.zone, system)}
        />
        <Form.Check id={`remade-${row.setId}`} label="remade" checked={entry.remade} onChange={(e) => set({ remade: e.target.checked })} />
        <button type="button" className="word" onClick={() => void keep()} disabled={!touched}>
          keep
        </button>
      </div>
      {look.finding !== '' && <MoreOfLook look={look} onLook={(change) => set({ look: { ...look, ...change } })} />}
      {look.finding !== '' && (
        <Doubt words={doubtWords(look, row.make, sought)} onLook={(change) => set({ look: { ...look, ...change } })} />
      )}
      {wrong && (
        <div className="wrong" role="alert">
          {capital(say(wrong, system))}
        </div>
      )}
    </div>
  );
}

/** What cannot be so as it was entered, said before it is kept; what it says trap by trap can be dropped. */
function Doubt({ words, onLook }: { words: string; onLook: (change: Partial<Visit>) => void }) {
  if (words === '') return null;
  return (
    <div className="ember" role="status">
      {capital(words)}.{' '}
      <button type="button" className="word" onClick={() => onLook({ rigs: [] })}>
        leave out what it says trap by trap
      </button>
    </div>
  );
}

/** A remake takes about so long; it is not later than now. */
const remakeMs = 10 * 60_000;

async function remake(view: LineNow, before: Make, at: string, now: string, number: number) {
  const id = ulid();
  const builtAt = new Date(Math.max(Date.parse(at), Math.min(Date.parse(at) + remakeMs, Date.parse(now)))).toISOString();
  const make: Make = { ...before, id, follows: null, builtAt, pulledAt: null, flags: '', undoneAt: null };
  await act(`/lines/${view.line.id}/makes/${id}`, make, `set ${number} remade`, { set: make.setId });
}

/** What was noted of a set, in one line; it can be put right, with the reason. */
function Noted({ view, look, make, number, date }: { view: LineNow; look: Visit; make: Make; number: number; date: string }) {
  const [mending, setMending] = useState(false);
  const { zone } = view.line;
  const held = look.catches.map((c) => [word(c.species), c.sex, c.foot && word(c.foot), c.hold && word(c.hold)].filter(Boolean).join(', '));
  const also = look.also.map((f) => `${word(f.finding)}${whoseWords(f)}`);
  const rest = [look.side && `from the ${word(look.side)}`, look.bed && `bed ${word(look.bed)}`, look.note].filter(Boolean);
  return (
    <div className="noted">
      {clock(look.at, zone)} <b>{word(look.finding)}</b>
      {held.length > 0 ? `: ${held.join('; ')}` : whoseWords(look)}
      {also.length > 0 && `; also ${also.join('; ')}`}
      {rest.length > 0 && <span className="quiet">; {rest.join('; ')}</span>}{' '}
      {!mending && (
        <button type="button" className="word" onClick={() => setMending(true)}>
          put it right
        </button>
      )}
      {look.mendedAt !== null && <Before view={view} look={look} />}
      {mending && <MendRow view={view} look={look} make={make} number={number} date={date} onDone={() => setMending(false)} />}
    </div>
  );
}

/** What stood before a look was put right. */
function Before({ view, look }: { view: LineNow; look: Visit }) {
  const { data: mends } = useMends(look.id);
  const { zone } = view.line;
  return mends?.map((m) => (
    <div className="quiet" key={m.id}>
      Put right on {longDay(m.at, zone)}: {m.reason}. Before it said{' '}
      {m.before ? `${clock(m.before.at, zone)} ${word(m.before.finding)}` : ''}
      {m.before?.catches.map((c) => `, ${word(c.species)}`).join('')}
      {m.before && whoseWords(m.before)}.
    </div>
  ));
}

interface MendProps {
  view: LineNow;
  look: Visit;
  /** What stood then, as far as it is known here. */
  make: Make | undefined;
  number: number;
  date: string;
  onDone: () => void;
}

function MendRow({ view, look, make, number, date, onDone }: MendProps) {
  const { system } = useSettings();
  const clockNow = useNow();
  const [now, setNow] = useState(look);
  const [time, setTime] = useState(clock(look.at, view.line.zone));
  const [on, setOn] = useState(date);
  const [reason, setReason] = useState('');
  const [wrong, setWrong] = useState('');
  const keep = useOnce(async () => {
    const when =
      time === clock(look.at, view.line.zone) && on === date ? { at: look.at } : whenOf(time, on, view.line.zone, clockNow, false);
    if ('wrong' in when) {
      setWrong(when.wrong);
      return false;
    }
    if (reason.trim() === '') {
      setWrong('reason: is missing: say why, so that it can be followed later');
      return false;
    }
    const id = ulid();
    const visit = { ...now, at: when.at, catches: now.catches.map((c) => ({ ...c, id: c.id || ulid() })) };
    const mend: Mend = { id, lineId: view.line.id, visitId: look.id, at: new Date().toISOString(), reason, visit, before: null };
    try {
      await write(`/lines/${view.line.id}/mends/${id}`, mend, `set ${number} put right`, { set: make?.setId ?? '' });
    } catch (error) {
      setWrong(error instanceof Refused ? inWords(error.problem) : '');
      return false;
    }
    onDone();
    return true;
  });
  const onLook = (change: Partial<Visit>) => setNow({ ...now, ...change });
  return (
    <div className="entry mend">
      <div className="cells">
        <Form.Control aria-label="time, put right" value={time} onChange={(e) => setTime(e.target.value)} />
        <LookCells look={now} onLook={onLook} />
      </div>
      <MoreOfLook look={now} onLook={onLook} />
      {make && <Doubt words={doubtWords(now, make, true)} onLook={onLook} />}
      <div className="more">
        <Form.Control type="date" className="day" aria-label="day, put right" value={on} onChange={(e) => setOn(e.target.value)} />
        <Form.Control aria-label="reason" placeholder="why it is put right" value={reason} onChange={(e) => setReason(e.target.value)} />
        <button type="button" className="word" onClick={() => void keep()}>
          keep it so
        </button>
        <button type="button" className="word" onClick={onDone}>
          leave it
        </button>
      </div>
      {wrong && (
        <div className="wrong" role="alert">
          {capital(say(wrong, system))}
        </div>
      )}
    </div>
  );
}
