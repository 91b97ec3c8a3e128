import { animals, aways, jawForms, targets, trapTypes } from '../lib/lists.gen';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { Changes } from '../lib/change';
import { Choice, Measure, Pick, Text, WrongFields } from '../lib/fields';
import { KeepRow, useKeep } from '../lib/keep';
import type { LineTrap, Rack } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { hasJaws, word } from '../lib/words';

interface Props {
  stands: LineTrap;
  rack: Rack;
  changes: Changes;
  onDone: (id: string) => void;
}

const jawLengths = [
  ['jawSpreadMm', 'jaw spread'],
  ['frameLengthMm', 'frame, with levers'],
  ['setHeightMm', 'height when set'],
  ['panDiameterMm', 'pan, across'],
] as const;

/** A trap as a form: a new one for the rack, or a change to one. */
export function TrapForm({ stands, rack, changes, onDone }: Props) {
  const [id] = useState(() => stands.id || ulid());
  const { x, set, problems, said, keep } = useKeep<LineTrap>(changes, 'traps', { ...stands, id }, `trap:${stands.id || 'new'}`);
  const isNew = stands.version === 0;
  const done = async (next: LineTrap, what: string) => {
    if (await keep(next, what)) onDone(next.deleted ? '' : next.id);
  };
  return (
    <WrongFields problems={problems}>
      <form
        className="form-grid"
        onSubmit={(e) => {
          e.preventDefault();
          void done(x, isNew ? `No. ${x.number} hung on the rack` : `No. ${x.number} changed`);
        }}
      >
        <h2 className="wide">{isNew ? 'A new trap' : `No. ${stands.number}, changed`}</h2>
        <Measure label="number" path="number" kind="number" value={x.number} onValue={(number) => set({ number: Math.round(number) })} />
        <Text
          label="size, as you call it"
          path="size"
          value={x.size}
          list={[...new Set(rack.traps.map((h) => h.trap.size))]}
          onValue={(size) => set({ size })}
        />
        <Pick label="type" path="type" value={x.type} options={trapTypes} name={word} onValue={(type) => set({ type })} />
        {hasJaws(x.type) && (
          <>
            <JawFields x={x} set={set} />
            {jawLengths.map(([key, label]) => (
              <Measure key={key} label={label} path={key} kind="length" value={x[key]} onValue={(mm) => set({ [key]: mm })} />
            ))}
          </>
        )}
        <Measure label="weight" path="weightG" kind="weight" value={x.weightG} onValue={(weightG) => set({ weightG })} />
        <Measure
          label="swivels"
          path="swivels"
          kind="number"
          value={x.swivels}
          onValue={(swivels) => set({ swivels: Math.round(swivels) })}
        />
        <Measure label="chain" path="chainMm" kind="length" value={x.chainMm} onValue={(chainMm) => set({ chainMm })} />
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
          name={word}
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
          name={word}
          onValue={(away) => set({ away })}
        />
        <Text label="note" path="note" value={x.note} onValue={(note) => set({ note })} />
        <KeepRow
          said={said}
          problems={problems}
          onDelete={isNew ? undefined : () => void done({ ...stands, deleted: true }, `No. ${stands.number} taken off the rack`)}
        />
      </form>
    </WrongFields>
  );
}

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
        name={word}
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
              {word(a)}
            </button>
          ))}
      </div>
    </div>
  );
}
