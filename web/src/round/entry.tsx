import { draftOf, type Entry } from '../lib/kept/entry';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import Form from 'react-bootstrap/Form';
import { heldWords } from '../lib/words/parts';
import { Refused } from '../lib/ask/api';
import { nowISO, useNow } from '../lib/kept/clock';
import { useDraft } from '../lib/fields/draft';
import { problemWords } from '../lib/words/inwords';
import { useOnce } from '../lib/fields/once';
import { act, write } from '../lib/kept/outbox';
import type { LineNow } from '../lib/kept/overlay';
import { useSettings } from '../lib/settings';
import { day as dayShort } from '../lib/words/time';
import type { Day, FieldProblem, Make, Mend, OfDay, Visit } from '../lib/types.gen';
import type { System } from '../lib/words/units';
import { remadeAsItWas } from '../lib/kept/built';
import { ulid } from '../lib/ulid';
import { findingWord } from '../lib/words/called';
import { capital } from '../lib/words/words';
import { doubtWords } from './doubts';
import { LookCells, MoreOfLook } from './lookfields';
import { newLook } from './looks';
import { missingOf } from './missing';
import { hasTime, thatMorning, timeOn, timeWords, type When } from '../lib/words/when';

const emptyEntry = (line: string, makeId: string): Entry => ({ time: '', look: newLook(line, makeId), remade: false });

/** How a set is rigged, and since when it stands. */
export function standsWords(make: Make, zone: string, system: System): string {
  const held = heldWords(make.layout, system);
  const says = held.map((h) => `${h.drag ? 'drag, ' : ''}${h.says}`);
  const rigged =
    new Set(says).size === 1
      ? `${says.length > 1 ? 'each ' : ''}${says[0] ?? ''}`
      : held.map((h, i) => `${h.name}, ${says[i] ?? ''}`).join('; ');
  return `${rigged} · since ${dayShort(make.builtAt, zone)}`;
}

/** What a form found wrong with itself, or the program with it; the first such field takes the focus. */
function useProblems() {
  const box = useRef<HTMLDivElement>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  useEffect(() => {
    if (problems.length > 0) box.current?.querySelector<HTMLElement>('.is-invalid')?.focus();
  }, [problems]);
  return { box, problems, setProblems };
}

/** What the program objected to; nothing where it was not asked. */
const refusalOf = (error: unknown): FieldProblem[] =>
  error instanceof Refused ? (error.problem.fields ?? [{ field: 'version', says: error.problem.detail }]) : [];

/** What is wrong with a row, in words, under it. */
function Wrong({ problems }: { problems: FieldProblem[] }) {
  const { system } = useSettings();
  if (problems.length === 0) return null;
  return (
    <div className="wrong" role="alert">
      {[...new Set(problems.map((p) => problemWords(p, system)))].join('. ')}.
    </div>
  );
}

/** A catch names whose it was by itself: it was seen. */
const told = (look: Visit): Visit => {
  const species = look.finding === 'catch' ? look.catches[0]?.species : undefined;
  return { ...look, ...(species && { animal: species, by: 'seen' }), catches: look.catches.map((c) => ({ ...c, id: c.id || ulid() })) };
};

interface EntryProps {
  view: LineNow;
  day: Day;
  row: OfDay;
  isToday: boolean;
  number: number;
  onKept: () => void;
}

