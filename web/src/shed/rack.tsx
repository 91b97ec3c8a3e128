import { Plans } from '../lib/ask/may';
import { Unread } from '../lib/ask/unread';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { RackDrawing, type Hanging } from '../draw/rack';
import { useChanges, type Changes } from '../lib/ask/change';
import { useNarrow } from '../lib/narrow';
import { useLine, useRack } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import type { Hung, Rack } from '../lib/ask/hung';
import type { LineView, PlaceKind } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';
import { capital, checkPart, count } from '../lib/words/words';
import { BringTraps } from './bring';
import { placeShort, readingTrouble, trapName } from '../lib/words/traps';
import { Beside, ShedHead } from './shed';
import { TrapForm } from './trapform';
import { TrapPanel } from './trap';

/** The rack: every trap on its nail, and beside it the one that is in the hand. */
export function RackPage() {
  const { data: view } = useLine();
  const { data: rack } = useRack();
  if (!view || !rack) return <Unread />;
  return <Open view={view} rack={rack} />;
}

/** How a trap hangs on the drawing. */
function hanging(h: Hung, system: System): Hanging {
  const trouble = readingTrouble(h, system);
  const away = placeShort(h.place);
  const first = h.faults[0];
  const words =
    away !== ''
      ? away
      : first
        ? `${checkPart(first.key)} ${first.key === 'dog' ? 'bent' : 'bad'}`
        : h.tension
          ? show('force', h.tension.meanN, system)
          : h.wanted
            ? 'not measured'
            : '';
  const tone = h.place.kind === 'missing' || (away === '' && first) ? 'ember' : away !== '' ? 'soft' : trouble ? trouble.tone : 'plain';
  return {
    id: h.trap.id,
    number: h.trap.number,
    size: h.trap.size,
    shape: h.trap,
    out: h.place.kind !== 'home',
    kept: h.faults.length > 0 && h.place.kind === 'home',
    words: words + (away === '' && !first && h.tension?.old ? ', old' : ''),
    tone,
    label: [trapName(h), away === '' ? 'on the rack' : away, first ? `kept home: ${checkPart(first.key)}` : '', trouble?.says ?? '']
      .filter(Boolean)
      .join('; '),
    window: h.wanted ? { ...h.wanted, meanN: h.tension?.meanN, sdN: h.tension?.sdN ?? 0, verdict: h.verdict } : undefined,
  };
}

type Doing = 'look' | 'new' | 'change' | 'bring';

function Open({ view, rack }: { view: LineView; rack: Rack }) {
  const { system } = useSettings();
  const narrow = useNarrow();
  const [params, setParams] = useSearchParams();
  const changes = useChanges();
  const [doing, setDoing] = useState<Doing>(rack.traps.length === 0 ? 'new' : 'look');
  const chosen = rack.traps.find((h) => h.trap.id === params.get('trap'));
  const choose = (id: string) => {
    setDoing('look');
    setParams(id === '' ? {} : { trap: id }, { replace: true });
  };
  return (
    <main className="page shed-page">
      <ShedHead
        actions={
          <>
            {(doing !== 'look' || chosen) && rack.traps.length > 0 && (
              <button type="button" className="word" onClick={() => choose('')}>
                to do
              </button>
            )}
            <Plans>
              <button type="button" className="word" onClick={() => setDoing('new')}>
                add a trap
              </button>
              <button type="button" className="word" onClick={() => setDoing('bring')}>
                bring in CSV
              </button>
              <a href={`/api/lines/${view.line.id}/export/traps`}>take out CSV</a>
            </Plans>
          </>
        }
      >
        <RackCount rack={rack} />
        {changes.last !== undefined && (
          <>
            {' · '}
            <button type="button" className="word" onClick={() => void changes.undo()}>
              undo: {changes.last}
            </button>
          </>
        )}
      </ShedHead>
      <div className="rack">
        {rack.traps.length === 0 ? (
          <p>The rack is empty. Add your first trap here on the right, or bring the whole rack in from a CSV file.</p>
        ) : (
          <RackDrawing
            traps={order(rack.traps).map((h) => hanging(h, system))}
            width={narrow ? 350 : 900}
            chosen={chosen?.trap.id ?? ''}
            system={system}
            onChoose={choose}
          />
        )}
      </div>
      <Beside shows={`${doing} ${chosen?.trap.id ?? ''}`}>
        {doing === 'bring' ? (
          <BringTraps view={view} onDone={() => setDoing('look')} />
        ) : doing === 'new' ? (
          <TrapForm
            key="new"
            stands={{ ...rack.new, lineId: view.line.id, number: 1 + Math.max(0, ...rack.traps.map((h) => h.trap.number)) }}
            rack={rack}
            changes={changes}
            onDone={choose}
          />
        ) : chosen && doing === 'change' ? (
          <TrapForm key={chosen.trap.id} stands={chosen.trap} rack={rack} changes={changes} onDone={choose} />
        ) : chosen ? (
          <TrapPanel key={chosen.trap.id} h={chosen} view={view} onChange={() => setDoing('change')} />
        ) : (
          <>
            <SetByProgram rack={rack} changes={changes} />
            <AtTheRack rack={rack} onChoose={choose} />
          </>
        )}
      </Beside>
    </main>
  );
}

