import { backings, plugs, shows } from '../lib/lists.gen';
import { Fragment, useState, type ReactNode } from 'react';
import Collapse from 'react-bootstrap/Collapse';
import Form from 'react-bootstrap/Form';
import { Choice, Measure } from '../lib/fields/fields';
import { say } from '../lib/words/inwords';
import { useRack } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import type { Answer, Attractor, Design, FieldProblem, Layout, LineView, Rig, Spot, Stronger } from '../lib/types.gen';

import { animalWord, backingWord, plugWord, showWord } from '../lib/words/called';
import { bearing, capital } from '../lib/words/words';
import { TrapSays } from '../lib/trapsays';
import { moveRig } from './moves';
import { partWords } from '../lib/words/patterns';
import { KeepPattern } from './patterns';
import { heavierOf, Holds, HoldsMore, strengthened } from './holds';
import { Reach } from './reach';
import { Remarks } from './remarks';
import { measured, SmellFields } from './fromshed';
import { anchorWords, AnchorFields } from './steps/anchor';
import { bedWords, BedFields } from './steps/bed';
import { guideWords, GuideFields } from './steps/guides';
import { kindWords, attractorParts, AttractorFields, TrenchFields, WayFields } from './steps/kind';
import { wayRuns, TargetFields, PlaceFields, GroundFields } from './steps/place';
import { smellWords } from './steps/smells';
import { trapWords, TrapFields, TensionRuler } from './steps/trap';

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
  const l = design.layout;
  const lay = (change: Partial<Layout>) => onEdit((d) => ({ ...d, layout: { ...d.layout, ...change } }));
  const { data: rack } = useRack();
  const first = l.attractors[0];
  const attract = (next: Attractor) => lay({ attractors: l.attractors.map((a) => (a.slot === next.slot ? next : a)) });
  const rigTo = (next: Rig) => lay({ rigs: l.rigs.map((r) => (r.slot === next.slot ? next : r)) });
  const stronger = (to: Stronger) => lay(strengthened(l, to));
  const steps: { title: string; parts: string[]; summary: string; under?: ReactNode; rig?: boolean; fields: ReactNode }[] = [
    {
      title: 'Spot and target',
      parts: ['target', 'facingDeg', 'lie'],
      summary: `${spot?.name ?? ''}, ${animalWord(design.target)}; ${l.facingDeg === undefined ? wayRuns(spot) : `facing ${bearing(l.facingDeg)}`}`,
      fields: (
        <>
          <TargetFields design={design} onEdit={onEdit} />
          {spot && <PlaceFields layout={l} spot={spot} plane={view.plane} onLayout={lay} />}
          <GroundFields layout={l} onLayout={lay} />
        </>
      ),
    },
    {
      title: 'Kind and pattern',
      parts: [
        'kind',
        'pattern',
        'show',
        'backing',
        'way',
        'trench',
        ...l.attractors.flatMap((_, i) => attractorParts.map((part) => `attractors[${i}]${part}`)),
      ],
      summary: kindWords(l, system),
      fields: (
        <>
          <div className="wide">
            <button type="button" className="word" onClick={onChoose}>
              make it another way
            </button>
          </div>
          <Choice
            label="how it shows"
            path="show"
            value={l.show}
            options={shows}
            name={(k) => showWord(k).split(',')[0] ?? k}
            onValue={(show) => lay({ show })}
          />
          <Choice
            label={partWords(l).behind}
            path="backing"
            value={l.backing}
            options={backings}
            name={backingWord}
            onValue={(backing) => lay({ backing })}
          />
          {l.attractors.map((a, i) => (
            <AttractorFields key={a.slot} attractor={a} path={`attractors[${i}]`} many={l.attractors.length > 1} onAttractor={attract} />
          ))}
          {l.trench && <TrenchFields trench={l.trench} onTrench={(trench) => lay({ trench })} />}
          {l.way && <WayFields way={l.way} onWay={(way) => lay({ way })} />}
          <KeepPattern design={design} />
        </>
      ),
    },
    ...l.rigs.map((rig, i) => ({
      title: nth(i, rig.pan ? 'Trap and pan' : 'Loop'),
      parts: [
        `rigs[${i}].trapId`,
        `rigs[${i}].jaws`,
        `rigs[${i}].loop`,
        `rigs[${i}].pan`,
        `rigs[${i}].device`,
        `rigs[${i}].slot`,
        `rigs[${i}].axisDeg`,
        `rigs[${i}].over`,
        `rigs[${i}].under`,
      ],
      summary: trapWords(rig, measured(rig, rack), problems.length === 0 ? answerOf(answer, rig) : undefined, system),
      under: (
        <>
          {rig.pan && <TensionRuler gaugeN={rig.pan.gaugeN} answer={answerOf(answer, rig)} target={design.target} system={system} />}
          <div className="objection trap-room">
            <TrapSays id={rig.trapId} />
          </div>
        </>
      ),
      fields: (
        <TrapFields
          layout={l}
          rig={rig}
          path={`rigs[${i}]`}
          onRig={rigTo}
          onMove={(d) => onEdit((x) => ({ ...x, layout: moveRig(x.layout, rig.slot, d) }))}
        />
      ),
    })),
    ...l.anchors.map((anchor, i) => {
      const held = l.rigs.filter((r) => r.anchorSlot === anchor.slot);
      return {
        title: nth(i, 'Anchor'),
        parts: [
          `anchors[${i}]`,
          ...l.rigs.flatMap((r, k) => (r.anchorSlot === anchor.slot ? [`rigs[${k}].chainMm`, `rigs[${k}].anchorSlot`] : [])),
        ],
        summary: anchorWords(anchor, held[0], system),
        rig: true,
        under: (
          <Holds
            target={design.target}
            held={answer?.anchors.find((h) => h.slot === anchor.slot)}
            heavier={heavierOf(answer, anchor.slot)}
            current={problems.length === 0}
          />
        ),
        fields: (
          <AnchorFields
            anchor={anchor}
            path={`anchors[${i}]`}
            holds={
              <HoldsMore
                target={design.target}
                held={answer?.anchors.find((h) => h.slot === anchor.slot)}
                heavier={heavierOf(answer, anchor.slot)}
                pets={answer?.pets ?? []}
                current={problems.length === 0}
                onStronger={stronger}
              >
                {i === 0 && <Reach design={design} />}
              </HoldsMore>
            }
            onAnchor={(next) => lay({ anchors: l.anchors.map((a) => (a.slot === anchor.slot ? next : a)) })}
          >
            {held.map((rig) => (
              <Fragment key={rig.slot}>
                <Measure
                  label={held.length > 1 ? `chain of ${rig.name || `trap ${rig.slot + 1}`}` : 'chain'}
                  path={`rigs[${l.rigs.indexOf(rig)}].chainMm`}
                  kind="length"
                  value={rig.chainMm}
                  onValue={(chainMm) => rigTo({ ...rig, chainMm })}
                />
                <Measure
                  label="swivels in it"
                  path={`rigs[${l.rigs.indexOf(rig)}].swivels`}
                  kind="number"
                  value={rig.swivels ?? null}
                  onValue={(n) => rigTo({ ...rig, swivels: Math.round(n) })}
                  onBlank={() => rigTo({ ...rig, swivels: undefined })}
                />
                <Form.Check
                  className="wide"
                  id={`spring-${rig.slot}`}
                  label="a shock spring in the chain"
                  checked={rig.spring === true}
                  onChange={(e) => rigTo({ ...rig, spring: e.target.checked })}
                />
              </Fragment>
            ))}
          </AnchorFields>
        ),
      };
    }),
    ...l.rigs
      .filter((rig) => rig.jaws)
      .map((rig, i) => ({
        title: nth(i, 'Bed and cover'),
        parts: [`rigs[${i}].bed`, `rigs[${i}].cover`, `rigs[${i}].xMm`, `rigs[${i}].yMm`],
        summary: bedWords(rig, answerOf(answer, rig), system),
        fields: <BedFields rig={rig} path={`rigs[${i}]`} onRig={rigTo} />,
      })),
    ...(first
      ? [
          {
            title: 'Attractant',
            parts: l.attractors.flatMap((_, i) => [`attractors[${i}].smells`, `attractors[${i}].plug`]),
            summary: smellWords(l),
            fields: l.attractors.map((a, i) => (
              <Fragment key={a.slot}>
                <SmellFields
                  layout={l}
                  never={i === 0 ? (answer?.never ?? []) : (answer?.never ?? []).filter((n) => a.smells.some((s) => s.kind === n.kind))}
                  attractor={a}
                  path={`attractors[${i}]`}
                  spotID={design.spotId}
                  view={view}
                  onValue={attract}
                />
                {a.hole && (
                  <Choice
                    label="plug over the bait"
                    path={`attractors[${i}].plug`}
                    value={a.plug}
                    options={plugs}
                    name={plugWord}
                    onValue={(plug) => attract({ ...a, plug })}
                  />
                )}
              </Fragment>
            )),
          },
        ]
      : []),
    {
      title: 'Guides',
      parts: ['guides'],
      summary: guideWords(l),
      fields: <GuideFields guides={l.guides} onGuides={(guides) => lay({ guides })} />,
    },
  ];
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

const nth = (i: number, title: string) => (i === 0 ? title : `${['Second', 'Third'][i - 1] ?? 'Another'} ${title.toLowerCase()}`);

const answerOf = (answer: Answer | undefined, rig: Rig) => answer?.rigs.find((r) => r.slot === rig.slot);

/** The last word of a field's path, as a person would say it. */
const fieldName = (path: string) =>
  (path.split('.').at(-1) ?? path)
    .replace(/(Mm|Deg|N)$/, '')
    .replace(/^y$/, 'setback')
    .replace(/^spread$/, 'jaw spread')
    .replace(/^x$/, 'offset')
    .replace(/^trapId$/, 'the trap')
    .toLowerCase();
