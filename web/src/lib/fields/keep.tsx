import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useDraft } from './draft';
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

/** The end of such a form: keep, delete where there is something to delete, what was said, and why it cannot be deleted. */
interface KeepRowProps {
  said: string;
  problems: FieldProblem[];
  onDelete?: (() => void) | undefined;
  /** Whether who only enters what he finds may keep it too. */
  entered?: boolean;
}

export function KeepRow({ said, problems, onDelete, entered = false }: KeepRowProps) {
  const plans = usePlans();
  const wrong = problems.find((p) => p.field === 'deleted' || p.field === 'version');
  if (!plans && !entered) return null;
  return (
    <>
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
      {wrong && (
        <div className="wrong wide" role="alert">
          It {wrong.says}
        </div>
      )}
    </>
  );
}
