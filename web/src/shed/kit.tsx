import { Unread } from '../lib/ask/unread';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useSearchParams } from 'react-router';
import { nowISO } from '../lib/kept/clock';
import { useKept, write } from '../lib/kept/outbox';
import { liesOver, type Read } from '../lib/kept/overlay';
import { useKit, useLine, useRack } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { date, longDay } from '../lib/words/time';
import type { Rack } from '../lib/ask/hung';
import type { Item, Kit, KitMark, LineView, Mark } from '../lib/types.gen';
import { in100, show, showAbout, trim, type System, duration } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { animalWord, anyWord } from '../lib/words/called';
import { capital, count, many } from '../lib/words/words';
import { faultWords, placeShort, readingTrouble, sizeWords } from '../lib/words/traps';
import { ShedHead } from './shed';

const groups: [key: string, title: string][] = [
  ['traps', 'Traps'],
  ['anchors', 'Anchors'],
  ['bedding', 'Bedding'],
  ['pan_covers', 'Pan covers'],
  ['parts', 'Small things'],
  ['smells', 'Lure, bait, urine'],
  ['tools', 'Tools'],
  ['batteries', 'To charge'],
  ['spares', 'Spares'],
  ['fetch', 'To fetch'],
  ['own', 'Always along'],
];

const dayAfter = (iso: string) => new Date(Date.parse(iso + 'T12:00:00Z') + 86_400_000).toISOString().slice(0, 10);

/** What to take along this morning or tomorrow: computed from the plan, ticked and printed. */
export function KitPage() {
  const { data: view } = useLine();
  const { data: rack } = useRack();
  const [params] = useSearchParams();
  if (!view || !rack) return <Unread />;
  const today = date(view.now, view.line.zone);
  const day = params.get('day') === today ? today : dayAfter(today);
  return <OfDay key={day} view={view} rack={rack} day={day} />;
}

function OfDay({ view, rack, day }: { view: LineView; rack: Rack; day: string }) {
  const { data: kit } = useKit(day);
  if (!kit) return <Unread />;
  return <Open view={view} rack={rack} day={day} kit={kit} />;
}

interface Props {
  view: LineView;
  rack: Rack;
  day: string;
  kit: Read<Kit>;
}

/** What is said of things on the list, kept in this browser until the program has taken it, and shown at once. */
function useMarks(view: LineView, askedMs: number) {
  const kept = useKept()
    .filter((k) => k.path.startsWith(`/lines/${view.line.id}/kit/`) && liesOver(k, askedMs))
    .map((k) => k.body as KitMark);
  const put = (day: string, key: string, mark: Mark, on: boolean) => {
    const body: KitMark = { id: ulid(), lineId: view.line.id, day, key, mark, on, at: nowISO() };
    return write(`/lines/${view.line.id}/kit/${body.id}`, body, `${key} ${on ? '' : 'not '}${mark}`);
  };
  const waiting = (day: string, key: string, mark: Mark) =>
    kept.filter((m) => m.day === day && m.key === key && m.mark === mark).at(-1)?.on;
  return { put, waiting };
}

