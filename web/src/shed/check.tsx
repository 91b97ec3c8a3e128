import Button from 'react-bootstrap/Button';
import { useState } from 'react';
import { nowISO } from '../lib/clock';
import { useDraft } from '../lib/draft';
import { objections } from '../lib/change';
import { WrongFields } from '../lib/fields';
import { useOnce } from '../lib/once';
import { write } from '../lib/outbox';
import type { FieldProblem, Hung, LineView, ShedCheck } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { checkItems } from '../lib/words';

type Said = Record<string, { sound: boolean; note: string }>;

/** The shed check as a short list: each item sound or not, with a note. What is not said stays as it was. */
export function CheckForm({ h, view, onDone }: { h: Hung; view: LineView; onDone: () => void }) {
  const [{ id, said }, setDraft, clear] = useDraft<{ id: string; said: Said }>(`check:${h.trap.id}`, () => ({ id: ulid(), said: {} }));
  const set = (next: Said) => setDraft({ id, said: next });
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const before = new Map(h.checks.map((c) => [c.key, c]));
  const record = useOnce(async () => {
    const check: ShedCheck = {
      id,
      lineId: view.line.id,
      trapId: h.trap.id,
      at: nowISO(),
      items: Object.entries(said).map(([key, s]) => ({ key, ...s })),
    };
    try {
      await write(`/lines/${view.line.id}/checks/${check.id}`, check, `the shed check of No. ${h.trap.number}`);
      clear();
      onDone();
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  const bad = Object.values(said).some((s) => !s.sound);
  return (
    <WrongFields problems={problems}>
      <p className="quiet" style={{ marginTop: 8 }}>
        Safety in while you look; setters, not fingers. Whatever is not sound keeps the trap home until it is.
      </p>
      <ul className="rows check">
        {checkItems.map(([key, part, sound]) => {
          const now = said[key];
          const was = before.get(key);
          return (
            <li key={key}>
              <span>
                <b>{part}</b> <span className="quiet">{sound}</span>
                {!now && was && !was.sound && <span className="ember"> · not sound{was.note ? `: ${was.note}` : ''}</span>}
              </span>
              <span className="choice" role="group" aria-label={part}>
                {[true, false].map((answer) => (
                  <button
                    key={String(answer)}
                    type="button"
                    aria-pressed={now?.sound === answer}
                    onClick={() => set({ ...said, [key]: { sound: answer, note: now?.note ?? '' } })}
                  >
                    {answer ? 'sound' : 'not'}
                  </button>
                ))}
              </span>
              {now && !now.sound && (
                <input
                  className="form-control"
                  aria-label={`what is wrong: ${part}`}
                  placeholder="what is wrong"
                  value={now.note}
                  onChange={(e) => set({ ...said, [key]: { ...now, note: e.target.value } })}
                />
              )}
            </li>
          );
        })}
      </ul>
      <div className="build">
        <Button disabled={Object.keys(said).length === 0} onClick={() => void record()}>
          {bad ? 'Keep it home' : 'Record the check'}
        </Button>
        <button
          type="button"
          className="word"
          onClick={() => set(Object.fromEntries(checkItems.map(([key]) => [key, said[key] ?? { sound: true, note: '' }])))}
        >
          the rest is sound
        </button>
        <button type="button" className="word" onClick={onDone}>
          leave it
        </button>
      </div>
      {problems.length > 0 && (
        <div className="wrong" role="alert">
          Not recorded: {problems.map((p) => p.says).join('; ')}. Nothing is lost.
        </div>
      )}
    </WrongFields>
  );
}
