import { Plans } from '../lib/ask/may';
import { lureClasses } from '../lib/lists.gen';
import { Unread } from '../lib/ask/unread';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useNarrow } from '../lib/narrow';
import { ShelfDrawing, type Standing } from '../draw/shelf';
import { useChanges } from '../lib/ask/change';
import { useLine, useShelf } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { clock, longDay } from '../lib/words/time';
import type { LineView, OnShelf, Shelf, Stock } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';
import { smellWord } from '../lib/words/called';
import { many } from '../lib/words/words';
import { LureForm, LurePanel } from './lure';
import { MixingTable } from './table';
import { Beside, ShedHead } from './shed';
import { amount } from './stock';

/** Bottles on the shelf, and the table where they are mixed. */
export function MixesPage() {
  const { data: view } = useLine();
  const { data: shelf } = useShelf();
  if (!view || !shelf) return <Unread />;
  return <Open view={view} shelf={shelf} />;
}

function standing(l: OnShelf, system: System): Standing[] {
  const shown = l.bottles.filter((s) => s.left > 0);
  const empty = l.bottles.at(-1);
  const bottles = shown.length > 0 ? shown : empty ? [empty] : [];
  const one = (s: Stock | null): Standing => ({
    key: s?.bottle.id ?? l.lure.id,
    id: l.lure.id,
    name: l.lure.name,
    jar: l.lure.by === 'weight',
    open: s !== null && s.bottle.openedAt !== null,
    full: s ? s.left / s.bottle.holds : 0,
    ...(s === null || s.left <= 0
      ? { words: s === null ? 'no bottle' : 'empty', tone: 'ember' as const }
      : s.ices
        ? { words: `freezes ${show('temperature', s.bottle.freezesAtC ?? 0, system)}`, tone: 'ember' as const }
        : {
            words: `${s.dosesLeft} ${s.dosesLeft === 1 ? 'dose' : 'doses'}`,
            tone: s.low ? ('dun' as const) : ('plain' as const),
          }),
  });
  return bottles.length === 0 ? [one(null)] : bottles.map(one);
}

function Open({ view, shelf }: { view: LineView; shelf: Shelf }) {
  const narrow = useNarrow();
  const { system } = useSettings();
  const [params, setParams] = useSearchParams();
  const changes = useChanges();
  const [adding, setAdding] = useState(shelf.lures.length === 0);
  const chosen = shelf.lures.find((l) => l.lure.id === params.get('lure'));
  const choose = (id: string) => {
    setAdding(false);
    setParams(id === '' ? {} : { lure: id }, { replace: true });
  };
  const all = lureClasses.flatMap((key) =>
    shelf.lures
      .filter((l) => l.lure.class === key)
      .flatMap((l) => standing(l, system))
      .map((s, i) => ({ ...s, heading: i === 0 ? smellWord(key) : undefined })),
  );
  return (
    <main className="page shed-page">
      <ShedHead
        actions={
          <>
            {(adding || chosen) && shelf.lures.length > 0 && (
              <button type="button" className="word" onClick={() => choose('')}>
                to do
              </button>
            )}
            <Plans>
              <button type="button" className="word" onClick={() => setAdding(true)}>
                put a new lure on the shelf
              </button>
            </Plans>
          </>
        }
      >
        <Cold shelf={shelf} view={view} />
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
        {all.length > 0 && <ShelfDrawing all={all} width={narrow ? 350 : 900} chosen={chosen?.lure.id ?? ''} onChoose={choose} />}
        <MixingTable view={view} shelf={shelf} changes={changes} />
      </div>
      <Beside shows={adding ? 'new' : (chosen?.lure.id ?? '')}>
        {adding ? (
          <LureForm key="new" stands={null} shelf={shelf} view={view} changes={changes} onDone={choose} />
        ) : chosen ? (
          <LurePanel key={chosen.lure.id} l={chosen} shelf={shelf} view={view} changes={changes} onGone={() => choose('')} />
        ) : (
          <OnTheShelf shelf={shelf} system={system} onChoose={choose} />
        )}
      </Beside>
    </main>
  );
}

function Cold({ shelf, view }: { shelf: Shelf; view: LineView }) {
  const { system } = useSettings();
  if (shelf.coldest === null) return <>No forecast is known. Say yourself how cold it will be.</>;
  return (
    <>
      Coldest hour of the forecast: <b>{show('temperature', shelf.coldest.tempC, system)}</b>, {longDay(shelf.coldest.at, view.line.zone)}{' '}
      at {clock(shelf.coldest.at, view.line.zone)}.
    </>
  );
}

/** What is low, empty or would freeze. */
function OnTheShelf({ shelf, system, onChoose }: { shelf: Shelf; system: System; onChoose: (id: string) => void }) {
  const waits = shelf.lures.flatMap((l) => {
    const open = l.bottles.some((s) => s.left > 0 && s.bottle.openedAt !== null);
    const ice = l.bottles.find((s) => s.ices);
    if (l.bottles.length === 0) return [{ l, says: 'no bottle yet', tone: 'quiet' }];
    if (l.left <= 0) return [{ l, says: 'none is left', tone: 'ember' }];
    if (ice)
      return [{ l, says: `freezes at ${show('temperature', ice.bottle.freezesAtC ?? 0, system)}; colder is expected`, tone: 'ember' }];
    if (l.unaccounted >= 1)
      return [{ l, says: `${many(Math.round(l.unaccounted), 'dose')} recorded with no bottle open, open one`, tone: 'dun' }];
    if (l.low) return [{ l, says: `${amount(l.lure, l.left, system)} left, ${many(l.dosesLeft, 'dose')}`, tone: 'dun' }];
    return open ? [] : [{ l, says: 'not open', tone: 'quiet' }];
  });
  return (
    <section>
      <h2>On the shelf</h2>
      {shelf.lures.length === 0 && <p>Nothing stands here yet. Put a lure, bait or urine on the shelf under your own name for it.</p>}
      <p className="quiet">{waits.length > 0 ? 'What to look at. ' : ''}Choose a bottle to see what is left in it and where it was used.</p>
      <ul className="rows">
        {waits.map(({ l, says, tone }) => (
          <li key={l.lure.id}>
            <button type="button" className="word" onClick={() => onChoose(l.lure.id)}>
              {l.lure.name}
            </button>{' '}
            <span className={tone}>{says}</span>
          </li>
        ))}
      </ul>
      <p className="quiet">
        Keep antifreeze and bait from animals and children; gloves for bait. Food smell makes animals dig, so keep it out of a tight ring.
      </p>
    </section>
  );
}
