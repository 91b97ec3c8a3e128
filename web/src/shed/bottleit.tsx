import { lureClasses } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { objections, type Changes } from '../lib/ask/change';
import { Pick, Text, WrongFields } from '../lib/fields/fields';
import { tapMs, useOnce } from '../lib/fields/once';
import { useSettings } from '../lib/settings';
import type { Bottle, By, FieldProblem, LineView, Lure, MixtureOutput, Shelf, SmellKind } from '../lib/types.gen';
import { show } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { byWord, smellWord } from '../lib/words/called';
import { measured } from './stock';

interface Props {
  data: MixtureOutput;
  by: By;
  dose: number;
  view: LineView;
  shelf: Shelf;
  changes: Changes;
}

const freshIDs = () => ({ lure: ulid(), bottle: ulid() });

/** What was mixed goes into a bottle on the shelf: of a lure that stands there, or of a new one. */
export function BottleIt({ data, by, dose, view, shelf, changes }: Props) {
  const { system } = useSettings();
  const [into, setInto] = useState('');
  const [fresh, setFresh] = useState<{ name: string; class: SmellKind }>({ name: '', class: 'urine' });
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [said, setSaid] = useState('');
  const [next, setNext] = useState(freshIDs); // the same until they are kept, however often that is tried
  const bottle = useOnce(async () => {
    const lureID = into === '' ? next.lure : into;
    const known = shelf.lures.find((l) => l.lure.id === into)?.lure;
    if (known && known.by !== by) {
      setProblems([{ field: 'into', says: `It is measured by ${byWord(known.by)} and this by ${byWord(by)}. Choose another` }]);
      return false;
    }
    const lure: Lure = {
      id: lureID,
      lineId: view.line.id,
      name: fresh.name,
      class: fresh.class,
      by,
      dose,
      deleted: false,
      version: 0,
    };
    const made: Bottle = {
      id: next.bottle,
      lineId: view.line.id,
      lureId: lureID,
      holds: data.total,
      openedAt: null,
      freezesAtC: data.freezes.known ? data.freezes.atC : null,
      note: 'mixed here',
      deleted: false,
      version: 0,
    };
    try {
      if (!known) await changes.change('lures', null, lure, `${lure.name} put on the shelf`);
      await changes.change('bottles', null, made, `a bottle of ${known?.name ?? lure.name} mixed`);
      setProblems([]);
      setSaid(`${show(measured(by), data.total, system)} of ${known?.name ?? lure.name} stand on the shelf.`);
      setNext(freshIDs());
      setInto(lureID);
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  }, tapMs);
  return (
    <WrongFields problems={problems}>
      <div className="form-grid above-8">
        <Pick
          label="into a bottle of"
          path="into"
          wide
          value={into}
          blank="something new"
          options={shelf.lures.map((l) => l.lure.id)}
          name={(id) => shelf.lures.find((l) => l.lure.id === id)?.lure.name ?? ''}
          onValue={(id) => {
            setInto(id);
            setSaid('');
          }}
        />
        {into === '' && (
          <>
            <Text label="call it" path="name" value={fresh.name} onValue={(name) => setFresh({ ...fresh, name })} />
            <Pick
              label="what it is"
              path="class"
              value={fresh.class}
              options={lureClasses}
              name={smellWord}
              onValue={(key) => setFresh({ ...fresh, class: key })}
            />
          </>
        )}
      </div>
      <div className="build">
        <Button onClick={() => void bottle()}>Bottle it</Button>
        <span className="quiet" role="status">
          {said}
        </span>
      </div>
    </WrongFields>
  );
}
