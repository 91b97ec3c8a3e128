import { useState } from 'react';
import Collapse from 'react-bootstrap/Collapse';
import { useRack } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import type { Answer, Design, FieldProblem, LineView, Spot } from '../lib/types.gen';
import { say } from '../lib/words/inwords';
import { capital } from '../lib/words/words';
import { Remarks } from './remarks';
import { stepsOf } from './steps/steps';

interface Props {
  design: Design;
  view: LineView;
  spot: Spot | undefined;
  answer: Answer | undefined;
  problems: FieldProblem[];
  onEdit: (change: (design: Design) => Design) => void;
  onChoose: () => void;
  /** Whether the step of an anchor is open: then the drawing shows what lies about it. */
  onRigging: (open: boolean) => void;
}

/** The recipe in the order of the work: each step one line that opens in place. */
export function Recipe({ design, view, spot, answer, problems, onEdit, onChoose, onRigging }: Props) {
  const { system } = useSettings();
  const [open, setOpen] = useState<number | null>(null);
  const { data: rack } = useRack();
  const steps = stepsOf({ design, view, spot, rack, answer, current: problems.length === 0, system, onEdit, onChoose });
  return (
    <ol className="recipe">
      {steps.map((step, i) => {
        const objections = problems.filter((p) => step.parts.some((part) => under(part, p.field)));
        const wrong = objections.length > 0;
        const shown = open === i || (wrong && open === null);
        return (
          <li key={step.title}>
            <button
              type="button"
              className="step"
              aria-expanded={shown}
              onClick={() => {
                setOpen(open === i ? null : i);
                onRigging(open !== i && step.rig === true);
              }}
            >
              <span className={wrong ? 'number ember' : 'number'}>{i + 1}</span>
              <h3 className={wrong ? 'ember' : undefined}>{step.title}</h3>
              <span className="summary">{step.summary}</span>
            </button>
            {!shown &&
              objections.map((p) => (
                <div key={p.field} className="wrong objection" role="alert">
                  {capital(fieldName(p.field))} {say(p.says, system)}
                </div>
              ))}
            <Remarks
              remarks={(answer?.remarks ?? []).filter((r) => step.parts.some((part) => under(part, r.path) || under(r.path, part)))}
              system={system}
            />
            {step.under}
            <Collapse in={shown} mountOnEnter>
              <div>
                <div className="fields">{step.fields}</div>
              </div>
            </Collapse>
          </li>
        );
      })}
    </ol>
  );
}

/** Whether a problem's field is a part, or lies in it. */
const under = (part: string, field: string) => field === part || field.startsWith(`${part}.`) || field.startsWith(`${part}[`);

/** The last word of a field's path, as a person would say it. */
const fieldName = (path: string) =>
  (path.split('.').at(-1) ?? path)
    .replace(/(Mm|Deg|N)$/, '')
    .replace(/^y$/, 'setback')
    .replace(/^spread$/, 'jaw spread')
    .replace(/^x$/, 'offset')
    .replace(/^trapId$/, 'the trap')
    .toLowerCase();