/** A row of the sheet for a look that is not noted yet. */
export function EntryRow({ view, day, row, isToday, number, onKept }: EntryProps) {
  const { system } = useSettings();
  const now = useNow();
  const { id: line, zone } = view.line;
  const [entry, setEntry, clear] = useDraft<Entry>(draftOf(day.date, row.setId), () => emptyEntry(line, row.make.id));
  const { box, problems, setProblems } = useProblems();
  const { look } = entry;
  const bead = view.sets.find((s) => s.set.id === row.setId)?.bead;
  const sought = bead?.state === 'sought' || row.looks.some((v) => v.finding === 'gone' || v.rigs.some((r) => r.state === 'gone'));
  const touched = look.finding !== '' || entry.remade || entry.time !== '';
  const when = (): When => {
    if (entry.time.trim() !== '') return timeOn(entry.time, day.date, zone, now);
    return isToday ? { at: now, timed: true } : { at: thatMorning(day, row.setId, row.make, now), timed: false };
  };
  const save = useOnce(async () => {
    if (!touched) {
      onKept();
      return true;
    }
    const at = when();
    const missing = missingOf(look);
    if ('wrong' in at || missing.length > 0) {
      setProblems(['wrong' in at ? { field: 'at', says: at.wrong } : [], missing].flat());
      return false;
    }
    const id = ulid();
    const visit: Visit = { ...told(look), id, makeId: row.make.id, at: at.at, ...(!at.timed && { timed: false }) };
    // The hand goes on at once. The row still holds what is refused: it is mended here, and nothing of it stands aside.
    onKept();
    try {
      await write(`/lines/${line}/visits/${id}`, visit, `set ${number}, ${findingWord(look.finding)}`, { set: row.setId });
    } catch (error) {
      setProblems(refusalOf(error));
      return false;
    }
    if (entry.remade) await remake(view, row.make, at.at, now, number);
    clear();
    setEntry(emptyEntry(line, row.make.id));
    setProblems([]);
    return true;
  });
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' || e.target instanceof HTMLButtonElement) return;
    e.preventDefault();
    void save();
  };
  const set = (change: Partial<Entry>) => {
    setEntry({ ...entry, ...change });
    if (problems.length > 0) setProblems([]);
  };
  const onLook = (change: Partial<Visit>) => set({ look: { ...look, ...change } });
  return (
    <div className="entry" onKeyDown={onKeyDown} ref={box}>
      <div className="cells">
        <Form.Control
          aria-label={`set ${number}, time`}
          placeholder={isToday ? 'now' : 'morning'}
          autoComplete="off"
          isInvalid={problems.some((p) => p.field === 'at')}
          value={entry.time}
          onChange={(e) => set({ time: e.target.value })}
        />
        <LookCells look={look} make={row.make} problems={problems} onLook={onLook} stands={standsWords(row.make, zone, system)} />
        <Form.Check id={`remade-${row.setId}`} label="remade" checked={entry.remade} onChange={(e) => set({ remade: e.target.checked })} />
        <button type="button" className="word" onClick={() => void save()} disabled={!touched}>
          save
        </button>
      </div>
      {look.finding !== '' && <MoreOfLook look={look} problems={problems} onLook={onLook} />}
      {look.finding !== '' && <Doubt words={doubtWords(look, row.make, sought)} onLook={onLook} />}
      <Wrong problems={problems} />
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
  await act(`/lines/${view.line.id}/makes/${id}`, remadeAsItWas(before, id, builtAt), `set ${number} remade`, { set: before.setId });
}

interface MendProps {
  view: LineNow;
  day: Day;
  look: Visit;
  /** What stood then, as far as it is known here. */
  make: Make | undefined;
  setId: string;
  number: number;
  onDone: () => void;
}

/** A look corrected: what it says instead, and why. */
export function MendRow({ view, day, look, make, setId, number, onDone }: MendProps) {
  const clockNow = useNow();
  const { zone } = view.line;
  const [now, setNow] = useState(look);
  const before = hasTime(look) ? timeWords(look, zone) : '';
  const [time, setTime] = useState(before);
  const [on, setOn] = useState(day.date);
  const [reason, setReason] = useState('');
  const { box, problems, setProblems } = useProblems();
  const when = (): When => {
    if (time === before && on === day.date) return { at: look.at, timed: hasTime(look) };
    if (time.trim() === '' && on === day.date && make) return { at: thatMorning(day, setId, make, clockNow), timed: false };
    return timeOn(time, on, zone, clockNow);
  };
  const save = useOnce(async () => {
    const at = when();
    const missing = missingOf(now);
    if ('wrong' in at || missing.length > 0) {
      setProblems(['wrong' in at ? { field: 'at', says: at.wrong } : [], missing].flat());
      return false;
    }
    const id = ulid();
    const visit: Visit = { ...told(now), at: at.at, timed: at.timed ? undefined : false };
    const mend: Mend = { id, lineId: view.line.id, visitId: look.id, at: nowISO(), reason, visit, before: null };
    try {
      await write(`/lines/${view.line.id}/mends/${id}`, mend, `set ${number} corrected`, { set: setId });
    } catch (error) {
      setProblems(refusalOf(error));
      return false;
    }
    onDone();
    return true;
  });
  const onLook = (change: Partial<Visit>) => {
    setNow({ ...now, ...change });
    if (problems.length > 0) setProblems([]);
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key === 'Escape') onDone();
    if (e.key !== 'Enter' || e.target instanceof HTMLButtonElement) return;
    e.preventDefault();
    void save();
  };
  return (
    <div className="entry mend" ref={box} onKeyDown={onKeyDown}>
      <div className="cells">
        <Form.Control
          aria-label="time, corrected"
          placeholder="morning"
          autoFocus
          isInvalid={problems.some((p) => p.field === 'at')}
          value={time}
          onChange={(e) => setTime(e.target.value)}
        />
        <LookCells look={now} make={make} problems={problems} onLook={onLook} />
      </div>
      <MoreOfLook look={now} problems={problems} onLook={onLook} />
      {make && <Doubt words={doubtWords(now, make, true)} onLook={onLook} />}
      <div className="more">
        <Form.Control type="date" className="day" aria-label="day, corrected" value={on} onChange={(e) => setOn(e.target.value)} />
        <Form.Control
          aria-label="reason"
          placeholder="why; may be left blank on the day of entry"
          isInvalid={problems.some((p) => p.field === 'reason')}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
        <button type="button" className="word" onClick={() => void save()}>
          save
        </button>
        <button type="button" className="word" onClick={onDone}>
          cancel
        </button>
      </div>
      <Wrong problems={problems} />
    </div>
  );
}
