import { useState } from 'react';
import { keepOver } from '../lib/ask/change';
import { useOnce } from '../lib/fields/once';
import { useSettings } from '../lib/settings';
import type { Rack } from '../lib/ask/hung';
import type { Circumstances, Layout, LineTrap } from '../lib/types.gen';
import { trim } from '../lib/words/units';
import { listed, plural } from '../lib/words/words';
import type { Follows } from './following';
import { animals, type Tried } from './helps';
import { remedyWords } from '../lib/words/remedies';

interface Props {
  around: Circumstances | undefined;
  follows: Follows & { busy: boolean };
  target: string;
  layout: Layout;
  rack: Rack | undefined;
  onTry: (tried: Tried) => void;
}

/** Where dogs and cats come by and the set would catch many for its target: one sentence, with what spares them most. */
export function Dogs({ around, follows, target, layout, rack, onTry }: Props) {
  const { system } = useSettings();
  const blind = (rack?.traps ?? []).filter((h) => layout.rigs.some((r) => r.trapId === h.trap.id) && !h.trap.spares.includes('dog'));
  const caught = follows.company?.pets;
  const [failed, setFailed] = useState(false);
  const spareDogs = useOnce(async () => {
    try {
      for (const { trap } of blind) {
        const next: LineTrap = { ...trap, spares: [...trap.spares, 'dog'], sparesBy: '' };
        await keepOver(`/lines/${trap.lineId}/traps/${trap.id}`, next, `trap ${trap.number} spares dogs`);
      }
      setFailed(false);
      return true;
    } catch {
      setFailed(true);
      return false;
    }
  });
  if (!around || !caught) return null;
  const best = [...follows.sparings].sort((a, b) => b.fewerPets - a.fewerPets)[0];
  const spare = (best?.fewerPets ?? 0) > 0.05 && best?.layout ? { words: remedyWords(best, layout, system), after: best.layout } : null;
  const why =
    around.pets.length > 0
      ? around.pets.length > 1
        ? 'both were noted near here'
        : `${listed(around.pets.map(plural))} were noted near here`
      : 'a dwelling is near';
  return (
    <p className="ember" role="status">
      Dogs and cats: about {trim(caught.per100, 1)} for {animals(caught.targetPer100, target)}; {why}.{' '}
      {spare && (
        <>
          This spares most: {spare.words}{' '}
          <button
            type="button"
            className="word"
            disabled={follows.busy}
            onClick={() => onTry({ words: spare.words, before: layout, after: spare.after })}
          >
            try it
          </button>
          {blind.length > 0 && ' · '}
        </>
      )}
      {blind.length > 0 && (
        <button type="button" className="word" onClick={() => void spareDogs()}>
          spare dogs
        </button>
      )}
      {failed && ' Not changed: the trap was changed elsewhere. Try it once more.'}
    </p>
  );
}
