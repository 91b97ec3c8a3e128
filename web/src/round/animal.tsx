import { useRef } from 'react';
import Form from 'react-bootstrap/Form';
import { rigsOf } from '../lib/words/parts';
import { animals, feet, holds, pets, sexes } from '../lib/lists.gen';
import type { Catch, FieldProblem, Make } from '../lib/types.gen';
import { newCatch } from './looks';
import { animalWord, sexWord, footWord, holdWord } from '../lib/words/called';
import { among } from '../lib/words/words';
import { Cell } from './cell';

/** Which of a set's traps, or both, as one choice. */
function trapChoices(make: Make): [key: string, name: string, slots: number[]][] {
  const traps = rigsOf(make.layout);
  if (traps.length < 2) return [];
  const each = traps.map(({ slot, name }): [string, string, number[]] => [String(slot), name, [slot]]);
  return traps.length === 2 ? [...each, ['both', 'both', traps.map((t) => t.slot)]] : each;
}

interface WhichProps {
  make: Make;
  label: string;
  slots: number[];
  onSlots: (slots: number[]) => void;
}

/** In a set with several traps, which of them; nothing where it has one. */
export function WhichTrap({ make, label, slots, onSlots }: WhichProps) {
  const choices = trapChoices(make);
  if (choices.length === 0) return null;
  const value = choices.find(([, , of]) => of.length === slots.length && of.every((s) => slots.includes(s)))?.[0] ?? '';
  return (
    <Cell
      label={label}
      value={value}
      options={choices.map(([key]) => key)}
      blank="which trap"
      name={(key) => choices.find(([k]) => k === key)?.[1] ?? key}
      onValue={(key) => onSlots(choices.find(([k]) => k === key)?.[2] ?? [])}
    />
  );
}

interface AnimalsProps {
  make: Make | undefined;
  caught: Catch[];
  problems: FieldProblem[];
  onCaught: (caught: Catch[]) => void;
}

/** The animals that were caught, each on a line in the order of the story: what, its sex, by which foot and how, in which trap. */
export function Animals({ make, caught, problems, onCaught }: AnimalsProps) {
  const box = useRef<HTMLDivElement>(null);
  const change = (i: number, part: Partial<Catch>) => onCaught(caught.map((c, k) => (k === i ? { ...c, ...part } : c)));
  const add = () => {
    onCaught([...caught, newCatch()]);
    // The hand goes on where the next animal begins.
    window.setTimeout(() => box.current?.querySelector<HTMLElement>('.animal:nth-last-child(2) select')?.focus());
  };
  return (
    <div className="animals" ref={box}>
      {caught.map((c, i) => {
        const at = (field: string) => problems.some((p) => p.field === `catches[${i}].${field}`);
        return (
          <div className="animal" key={i}>
            <Cell
              label="what was caught"
              value={c.species}
              options={animals}
              name={animalWord}
              blank="what"
              wrong={at('species')}
              onValue={(species) => change(i, { species, ...(among(pets, species) ? { foot: '', hold: '' } : { owner: undefined }) })}
            />
            <Cell
              label="sex"
              value={c.sex}
              options={sexes}
              name={sexWord}
              blank="sex"
              wrong={at('sex')}
              onValue={(sex) => change(i, { sex })}
            />
            {among(pets, c.species) ? (
              <Form.Control
                aria-label="its owner"
                placeholder="owner, if known"
                autoComplete="off"
                value={c.owner ?? ''}
                onChange={(e) => change(i, { owner: e.target.value })}
              />
            ) : (
              <>
                <Cell
                  label="which foot"
                  value={c.foot}
                  options={feet}
                  name={footWord}
                  blank="foot not looked at"
                  onValue={(foot) => change(i, { foot })}
                />
                <Cell
                  label="by pad or toe"
                  value={c.hold}
                  options={holds}
                  name={holdWord}
                  blank="hold not looked at"
                  onValue={(hold) => change(i, { hold })}
                />
              </>
            )}
            {make && <WhichTrap make={make} label="which trap held it" slots={c.rigs} onSlots={(rigs) => change(i, { rigs })} />}
            {caught.length > 1 && (
              <button type="button" className="word" tabIndex={-1} onClick={() => onCaught(caught.filter((_, k) => k !== i))}>
                remove
              </button>
            )}
          </div>
        );
      })}
      <button type="button" className="word" onClick={add}>
        another animal
      </button>
    </div>
  );
}