/** Sizes hang together, in the order of their first number. */
function order(traps: Hung[]): Hung[] {
  const sizes = [...new Set(traps.map((h) => h.trap.size))];
  return sizes.flatMap((size) => traps.filter((h) => h.trap.size === size));
}

function RackCount({ rack }: { rack: Rack }) {
  const of = (kind: PlaceKind) => rack.traps.filter((h) => h.place.kind === kind).length;
  const kept = rack.traps.filter((h) => h.place.kind === 'home' && h.faults.length > 0).length;
  const parts = [
    of('set') > 0 ? `${count(of('set'))} in sets` : '',
    kept > 0 ? `${count(kept)} kept home` : '',
    of('missing') > 0 ? `${count(of('missing'))} missing` : '',
    of('away') > 0 ? `${count(of('away'))} away` : '',
  ].filter(Boolean);
  if (rack.traps.length === 0) return null;
  const all = rack.traps.length === 1 ? 'one trap or device' : `${count(rack.traps.length)} traps and devices`;
  return <>{capital([all, ...parts].join(', '))}.</>;
}

/** Pans that spare somebody whom nobody chose: said, and cleared by one touch. */
function SetByProgram({ rack, changes }: { rack: Rack; changes: Changes }) {
  const of = rack.traps.filter((h) => h.trap.sparesBy === 'program' && h.trap.spares.length > 0);
  if (of.length === 0) return null;
  const clear = async () => {
    for (const { trap } of of)
      await changes.change('traps', trap, { ...trap, spares: [], sparesBy: '' }, `trap ${trap.number} spares no small animal`);
  };
  return (
    <div className="notice">
      {capital(of.length === 1 ? 'one trap spares' : `${count(of.length)} traps spare`)} skunks because the program set it so, not you.{' '}
      <button type="button" className="word" onClick={() => void clear()}>
        spare none, on all of them
      </button>
    </div>
  );
}

/** What waits at the rack, when no trap is in the hand. */
function AtTheRack({ rack, onChoose }: { rack: Rack; onChoose: (id: string) => void }) {
  const { system } = useSettings();
  const waits = rack.traps
    .filter((h) => h.place.kind === 'home' || h.place.kind === 'missing')
    .map((h) => {
      const trouble = readingTrouble(h, system);
      if (h.place.kind === 'missing') return { h, says: placeShort(h.place), tone: 'ember' as const };
      if (h.faults.length > 0)
        return { h, says: h.faults.map((f) => f.note || `${checkPart(f.key)} faulty`).join('; '), tone: 'ember' as const };
      return trouble && { h, ...trouble };
    })
    .filter((x) => x !== null)
    .sort((a, b) => Number(b.tone === 'ember') - Number(a.tone === 'ember'));
  return (
    <section>
      <h2>At the rack</h2>
      {waits.length === 0 ? (
        <p>Every trap that hangs here is sound, measured, and inside the window of what it is meant for. Choose one to see its story.</p>
      ) : (
        <>
          <p className="quiet">What has to be seen to. Choose any trap to see its story.</p>
          <ul className="rows">
            {waits.map(({ h, says, tone }) => (
              <li key={h.trap.id}>
                <button type="button" className="word" onClick={() => onChoose(h.trap.id)}>
                  Trap {h.trap.number}
                </button>{' '}
                <span className={tone}>{says}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
