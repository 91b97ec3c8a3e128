import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { routes } from '../lib/ask/routes';
import { Felt } from '../lib/fields/felt';
import { Choice, Measure, Text, Tick, WrongFields } from '../lib/fields/fields';
import { useOnce } from '../lib/fields/once';
import { PhotoField } from '../lib/fields/photo';
import { nowISO } from '../lib/kept/clock';
import { withPress } from '../lib/kept/withtrap';
import { ulid } from '../lib/ulid';
import { type At, stepsOf } from './steps/steps';
import { pathOf, saidOf, unsaid } from '../lib/kept/built';
import { write } from '../lib/kept/outbox';
import { Refused } from '../lib/ask/api';
import type { Along, AsBuilt, Correction, Design, FieldProblem, Layout, Make, Question } from '../lib/types.gen';
import { moveRig, type Shift } from './moves';
import { differIn, differWords } from './compare';
import { listed } from '../lib/words/words';

interface Props {
  make: Make;
  /** The bench that it was drawn on, for what differs more seldom. */
  at: Omit<At, 'design' | 'answer' | 'current' | 'onEdit' | 'onChoose'> & { design: Design };
  /** Whether somebody has looked at it: then how it stood is put right, with a reason. */
  looked: boolean;
  frozen: boolean;
  /** Which anchor goes along with which trap. */
  along: Along[];
  /** By what the bench was asked. */
  question: Question | undefined;
}

/** How a set stands once it is built, in one pass: as it was drawn, or what differs. Both are kept, and all that is computed follows what stands. */
export function AsBuiltPass({ make, at, looked, frozen, along, question }: Props) {
  const [open, setOpen] = useState(looked);
  const [layout, setLayout] = useState(make.layout);
  const [said, setSaid] = useState<AsBuilt>({ ...unsaid, frozen, ...make.asBuilt });
  const [reason, setReason] = useState('');
  /** What stands by what was said, and whether scent came onto it. */
  const [kept, setKept] = useState<{ layout: Layout; scent: boolean } | null>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const say = useOnce(async (as: Layout, how: AsBuilt) => {
    const stands = (layout: Layout) => setKept({ layout, scent: how.scentOnBed === true });
    setProblems([]);
    try {
      const told = saidOf(make, as, how);
      const entry = { set: make.setId, onKept: () => stands(as) };
      if (looked) {
        const correction: Correction = { id: ulid(), lineId: make.lineId, makeId: make.id, at: nowISO(), reason, make: told, before: null };
        await write<Correction>(`/lines/${make.lineId}/corrections/${correction.id}`, correction, 'how it stood, put right', entry);
      } else {
        const outcome = await write<Make>(pathOf(make), told, 'how it was built', entry);
        if (outcome.state === 'taken') stands(outcome.answer.layout);
      }
      return true;
    } catch (error) {
      setKept(null);
      setOpen(true);
      const refused = error instanceof Refused ? error.problem : { fields: null, detail: 'this browser could not keep it' };
      setProblems(refused.fields ?? [{ field: '', says: refused.detail }]);
      return false;
    }
  });
  const elsewhere = problems.filter((p) => !asked.test(p.field));
  const move = (slot: number, d: Shift) => setLayout((l) => moveRig(l, slot, d, along));
  if (kept) return <Stands drawn={make.layout} built={kept.layout} scent={kept.scent} question={question} />;
  return (
    <div>
      <p>
        {make.asBuilt === null && !looked && (
          <>
            <button type="button" className="word" onClick={() => void say(make.layout, { ...unsaid, frozen })}>
              it stands as drawn
            </button>{' '}
            ·{' '}
          </>
        )}
        <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
          {looked ? 'put right how it stood' : 'say how it stands'}
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
                      onValue={(gaugeN) => setLayout((l) => withPress(l, rig.slot, gaugeN))}
                    />
                  </div>
                )
              );
            })}
            <Felt layout={layout} points={said.points} onPoints={(points) => setSaid({ ...said, points })} />
            <Tick
              label="the ground was frozen"
              path="asBuilt.frozen"
              value={said.frozen}
              onValue={(is) => setSaid({ ...said, frozen: is })}
            />
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
            <div className="wide" data-field="asBuilt.photoId">
              <PhotoField
                line={make.lineId}
                photoId={said.photoId ?? null}
                what="the set as built"
                onPhoto={(photoId) => setSaid({ ...said, photoId })}
              />
            </div>
            <More at={at} layout={layout} onLayout={setLayout} />
            {looked && <Text label="why it is put right" path="reason" wide value={reason} onValue={setReason} />}
            {elsewhere.length > 0 && (
              <div className="wrong wide" role="alert">
                {elsewhere.map((p) => `${p.field} ${p.says}`.trim()).join('; ')}
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

/** The fields that stand in the form, which say themselves what is wrong with them. */
const asked = /^(layout\.rigs\[\d+\]\.pan\.(xMm|yMm|gaugeN)|asBuilt\..+|reason)$/;

/** What differs more seldom: every part of the set, in the steps of the bench. */
function More({ at, layout, onLayout }: { at: Props['at']; layout: Layout; onLayout: (change: (layout: Layout) => Layout) => void }) {
  const [open, setOpen] = useState<string | null>(null);
  const design = { ...at.design, layout };
  const steps = stepsOf({
    ...at,
    design,
    answer: undefined,
    current: false,
    onEdit: (change) => onLayout((l) => change({ ...design, layout: l }).layout),
    onChoose: () => undefined,
  });
  return (
    <div className="wide more">
      More that differs:{' '}
      {steps.map((step) => (
        <button
          key={step.title}
          type="button"
          className="word"
          aria-expanded={open === step.title}
          onClick={() => setOpen(open === step.title ? null : step.title)}
        >
          {step.title.toLowerCase()}
        </button>
      ))}
      {steps.map(
        (step) =>
          open === step.title && (
            <div key={step.title} className="fields">
              {step.fields}
            </div>
          ),
      )}
    </div>
  );
}

/** In what a set differs from its drawing, and what that does, on the same feet. A bed that was not felt is taken as it was drawn. */
function Stands({ drawn, built, scent, question }: { drawn: Layout; built: Layout; scent: boolean; question: Question | undefined }) {
  const known = { ...built, rigs: built.rigs.map((r, i) => ({ ...r, bed: { ...r.bed, firm: r.bed.firm ?? drawn.rigs[i]?.bed.firm } })) };
  const differ = [...differIn(drawn, known), ...(scent ? ['scent on its bed'] : [])];
  const around = question?.circumstances;
  const { data } = useQuery({
    ...routes.compare({
      first: { ...question, layout: drawn, map: false } as Question,
      second: { ...question, layout: known, map: false, ...(around && { circumstances: { ...around, scentOnBed: scent } }) } as Question,
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
