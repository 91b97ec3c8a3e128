import { useMayUndo } from '../lib/ask/may';
import { useState } from 'react';
import { nowISO } from '../lib/kept/clock';
import { useOnce } from '../lib/fields/once';
import { act } from '../lib/kept/outbox';
import type { LineNow } from '../lib/kept/overlay';
import { useBy, useRack, useShelf } from '../lib/ask/queries';
import type { Act, ActKind, Day, Finding } from '../lib/types.gen';
import { animalWord, anyWord, findingWord } from '../lib/words/called';
import { many } from '../lib/words/words';
import { timeWords } from '../lib/words/when';

/** Where each kind of act is taken back. */
const paths: Record<ActKind, string> = {
  look: 'visits',
  make: 'makes',
  pull: 'pulls',
  dose: 'doses',
  measurement: 'measurements',
  sign: 'signs',
};

/** Everything that was done on a day; each thing can be taken back, also after a reload. */
export function DayActs({ view, day }: { view: LineNow; day: Day }) {
  const { data: rack } = useRack();
  const { data: shelf } = useShelf();
  const by = useBy();
  const mayUndo = useMayUndo();
  const [problem, setProblem] = useState('');
  const undo = useOnce(async (a: Act, what: string) => {
    const outcome = await act(`/lines/${view.line.id}/${paths[a.kind]}/${a.id}/undo`, { at: nowISO() }, `undo: ${what}`, {
      set: a.setId,
    });
    setProblem(outcome.state === 'refused' ? outcome.problem.detail : '');
    return outcome.state === 'taken' || outcome.state === 'kept';
  });
  const set = (id: string) => `set ${view.sets.find((s) => s.set.id === id)?.set.number ?? ''}`;
  const inWords = (a: Act): string => {
    switch (a.kind) {
      case 'look':
        return `${set(a.setId)}, ${findingWord(a.what as Finding)}`;
      case 'make':
        return `${set(a.setId)} built, for ${animalWord(a.what)}`;
      case 'pull':
        return a.what === 'later' ? `${set(a.setId)}, what had stayed there` : `${set(a.setId)} pulled`;
      case 'dose':
        return `${many(Number(a.what), 'dose')} of ${shelf?.lures.find((l) => l.lure.id === a.lureId)?.lure.name ?? 'a lure'}`;
      case 'measurement':
        return `trap ${rack?.traps.find((h) => h.trap.id === a.trapId)?.trap.number ?? ''} measured`;
      case 'sign':
        return `sign, ${a.what.split(' ').map(anyWord).join(', ')}`;
    }
  };
  if (day.acts.length === 0) return null;
  return (
    <section className="day-acts">
      <h3>Everything done on this day</h3>
      {problem && (
        <div className="wrong" role="alert">
          {problem}
        </div>
      )}
      <ul className="rows">
        {day.acts.map((a) => (
          <li key={a.kind + a.id}>
            <span className="quiet">{timeWords(a, view.line.zone)}</span>{' '}
            {a.undone ? (
              <s className="quiet">
                {inWords(a)}
                {by(a.who)}
              </s>
            ) : (
              <>
                {inWords(a)}
                <span className="quiet">{by(a.who)}</span>{' '}
                {mayUndo(a.who) && (
                  <button type="button" className="word" onClick={() => void undo(a, inWords(a))} aria-label={`undo: ${inWords(a)}`}>
                    undo
                  </button>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
