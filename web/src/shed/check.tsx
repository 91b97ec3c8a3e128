import Button from 'react-bootstrap/Button';
import { useState } from 'react';
import { nowISO } from '../lib/kept/clock';
import { useDraft } from '../lib/fields/draft';
import { objections } from '../lib/ask/change';
import { Measure, WrongFields } from '../lib/fields/fields';
import { problemWords } from '../lib/words/inwords';
import { useOnce } from '../lib/fields/once';
import { write } from '../lib/kept/outbox';
import { checkKeys } from '../lib/lists.gen';
import type { Hung } from '../lib/ask/hung';
import type { FieldProblem, LineTrap, LineView, ShedCheck } from '../lib/types.gen';
import { measures } from './trapform';
import { useSettings } from '../lib/settings';
import { ulid } from '../lib/ulid';
import { checkItems } from '../lib/words/words';

type Said = Record<string, { sound: boolean; note: string }>;

interface Draft {
  id: string;
  said: Said;
  measured?: [string, number][];
}

/** The shed check as a short list: each item sound or not, with a note. What is not said stays as it was. */
export function CheckForm({ h, view, onDone }: { h: Hung; view: LineView; onDone: () => void }) {
  // Measured is what was measured now of what stood as is usual; an older draft has none of it.
  const [{ id, said, measured = [] }, setDraft, clear] = useDraft<Draft>(`check:${h.trap.id}`, () => ({ id: ulid(), said: {} }));
  const set = (next: Said) => setDraft({ id, said: next, measured });
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const { system } = useSettings();
  const before = new Map(h.checks.map((c) => [c.key, c]));
  const record = useOnce(async () => {
    const check: ShedCheck = {
      id,
      lineId: view.line.id,
      trapId: h.trap.id,
      at: nowISO(),
      items: checkKeys.flatMap((key) => (said[key] ? [{ key, ...said[key] }] : [])),
    };
    try {
      if (measured.length > 0) {
        const usual = h.trap.usual?.filter((field) => !measured.some(([key]) => key === field)) ?? [];
        await write(
          `/lines/${view.line.id}/traps/${h.trap.id}`,
          { ...h.trap, ...Object.fromEntries(measured), usual } satisfies LineTrap,
          `the measures of trap ${h.trap.number}`,
        );
      }
      await write(`/lines/${view.line.id}/checks/${check.id}`, check, `the shed check of trap ${h.trap.number}`);
      clear();
      onDone();
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  const bad = Object.values(said).some((s) => !s.sound);
  const open = checkItems.filter(([key]) => said[key] === undefined).length;
  return (
    <WrongFields problems={problems}>
      <p className="quiet above-8">
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
                {!now && was && !was.sound && <span className="ember"> · faulty{was.note ? `, ${was.note}` : ''}</span>}
              </span>
              <span className="choice" role="group" aria-label={part}>
                {[true, false].map((answer) => (
                  <button
                    key={String(answer)}
                    type="button"
                    aria-pressed={now?.sound === answer}
                    onClick={() => set({ ...said, [key]: { sound: answer, note: now?.note ?? '' } })}
                  >
                    {answer ? 'ok' : 'fault'}
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
      <NeverMeasured trap={h.trap} measured={measured} onMeasured={(next) => setDraft({ id, said, measured: next })} />
      <div className="build">
        <Button disabled={Object.keys(said).length === 0} onClick={() => void record()}>
          {bad ? 'Keep it home' : 'Record the check'}
        </Button>
        {open > 0 && (
          <span className="quiet">
            {open} of {checkItems.length} to answer
          </span>
        )}
        <button
          type="button"
          className="word"
          onClick={() => set(Object.fromEntries(checkItems.map(([key]) => [key, said[key] ?? { sound: true, note: '' }])))}
        >
          the rest is ok
        </button>
        <button type="button" className="word" onClick={onDone}>
          cancel
        </button>
      </div>
      {problems.length > 0 && (
        <div className="wrong" role="alert">
          Not recorded. {problems.map((p) => problemWords(p, system)).join('. ')}. Nothing is lost.
        </div>
      )}
    </WrongFields>
  );
}

interface NeverProps {
  trap: LineTrap;
  measured: [string, number][];
  onMeasured: (measured: [string, number][]) => void;
}

/** What nobody measured of a trap yet is asked for while it is in the hand; what is left stays as is usual. */
function NeverMeasured({ trap, measured, onMeasured }: NeverProps) {
  const usual = measures.filter(([key]) => trap.usual?.includes(key));
  if (usual.length === 0) return null;
  return (
    <>
      <p className="quiet above-8">Never measured, and taken as usual for its size. Measure what you can now.</p>
      <div className="form-grid three">
        {usual.map(([key, label, kind]) => {
          const now = measured.find(([k]) => k === key)?.[1];
          return (
            <div key={key} className={now === undefined ? 'usual' : undefined}>
              <Measure
                label={label}
                path={key}
                kind={kind}
                value={now ?? trap[key]}
                onValue={(value) => onMeasured([...measured.filter(([k]) => k !== key), [key, value]])}
              />
            </div>
          );
        })}
      </div>
    </>
  );
}
