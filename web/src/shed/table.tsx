import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Beaker } from '../draw/beaker';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import { objections, type Changes } from '../lib/ask/change';
import { useDraft } from '../lib/fields/draft';
import { Choice, Measure, Pick, Text, WrongFields } from '../lib/fields/fields';
import { problemWords, say } from '../lib/words/inwords';
import { measuredBy, partKinds } from '../lib/lists.gen';
import { useSettings } from '../lib/settings';
import type { FieldProblem, LineView, MixtureInput, MixtureOutput, NamedRecipe, Part, Shelf } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';
import { useOnce } from '../lib/fields/once';
import { ulid } from '../lib/ulid';
import { agentWord, anyWord, byWord, partWord } from '../lib/words/called';
import { capital } from '../lib/words/words';
import { InBedding } from './bedding';
import { BottleIt } from './bottleit';
import { measured } from './stock';

/** What lies on the mixing table, kept in this browser. */
interface OnTable {
  name: string;
  mixture: MixtureInput;
  /** How the whole is told: as an amount, or by sets and doses. */
  wanted: 'total' | 'batch';
  toC: number;
}

interface Props {
  view: LineView;
  shelf: Shelf;
  changes: Changes;
}

export function MixingTable({ view, shelf, changes }: Props) {
  const [what, setWhat] = useState<'parts' | 'bedding'>('parts');
  return (
    <section className="mixing">
      <div className="mixing-head">
        <h2>Mixing table</h2>
        <Choice
          label="what is mixed"
          path=""
          hide
          value={what}
          options={['parts', 'bedding']}
          name={(k) => (k === 'parts' ? 'a mixture by parts' : 'antifreeze in bedding')}
          onValue={(k) => setWhat(k === 'bedding' ? 'bedding' : 'parts')}
        />
      </div>
      {what === 'parts' ? <ByParts view={view} shelf={shelf} changes={changes} /> : <InBedding shelf={shelf} />}
    </section>
  );
}

