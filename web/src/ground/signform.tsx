import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Refused } from '../lib/api';
import { useDraft } from '../lib/draft';
import { Choice, Pick, Text, WrongFields } from '../lib/fields';
import { write } from '../lib/outbox';
import { instant, localInput } from '../lib/time';
import type { FieldProblem, LineView, Sign, Spot } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { animals, signAges, signKinds, word } from '../lib/words';

interface Draft {
  id: string;
  what: string;
  animal: string;
  age: string;
  /** As typed, on the line's clock; blank is now. */
  seen: string;
  note: string;
}

/** Adding a sign: what it is, whose, how old, when seen. */
export function SignForm({ view, spot, onDone }: { view: LineView; spot: Spot; onDone: () => void }) {
  const { zone } = view.line;
  const [draft, set, clear] = useDraft<Draft>(`sign:${spot.id}`, () => ({
    id: ulid(),
    what: '',
    animal: '',
    age: 'last_night',
    seen: localInput(view.now, zone),
    note: '',
  }));
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const change = (part: Partial<Draft>) => set({ ...draft, ...part });

  const add = async () => {
    const seen = instant(draft.seen, zone);
    if (Number.isNaN(seen)) {
      setProblems([{ field: 'seenAt', says: 'is no date and time: choose when it was seen' }]);
      return;
    }
    const sign: Sign = {
      id: draft.id,
      lineId: view.line.id,
      spotId: spot.id,
      what: draft.what,
      animal: draft.what === 'none' ? 'unsure' : draft.animal,
      age: draft.age,
      seenAt: new Date(seen).toISOString(),
      note: draft.note,
      version: 0,
    };
    try {
      await write(`/lines/${view.line.id}/signs/${sign.id}`, sign, `sign at ${spot.name}`);
      clear();
      onDone();
    } catch (error) {
      if (error instanceof Refused) setProblems(error.problem.fields ?? []);
    }
  };

  return (
    <WrongFields problems={problems}>
      <form
        className="notice"
        onSubmit={(e) => {
          e.preventDefault();
          void add();
        }}
      >
        <div className="form-grid">
          <Choice
            label="what"
            path="what"
            value={draft.what}
            options={signKinds}
            name={(k) => (k === 'none' ? 'no sign' : word(k))}
            onValue={(what) => change({ what })}
          />
          {draft.what !== 'none' && (
            <>
              <Pick
                label="which animal"
                path="animal"
                value={draft.animal}
                blank="choose"
                options={['unsure', ...animals]}
                name={word}
                onValue={(animal) => change({ animal })}
              />
              <Pick
                label="how old"
                path="age"
                value={draft.age}
                options={signAges}
                name={word}
                onValue={(age) => change({ age })}
              />
            </>
          )}
          <Text
            label="seen at"
            path="seenAt"
            type="datetime-local"
            wide
            value={draft.seen}
            onValue={(seen) => change({ seen })}
          />
          <Text label="note" path="note" wide value={draft.note} onValue={(note) => change({ note })} />
        </div>
        <div className="build">
          <Button type="submit">Add the sign</Button>
          <button type="button" className="word" onClick={onDone}>
            not now
          </button>
        </div>
      </form>
    </WrongFields>
  );
}