function Open({ view, rack, day, kit }: Props) {
  const { system } = useSettings();
  const marks = useMarks(view, kit.askedMs);
  const today = date(view.now, view.line.zone);
  const packed = (x: Item) => marks.waiting(day, x.key, 'packed') ?? x.packed;
  const left = kit.items.filter((x) => !packed(x)).length;
  return (
    <main className="page shed-page kit-page">
      <ShedHead>
        <span className="on-paper">{view.line.name}, kit for </span>
        {longDay(day + 'T12:00:00Z', 'UTC')}.{' '}
        <Link className="no-print" to={day === today ? '?' : `?day=${today}`}>
          {day === today ? 'for tomorrow' : 'for this morning'}
        </Link>
        . {left === 0 ? 'Everything is packed.' : `${capital(count(left))} of ${count(kit.items.length)} still to pack.`}
      </ShedHead>
      <div className="kit">
        {groups.map(([key, title]) => {
          const items = kit.items.filter((x) => x.group === key).sort((a, b) => Number(b.forgot !== '') - Number(a.forgot !== ''));
          if (items.length === 0 && key !== 'own') return null;
          return (
            <section key={key}>
              <h3>{title}</h3>
              <ul>
                {items.map((x) => (
                  <li key={x.key} className={packed(x) ? 'packed' : undefined}>
                    <Form.Check
                      id={`kit-${x.key}`}
                      checked={packed(x)}
                      onChange={(e) => void marks.put(day, x.key, 'packed', e.target.checked)}
                      label={<Line x={x} view={view} rack={rack} system={system} />}
                    />
                    <Say x={x} today={today} marks={marks} />
                  </li>
                ))}
              </ul>
              {key === 'own' && <AddOwn day={today} marks={marks} />}
            </section>
          );
        })}
      </div>
      <aside>
        <PlanOf view={view} kit={kit} day={day} marks={marks} />
        <div className="build no-print">
          <Button onClick={() => window.print()}>Print the list</Button>
        </div>
      </aside>
    </main>
  );
}

type Marks = ReturnType<typeof useMarks>;

const trapWords = (x: Item, system: System): string =>
  x.what.endsWith('_loop')
    ? `A ${anyWord(x.what)} of ${showAbout('length', x.lengthMm, system)}`
    : `A trap of about ${showAbout('length', x.lengthMm, system)}`;

/** A thing on the list, in one line. */
function Line({ x, view, rack, system }: { x: Item; view: LineView; rack: Rack; system: System }) {
  const h = rack.traps.find((one) => one.trap.id === x.trapId);
  const spot = view.spots.find((s) => s.id === x.spotId)?.name;
  const times = x.count > 1 ? `${trim(x.count, 1)} × ` : '';
  const forgot = x.forgot !== '' && <b className="ember"> · forgot last time</b>;
  switch (x.group) {
    case 'fetch':
      return (
        <>
          {x.what === 'trap' ? <b>{h ? `Trap ${h.trap.number}` : 'The trap'}</b> : `the ${anyWord(x.what)}`}, it was frozen in
          {spot && ` at ${spot}`}
        </>
      );
    case 'traps':
      return (
        <>
          {h ? <b>Trap {h.trap.number}</b> : <b>{trapWords(x, system)}</b>}
          {h && `, ${sizeWords(h.trap.size)}`}
          {x.what === 'spare_trap' ? ', spare' : spot ? ` for ${spot}` : ''}
          {x.lack === 'none_fit' && <span className="ember"> · none on the rack is sound and free</span>}
          {x.lack === 'not_fit' && h && <span className="ember"> · {placeShort(h.place) || `kept home, ${faultWords(h)}`}</span>}
          {x.lack === 'twice' && <span className="ember"> · another set on the bench names it too</span>}
          {h && x.lack === '' && <TroubleOf trouble={readingTrouble(h, system)} />}
          {forgot}
        </>
      );
    case 'anchors':
      return (
        <>
          {times}
          {anyWord(x.what)}
          {x.lengthMm > 0 && `, ${showAbout('length', x.lengthMm, system)}`}
          {forgot}
        </>
      );
    case 'bedding':
      return (
        <>
          {anyWord(x.what)}: <b>{show('bulk', x.litres * 1000, system)}</b>, {show('weight', x.kg * 1000, system)}
          {forgot}
        </>
      );
    case 'pan_covers':
      return (
        <>
          {times}
          {anyWord(x.what)} {show('length', x.lengthMm, system)} across
          {forgot}
        </>
      );
    case 'smells':
      return (
        <>
          {x.what}: <b>{many(x.count, 'dose')}</b>
          {x.lack === 'too_few' && <span className="ember"> · {x.have > 0 ? `only ${trim(x.have, 0)} left` : 'none left'}</span>}
          {x.lack === 'not_on' && <span className="dun"> · not on the shelf</span>}
          {x.lack === 'would_ice' && <span className="ember"> · it would freeze</span>}
          {forgot}
        </>
      );
  }
  return (
    <>
      {anyWord(x.what)}
      {forgot}
    </>
  );
}

