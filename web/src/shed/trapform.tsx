import { animals, aways, jawForms, targets, trapTypes } from '../lib/lists.gen';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { objections, type Changes } from '../lib/ask/change';
import { Choice, Measure, Pick, Text } from '../lib/fields/fields';
import { KeepForm, useKeep } from '../lib/fields/keep';
import { useOnce } from '../lib/fields/once';
import type { Rack } from '../lib/ask/hung';
import type { LineTrap, TrapSize } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { animalWord, awayWord, jawFormWord, trapTypeWord } from '../lib/words/called';
import { hasJaws } from '../lib/words/words';

interface Props {
  stands: LineTrap;
  rack: Rack;
  changes: Changes;
  onDone: (id: string) => void;
}

/** What of a trap can be measured; the first four of its jaws alone. */
export const measures = [
  ['jawSpreadMm', 'jaw spread', 'length'],
  ['frameLengthMm', 'frame, with levers', 'length'],
  ['setHeightMm', 'height when set', 'length'],
  ['panDiameterMm', 'pan, across', 'length'],
  ['weightG', 'weight', 'weight'],
  ['swivels', 'swivels', 'number'],
  ['chainMm', 'chain', 'length'],
] as const;
const ofJaws = 4;

/** A trap with a size: what nobody measured of it stands as is usual for that size. */
function sized(x: LineTrap, size: string, rack: Rack): Partial<LineTrap> {
  const said = size.trim().replace('¾', '.75').replace('½', '.5').replace(/\s/g, '');
  const usual = rack.sizes.find((s) => s.size === said);
  const of = measures.filter(([key]) => x.usual?.includes(key) && usual && key in usual);
  return { size, ...Object.fromEntries(of.map(([key]) => [key, usual?.[key as keyof TrapSize]])) };
}

/** As many traps alike as a form hangs at once. */
const mostAlike = 60;

/** A trap as a form: a new one for the rack, or a change to one. */
export function TrapForm({ stands, rack, changes, onDone }: Props) {
  const [id] = useState(() => stands.id || ulid());
  const { x, set, problems, setProblems, said, keep } = useKeep<LineTrap>(
    changes,
    'traps',
    { ...stands, id },
    `trap:${stands.id || 'new'}`,
  );
  const isNew = stands.version === 0;
  const [alike, setAlike] = useState('1');
  /** Hangs as many traps alike as were asked for, on the numbers that are free from the first on; where that is refused none is hung. */
  const hang = useOnce(async () => {
    const n = Math.round(Number(alike));
    if (!(n >= 1 && n <= mostAlike)) {
      setProblems([{ field: 'alike', says: `Write how many, from 1 to ${mostAlike}` }]);
      return false;
    }
    if (!(await keep(x, `trap ${x.number} added`))) return false;
    const taken = new Set(rack.traps.map((h) => h.trap.number));
    let number = x.number;
    for (let k = 1; k < n; k++) {
      do number++;
      while (taken.has(number));
      try {
        await changes.change('traps', null, { ...x, id: ulid(), number }, `trap ${number} added`);
      } catch (error) {
        setProblems(objections(error));
        return false;
      }
    }
    onDone(x.id);
    return true;
  });
  const done = async (next: LineTrap, what: string) => {
    if (await keep(next, what)) onDone(next.deleted ? '' : next.id);
  };
  return (
    <KeepForm
      className="form-grid"
      said={said}
      problems={problems}
      onDelete={isNew ? undefined : () => void done({ ...stands, deleted: true }, `trap ${stands.number} taken off the rack`)}
      onKeep={() => void (isNew ? hang() : done(x, `trap ${x.number} changed`))}
    >
      <h2 className="wide">{isNew ? 'A new trap' : `Trap ${stands.number}, changed`}</h2>
      <Measure label="number" path="number" kind="number" value={x.number} onValue={(number) => set({ number: Math.round(number) })} />
      <Text
        label="size, as you call it"
        path="size"
        value={x.size}
        list={[...new Set(rack.traps.map((h) => h.trap.size))]}
        onValue={(size) => set(sized(x, size, rack))}
        autoFocus={isNew}
      />
      {isNew && <Text label="how many alike" path="alike" value={alike} onValue={setAlike} />}
      <Pick label="type" path="type" value={x.type} options={trapTypes} name={trapTypeWord} onValue={(type) => set({ type })} />
      {hasJaws(x.type) && <JawFields x={x} set={set} />}
      {measures.slice(hasJaws(x.type) ? 0 : ofJaws).map(([key, label, kind]) => (
        <div key={key} className={x.usual?.includes(key) ? 'usual' : undefined} title={x.usual?.includes(key) ? usualWords : undefined}>
          <Measure
            label={label}
            path={key}
            kind={kind}
            value={x[key]}
            onValue={(value) =>
              set({ [key]: kind === 'number' ? Math.round(value) : value, usual: x.usual?.filter((field) => field !== key) ?? [] })
            }
          />
        </div>
      ))}
      {(x.usual?.length ?? 0) > 0 && (
        <div className="wide quiet">Pale: {usualWords}, until you write it. The first shed check asks for it.</div>
      )}
      <Text label="tag" path="tag" value={x.tag} onValue={(tag) => set({ tag })} />
      <Form.Check
        className="wide"
        id="shock"
        label="shock spring"
        checked={x.shockSpring}
        onChange={(e) => set({ shockSpring: e.target.checked })}
      />
      <Choice
        label="meant for"
        path="meantFor"
        value={x.meantFor}
        options={targets}
        name={animalWord}
        onValue={(meantFor) => set({ meantFor, spares: x.spares.filter((s) => s !== meantFor) })}
      />
      <Spares value={x.spares} target={x.meantFor} onValue={(spares) => set({ spares, sparesBy: '' })} />
      {x.sparesBy === 'program' && <div className="wide quiet">Set by the program, not by you.</div>}
      <Pick
        label="where it is, if not here"
        path="away"
        value={x.away}
        blank="on the rack, or in a set"
        options={aways}
        name={awayWord}
        onValue={(away) => set({ away })}
      />
      <Text label="note" path="note" value={x.note} onValue={(note) => set({ note })} />
    </KeepForm>
  );
}

