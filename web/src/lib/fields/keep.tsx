import { useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { useDraft } from './draft';
import { WrongFields } from './fields';
import { focusWrong } from './focuswrong';
import { useOnce } from './once';
import { usePlans } from '../ask/may';
import type { FieldProblem } from '../types.gen';
import { objections, type Changes, type Editable, type Kind } from '../ask/change';

/**
 * A form over something that can be changed: what is in it, what the program objected to, and what was said last. With a draft's
 * key, what is typed outlives a reload.
 */
export function useKeep<T extends Editable>(changes: Changes, kind: Kind, stands: T, draft?: string) {
  const [x, setX, clear] = useDraft(draft, () => stands);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [said, setSaid] = useState('');
  const set = (change: Partial<T>) => {
    setX({ ...x, ...change });
    setSaid('');
  };
  const keep = useOnce(async (next: T, what: string) => {
    try {
      await changes.change(kind, stands.version === 0 ? null : stands, next, what);
      clear();
      setProblems([]);
      setSaid('Saved.');
      return true;
    } catch (error) {
      setProblems(objections(error));
      focusWrong();
      return false;
    }
  });
  return { x, set, problems, setProblems, said, unsay: () => setSaid(''), keep };
}

interface KeepFormProps {
  children: ReactNode;
  className?: string;
  said: string;
  problems: FieldProblem[];
  onKeep: () => void;
  onDelete?: (() => void) | undefined;
  /** Whether who only enters what he finds may keep it too. */
  entered?: boolean;
}

/**
 * Such a form, with its end: keep, remove where there is something to remove, what was said, and why it cannot be removed. Whoever may not
 * keep it reads it.
 */
export function KeepForm({ children, className, said, problems, onKeep, onDelete, entered = false }: KeepFormProps) {
  const plans = usePlans();
  const may = plans || entered;
  const wrong = problems.find((p) => p.field === 'deleted' || p.field === 'version');
  return (
    <WrongFields problems={problems}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onKeep();
        }}
      >
        <fieldset className={className} disabled={!may}>
          {children}
          {may && (
            <div className="build wide">
              <Button type="submit">Save</Button>
              {onDelete && (
                <button type="button" className="word" onClick={onDelete}>
                  remove
                </button>
              )}
              <span className="quiet" role="status">
                {said}
              </span>
            </div>
          )}
          {wrong && (
            <div className="wrong wide" role="alert">
              It {wrong.says}
            </div>
          )}
        </fieldset>
      </form>
    </WrongFields>
  );
}
