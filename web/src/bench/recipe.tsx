import {
  agents,
  anchors,
  backings,
  covers,
  dragCovers,
  ends as endKinds,
  guideKinds,
  panOvers,
  panUnders,
  plugs,
  shows,
  targets,
} from '../lib/lists.gen';
import { Fragment, useState, type ReactNode } from 'react';
import Collapse from 'react-bootstrap/Collapse';
import Form from 'react-bootstrap/Form';
import { PanScale } from '../draw/panscale';
import { ask } from '../lib/api';
import { Choice, Measure, Pick, say, Text } from '../lib/fields';
import { useRack } from '../lib/queries';
import { useSettings } from '../lib/settings';
import { baits, coverWords, drags, isAside, lures, smellOf, urines } from '../draw/parts';
import type {
  Anchor,
  Answer,
  Attractor,
  Bed,
  Design,
  End,
  FieldProblem,
  Guide,
  Hole,
  Layer,
  Layout,
  Lie,
  LineView,
  Plane,
  Repattern,
  Repatterned,
  Rig,
  RigAnswer,
  Spot,
  Stronger,
  Trench,
  Way,
} from '../lib/types.gen';
import { show, type System } from '../lib/units';
import { bearing, capital, count, plural, word } from '../lib/words';
import { toGlobe, toPlane } from '../ground/plane';
import { runs } from '../ground/spotform';
import { TrapSays } from '../shed/trapsays';
import { moveRig, side } from './drawing';
import { KeepPattern } from './patterns';
import { patternWords } from './patternwords';
import { Holds, HoldsMore, strengthened } from './holds';
import { Reach } from './reach';
import { Remarks } from './remarks';
import { FromRack, measured, SmellFields } from './fromshed';

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
      summary: `${spot?.name ?? ''}, ${word(design.target)}; ${l.facingDeg === undefined ? wayRuns(spot) : `facing ${bearing(l.facingDeg)}`}`,
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
            name={(k) => word(k).split(',')[0] ?? k}
            onValue={(show) => lay({ show })}
          />
          <Choice
            label="what stands behind it"
            path="backing"
            value={l.backing}
            options={backings}
            name={(k) => word(k)}
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
        under: <Holds held={answer?.anchors.find((h) => h.slot === anchor.slot)} current={problems.length === 0} />,
        fields: (
          <AnchorFields
            anchor={anchor}
            path={`anchors[${i}]`}
            holds={
              <HoldsMore held={answer?.anchors.find((h) => h.slot === anchor.slot)} current={problems.length === 0} onStronger={stronger}>
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
                <SmellFields attractor={a} path={`attractors[${i}]`} spotID={design.spotId} view={view} onValue={attract} />
                {a.hole && (
                  <Choice
                    label="plug over the bait"
                    path={`attractors[${i}].plug`}
                    value={a.plug}
                    options={plugs}
                    name={word}
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
      summary: guideWords(l.guides),
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

/** Which way the travel way of a spot runs, where that is known. */
const wayRuns = (spot: Spot | undefined) =>
  spot && spot.travelBearingDeg !== null ? `way runs ${runs(spot.travelBearingDeg)}` : 'which way the way runs is not known';

/** Whether a problem's field is a part, or lies in it. */
const under = (part: string, field: string) => field === part || field.startsWith(`${part}.`) || field.startsWith(`${part}[`);

const nth = (i: number, title: string) => (i === 0 ? title : `${['Second', 'Third'][i - 1] ?? 'Another'} ${title.toLowerCase()}`);

const answerOf = (answer: Answer | undefined, rig: Rig) => answer?.rigs.find((r) => r.slot === rig.slot);

function kindWords(l: Layout, system: System): string {
  const hole = l.attractors[0]?.hole;
  const behind = l.backing === 'none' ? 'nothing behind' : `${word(l.backing)} behind`;
  const facts = [
    capital(patternWords(l)),
    l.attractors.length > 0 && behind,
    hole && `${show('length', hole.depthMm, system)} deep, ${show('angle', hole.angleDeg, system)}`,
    l.trench && `${show('length', l.trench.widthMm, system)} wide, ${show('length', l.trench.headMm, system)} deep at its head`,
    l.way && `way narrowed to ${show('length', l.way.widthMm, system)}`,
  ];
  return facts.filter(Boolean).join('; ');
}

/** What of an attractor is in the step of its kind, and not in that of its smells. */
const attractorParts = ['', '.slot', '.hole', '.radiusMm', '.heightMm', '.xMm', '.yMm'];

interface AttractorProps {
  attractor: Attractor;
  path: string;
  many: boolean;
  onAttractor: (attractor: Attractor) => void;
}

/** The size of what an animal comes to, and, where there are several, its place. */
function AttractorFields({ attractor: a, path, many, onAttractor }: AttractorProps) {
  const name = a.of ?? a.kind;
  const nth = many ? `${name} ${a.slot + 1}` : name;
  return (
    <>
      {a.hole && <HoleFields hole={a.hole} name={nth} at={`${path}.hole`} onHole={(hole) => onAttractor({ ...a, hole })} />}
      {a.radiusMm !== undefined && (
        <Measure
          label={`${nth}, across`}
          path={`${path}.radiusMm`}
          kind="length"
          value={2 * a.radiusMm}
          onValue={(mm) => onAttractor({ ...a, radiusMm: mm / 2 })}
        />
      )}
      {a.heightMm !== undefined && (
        <Measure
          label={`${nth}, how high`}
          path={`${path}.heightMm`}
          kind="length"
          value={a.heightMm}
          onValue={(heightMm) => onAttractor({ ...a, heightMm })}
        />
      )}
      {a.slot > 0 && (
        <>
          <Measure
            label={`${nth}, setback`}
            path={`${path}.yMm`}
            kind="length"
            value={a.yMm}
            onValue={(yMm) => onAttractor({ ...a, yMm })}
          />
          <Measure
            label={`${nth}, offset`}
            path={`${path}.xMm`}
            kind="length"
            value={a.xMm}
            onValue={(xMm) => onAttractor({ ...a, xMm })}
          />
        </>
      )}
    </>
  );
}

function TrenchFields({ trench, onTrench }: { trench: Trench; onTrench: (trench: Trench) => void }) {
  const side = (label: string, key: keyof Trench) => (
    <Measure label={label} path={`trench.${key}`} kind="length" value={trench[key]} onValue={(mm) => onTrench({ ...trench, [key]: mm })} />
  );
  return (
    <>
      {side('trench, wide', 'widthMm')}
      {side('trench, long', 'lengthMm')}
      {side('trench, deep at its head', 'headMm')}
    </>
  );
}

function WayFields({ way, onWay }: { way: Way; onWay: (way: Way) => void }) {
  return (
    <>
      <Measure
        label="way narrowed to"
        path="way.widthMm"
        kind="length"
        value={way.widthMm}
        onValue={(widthMm) => onWay({ ...way, widthMm })}
      />
      {way.openMm !== undefined && (
        <Measure
          label="way before that"
          path="way.openMm"
          kind="length"
          value={way.openMm}
          onValue={(openMm) => onWay({ ...way, openMm })}
        />
      )}
    </>
  );
}

function HoleFields({ hole, name, at, onHole }: { hole: Hole; name: string; at: string; onHole: (hole: Hole) => void }) {
  return (
    <>
      <Measure
        label={`${name}, across`}
        path={`${at}.diameterMm`}
        kind="length"
        value={hole.diameterMm}
        onValue={(diameterMm) => onHole({ ...hole, diameterMm })}
      />
      <Measure
        label={`${name}, how deep along it`}
        path={`${at}.depthMm`}
        kind="length"
        value={hole.depthMm}
        onValue={(depthMm) => onHole({ ...hole, depthMm })}
      />
      <Measure
        label="angle, down from level"
        path={`${at}.angleDeg`}
        kind="angle"
        value={hole.angleDeg}
        onValue={(angleDeg) => onHole({ ...hole, angleDeg })}
      />
    </>
  );
}

function trapWords(rig: Rig, read: boolean | null, answer: RigAnswer | undefined, system: System): string {
  const jaws = rig.jaws ? `, ${show('length', rig.jaws.spreadMm, system)}` : '';
  if (rig.loop) return `${word(rig.device)}, ${show('length', rig.loop.diameterMm, system)} across`;
  const how = read === null ? '' : read ? ', measured' : ', not measured';
  const pan = rig.pan ? `; pan at ${show('force', rig.pan.gaugeN, system)}${how}` : '';
  return `${rig.name || 'Trap'}${jaws}${pan}${answer ? `, ${show('force', answer.effectiveN, system)} with cover` : ''}`;
}

interface RigProps {
  rig: Rig;
  path: string;
  onRig: (rig: Rig) => void;
}

function TrapFields({ rig, path, onRig, onMove }: RigProps & { onMove: (d: { x: number; y: number }) => void }) {
  const { pan, jaws, loop } = rig;
  return (
    <>
      {loop && (
        <>
          <Measure
            label="loop, across"
            path={`${path}.loop.diameterMm`}
            kind="length"
            value={loop.diameterMm}
            onValue={(diameterMm) => onRig({ ...rig, loop: { ...loop, diameterMm } })}
          />
          <Measure
            label="off the ground"
            path={`${path}.loop.heightMm`}
            kind="length"
            value={loop.heightMm}
            onValue={(heightMm) => onRig({ ...rig, loop: { ...loop, heightMm } })}
          />
        </>
      )}
      <FromRack rig={rig} path={path} onRig={onRig} />
      {pan && (
        <>
          <Measure
            label="setback, hole edge to pan"
            path={`${path}.pan.yMm`}
            kind="length"
            value={pan.yMm}
            onValue={(yMm) => onMove({ x: 0, y: yMm - pan.yMm })}
          />
          <Measure
            label="offset, right is plus"
            path={`${path}.pan.xMm`}
            kind="length"
            value={pan.xMm}
            onValue={(xMm) => onMove({ x: xMm - pan.xMm, y: 0 })}
          />
          <Measure
            label="pan tension, by the gauge"
            path={`${path}.pan.gaugeN`}
            kind="force"
            value={pan.gaugeN}
            onValue={(gaugeN) => onRig({ ...rig, pan: { ...pan, gaugeN } })}
          />
          <Measure
            label="pan, across"
            path={`${path}.pan.diameterMm`}
            kind="length"
            value={pan.diameterMm}
            onValue={(diameterMm) => onRig({ ...rig, pan: { ...pan, diameterMm } })}
          />
          <Measure
            label="pan, how high it stands"
            path={`${path}.pan.heightMm`}
            kind="length"
            value={pan.heightMm ?? null}
            onValue={(heightMm) => onRig({ ...rig, pan: { ...pan, heightMm } })}
            onBlank={() => onRig({ ...rig, pan: { ...pan, heightMm: undefined } })}
          />
        </>
      )}
      {pan && (
        <>
          <Pick
            label="over the pan"
            path={`${path}.over`}
            value={rig.over ?? ''}
            blank="nothing"
            options={panOvers}
            name={word}
            onValue={(over) => onRig({ ...rig, over })}
          />
          <Pick
            label="under the pan"
            path={`${path}.under`}
            value={rig.under ?? ''}
            blank="nothing"
            options={panUnders}
            name={word}
            onValue={(under) => onRig({ ...rig, under })}
          />
          <Measure
            label="levers turned from across"
            path={`${path}.axisDeg`}
            kind="angle"
            value={rig.axisDeg ?? 0}
            onValue={(axisDeg) => onRig({ ...rig, axisDeg })}
          />
        </>
      )}
      <Text label="trap" path={`${path}.name`} value={rig.name} onValue={(name) => onRig({ ...rig, name })} />
      {jaws && (
        <>
          <Measure
            label="jaw spread"
            path={`${path}.jaws.spreadMm`}
            kind="length"
            value={jaws.spreadMm}
            onValue={(spreadMm) => onRig({ ...rig, jaws: { ...jaws, spreadMm } })}
          />
          <Measure
            label="frame, with levers"
            path={`${path}.jaws.frameMm`}
            kind="length"
            value={jaws.frameMm}
            onValue={(frameMm) => onRig({ ...rig, jaws: { ...jaws, frameMm } })}
          />
          <Measure
            label="height when set"
            path={`${path}.jaws.heightMm`}
            kind="length"
            value={jaws.heightMm}
            onValue={(heightMm) => onRig({ ...rig, jaws: { ...jaws, heightMm } })}
          />
        </>
      )}
    </>
  );
}

function anchorWords(anchor: Anchor, rig: Rig | undefined, system: System): string {
  const chain = rig?.chainMm ?? 0;
  const swivels = rig?.swivels ? `, ${count(rig.swivels)} ${rig.swivels === 1 ? 'swivel' : 'swivels'}` : '';
  const spring = rig?.spring ? ', shock spring' : '';
  if (drags(anchor.kind)) return `${capital(word(anchor.kind))} on ${show('ground', chain, system)} of chain${swivels}${spring}`;
  const aside = rig !== undefined && isAside(anchor, rig);
  return `${show('length', anchor.lengthMm ?? 0, system)} ${word(anchor.kind)}, ${aside ? 'to the side' : 'under the bed'}, ${show('length', chain, system)} chain${swivels}${spring}`;
}

/** What the length of each kind of anchor is called, and what it begins with. What goes with the animal has none. */
const lengthOf: Record<string, { label: string; usualMm: number }> = {
  stake: { label: 'down in the ground', usualMm: 609.6 },
  crossed: { label: 'down in the ground', usualMm: 609.6 },
  cable: { label: 'down in the ground', usualMm: 457.2 },
  staple: { label: 'into the wood', usualMm: 50.8 },
  slide: { label: 'run of the cable', usualMm: 2400 },
};

interface AnchorProps {
  anchor: Anchor;
  path: string;
  onAnchor: (anchor: Anchor) => void;
  /** What is computed of it. */
  holds: ReactNode;
  children: ReactNode;
}

function AnchorFields({ anchor, path, onAnchor, holds, children }: AnchorProps) {
  const hold = (kind: string) => {
    const { lengthMm, ...rest } = anchor;
    const [was, is] = [lengthOf[anchor.kind], lengthOf[kind]];
    const same = was !== undefined && was.label === is?.label;
    onAnchor({ ...rest, kind, ...(is && { lengthMm: (same ? lengthMm : undefined) ?? is.usualMm }) });
  };
  const long = lengthOf[anchor.kind];
  return (
    <>
      {holds}
      <Choice label="held by" path={`${path}.kind`} value={anchor.kind} options={anchors} name={word} onValue={hold} />
      {long && (
        <Measure
          label={long.label}
          path={`${path}.lengthMm`}
          kind="length"
          value={anchor.lengthMm ?? 0}
          onValue={(lengthMm) => onAnchor({ ...anchor, lengthMm })}
        />
      )}
      {driven.includes(anchor.kind) && (
        <>
          {anchor.kind === 'cable' ? (
            <Measure
              label="its plate, long"
              path={`${path}.plateLengthMm`}
              kind="length"
              value={anchor.plateLengthMm ?? null}
              onValue={(plateLengthMm) => onAnchor({ ...anchor, plateLengthMm })}
              onBlank={() => onAnchor({ ...anchor, plateLengthMm: undefined })}
            />
          ) : (
            <Measure
              label="stake, across"
              path={`${path}.diameterMm`}
              kind="length"
              value={anchor.diameterMm ?? null}
              onValue={(diameterMm) => onAnchor({ ...anchor, diameterMm })}
              onBlank={() => onAnchor({ ...anchor, diameterMm: undefined })}
            />
          )}
          <Measure
            label="bore a pull by the scale of"
            path={`${path}.proofN`}
            kind="force"
            value={anchor.proofN ?? null}
            onValue={(proofN) => onAnchor({ ...anchor, proofN })}
            onBlank={() => onAnchor({ ...anchor, proofN: undefined })}
          />
          <Measure
            label="from the pattern, back"
            path={`${path}.yMm`}
            kind="length"
            value={anchor.yMm}
            onValue={(yMm) => onAnchor({ ...anchor, yMm })}
          />
          <Measure
            label="and to the side"
            path={`${path}.xMm`}
            kind="length"
            value={anchor.xMm}
            onValue={(xMm) => onAnchor({ ...anchor, xMm })}
          />
        </>
      )}
      {anchor.kind === 'staple' && (
        <Form.Check
          className="wide"
          id={`soft-${anchor.slot}`}
          label="the wood is soft or dead"
          checked={anchor.soft === true}
          onChange={(e) => onAnchor({ ...anchor, soft: e.target.checked })}
        />
      )}
      {anchor.kind === 'slide' && <EndFields anchor={anchor} path={path} onAnchor={onAnchor} />}
      <Pick
        label={drags(anchor.kind) ? 'it can hang in' : 'cover about, for a drag'}
        path={`${path}.cover`}
        value={anchor.cover ?? ''}
        blank="not said"
        options={dragCovers}
        name={word}
        onValue={(cover) => onAnchor({ ...anchor, cover })}
      />
      {(anchor.kind === 'toggle' || anchor.kind === 'log') && (
        <Form.Check
          className="wide"
          id={`tied-${anchor.slot}`}
          label="tied fast"
          checked={anchor.tied === true}
          onChange={(e) => onAnchor({ ...anchor, tied: e.target.checked })}
        />
      )}
      {children}
    </>
  );
}

const driven = ['stake', 'crossed', 'cable'];

/** What holds the two ends of a slide cable; the weaker of them counts. */
function EndFields({ anchor, path, onAnchor }: Omit<AnchorProps, 'children' | 'holds'>) {
  const ends = anchor.ends ?? [];
  const usual = (kind: string): End => ({ kind, lengthMm: lengthOf[kind]?.usualMm ?? 0 });
  const hold = (i: number, kind: string) =>
    onAnchor({ ...anchor, ends: [0, 1].map((k) => (k === i ? usual(kind) : (ends[k] ?? usual(kind)))) });
  return [0, 1].map((i) => (
    <Pick
      key={i}
      label={i === 0 ? 'one end held by' : 'the other by'}
      path={`${path}.ends[${i}].kind`}
      value={ends[i]?.kind ?? ''}
      blank="not said"
      options={endKinds}
      name={word}
      onValue={(kind) => hold(i, kind)}
    />
  ));
}

function bedWords(rig: Rig, answer: RigAnswer | undefined, system: System): string {
  const firm = rig.bed.firm === undefined ? 'firm or not is not known' : rig.bed.firm ? 'nothing moves' : 'bed still gives';
  return `${coverWords(rig.cover, system)}; ${firm}${answer ? `; ${bedSize(answer, system)}` : ''}`;
}

const thinMm = 3.175;
const usualAgentG = 100;

function BedFields({ rig, path, onRig }: RigProps) {
  const { bed, cover } = rig;
  const lay = (change: Partial<Bed>) => onRig({ ...rig, bed: { ...bed, ...change } });
  const layer = (i: number, change: Partial<Layer>) =>
    onRig({ ...rig, cover: cover.map((one, k) => (k === i ? { ...one, ...change } : one)) });
  return (
    <>
      {cover.map((one, i) => (
        <Fragment key={i}>
          <Pick
            label={i === 0 ? 'cover' : 'over that'}
            path={`${path}.cover[${i}].material`}
            value={one.material}
            options={covers}
            name={word}
            onValue={(material) => layer(i, { material })}
          />
          <Measure
            label={i === 0 ? 'cover, thick' : 'that, thick'}
            path={`${path}.cover[${i}].thicknessMm`}
            kind="length"
            value={one.thicknessMm}
            onValue={(thicknessMm) => layer(i, { thicknessMm })}
          />
        </Fragment>
      ))}
      <div className="wide">
        <button
          type="button"
          className="word"
          onClick={() => onRig({ ...rig, cover: [...cover, { material: 'dry_soil', thicknessMm: thinMm }] })}
        >
          one more layer over it
        </button>
        {cover.length > 1 && (
          <>
            {' · '}
            <button type="button" className="word" onClick={() => onRig({ ...rig, cover: cover.slice(0, -1) })}>
              take the top one off
            </button>
          </>
        )}
      </div>
      <Pick
        label="bed filled with"
        path={`${path}.bed.fill`}
        value={bed.fill ?? ''}
        blank="what covers it"
        options={covers}
        name={word}
        onValue={(fill) => lay({ fill })}
      />
      <Pick
        label="against freezing"
        path={`${path}.bed.agent`}
        value={bed.agent ?? ''}
        blank="nothing"
        options={agents}
        name={word}
        onValue={(agent) => lay(agent === '' ? { agent, agentG: undefined } : { agent, agentG: bed.agentG ?? usualAgentG })}
      />
      {bed.agent && (
        <Measure
          label="how much of it"
          path={`${path}.bed.agentG`}
          kind="weight"
          value={bed.agentG ?? 0}
          onValue={(agentG) => lay({ agentG })}
        />
      )}
      <Measure
        label="base under the trap"
        path={`${path}.bed.baseMm`}
        kind="length"
        value={bed.baseMm}
        onValue={(baseMm) => lay({ baseMm })}
      />
      <Measure
        label="larger than the trap by"
        path={`${path}.bed.marginMm`}
        kind="length"
        value={bed.marginMm}
        onValue={(marginMm) => lay({ marginMm })}
      />
      <Measure
        label="drain under it, deep"
        path={`${path}.bed.drainMm`}
        kind="length"
        value={bed.drainMm ?? 0}
        onValue={(drainMm) => lay({ drainMm })}
      />
      <Measure
        label="dug, if deeper than it needs"
        path={`${path}.bed.depthMm`}
        kind="length"
        value={bed.depthMm ?? null}
        onValue={(depthMm) => lay({ depthMm })}
        onBlank={() => lay({ depthMm: undefined })}
      />
      <Measure label="bed's middle, setback" path={`${path}.yMm`} kind="length" value={rig.yMm} onValue={(yMm) => onRig({ ...rig, yMm })} />
      <Measure label="bed's middle, offset" path={`${path}.xMm`} kind="length" value={rig.xMm} onValue={(xMm) => onRig({ ...rig, xMm })} />
      <Form.Check
        className="wide"
        id={`firm-${rig.slot}`}
        label="firm: nothing moves wherever a thumb presses"
        checked={bed.firm === true}
        onChange={(e) => lay({ firm: e.target.checked })}
      />
    </>
  );
}

function smellWords(l: Layout): string {
  const plug = l.attractors.find((a) => a.plug !== 'none')?.plug ?? 'none';
  const bait = smellOf(l, baits)?.name;
  const lure = smellOf(l, lures)?.name;
  const urine = smellOf(l, urines)?.name;
  const said = [
    bait && `${bait}${plug === 'none' ? '' : ` under ${plug}`}`,
    lure && `${lure}${l.kind === 'dirt_hole' ? ' on the lip' : ''}`,
    urine && `${urine}${l.kind === 'dirt_hole' ? ' behind' : ''}`,
  ];
  return said.filter(Boolean).join(', ') || 'nothing yet';
}

interface RulerProps {
  gaugeN: number;
  answer: RigAnswer | undefined;
  target: string;
  system: System;
}

/**
 * The gauge's reading on a ruler, over the window in which the target fires it and the small animal does not. It takes its place
 * before the answer is there, so that nothing moves away under a finger.
 */
function TensionRuler({ gaugeN, answer, target, system }: RulerProps) {
  const window = answer?.window;
  return (
    <svg viewBox="0 0 298 62" width="100%" role="img" aria-label={`the pan at ${show('force', gaugeN, system)}`}>
      {window && (
        <>
          <g transform="translate(36 25)">
            <PanScale width={236} {...window} meanN={gaugeN} verdict={answer.verdict} system={system} figures />
          </g>
          <text x={36} y={57} style={{ fill: window.conflict ? 'var(--dun)' : 'var(--ink)' }}>
            {rulerWords(window, target, system)}
          </text>
        </>
      )}
    </svg>
  );
}

function rulerWords(window: RigAnswer['window'], target: string, system: System): string {
  if (window.maxN < 0) return 'under this cover no setting fires';
  const [spared, most] = [window.spares.map(plural).join(' and '), show('force', window.maxN, system)];
  if (spared === '') return `up to ${most}: ${plural(target)} fire`;
  if (window.conflict)
    return `no setting: up to ${most} for ${plural(target)}, from ${show('force', window.minN, system)} to spare ${spared}`;
  const spares = `${Math.round((1 - window.avoidChance) * 20) / 2} of 10`;
  return `${show('force', window.minN, system, true)} to ${most}: ${plural(target)} fire, ${spares} ${spared} do not`;
}

/** The last word of a field's path, as a person would say it. */
const fieldName = (path: string) =>
  (path.split('.').at(-1) ?? path)
    .replace(/(Mm|Deg|N)$/, '')
    .replace(/^y$/, 'setback')
    .replace(/^spread$/, 'jaw spread')
    .replace(/^x$/, 'offset')
    .replace(/^trapId$/, 'the trap')
    .toLowerCase();

const bedSize = (answer: RigAnswer, system: System) =>
  `${show('length', answer.bed.lengthMm, system)} by ${show('length', answer.bed.widthMm, system)}, ${show('length', answer.bed.depthMm, system)} deep`;

function TargetFields({ design, onEdit }: { design: Design; onEdit: Props['onEdit'] }) {
  const [before, setBefore] = useState<Design | null>(null);
  const [failed, setFailed] = useState(false);
  const choose = async (target: string) => {
    if (target === design.target) return;
    try {
      const { lineId, spotId, layout } = design;
      const asked = { layout, target, was: design.target, spotId, pattern: '', variant: '', ownId: '' } satisfies Repattern;
      const found = await ask<Repatterned>(`/lines/${lineId}/repattern`, asked);
      setFailed(false);
      setBefore(design);
      onEdit((d) => ({ ...d, target, layout: found.layout }));
    } catch {
      setFailed(true);
    }
  };
  return (
    <>
      <Choice label="set for" path="target" value={design.target} options={targets} name={word} onValue={(target) => void choose(target)} />
      {failed && <div className="wide wrong">The program does not answer; the target stays as it was.</div>}
      {before && before.target !== design.target && (
        <div className="wide quiet">
          Pan, jaws and guides are those for {word(design.target)} now; the rest stayed.{' '}
          <button type="button" className="word" onClick={() => onEdit((d) => ({ ...d, target: before.target, layout: before.layout }))}>
            undo
          </button>
        </div>
      )}
    </>
  );
}

/** Where the set itself stands, by how far and which way from its spot's mark; blank is at the mark, as far as is known. */
function PlaceFields({
  layout: l,
  spot,
  plane,
  onLayout,
}: {
  layout: Layout;
  spot: Spot;
  plane: Plane;
  onLayout: (change: Partial<Layout>) => void;
}) {
  const mark = toPlane(plane, spot.latDeg, spot.lonDeg);
  const here = l.at && toPlane(plane, l.at.latDeg, l.at.lonDeg);
  const off = here && { m: Math.hypot(here.x - mark.x, here.y - mark.y), deg: bearingOf(here.x - mark.x, here.y - mark.y) };
  const [toward, setToward] = useState(0);
  const stand = (m: number, deg: number) => {
    const turn = (deg * Math.PI) / 180;
    onLayout({ at: toGlobe(plane, { x: mark.x + m * Math.sin(turn), y: mark.y + m * Math.cos(turn) }) });
  };
  const deg = off && off.m > 0.01 ? off.deg : toward;
  return (
    <>
      <Measure
        label="off the spot's mark by"
        path="at.latDeg"
        kind="ground"
        value={off ? off.m * 1000 : null}
        onValue={(mm) => stand(mm / 1000, deg)}
        onBlank={() => onLayout({ at: undefined })}
      />
      <Measure
        label="toward, from north"
        path="at.lonDeg"
        kind="angle"
        value={deg}
        onValue={(to) => {
          setToward(to);
          if (off) stand(off.m, to);
        }}
      />
    </>
  );
}

const bearingOf = (east: number, north: number) => Math.round((((Math.atan2(east, north) * 180) / Math.PI + 360) % 360) * 10) / 10;

/** Which way the set faces, and how the ground lies there; all of it can be left not known. */
function GroundFields({ layout: l, onLayout }: { layout: Layout; onLayout: (change: Partial<Layout>) => void }) {
  const lie = l.lie ?? {};
  const lies = (change: Lie) => onLayout({ lie: { ...lie, ...change } });
  const angle = (label: string, path: string, value: number | undefined, set: (deg: number | undefined) => void) => (
    <Measure label={label} path={path} kind="angle" value={value ?? null} onValue={set} onBlank={() => set(undefined)} />
  );
  const is = (label: string, key: 'stony' | 'baked' | 'sheltered') => (
    <Form.Check
      className="wide"
      id={`lie-${key}`}
      label={label}
      checked={lie[key] === true}
      onChange={(e) => lies({ [key]: e.target.checked })}
    />
  );
  return (
    <>
      {angle('faces, from north', 'facingDeg', l.facingDeg, (facingDeg) => onLayout({ facingDeg }))}
      {angle('ground falls, how steep', 'lie.slopeDeg', lie.slopeDeg, (slopeDeg) => lies({ slopeDeg }))}
      {angle('it falls toward, from north', 'lie.downDeg', lie.downDeg, (downDeg) => lies({ downDeg }))}
      <Measure
        label="grass about it, how tall"
        path="lie.grassMm"
        kind="length"
        value={lie.grassMm ?? null}
        onValue={(grassMm) => lies({ grassMm })}
        onBlank={() => lies({ grassMm: undefined })}
      />
      {is('stony', 'stony')}
      {is('baked hard: it takes twice as long', 'baked')}
      {is('under a tree or a roof', 'sheltered')}
    </>
  );
}

function guideWords(guides: Guide[]): string {
  const counted = ['stone', 'clod', 'stick', 'tuft', 'log']
    .map((kind) => [kind, guides.filter((g) => g.kind === kind).length] as const)
    .filter(([, n]) => n > 0);
  if (counted.length === 0) return 'none: feet may fall anywhere';
  return capital(counted.map(([kind, n]) => (n === 1 ? `one ${kind}` : `${n} ${kind}s`)).join(' and '));
}

function GuideFields({ guides, onGuides }: { guides: Guide[]; onGuides: (guides: Guide[]) => void }) {
  const { system } = useSettings();
  const [chosen, setChosen] = useState(0);
  const guide = guides[chosen];
  const set = (change: Partial<Guide>) => onGuides(guides.map((g, i) => (i === chosen ? { ...g, ...change } : g)));
  const at = `guides[${chosen}]`;
  return (
    <>
      <div className="wide choice" role="group" aria-label="guides">
        {guides.map((g, i) => (
          <button key={i} type="button" aria-pressed={i === chosen} onClick={() => setChosen(i)}>
            {g.kind} {show('length', g.yMm, system)} back
          </button>
        ))}
      </div>
      {guide && (
        <>
          <Measure key={`y${chosen}`} label="setback" path={`${at}.yMm`} kind="length" value={guide.yMm} onValue={(yMm) => set({ yMm })} />
          <Measure
            key={`x${chosen}`}
            label={`offset, now ${side(guide.xMm, system)}`}
            path={`${at}.xMm`}
            kind="length"
            value={guide.xMm}
            onValue={(xMm) => set({ xMm })}
          />
          <Measure
            key={`r${chosen}`}
            label="half its width"
            path={`${at}.rMm`}
            kind="length"
            value={guide.rMm}
            onValue={(rMm) => set({ rMm })}
          />
          <Pick label="made of" path={`${at}.kind`} value={guide.kind} options={guideKinds} name={word} onValue={(kind) => set({ kind })} />
        </>
      )}
      <div className="wide">
        <button
          type="button"
          className="word"
          onClick={() => {
            onGuides([...guides, { kind: 'stone', xMm: 0, yMm: 400, rMm: 32 }]);
            setChosen(guides.length);
          }}
        >
          add a stone
        </button>
        {guide && (
          <>
            {' · '}
            <button
              type="button"
              className="word"
              onClick={() => {
                onGuides(guides.filter((_, i) => i !== chosen));
                setChosen(Math.max(0, chosen - 1));
              }}
            >
              take this one away
            </button>
          </>
        )}
      </div>
    </>
  );
}
