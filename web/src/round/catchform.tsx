import { animals, conditions, feet, holds, pets, sexes, targets } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { rigsOf } from '../lib/words/parts';
import { useDraft } from '../lib/fields/draft';
import { Choice, Measure, Several, Text, WrongFields } from '../lib/fields/fields';
import type { LineNow, SetNow } from '../lib/kept/overlay';
import type { Catch, FieldProblem, Make } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { animalWord, conditionWord, footWord, holdWord, sexWord } from '../lib/words/called';
import { among, capital } from '../lib/words/words';
import { newCatch } from './looks';
import { missingOf } from './missing';
import { caughtDetails, caughtWords } from '../lib/words/looks';

interface CatchFormProps {
  view: LineNow;
  open: SetNow;
  onBack: () => void;
  onRecord: (caught: Catch[]) => Promise<boolean>;
}

/** What was caught, said by touch: kind, sex, foot and hold, of each animal; more for whoever has more to say. */
export function CatchForm({ view, open, onBack, onRecord }: CatchFormProps) {
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [all, setAll, clear] = useDraft<Catch[]>(`caught:${open.make.id}`, () => [newCatch()]);
  const last = all.length - 1;
  const caught = all[last] ?? newCatch();
  const set = (next: Catch) => setAll(all.with(last, next));
  /** Whether each animal says what has to be said of it; else it is said at its field. */
  const whole = (): boolean => {
    const missing = missingOf({ finding: 'catch', animal: '', by: '', also: [], catches: [caught] });
    setProblems(missing.map((p) => ({ ...p, field: p.field.replace('catches[0].', '') })));
    return missing.length === 0;
  };
  const done = () => {
    if (!whole()) return;
    clear();
    void onRecord(all.map((c) => ({ ...c, id: ulid() })));
  };
  return (
    <WrongFields problems={problems}>
      <p>
        <b>Approach from the far side of its circle</b>, knowing the rig. Dispatch or release as the local code and your training teach.
        {among(pets, caught.species) && <b className="ember"> A pet: keep clear of its teeth, and call its owner first.</b>}
      </p>
      {all.slice(0, last).map((c, i) => (
        <div key={i}>
          <b>{capital(caughtWords([c]))}</b> <span className="quiet">{caughtDetails(c, open.make.layout)}</span>{' '}
          <button type="button" className="word" onClick={() => setAll(all.filter((_, k) => k !== i))}>
            remove
          </button>
        </div>
      ))}
      <Animal
        key={last}
        make={open.make}
        label={`what set ${open.set.number} at ${view.line.name} caught`}
        caught={caught}
        onCaught={(part) => set({ ...caught, ...part })}
      />
      <div className="foot">
        <button type="button" className="word" onClick={() => whole() && setAll([...all, newCatch()])}>
          another animal
        </button>
        <button type="button" className="word" onClick={onBack}>
          back
        </button>
      </div>
      <div className="at-hand">
        <Button className="next" onClick={done}>
          Record the catch
        </Button>
      </div>
    </WrongFields>
  );
}

interface AnimalProps {
  make: Make;
  label: string;
  caught: Catch;
  onCaught: (part: Partial<Catch>) => void;
}

/** One animal. Of a pet its owner is asked, and not its foot. */
function Animal({ make, label, caught, onCaught }: AnimalProps) {
  const [others, setOthers] = useState(!among(targets, caught.species) && caught.species !== '');
  const [more, setMore] = useState(false);
  const rigs = rigsOf(make.layout);
  const pet = among(pets, caught.species);
  const notLooked =
    <K extends string>(word: (key: K) => string) =>
    (key: K) =>
      key === '' ? 'not looked at' : word(key);
  return (
    <>
      <div className="answers settling catch" aria-label={label}>
        <Choice
          label="what was caught"
          path="species"
          value={caught.species}
          options={others ? animals : [...targets, 'another']}
          name={(key) => (key === 'another' ? 'another' : animalWord(key))}
          onValue={(species) =>
            species === 'another' ? setOthers(true) : onCaught({ species, ...(among(pets, species) && { foot: '', hold: '' }) })
          }
        />
        <Choice label="sex" path="sex" value={caught.sex} options={sexes} name={sexWord} onValue={(sex) => onCaught({ sex })} />
        {pet ? (
          <Text label="its owner, if known" path="owner" wide value={caught.owner ?? ''} onValue={(owner) => onCaught({ owner })} />
        ) : (
          <>
            <Choice
              label="which foot"
              path="foot"
              value={caught.foot}
              options={[...feet, '']}
              name={notLooked(footWord)}
              onValue={(foot) => onCaught({ foot })}
            />
            <Choice
              label="how it is held"
              path="hold"
              value={caught.hold}
              options={[...holds, '']}
              name={notLooked(holdWord)}
              onValue={(hold) => onCaught({ hold })}
            />
          </>
        )}
        {rigs.length > 1 && (
          <Several
            label="in which trap, or in which two"
            of={rigs.map((r) => r.slot)}
            name={(slot) => rigs.find((r) => r.slot === slot)?.name ?? ''}
            chosen={caught.rigs}
            onChosen={(chosen) => onCaught({ rigs: chosen })}
          />
        )}
      </div>
      {more ? (
        <div className="whose">
          <Several label="how it was" of={conditions} name={conditionWord} chosen={caught.were} onChosen={(were) => onCaught({ were })} />
          <Measure
            label="weight"
            path="weightG"
            kind="weight"
            value={caught.weightG}
            onValue={(weightG) => onCaught({ weightG })}
            onBlank={() => onCaught({ weightG: null })}
          />
          <Choice
            label="blood left at the set"
            path="blood"
            value={caught.blood === null ? '' : caught.blood ? 'yes' : 'no'}
            options={['yes', 'no']}
            name={(key) => key}
            onValue={(key) => onCaught({ blood: key === 'yes' })}
          />
        </div>
      ) : (
        <div className="foot">
          <button type="button" className="word" onClick={() => setMore(true)}>
            its condition
          </button>
        </div>
      )}
    </>
  );
}
