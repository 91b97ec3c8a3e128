import { useState } from 'react';
import { Choice, Text, Tick } from '../lib/fields/fields';
import { anchorOuts, chores, trapOuts } from '../lib/lists.gen';
import { anchorOutWord, choreWord, trapOutWord } from '../lib/words/called';
import { heldWords, rigsOf } from '../lib/words/parts';
import { useSettings } from '../lib/settings';
import type { Chore, Make, Pull, RigOut } from '../lib/types.gen';
import { Back } from './eachtrap';

interface Props {
  make: Make;
  onBack: () => void;
  onPull: (told: Pick<Pull, 'rigs' | 'done' | 'note'>) => void;
}

/** What became of each trap and its anchor, what was done before the place is left; as it stands when it opens all came home. */
export function PullForm({ make, onBack, onPull }: Props) {
  const { system } = useSettings();
  const held = heldWords(make.layout, system);
  const traps = rigsOf(make.layout);
  const [rigs, setRigs] = useState<RigOut[]>(traps.map(({ slot }) => ({ slot, trap: 'home', sprung: false, anchor: 'out' })));
  const [done, setDone] = useState<Chore[]>([]);
  const [note, setNote] = useState('');
  const change = (slot: number, part: Partial<RigOut>) => setRigs(rigs.map((r) => (r.slot === slot ? { ...r, ...part } : r)));
  const fires = rigs.some((r) => r.trap === 'frozen_in' && !r.sprung);
  return (
    <>
      <h2>Pulled</h2>
      {rigs.map((r, i) => {
        const name = traps.length > 1 ? `${traps[i]?.name ?? ''}, ` : '';
        return (
          <div className="whose" key={r.slot}>
            <Choice
              label={`${name}the trap`}
              path={`rigs[${i}].trap`}
              value={r.trap}
              options={trapOuts}
              name={trapOutWord}
              onValue={(trap) => change(r.slot, { trap })}
            />
            {r.trap === 'frozen_in' && (
              <div className="ticks">
                <Tick label="it is sprung" path={`rigs[${i}].sprung`} value={r.sprung} onValue={(sprung) => change(r.slot, { sprung })} />
              </div>
            )}
            <Choice
              label={`${name}${held[i]?.drag ? 'the drag' : 'the anchor'}`}
              path={`rigs[${i}].anchor`}
              value={r.anchor}
              options={anchorOuts}
              name={anchorOutWord}
              onValue={(anchor) => change(r.slot, { anchor })}
            />
          </div>
        );
      })}
      {fires && <p className="ember">A trap that can fire is not pulled. Spring it before you leave, or the set stays due every day.</p>}
      <h3>Done here</h3>
      <div className="ticks">
        {chores.map((chore) => (
          <Tick
            key={chore}
            label={choreWord(chore)}
            path={`done.${chore}`}
            value={done.includes(chore)}
            onValue={(is) => setDone(is ? [...done, chore] : done.filter((one) => one !== chore))}
          />
        ))}
      </div>
      <Text label="note" path="note" value={note} onValue={setNote} />
      <button type="button" className="btn btn-primary next" disabled={fires} onClick={() => onPull({ rigs, done, note })}>
        It is pulled
      </button>
      <Back onBack={onBack} />
    </>
  );
}