function ByParts({ view, shelf, changes }: Props) {
  const { system } = useSettings();
  const [t, setT] = useDraft<OnTable>('mixing', () => ({
    name: 'urine_and_glycerin',
    mixture: { ...(shelf.usual.urine_and_glycerin ?? { by: 'volume', parts: [] }), total: 473 },
    wanted: 'total',
    toC: shelf.standC,
  }));
  const set = (change: Partial<OnTable>) => setT({ ...t, ...change });
  const mix = (change: Partial<MixtureInput>) => set({ mixture: { ...t.mixture, ...change } });
  const { by, parts } = t.mixture;
  const kind = measured(by);
  const question: MixtureInput = {
    by,
    parts,
    ...(t.wanted === 'total'
      ? { total: t.mixture.total ?? 0 }
      : { batch: t.mixture.batch ?? { sets: 10, doses: 1, dose: 5, reserve: 0.25 } }),
    toC: t.toC,
  };
  const { data, error } = useQuery({
    ...routes.mixture(question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const problems = objections(error);
  const elsewhere = problems.filter((p) => p.field === 'parts'); // of no field alone
  const names = [...Object.keys(shelf.usual), ...shelf.recipes.map((r) => r.id)];
  const choose = (name: string) => {
    const own = shelf.recipes.find((r) => r.id === name);
    const recipe = own?.mix ?? shelf.usual[name];
    if (recipe) set({ name, mixture: { ...t.mixture, ...recipe } });
  };
  const batch = question.batch;
  return (
    <WrongFields problems={problems}>
      <div className="mixing-grid">
        <div>
          {data && problems.length === 0 && (
            <Beaker
              total={show(kind, data.total, system)}
              layers={parts.map((p, i) => ({
                name: p.what,
                share: (data.amounts[i] ?? 0) / data.total,
                amount: show(kind, data.amounts[i] ?? 0, system),
              }))}
            />
          )}
        </div>
        <div>
          <div className="form-grid">
            <Pick
              label="recipe"
              path="name"
              value={t.name}
              options={names}
              name={(n) => shelf.recipes.find((r) => r.id === n)?.name ?? anyWord(n)}
              onValue={choose}
            />
            <Pick
              label="by volume or weight"
              path="by"
              value={by}
              options={measuredBy}
              name={byWord}
              onValue={(next) => mix({ by: next })}
            />
          </div>
          <Parts parts={parts} onParts={(next) => mix({ parts: next })} />
          <div className="words">
            <button type="button" className="word" onClick={() => mix({ parts: [...parts, { what: '', is: 'dry', parts: 1 }] })}>
              one more part
            </button>
            <KeepRecipe t={t} view={view} shelf={shelf} changes={changes} onKept={(id) => set({ name: id })} />
          </div>
          <div className="form-grid above-6">
            <Choice
              label="how much"
              path="wanted"
              hide
              value={t.wanted}
              options={['total', 'batch']}
              name={(k) => (k === 'total' ? 'total amount' : 'for a number of sets')}
              onValue={(k) => set({ wanted: k === 'batch' ? 'batch' : 'total' })}
            />
            {batch === undefined ? (
              <Measure key={by} label="in all" path="total" kind={kind} value={t.mixture.total ?? 0} onValue={(total) => mix({ total })} />
            ) : (
              <ForSets by={by} batch={batch} onBatch={(next) => mix({ batch: next })} />
            )}
          </div>
        </div>
        <div>
          {elsewhere.length > 0 && <div className="wrong">{elsewhere.map((p) => problemWords(p, system)).join('. ')}</div>}
          {error !== null && !(error instanceof Refused) && <p className="ember">The program does not answer; it asks again by itself.</p>}
          {data && problems.length === 0 && <Freezing data={data} t={t} system={system} onTo={(to) => mix({ parts: to })} />}
          <Measure label="coldest it must stay liquid at" path="toC" kind="temperature" value={t.toC} onValue={(toC) => set({ toC })} />
          {data && problems.length === 0 && (
            <BottleIt data={data} by={by} dose={batch?.dose ?? data.total / 20} view={view} shelf={shelf} changes={changes} />
          )}
        </div>
      </div>
    </WrongFields>
  );
}

/** What goes into a mixture, and how many parts of each. */
function Parts({ parts, onParts }: { parts: Part[]; onParts: (parts: Part[]) => void }) {
  const setPart = (i: number, change: Partial<Part>) => onParts(parts.map((p, k) => (k === i ? { ...p, ...change } : p)));
  return (
    <>
      {parts.map((p, i) => (
        <div className="part" key={i}>
          <Measure label="parts" path={`parts[${i}].parts`} kind="number" value={p.parts} onValue={(n) => setPart(i, { parts: n })} />
          <Text label="of" path={`parts[${i}].what`} value={p.what} onValue={(text) => setPart(i, { what: text })} />
          <Pick
            label="it is"
            path={`parts[${i}].is`}
            value={p.is}
            options={partKinds}
            name={partWord}
            onValue={(is) => setPart(i, { is })}
          />
          {parts.length > 2 && (
            <button
              type="button"
              className="word"
              aria-label={`leave out ${p.what}`}
              onClick={() => onParts(parts.filter((_, k) => k !== i))}
            >
              leave out
            </button>
          )}
        </div>
      ))}
    </>
  );
}

type Batch = NonNullable<MixtureInput['batch']>;

/** How much is mixed, by sets and doses. */
function ForSets({ by, batch, onBatch }: { by: MixtureInput['by']; batch: Batch; onBatch: (batch: Batch) => void }) {
  return (
    <>
      <Measure label="sets" path="batch.sets" kind="number" value={batch.sets} onValue={(sets) => onBatch({ ...batch, sets })} />
      <Measure
        label="doses at each"
        path="batch.doses"
        kind="number"
        value={batch.doses}
        onValue={(doses) => onBatch({ ...batch, doses })}
      />
      <Measure
        key={by}
        label="a dose"
        path="batch.dose"
        kind={measured(by)}
        value={batch.dose}
        onValue={(dose) => onBatch({ ...batch, dose })}
      />
      <Measure
        label="in reserve, in 100"
        path="batch.reserve"
        kind="number"
        value={batch.reserve * 100}
        onValue={(n) => onBatch({ ...batch, reserve: n / 100 })}
      />
    </>
  );
}

/** Where the mixture freezes, and how it would be mixed to stand the cold. */
function Freezing({ data, t, system, onTo }: { data: MixtureOutput; t: OnTable; system: System; onTo: (parts: Part[]) => void }) {
  const { freezes } = data;
  const to = data.to;
  return (
    <>
      <p className="below-4">
        {show(measured(t.mixture.by), data.total, system)} in all.{' '}
        {freezes.known ? (
          <>
            Freezes at <b>{show('temperature', freezes.atC, system)}</b>
            {freezes.agent !== '' &&
              `: ${freezes.percent.toFixed(1)} % ${agentWord(freezes.agent)}${freezes.agent === 'propylene_glycol' ? ' by volume' : ' by weight'}`}
            .
          </>
        ) : (
          {
            oily: 'Nothing watery in it. It stiffens, and no table knows where.',
            mixed: 'More than one agent, and the tables know one at a time.',
            strong: 'Stronger than the tables know.',
          }[freezes.why]
        )}
      </p>
      {freezes.known && (
        <p className={data.stands ? 'quiet' : 'ember'}>
          {data.stands
            ? `It stays liquid to ${show('temperature', t.toC, system)}.`
            : `It freezes before ${show('temperature', t.toC, system)}.`}{' '}
          {to && (
            <button type="button" className="word" onClick={() => onTo(to.parts)}>
              mix it so that it does
            </button>
          )}
          {data.trouble && `${say(capital(data.trouble), system)}.`}
        </p>
      )}
    </>
  );
}

function KeepRecipe({ t, view, shelf, changes, onKept }: Props & { t: OnTable; onKept: (id: string) => void }) {
  const own = shelf.recipes.find((r) => r.id === t.name);
  const [name, setName] = useState<string | null>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const recipe = { by: t.mixture.by, parts: t.mixture.parts };
  const put = useOnce(async (before: NamedRecipe | null, after: NamedRecipe, what: string) => {
    try {
      await changes.change('recipes', before, after, what);
      setProblems([]);
      setName(null);
      if (!after.deleted) onKept(after.id);
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  const keep = () => {
    if (own && name === own.name) void put(own, { ...own, mix: recipe }, `the recipe of ${own.name}`);
    else
      void put(
        null,
        { id: ulid(), lineId: view.line.id, name: name ?? '', mix: recipe, deleted: false, version: 0 },
        `the recipe of ${name ?? ''}`,
      );
  };
  if (name === null)
    return (
      <>
        <button type="button" className="word" onClick={() => setName(own?.name ?? '')}>
          save this recipe
        </button>
        {own && (
          <button type="button" className="word" onClick={() => void put(own, { ...own, deleted: true }, `${own.name} thrown away`)}>
            remove it
          </button>
        )}
      </>
    );
  return (
    <WrongFields problems={problems}>
      <Text label="under the name" path="name" value={name} onValue={setName} />
      <button type="button" className="word" onClick={keep}>
        save
      </button>
    </WrongFields>
  );
}
