import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { routes } from '../lib/ask/routes';
import { Felt } from '../lib/fields/felt';
import { Choice, Measure, Text, WrongFields } from '../lib/fields/fields';
import { useOnce } from '../lib/fields/once';
import { sayBuilt, unsaid } from '../lib/kept/built';
import type { FieldProblem, Layout, Make, Question } from '../lib/types.gen';
import { moveRig, type Shift } from './moves';
import { differIn, differWords } from './compare';
import { capital, listed } from '../lib/words/words';

interface Props {
  make: Make;
  frozen: boolean;
  /** By what the bench was asked. */
  question: Question | undefined;
}

/** How a set stands once it is built, in one pass: as it was drawn, or what differs. Both are kept, and all that is computed follows what stands. */
export function AsBuiltPass({ make, frozen, question }: Props) {
  const [open, setOpen] = useState(false);
  const [layout, setLayout] = useState(make.layout);
  const [said, setSaid] = useState({ ...unsaid, frozen });
  const [kept, setKept] = useState<Layout | null>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const say = useOnce(async (as: Layout, how: typeof said) => {
    const outcome = await sayBuilt(make, as, how, 'how it was built');
    if (outcome.state === 'refused') setProblems(outcome.problem.fields ?? [{ field: '', says: outcome.problem.detail }]);
    if (outcome.state === 'taken' || outcome.state === 'kept') setKept(as);
    return outcome.state === 'taken' || outcome.state === 'kept';
  });
  const move = (slot: number, d: Shift) =>
    setLayout((l) =>
      moveRig(
        l,
        slot,
        d,
        l.anchors.map((a) => ({ rig: slot, anchor: a.slot })).filter((x) => under(l, slot, x.anchor)),
      ),
    );
  if (kept) return <Stands drawn={make.layout} built={kept} question={question} />;
  return (
    <div>
      <p>
        <button type="button" className="word" onClick={() => void say(make.layout, { ...unsaid, frozen })}>
          it stands as drawn
        </button>{' '}
        ·{' '}
        <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
          say how it stands
        </button>
      </p>
      {open && (
        <WrongFields problems={problems}>
          <form
            className="fields"
            onSubmit={(e) => {
              e.preventDefault();
              void say(layout, said);
            }}
          >
            {layout.rigs.map((rig, i) => {
              const { pan } = rig;
              const name = layout.rigs.length > 1 ? `${rig.name || `trap ${i + 1}`}: ` : '';
              return (
                pan && (
                  <div key={rig.slot} className="wide fields">
                    <Measure
                      label={`${name}setback`}
                      path={`layout.rigs[${i}].pan.yMm`}
                      kind="length"
                      value={pan.yMm}
                      onValue={(yMm) => move(rig.slot, { x: 0, y: yMm - pan.yMm })}
                    />
                    <Measure
                      label={`${name}offset`}
                      path={`layout.rigs[${i}].pan.xMm`}
                      kind="length"
                      value={pan.xMm}
                      onValue={(xMm) => move(rig.slot, { x: xMm - pan.xMm, y: 0 })}
                    />
                    <Measure
                      label={`${name}pan, pressed on the set trap`}
                      path={`layout.rigs[${i}].pan.gaugeN`}
                      kind="force"
                      value={pan.gaugeN}
                      onValue={(gaugeN) =>
                        setLayout((l) => ({
                          ...l,
                          rigs: l.rigs.map((r) => (r.slot === rig.slot && r.pan ? { ...r, pan: { ...r.pan, gaugeN } } : r)),
                        }))
                      }
                    />
                  </div>
                )
              );
            })}
            <Felt layout={layout} points={said.points} onPoints={(points) => setSaid({ ...said, points })} />
            <Choice
              label="scent on the bed"
              path="asBuilt.scentOnBed"
              value={said.scentOnBed === null ? '' : said.scentOnBed ? 'some' : 'none'}
              options={['none', 'some'] as const}
              name={(k) => k}
              onValue={(k) => setSaid({ ...said, scentOnBed: k === 'some' })}
            />
            <Text
              label="a landmark to find it by"
              path="asBuilt.landmark"
              wide
              value={said.landmark}
              onValue={(landmark) => setSaid({ ...said, landmark })}
            />
            <Measure
              label="minutes it took"
              path="asBuilt.minutes"
              kind="number"
              value={said.minutes}
              onValue={(minutes) => setSaid({ ...said, minutes })}
              onBlank={() => setSaid({ ...said, minutes: null })}
            />
            <Text label="note" path="asBuilt.note" value={said.note} onValue={(note) => setSaid({ ...said, note })} />
            {problems.some((p) => p.field === '' || p.field === 'asBuilt') && (
              <div className="wrong wide" role="alert">
                {capital(listed(problems.map((p) => p.says)))}
              </div>
            )}
            <div className="wide build">
              <button type="submit" className="btn btn-primary">
                Save
              </button>
            </div>
          </form>
        </WrongFields>
      )}
    </div>
  );
}

/** Whether an anchor stands under a trap's bed, and goes along when that lies elsewhere. */
function under(l: Layout, slot: number, anchorSlot: number): boolean {
  const rig = l.rigs.find((r) => r.slot === slot);
  const anchor = l.anchors.find((a) => a.slot === anchorSlot);
  return (
    rig !== undefined && anchor !== undefined && rig.anchorSlot === anchorSlot && Math.hypot(anchor.xMm - rig.xMm, anchor.yMm - rig.yMm) < 1
  );
}

/** In what a set differs from its drawing, and what that does, on the same feet. */
function Stands({ drawn, built, question }: { drawn: Layout; built: Layout; question: Question | undefined }) {
  const differ = differIn(drawn, built);
  const { data } = useQuery({
    ...routes.compare({
      first: { ...question, layout: drawn, map: false } as Question,
      second: { ...question, layout: built, map: false } as Question,
    }),
    enabled: question !== undefined && differ.length > 0,
  });
  if (differ.length === 0) return <p>It stands as it was drawn.</p>;
  return (
    <p role="status">
      It differs from its drawing in {listed(differ)}. {data && differWords(data, 'as drawn', 'as it stands')}
    </p>
  );
}