function TroubleOf({ trouble }: { trouble: ReturnType<typeof readingTrouble> }) {
  return trouble && <span className={trouble.tone}> · {trouble.says}</span>;
}

/** What can be said of a thing beside that it is packed. */
function Say({ x, today, marks }: { x: Item; today: string; marks: Marks }) {
  if (x.group === 'own') {
    return (
      <button type="button" className="word no-print" onClick={() => void marks.put(today, x.key, 'own', false)}>
        remove
      </button>
    );
  }
  if (x.group === 'traps' || x.group === 'fetch') return null;
  const said = marks.waiting(today, x.key, 'forgot') ?? x.forgot !== '';
  return (
    <button
      type="button"
      className="word no-print"
      onClick={() => void marks.put(said && x.forgot !== '' ? x.forgot : today, x.key, 'forgot', !said)}
    >
      {said ? 'clear' : 'mark as forgotten last time'}
    </button>
  );
}

function AddOwn({ day, marks }: { day: string; marks: Marks }) {
  const [name, setName] = useState('');
  return (
    <form
      className="own no-print"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() === '') return;
        void marks.put(day, name.trim(), 'own', true).then(() => setName(''));
      }}
    >
      <Form.Control
        aria-label="a thing of your own"
        placeholder="a thing of your own"
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <button type="submit" className="word">
        always take it
      </button>
    </form>
  );
}

/** Up to so many looks the trade's habit says more than the record. */
const fewLooks = 10;

/** What the list is computed from; a set can be left for later. */
function PlanOf({ view, kit, day, marks }: { view: LineView; kit: Kit; day: string; marks: Marks }) {
  const { plan } = kit;
  const spot = (id: string) => view.spots.find((s) => s.id === id)?.name ?? '';
  const setOf = (id: string) => view.sets.find((s) => s.set.id === id)?.set.number ?? '';
  // In running order, as they are met.
  const order = view.round.map((stop) => stop.setId);
  const waiting = [...plan.waiting].sort((a, b) => order.indexOf(a.setId) - order.indexOf(b.setId));
  return (
    <section>
      <h2>The plan</h2>
      <ul className="rows">
        {plan.builds.map((d) => (
          <li key={d.id}>
            Build at <b>{spot(d.spotId)}</b> <span className="quiet">for {animalWord(d.target)}</span>{' '}
            <button type="button" className="word no-print" onClick={() => void marks.put(day, `design:${d.id}`, 'later', true)}>
              later
            </button>
          </li>
        ))}
        {plan.later.map((d) => (
          <li key={d.id} className="quiet">
            Later: {spot(d.spotId)}{' '}
            <button type="button" className="word no-print" onClick={() => void marks.put(day, `design:${d.id}`, 'later', false)}>
              do it
            </button>
          </li>
        ))}
        {waiting.map((m) => (
          <li key={m.id}>
            Remake <b>set {setOf(m.setId)}</b>
          </li>
        ))}
        <li>
          {plan.looks === 0 ? 'No set stands to be looked at' : capital(many(plan.looks, 'look'))}
          {plan.looks > 0 && plan.expect > 0 && `, and ${many(plan.expect, 'remake')} more to expect`}.
          {plan.looks > 0 && plan.expect > 0 && (
            <span className="quiet">
              {' '}
              {plan.seen < fewLooks ? 'By the habit of the trade' : `By ${many(plan.seen, 'look')} of your record`} about{' '}
              {in100(plan.share)} in 100 looks end in a remake.
            </span>
          )}
        </li>
        {kit.minutes > 0 && <li>About {duration(kit.minutes)} of work at the sets, without the way to them</li>}
      </ul>
      {plan.builds.length + plan.later.length === 0 && (
        <p className="quiet no-print">
          No new set is designed. <Link to={`/line/${view.line.id}/bench`}>Design one on the bench</Link>, and what it takes is listed here.
        </p>
      )}
      <p className="quiet">
        Counted: fill and cover for each new bed, bait for each remake, one spare of what breaks. Leave a plan of the round with somebody.
      </p>
    </section>
  );
}
