import { animals, conditions, feet, holds, pets, sexes, targets } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { rigsOf } from '../draw/parts';
import { useDraft } from '../lib/draft';
import { Choice, Measure, WrongFields } from '../lib/fields';
import type { LineNow, SetNow } from '../lib/overlay';
import type { Catch, FieldProblem } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { word } from '../lib/words';
import { newCatch } from './looks';
import { Back } from './eachtrap';

interface CatchFormProps {
  view: LineNow;
  open: SetNow;
  onBack: () => void;
  onRecord: (caught: Catch) => Promise<boolean>;
}

const asked: { field: 'species' | 'sex' | 'foot' | 'hold'; says: string }[] = [
  { field: 'species', says: 'is missing: choose what the trap holds' },
  { field: 'sex', says: 'is missing: choose one, unknown where it cannot be told' },
  { field: 'foot', says: 'is missing: choose the foot that is held' },
  { field: 'hold', says: 'is missing: choose pad or toe' },
];

/** What a trap holds, said by touch: kind, sex, foot and hold; more for whoever has more to say. */
export function CatchForm({ view, open, onBack, onRecord }: CatchFormProps) {
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [caught, set, clear] = useDraft<Catch>(`catch:${open.make.id}`, newCatch);
  const [more, setMore] = useState(false);
  const rigs = rigsOf(open.make.layout);
  const change = (part: Partial<Catch>) => set({ ...caught, ...part });
  const done = () => {
    // Of an animal that the line is not set for its kind is enough.
    const enough = caught.species !== '' && !targets.includes(caught.species);
    const missing = asked.filter(({ field }) => caught[field] === '' && !enough);
    setProblems(missing);
    if (missing.length > 0) return;
    clear();
    void onRecord({ ...caught, id: ulid() });
  };
  return (
    <WrongFields problems={problems}>
      <p>
        <b>Approach from the far side of its circle</b>, knowing the rig. Dispatch or release as the local code and your training teach.
        {pets.includes(caught.species) && <b className="ember"> A pet: keep clear of its teeth, and call its owner first.</b>}
      </p>
      <div className="answers settling" aria-label={`what set ${open.set.number} at ${view.line.name} holds`}>
        <Choice
          label="what it holds"
          path="species"
          value={caught.species}
          options={animals}
          name={word}
          onValue={(species) => change({ species })}
        />
        <Choice label="sex" path="sex" value={caught.sex} options={sexes} name={word} onValue={(sex) => change({ sex })} />
        <Choice label="which foot" path="foot" value={caught.foot} options={feet} name={word} onValue={(foot) => change({ foot })} />
        <Choice label="how it is held" path="hold" value={caught.hold} options={holds} name={word} onValue={(hold) => change({ hold })} />
        {rigs.length > 1 && (
          <div className="wide" role="group" aria-label="in which trap, or in which two">
            <div className="form-label">in which trap, or in which two</div>
            <div className="choice">
              {rigs.map(({ slot, name }) => (
                <button
                  key={slot}
                  type="button"
                  aria-pressed={caught.rigs.includes(slot)}
                  onClick={() =>
                    change({ rigs: caught.rigs.includes(slot) ? caught.rigs.filter((r) => r !== slot) : [...caught.rigs, slot] })
                  }
                >
                  {name}
                </button>
              ))}
            </div>
          </div>
        )}
      </div>
      {more ? (
        <div className="whose">
          <div className="wide" role="group" aria-label="how it was">
            <div className="form-label">how it was</div>
            <div className="choice">
              {conditions.map((key) => (
                <button
                  key={key}
                  type="button"
                  aria-pressed={caught.were.includes(key)}
                  onClick={() => change({ were: caught.were.includes(key) ? caught.were.filter((w) => w !== key) : [...caught.were, key] })}
                >
                  {word(key)}
                </button>
              ))}
            </div>
          </div>
          <Measure
            label="weight"
            path="weightG"
            kind="weight"
            value={caught.weightG}
            onValue={(weightG) => change({ weightG })}
            onBlank={() => change({ weightG: null })}
          />
          <Choice
            label="blood left at the set"
            path="blood"
            value={caught.blood === null ? '' : caught.blood ? 'yes' : 'no'}
            options={['yes', 'no']}
            name={(key) => key}
            onValue={(key) => change({ blood: key === 'yes' })}
          />
        </div>
      ) : (
        <div className="foot">
          <button type="button" className="word" onClick={() => setMore(true)}>
            its condition
          </button>
        </div>
      )}
      <Button className="next" onClick={done}>
        Record the catch
      </Button>
      <Back onBack={onBack} />
    </WrongFields>
  );
}
