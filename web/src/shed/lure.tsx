import { lureClasses, measuredBy } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { nowISO } from '../lib/kept/clock';
import { objections, type Changes } from '../lib/ask/change';
import { Choice, Measure, Pick, Text, WrongFields } from '../lib/fields/fields';
import { KeepForm, useKeep } from '../lib/fields/keep';
import { write } from '../lib/kept/outbox';
import { useSettings } from '../lib/settings';
import { day } from '../lib/words/time';
import type { Bottle, Dose, FieldProblem, Level, LineView, Lure, OnShelf, Shelf, Stock } from '../lib/types.gen';
import { show } from '../lib/words/units';
import { tapMs, useOnce } from '../lib/fields/once';
import { ulid } from '../lib/ulid';
import { byWord, smellWord } from '../lib/words/called';
import { capital, many } from '../lib/words/words';
import { amount, measured } from './stock';

/** A new lure, or a change to one. */
export function LureForm({
  stands,
  shelf,
  view,
  changes,
  onDone,
}: {
  stands: Lure | null;
  shelf: Shelf;
  view: LineView;
  changes: Changes;
  onDone: (id: string) => void;
}) {
  const [begin] = useState<Lure>(
    () =>
      stands ?? {
        id: ulid(),
        lineId: view.line.id,
        name: '',
        class: 'gland',
        by: 'volume',
        dose: 1.5,
        ...shelf.doses.gland,
        deleted: false,
        version: 0,
      },
  );
  const { x, set, problems, said, keep } = useKeep<Lure>(changes, 'lures', begin, stands ? undefined : 'lure:new');
  const done = async (next: Lure, what: string) => {
    if (await keep(next, what)) onDone(next.deleted ? '' : x.id);
  };
  return (
    <KeepForm
      className="form-grid"
      said={said}
      problems={problems}
      onDelete={stands ? () => void done({ ...stands, deleted: true }, `${stands.name} taken off the shelf`) : undefined}
      onKeep={() => void done(x, stands ? `${x.name} changed` : `${x.name} put on the shelf`)}
    >
      <h2 className="wide">{stands ? stands.name : 'A new lure'}</h2>
      <Text label="your name for it" path="name" wide autoFocus={!stands} value={x.name} onValue={(name) => set({ name })} />
      <Choice
        label="what it is"
        path="class"
        value={x.class}
        options={lureClasses}
        name={smellWord}
        onValue={(key) => set({ class: key, ...shelf.doses[key] })}
      />
      <Pick label="measured by" path="by" value={x.by} options={measuredBy} name={byWord} onValue={(by) => set({ by })} />
      <Measure
        key={x.by + x.class}
        label="a dose, for one set"
        path="dose"
        kind={measured(x.by)}
        value={x.dose}
        onValue={(dose) => set({ dose })}
      />
    </KeepForm>
  );
}

interface PanelProps {
  l: OnShelf;
  shelf: Shelf;
  view: LineView;
  changes: Changes;
  onGone: () => void;
}

