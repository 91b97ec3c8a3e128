import { useState } from 'react';
import { Link } from 'react-router';
import { PanScale } from '../draw/panscale';
import { coverWords } from '../lib/words/parts';
import { useBy, useRack, useTrapHistory } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { clock, day } from '../lib/words/time';
import type { Hung } from '../lib/ask/hung';
import type { Away, Change, LineView, TrapEvent } from '../lib/types.gen';
import { show, trim, type System } from '../lib/words/units';
import { anyWord, awayWord, findingWord, trapTypeWord } from '../lib/words/called';
import { capital, checkPart, hasJaws, listed, many, plural } from '../lib/words/words';
import { nameOf, say } from '../lib/words/inwords';
import { CheckForm } from './check';
import { gaugeWords, jawWords, oldWords, placeWords, readingTrouble, trapName, windowWords } from '../lib/words/traps';

/** A trap in the hand: what it is, where it is, what its pan measured, whether it is sound, and its story. */
export function TrapPanel({ h, view, onChange }: { h: Hung; view: LineView; onChange: () => void }) {
  const { system } = useSettings();
  const [checking, setChecking] = useState(false);
  return (
    <section>
      <h2>{trapName(h)}</h2>
      <p className="quiet">{build(h, system)}</p>
      <p>
        {placeWords(h.place, view)}
        {h.place.kind === 'set' && (
          <>
            {' '}
            <Link to={`/line/${view.line.id}/round/${h.place.setId}`}>see the set</Link>
          </>
        )}
      </p>
      {h.faults.length > 0 && (
        <p className="ember">
          <b>{h.place.kind === 'home' ? 'Kept home' : 'Faulty'}</b>:{' '}
          {h.faults.map((f) => `${checkPart(f.key)}${f.note ? `, ${f.note}` : ''}`).join('; ')}.
        </p>
      )}
      {checking ? (
        <CheckForm h={h} view={view} onDone={() => setChecking(false)} />
      ) : (
        <>
          {h.wanted && <Pan h={h} view={view} />}
          <div className="build">
            {h.wanted && (
              <Link className="btn btn-primary" to={`/line/${view.line.id}/shed/gauge/${h.trap.id}`}>
                Measure it
              </Link>
            )}
            <button type="button" className="word" onClick={() => setChecking(true)}>
              shed check
            </button>
            <button type="button" className="word" onClick={onChange}>
              change
            </button>
          </div>
          <Story h={h} view={view} />
        </>
      )}
    </section>
  );
}

/** What a trap is, in one line. */
function build(h: Hung, system: System): string {
  const t = h.trap;
  const parts = [
    `${trapTypeWord(t.type)}${hasJaws(t.type) ? `, ${jawWords(t, system)}, pan ${show('length', t.panDiameterMm, system)}` : ''}`,
    t.weightG > 0 ? show('weight', t.weightG, system) : '',
    t.chainMm > 0 ? `${show(t.chainMm > 1000 ? 'ground' : 'length', t.chainMm, system)} of chain` : '',
    many(t.swivels, 'swivel'),
    t.shockSpring ? 'shock spring' : '',
    t.tag ? `tag ${t.tag}` : 'no tag',
    (t.usual?.length ?? 0) > 0 ? 'not all measured yet, as usual for this size' : '',
  ];
  return `${capital(parts.filter(Boolean).join('; '))}.`;
}

function Pan({ h, view }: { h: Hung; view: LineView }) {
  const { system } = useSettings();
  const { tension, wanted } = h;
  if (!wanted) return null;
  const trouble = readingTrouble(h, system);
  return (
    <div className="notice">
      <svg viewBox="-10 -15 300 33" width="100%" role="img" aria-label="the pan's tension against its window">
        <PanScale width={270} {...wanted} meanN={tension?.meanN} sdN={tension?.sdN ?? 0} verdict={h.verdict} system={system} figures />
      </svg>
      {tension && (
        <div>
          <b>{show('force', tension.meanN, system)}</b>
          {tension.presses > 1 ? `, spread ${trim(tension.spread * 100, 0)} %, ${many(tension.presses, 'press')}` : ', one press'}
          {tension.covered && ' at the bed, the cover taken off,'} of {gaugeWords(tension.gauge)} on {day(tension.at, view.line.zone)}
          {tension.standIn && <span className="dun"> (a made-up gauge)</span>}.
        </div>
      )}
      {trouble && <div className={trouble.tone}>{capital(trouble.says)}.</div>}
      {tension && tension.old !== '' && h.verdict !== 'inside' && <div className="dun">It was measured {oldWords(tension.old)}.</div>}
      {h.turn !== '' && (
        <div>
          Turn it <b>{h.turn}</b>, about {show('force', h.turnN, system)} to the middle of the window.
        </div>
      )}
      <div className="quiet">
        For {plural(wanted.targets[0] ?? '')}, {coverWords(wanted.cover, system)} over it. {windowWords(wanted, system)}{' '}
        {h.trap.sparesBy === 'program' && wanted.spares.length > 0 && (
          <span className="dun">Whom it spares was set by the program, not by you.</span>
        )}
      </div>
    </div>
  );
}

