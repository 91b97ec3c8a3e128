import { animals, conditions, feet, holds, pets, sexes, targets } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { rigsOf } from '../draw/parts';
import { useDraft } from '../lib/draft';
import { Choice, Measure, WrongFields, Several } from '../lib/fields';
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
          <Several
            label="in which trap, or in which two"
            of={rigs.map((r) => r.slot)}
            name={(slot) => rigs.find((r) => r.slot === slot)?.name ?? ''}
            chosen={caught.rigs}
            onChosen={(rigs) => change({ rigs })}
          />
        )}
      </div>
      {more ? (
        <div className="whose">
          <Several label="how it was" of={conditions} name={word} chosen={caught.were} onChosen={(were) => change({ were })} />
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