/** A lure in the hand: what is left, bottle by bottle, and which spots have met it. */
export function LurePanel({ l, shelf, view, changes, onGone }: PanelProps) {
  const { system } = useSettings();
  const [changing, setChanging] = useState(false);
  if (changing)
    return (
      <LureForm stands={l.lure} shelf={shelf} view={view} changes={changes} onDone={(id) => (id === '' ? onGone() : setChanging(false))} />
    );
  return (
    <section>
      <h2>{l.lure.name}</h2>
      <p className="quiet">
        {capital(smellWord(l.lure.class))}; a dose is {amount(l.lure, l.lure.dose, system)}.{' '}
        <button type="button" className="word" onClick={() => setChanging(true)}>
          change
        </button>
      </p>
      <p>
        {l.left > 0 ? (
          <>
            About <b>{amount(l.lure, l.left, system)}</b> left, {many(l.dosesLeft, 'dose')}.
          </>
        ) : l.bottles.length === 0 ? (
          <span className="quiet">No bottle of it stands on the shelf yet.</span>
        ) : (
          <b className="ember">None is left.</b>
        )}
        {l.unaccounted >= 1 && (
          <span className="dun"> {capital(many(Math.round(l.unaccounted), 'dose'))} recorded with no bottle open. Open one.</span>
        )}
      </p>
      <ul className="rows">
        {l.bottles.map((s) => (
          <li key={s.bottle.id}>
            <BottleRow s={s} l={l} view={view} changes={changes} />
          </li>
        ))}
      </ul>
      <NewBottle l={l} view={view} changes={changes} />
      <UseDose l={l} view={view} />
      <h3 className="above-12">Where it was used</h3>
      {l.met.length === 0 ? (
        <p className="quiet">Nowhere yet, it is new on the whole line.</p>
      ) : (
        <ul className="rows">
          {l.met.map((m) => (
            <li key={m.spotId}>
              {view.spots.find((s) => s.id === m.spotId)?.name}{' '}
              <span className="quiet">
                {m.times === 1 ? 'once' : `${m.times} times`}, last {day(m.last, view.line.zone)}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function BottleRow({ s, l, view, changes }: { s: Stock; l: OnShelf; view: LineView; changes: Changes }) {
  const { system } = useSettings();
  const { zone } = view.line;
  const [seen, setSeen] = useState<number | null>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const b = s.bottle;
  const put = async (next: Bottle, what: string) => {
    try {
      await changes.change('bottles', b, next, what);
      setProblems([]);
    } catch (error) {
      setProblems(objections(error));
    }
  };
  const level = useOnce(async () => {
    const one: Level = { id: ulid(), lineId: view.line.id, bottleId: b.id, at: nowISO(), left: seen ?? 0 };
    try {
      await write(`/lines/${view.line.id}/levels/${one.id}`, one, `what is left of ${l.lure.name}`);
      setSeen(null);
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  return (
    <WrongFields problems={problems}>
      <div>
        {amount(l.lure, s.left, system)} of {amount(l.lure, b.holds, system)}
        {b.openedAt ? <span className="quiet">, open since {day(b.openedAt, zone)}</span> : <span className="quiet">, not open</span>}
        {s.emptyAt && <b className="ember"> · empty since {day(s.emptyAt, zone)}</b>}
        {b.freezesAtC !== null && (
          <span className={s.ices ? 'ember' : 'quiet'}>, freezes at {show('temperature', b.freezesAtC, system)}</span>
        )}
        {b.note && <span className="quiet">; {b.note}</span>}
      </div>
      <div className="words">
        {!b.openedAt && (
          <button
            type="button"
            className="word"
            onClick={() => void put({ ...b, openedAt: nowISO() }, `a bottle of ${l.lure.name} opened`)}
          >
            open it
          </button>
        )}
        {seen === null ? (
          <button type="button" className="word" onClick={() => setSeen(s.left)}>
            say what is left
          </button>
        ) : (
          <>
            <Measure label="left, by eye" path="left" kind={measured(l.lure.by)} value={seen} onValue={setSeen} />
            <button type="button" className="word" onClick={() => void level()}>
              save what is left
            </button>
          </>
        )}
        <button type="button" className="word" onClick={() => void put({ ...b, deleted: true }, `a bottle of ${l.lure.name} put away`)}>
          put it away
        </button>
      </div>
    </WrongFields>
  );
}

function NewBottle({ l, view, changes }: { l: OnShelf; view: LineView; changes: Changes }) {
  const [x, setX] = useState<Bottle | null>(null);
  const like = l.bottles.at(-1)?.bottle;
  const fresh = (): Bottle => ({
    id: ulid(),
    lineId: view.line.id,
    lureId: l.lure.id,
    holds: like?.holds ?? l.lure.dose * 20,
    openedAt: null,
    freezesAtC: like?.freezesAtC ?? null,
    note: '',
    deleted: false,
    version: 0,
  });
  if (x !== null) return <BottleForm x={x} onX={setX} l={l} changes={changes} />;
  return (
    <button type="button" className="word" onClick={() => setX(fresh())}>
      {l.bottles.length === 0 ? 'put a bottle of it on the shelf' : 'another bottle of it'}
    </button>
  );
}

interface BottleFormProps {
  x: Bottle;
  onX: (x: Bottle | null) => void;
  l: OnShelf;
  changes: Changes;
}

function BottleForm({ x, onX, l, changes }: BottleFormProps) {
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const keep = useOnce(async (open: boolean) => {
    try {
      await changes.change('bottles', null, { ...x, openedAt: open ? nowISO() : null }, `a bottle of ${l.lure.name}`);
      onX(null);
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  return (
    <WrongFields problems={problems}>
      <div className="form-grid above-6">
        <Measure label="it holds" path="holds" kind={measured(l.lure.by)} value={x.holds} onValue={(holds) => onX({ ...x, holds })} />
        <Text label="note" path="note" value={x.note} onValue={(note) => onX({ ...x, note })} />
        <div className="wide build">
          <Button onClick={() => void keep(true)}>Open it now</Button>
          <button type="button" className="word" onClick={() => void keep(false)}>
            save it closed
          </button>
        </div>
      </div>
    </WrongFields>
  );
}

/** A dose used by hand, beside what building sets uses. */
function UseDose({ l, view }: { l: OnShelf; view: LineView }) {
  const [spotID, setSpotID] = useState('');
  const [failed, setFailed] = useState<FieldProblem[]>([]);
  const [used, setUsed] = useState(0);
  const use = useOnce(async () => {
    const dose: Dose = {
      undoneAt: null,
      id: ulid(),
      lineId: view.line.id,
      lureId: l.lure.id,
      spotId: spotID === '' ? null : spotID,
      at: nowISO(),
      count: 1,
    };
    try {
      await write(`/lines/${view.line.id}/doses/${dose.id}`, dose, `a dose of ${l.lure.name}`);
      setFailed([]);
      setUsed(used + 1);
      return true;
    } catch (error) {
      setFailed(objections(error));
      return false;
    }
  }, tapMs);
  return (
    <WrongFields problems={failed}>
      <div className="form-grid above-6">
        <Pick
          label="used elsewhere, a dose at"
          path="spotId"
          value={spotID}
          blank="no spot"
          options={view.spots.map((s) => s.id)}
          name={(id) => view.spots.find((s) => s.id === id)?.name ?? ''}
          onValue={setSpotID}
        />
        <div className="at-foot">
          <button type="button" className="word" onClick={() => void use()}>
            use a dose
          </button>
          <div className="quiet" role="status">
            {used > 0 && `${capital(many(used, 'dose'))} taken off.`}
          </div>
        </div>
      </div>
    </WrongFields>
  );
}