/** Everything that happened to a trap, the newest first. */
function Story({ h, view }: { h: Hung; view: LineView }) {
  const { data: events } = useTrapHistory(h.trap.id);
  const { data: rack } = useRack();
  const { system } = useSettings();
  const by = useBy();
  if (!events || !rack) return null;
  return (
    <>
      <h3 className="above-10">Its story</h3>
      <ul className="rows story">
        {events.map((e, i) => (
          <li key={i}>
            <span className="quiet">
              {day(e.at, view.line.zone)}
              {e.kind === 'measured' ? ` ${clock(e.at, view.line.zone)}` : ''}
            </span>{' '}
            <Told event={e} view={view} system={system} />
            <span className="quiet">{by(e.who)}</span>
          </li>
        ))}
      </ul>
      {h.trap.note && <p className="quiet">{h.trap.note}</p>}
    </>
  );
}

/** The fields of a trap as a person says them. */
const fields: Record<string, string> = {
  number: 'number',
  size: 'size',
  jawSpreadMm: 'jaw spread',
  frameLengthMm: 'frame',
  setHeightMm: 'height when set',
  panDiameterMm: 'pan',
  weightG: 'weight',
  chainMm: 'chain',
  shockSpring: 'shock spring',
  meantFor: 'meant for',
  away: 'away',
};

const fieldWords = (field: string) => fields[field] ?? nameOf(field);

/** What was changed of a trap; who chose what its pan spares is told nowhere. */
function changeWords({ field, before, after }: Change, system: System): string {
  const said = (value: string) => (value === '' ? 'nothing' : field === 'away' ? awayWord(value as Away) : anyWord(say(value, system)));
  switch (field) {
    case 'deleted':
      return after === 'yes' ? 'taken off the rack' : 'back on the rack';
    case 'sparesBy':
      return '';
    case 'usual': {
      const [was, is] = [before, after].map((list) => list.split(', ').filter(Boolean)) as [string[], string[]];
      const measured = was.filter((one) => !is.includes(one)).map(fieldWords);
      const usual = is.filter((one) => !was.includes(one)).map(fieldWords);
      return [measured.length > 0 ? `measured ${listed(measured)}` : '', usual.length > 0 ? `taken as usual ${listed(usual)}` : '']
        .filter(Boolean)
        .join('; ');
    }
  }
  return `${fieldWords(field)} ${said(before)}, now ${said(after)}`;
}

function Told({ event, view, system }: { event: TrapEvent; view: LineView; system: System }) {
  const where = `set ${event.number}${event.spotId ? `, ${view.spots.find((s) => s.id === event.spotId)?.name ?? ''}` : ''}`;
  switch (event.kind) {
    case 'added':
      return <>added to the rack</>;
    case 'changed':
      return (
        <>
          {(event.changes ?? [])
            .map((c) => changeWords(c, system))
            .filter(Boolean)
            .join('; ')}
        </>
      );
    case 'checked': {
      const bad = event.check?.items.filter((i) => !i.sound) ?? [];
      const all = event.check?.items ?? [];
      if (bad.length > 0)
        return <span className="ember">{bad.map((i) => `${checkPart(i.key)} faulty${i.note ? `, ${i.note}` : ''}`).join('; ')}</span>;
      return <>{all.length > 3 ? 'checked, all ok' : all.map((i) => `${checkPart(i.key)} ok${i.note ? `, ${i.note}` : ''}`).join('; ')}</>;
    }
    case 'measured': {
      const m = event.measurement;
      if (!m) return null;
      return (
        <>
          measured <b>{show('force', event.meanN ?? 0, system)}</b> with {gaugeWords(m.gauge)}
          {m.turned !== 0 && `, after ${Math.abs(m.turned)} quarter turns ${m.turned > 0 ? 'tighter' : 'looser'}`}
          {m.standIn && ' (made up)'}
          {m.undoneAt && <span className="dun"> · undone</span>}
        </>
      );
    }
    case 'built':
      return <>out to {where}</>;
    case 'pulled':
      return <>back from {where}</>;
    case 'found':
      return (
        <>
          {where}, {findingWord(event.finding ?? '')}
        </>
      );
  }
  return null;
}
