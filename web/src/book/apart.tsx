import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { FirstSteps, RateBar } from '../draw/heaps';
import { NightStrip } from '../draw/nightstrip';
import { Unread } from '../lib/ask/unread';
import { useApart, useCompared, useHeap, useSeason } from '../lib/ask/queries';
import { OneOf } from '../lib/fields/oneof';
import { Pick } from '../lib/fields/fields';
import { Seasons } from '../lib/fields/seasons';
import type { LineNow } from '../lib/kept/overlay';
import { bys, targets } from '../lib/lists.gen';
import type { Alike } from '../lib/types.gen';
import { comparedWords, heapName, heldWords, kindWord, rateWords, wayWord, type By } from '../lib/words/apart';
import { dayYear } from '../lib/words/time';
import { capital, plural } from '../lib/words/words';
import { Chapters } from './chapters';
import { useLeads } from './leads';

/** What catches: a season's nights told apart, two of the heaps compared, and how long sets stand before they catch. */
export function Apart({ view }: { view: LineNow }) {
  const season = useSeason();
  const [params, setParams] = useSearchParams();
  const animal = shownOf(params.get('animal') ?? '');
  const by = bys.find((key) => key === params.get('by')) ?? 'kind';
  const choose = (key: 'by' | 'animal', value: string) => {
    const next = new URLSearchParams(params);
    next.delete('heap');
    next.set(key, value);
    setParams(next, { replace: true });
  };
  const { data: found } = useApart(season, animal);
  if (!found) return <Unread />;
  const place = (id: string) => view.spots.find((s) => s.id === id)?.name ?? 'a place that was removed';
  const heaps = found.groups[by] ?? [];
  return (
    <main className="page two">
      <section>
        <Chapters open="apart" />
        <Seasons seasons={found.seasons} open={found.open} all />
        <h2>What catches{found.season ? ` in ${found.season.name}` : found.seasons.length > 1 ? ' in all seasons' : ''}</h2>
        <OneOf label="told apart by" of={bys} chosen={by} name={wayWord} onChoose={(key) => choose('by', key)} />
        <OneOf
          label="of which animal"
          of={['', ...targets] as const}
          chosen={shownOf(found.animal)}
          name={ofWhom}
          onChoose={(key) => choose('animal', key)}
        />
        {heaps.length === 0 ? (
          <p>No nights yet. A night counts when a trap stands through midnight.</p>
        ) : (
          <Heaps key={by} heaps={heaps} by={by} animal={shownOf(found.animal)} at={params.get('heap')} view={view} place={place} />
        )}
        <p className="quiet">
          In 100 trap-nights; the bar is how far its nights leave it open.
          {by === 'place' && ' The upright stroke: what is told of the place, nearer what the line gives the fewer nights stand behind it.'}
        </p>
      </section>
      <section>
        {heaps.length > 1 && <Against key={by} heaps={heaps} by={by} animal={animal} place={place} />}
        {found.first.length > 0 && (
          <>
            <h2>How long a set stands before it catches</h2>
            <FirstSteps first={found.first} name={kindWord} />
            <p>
              {found.first
                .map((f) => `${capital(kindWord(f.kind))}: ${f.median === null ? 'more than half never did' : `half by night ${f.median}`}`)
                .join('. ')}
              . A set that was remade or pulled before counts as long as it stood.
            </p>
          </>
        )}
      </section>
    </main>
  );
}

/** The animal of which is told what stands here: the one that was chosen, once it is answered. */
const shownOf = (animal: string) => targets.find((key) => key === animal) ?? '';

const ofWhom = (animal: string): string => (animal === '' ? 'all targets' : plural(animal));

const shown = 12;

/** The heaps, each with its rate; one that is touched opens to its nights. */
function Heaps({
  heaps,
  by,
  animal,
  at,
  view,
  place,
}: {
  heaps: Alike[];
  by: By;
  animal: string;
  at: string | null;
  view: LineNow;
  place: (id: string) => string;
}) {
  const [open, setOpen] = useState(at);
  const [all, setAll] = useState(false);
  const most = Math.max(4, ...heaps.map((h) => Math.min(40, h.rate?.high ?? 0)));
  return (
    <>
      <ul className="rows heaps">
        {heaps.slice(0, all ? undefined : shown).map((heap) => (
          <li key={heap.key}>
            <div className="heap">
              <button
                type="button"
                className="word"
                aria-expanded={open === heap.key}
                onClick={() => setOpen(open === heap.key ? null : heap.key)}
              >
                {heapName(by, heap, place)}
              </button>
              <RateBar of={heap} most={most} />
              <span>{rateWords(heap)}</span>
            </div>
            {open === heap.key && <ItsNights heap={heap} by={by} animal={animal} view={view} place={place} />}
          </li>
        ))}
      </ul>
      {heaps.length > shown && !all && (
        <button type="button" className="word" onClick={() => setAll(true)}>
          and {heaps.length - shown} more
        </button>
      )}
    </>
  );
}

/** The nights behind a figure, make by make. */
function ItsNights({
  heap,
  by,
  animal,
  view,
  place,
}: {
  heap: Alike;
  by: By;
  animal: string;
  view: LineNow;
  place: (id: string) => string;
}) {
  const leads = useLeads();
  const { data } = useHeap(useSeason(), animal, by, heap.key);
  return (
    <ul className="rows">
      {data?.makes.map((made) => (
        <li key={made.makeId}>
          <NightStrip nights={made.nights} />
          <div>
            <Link to={leads(`set/${made.setId}`)}>
              set {made.number}, {place(made.spotId)}
            </Link>
            , built {dayYear(made.builtAt, view.line.zone)}: {heldWords(made)}
          </div>
        </li>
      ))}
    </ul>
  );
}

/** Two heaps against each other. */
function Against({ heaps, by, animal, place }: { heaps: Alike[]; by: By; animal: string; place: (id: string) => string }) {
  const season = useSeason();
  const [a, setA] = useState(heaps[0]?.key ?? '');
  const [b, setB] = useState(heaps[1]?.key ?? '');
  const keys = heaps.map((h) => h.key);
  const name = (key: string) => heapName(by, heaps.find((h) => h.key === key) ?? { key }, place);
  const { data: compared } = useCompared(season, animal, by, a, b);
  return (
    <>
      <h2>One against another</h2>
      <div className="form-grid">
        <Pick label="this" path="a" value={a} options={keys} name={name} onValue={setA} />
        <Pick label="against this" path="b" value={b} options={keys} name={name} onValue={setB} />
      </div>
      <div role="status">
        {a === b ? (
          <p>Choose two that differ.</p>
        ) : (
          compared &&
          compared.a.key === a &&
          compared.b.key === b &&
          comparedWords(compared, name(a), name(b), place).map((says) => <p key={says}>{says}</p>)
        )}
      </div>
    </>
  );
}