const usualWords = 'as usual for this size';

const known = ['yes', 'no'];
const asWord = (is: boolean | null) => (is === null ? '' : is ? 'yes' : 'no');
const asKnown = (key: string) => (key === '' ? null : key === 'yes');

/** What the jaws are like, as far as it is known. */
function JawFields({ x, set }: { x: LineTrap; set: (change: Partial<LineTrap>) => void }) {
  const pick = { options: known, name: (key: string) => key, blank: 'not known' };
  return (
    <>
      <Pick
        label="jaws"
        path="jawForm"
        value={x.jawForm}
        options={jawForms}
        name={jawFormWord}
        blank="not known"
        onValue={(jawForm) => set({ jawForm })}
      />
      <Pick
        {...pick}
        label="offset"
        path="offset"
        value={asWord(x.offset)}
        onValue={(key) => set({ offset: asKnown(key), offsetMm: key === 'yes' ? x.offsetMm : null })}
      />
      {x.offset && (
        <Measure
          label="gap between closed jaws"
          path="offsetMm"
          kind="length"
          value={x.offsetMm}
          onValue={(offsetMm) => set({ offsetMm })}
          onBlank={() => set({ offsetMm: null })}
        />
      )}
      <Pick {...pick} label="laminated" path="laminated" value={asWord(x.laminated)} onValue={(key) => set({ laminated: asKnown(key) })} />
      <Pick {...pick} label="padded" path="padded" value={asWord(x.padded)} onValue={(key) => set({ padded: asKnown(key) })} />
    </>
  );
}

/** Which animals a pan should not fire for. */
export function Spares({ value, target, onValue }: { value: string[]; target: string; onValue: (spares: string[]) => void }) {
  return (
    <div className="wide" role="group" aria-label="its pan should spare">
      <div className="form-label">its pan should spare</div>
      <div className="choice">
        {animals
          .filter((a) => a !== target)
          .map((a) => (
            <button
              key={a}
              type="button"
              aria-pressed={value.includes(a)}
              onClick={() => onValue(value.includes(a) ? value.filter((v) => v !== a) : [...value, a])}
            >
              {animalWord(a)}
            </button>
          ))}
      </div>
    </div>
  );
}
