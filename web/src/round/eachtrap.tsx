import { rigStates } from '../lib/lists.gen';
import { rigsOf } from '../lib/words/parts';
import { Choice } from '../lib/fields/fields';
import type { Make, RigFound, RigState } from '../lib/types.gen';

/** Nothing was meant: to the answers again. */
export const Back = ({ onBack }: { onBack: () => void }) => (
  <div className="foot">
    <button type="button" className="word" onClick={onBack}>
      back
    </button>
  </div>
);

interface EachProps {
  make: Make;
  rigs: RigFound[];
  onRigs: (rigs: RigFound[]) => void;
}

/** How each trap was found, where a set has several. */
export function EachTrap({ make, rigs, onRigs }: EachProps) {
  const traps = rigsOf(make.layout);
  if (traps.length < 2) return null;
  const state = (slot: number) => rigs.find((r) => r.slot === slot)?.state ?? '';
  const say = (slot: number, said: RigState) =>
    onRigs([...rigs.filter((r) => r.slot !== slot), ...(said === state(slot) ? [] : [{ slot, state: said }])]);
  return traps.map((rig) => (
    <div className="whose" key={rig.slot}>
      <Choice
        label={rig.name}
        path="rigs"
        value={state(rig.slot)}
        options={rigStates.filter((key) => key !== 'holding')}
        name={(key) => rigWords[key]}
        onValue={(said) => say(rig.slot, said)}
      />
    </div>
  ));
}

/** How one of several traps was found; that one holds is said by its catch. */
const rigWords: Record<Exclude<RigState, 'holding'>, string> = { set: 'still set', fired: 'sprung', locked: 'frozen', gone: 'gone' };
