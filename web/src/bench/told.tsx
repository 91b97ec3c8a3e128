import { useState, type ReactNode } from 'react';
import type { Layout, Told } from '../lib/types.gen';
import { among } from '../lib/words/words';
import { levelKeys } from '../lib/lists.gen';
import { setWord } from '../lib/words/called';
import { cameWords, levelWords, narrowest, timesWords, toldWords } from '../lib/words/learnt';

interface RecordedProps {
  told: Told[];
  target: string;
  kind: Layout['kind'];
  /** Whether the numbers are told by the record. */
  by: boolean;
  onBy: (by: boolean) => void;
  /** Whether what was promised is being told anew. */
  anew: boolean;
  /** What stands behind its levels. */
  children?: ReactNode;
}

/** What the line's record says of its promises, in one line; its levels on touch. */
export function Recorded({ told, target, kind, by, onBy, anew, children }: RecordedProps) {
  const [open, setOpen] = useState(false);
  if (!by)
    return (
      <div>
        Told as it is drawn, without this line’s record.{' '}
        <button type="button" className="word" onClick={() => onBy(true)}>
          tell it with the record
        </button>
      </div>
    );
  const last = told.at(-1);
  const level = narrowest(told);
  if (!last || !level) return null;
  const words = levelWords(target, setWord(kind));
  const named = (key: string) => (among(levelKeys, key) ? words[key] : key);
  return (
    <div>
      By this line’s record, {timesWords(last.factor)}; {named(level.key)}, {cameWords(level)}
      {anew && ', being told anew'}.{' '}
      <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        its levels
      </button>
      {open && (
        <>
          <ul className="levels">
            {told.map((level) => (
              <li key={level.key}>
                {named(level.key)}: {toldWords(level)}
              </li>
            ))}
          </ul>
          {children}
          <button type="button" className="word" onClick={() => onBy(false)}>
            tell it without the record
          </button>
        </>
      )}
    </div>
  );
}
