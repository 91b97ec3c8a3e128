import { anchors, backings, covers, guideKinds, looks, plugs, targets } from '../lib/lists.gen';
import { useState, type ReactNode } from 'react';
import Collapse from 'react-bootstrap/Collapse';
import Form from 'react-bootstrap/Form';
import { PanScale } from '../draw/panscale';
import { get } from '../lib/api';
import { Choice, Measure, Pick, say, Text } from '../lib/fields';
import { useSettings } from '../lib/settings';
import type { Answer, Design, FieldProblem, Guide, Layout, LineView, Spot } from '../lib/types.gen';
import { show, type System } from '../lib/units';
import { bearing, capital, plural, word } from '../lib/words';
import { TrapSays } from '../shed/trapsays';
import { moveTrap, side } from './drawing';
import { FromRack, SmellFields } from './fromshed';

interface Props {
  design: Design;
  view: LineView;
  spot: Spot | undefined;
  answer: Answer | undefined;
  problems: FieldProblem[];
  onEdit: (change: (design: Design) => Design) => void;
}

/** The recipe in the order of the work: each step one line that opens in place. */
export function Recipe({ design, view, spot, answer, problems, onEdit }: Props) {
  const { system } = useSettings();
  const [open, setOpen] = useState<number | null>(null);
  const l = design.layout;
  const lay = (change: Partial<Layout>) => onEdit((d) => ({ ...d, layout: { ...d.layout, ...change } }));
  const steps: { title: string; parts: string[]; summary: string; fields: ReactNode }[] = [
    {
      title: 'Spot and target',
      parts: ['target'],
      summary: `${spot?.name ?? ''}, ${word(design.target)}; ${l.facingDeg === undefined ? `way ${spot ? bearing(spot.travelBearingDeg) : ''}` : `facing ${bearing(l.facingDeg)}`}`,
      fields: <TargetFields design={design} onEdit={onEdit} />,
    },
    {
      title: 'Kind and hole',
      parts: ['kind', 'look', 'hole', 'backing'],
      summary: `${capital(word(l.kind))}${l.backing === 'none' ? ', nothing behind' : `, under a ${word(l.backing)}`}; ${show('length', l.hole.depthMm, system)} deep, ${show('angle', l.hole.angleDeg, system)}`,
      fields: (
        <>
          <Choice
            label="how it shows"
            path="look"
            value={l.look}
            options={looks}
            name={(k) => word(k).split(',')[0] ?? k}
            onValue={(look) => lay({ look })}
          />
          <Choice
            label="what stands behind it"
            path="backing"
            value={l.backing}
            options={backings}
            name={(k) => word(k)}
            onValue={(backing) => lay({ backing })}
          />
          <Measure
            label="hole, across"
            path="hole.diameterMm"
            kind="length"
            value={l.hole.diameterMm}
            onValue={(diameterMm) => lay({ hole: { ...l.hole, diameterMm } })}
          />
          <Measure
            label="hole, along the slant"
            path="hole.depthMm"
            kind="length"
            value={l.hole.depthMm}
            onValue={(depthMm) => lay({ hole: { ...l.hole, depthMm } })}
          />
          <Measure
            label="slant, below level"
            path="hole.angleDeg"
            kind="angle"
            value={l.hole.angleDeg}
            onValue={(angleDeg) => lay({ hole: { ...l.hole, angleDeg } })}
          />
        </>
      ),
    },
    {
      title: 'Trap and pan',
      parts: ['trap', 'pan'],
      summary: `${l.trap.name || 'Trap'}, ${show('length', l.trap.jawSpreadMm, system)}; ${show('force', l.pan.gaugeN, system)} measured${answer && problems.length === 0 ? `, ${show('force', answer.effectiveN, system)} with cover` : ''}`,
      fields: (
        <>
          <FromRack design={design} onEdit={onEdit} />
          <Measure
            label="setback, hole edge to pan"
            path="pan.yMm"
            kind="length"
            value={l.pan.yMm}
            onValue={(yMm) => onEdit((d) => ({ ...d, layout: moveTrap(d.layout, { x: 0, y: yMm - d.layout.pan.yMm }) }))}
          />
          <Measure
            label="offset, right is plus"
            path="pan.xMm"
            kind="length"
            value={l.pan.xMm}
            onValue={(xMm) => onEdit((d) => ({ ...d, layout: moveTrap(d.layout, { x: xMm - d.layout.pan.xMm, y: 0 }) }))}
          />
          <Measure
            label="pan tension, measured"
            path="pan.gaugeN"
            kind="force"
            value={l.pan.gaugeN}
            onValue={(gaugeN) => lay({ pan: { ...l.pan, gaugeN } })}
          />
          <Measure
            label="pan, across"
            path="pan.diameterMm"
            kind="length"
            value={l.pan.diameterMm}
            onValue={(diameterMm) => lay({ pan: { ...l.pan, diameterMm } })}
          />
          <Text label="trap" path="trap.name" value={l.trap.name} onValue={(name) => lay({ trap: { ...l.trap, name } })} />
          <Measure
            label="jaw spread"
            path="trap.jawSpreadMm"
            kind="length"
            value={l.trap.jawSpreadMm}
            onValue={(jawSpreadMm) => lay({ trap: { ...l.trap, jawSpreadMm } })}
          />
          <Measure
            label="frame, with levers"
            path="trap.frameLengthMm"
            kind="length"
            value={l.trap.frameLengthMm}
            onValue={(frameLengthMm) => lay({ trap: { ...l.trap, frameLengthMm } })}
          />
          <Measure
            label="height when set"
            path="trap.setHeightMm"
            kind="length"
            value={l.trap.setHeightMm}
            onValue={(setHeightMm) => lay({ trap: { ...l.trap, setHeightMm } })}
          />
        </>
      ),
    },
    {
      title: 'Anchor',
      parts: ['anchor'],
      summary:
        l.anchor.kind === 'drag'
          ? `Drag on ${show('ground', l.anchor.chainMm, system)} of chain`
          : `${show('length', l.anchor.lengthMm, system)} ${word(l.anchor.kind)}, under the bed, ${show('length', l.anchor.chainMm, system)} chain`,
      fields: (
        <>
          <Choice
            label="held by"
            path="anchor.kind"
            value={l.anchor.kind}
            options={anchors}
            name={word}
            onValue={(kind) => lay({ anchor: { ...l.anchor, kind } })}
          />
          {l.anchor.kind !== 'drag' && (
            <Measure
              label="down in the ground"
              path="anchor.lengthMm"
              kind="length"
              value={l.anchor.lengthMm}
              onValue={(lengthMm) => lay({ anchor: { ...l.anchor, lengthMm } })}
            />
          )}
          <Measure
            label="chain"
            path="anchor.chainMm"
            kind="length"
            value={l.anchor.chainMm}
            onValue={(chainMm) => lay({ anchor: { ...l.anchor, chainMm } })}
          />
        </>
      ),
    },
    {
      title: 'Bed and cover',
      parts: ['bed', 'cover'],
      summary: `${show('length', l.cover.thicknessMm, system)} of ${word(l.cover.material)}; ${l.bed.firm ? 'nothing moves' : 'bed still gives'}${answer ? `; ${bedSize(answer, system)}` : ''}`,
      fields: (
        <>
          <Pick
            label="cover"
            path="cover.material"
            value={l.cover.material}
            options={covers}
            name={word}
            onValue={(material) => lay({ cover: { ...l.cover, material } })}
          />
          <Measure
            label="cover, thick"
            path="cover.thicknessMm"
            kind="length"
            value={l.cover.thicknessMm}
            onValue={(thicknessMm) => lay({ cover: { ...l.cover, thicknessMm } })}
          />
          <Measure
            label="base under the trap"
            path="bed.baseMm"
            kind="length"
            value={l.bed.baseMm}
            onValue={(baseMm) => lay({ bed: { ...l.bed, baseMm } })}
          />
          <Measure
            label="larger than the trap by"
            path="bed.marginMm"
            kind="length"
            value={l.bed.marginMm}
            onValue={(marginMm) => lay({ bed: { ...l.bed, marginMm } })}
          />
          <Measure
            label="bed's middle, setback"
            path="bed.yMm"
            kind="length"
            value={l.bed.yMm}
            onValue={(yMm) => lay({ bed: { ...l.bed, yMm } })}
          />
          <Measure
            label="bed's middle, offset"
            path="bed.xMm"
            kind="length"
            value={l.bed.xMm}
            onValue={(xMm) => lay({ bed: { ...l.bed, xMm } })}
          />
          <Form.Check
            className="wide"
            id="firm"
            label="firm: nothing moves wherever a thumb presses"
            checked={l.bed.firm}
            onChange={(e) => lay({ bed: { ...l.bed, firm: e.target.checked } })}
          />
        </>
      ),
    },
    {
      title: 'Attractant',
      parts: ['attractant'],
      summary:
        [
          l.attractant.bait && `${l.attractant.bait}${l.attractant.plug === 'none' ? '' : ` under ${l.attractant.plug}`}`,
          l.attractant.lure && `${l.attractant.lure} on the lip`,
          l.attractant.urine && `${l.attractant.urine} behind`,
        ]
          .filter(Boolean)
          .join(', ') || 'nothing yet',
      fields: (
        <>
          <SmellFields attractant={l.attractant} spotID={design.spotId} view={view} onValue={(attractant) => lay({ attractant })} />
          <Choice
            label="plug over the bait"
            path="attractant.plug"
            value={l.attractant.plug}
            options={plugs}
            name={word}
            onValue={(plug) => lay({ attractant: { ...l.attractant, plug } })}
          />
        </>
      ),
    },
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
        const objections = problems.filter((p) => step.parts.some((part) => p.field.split(/[.[]/)[0] === part));
        const wrong = objections.length > 0;
        const shown = open === i || (wrong && open === null);
        return (
          <li key={step.title}>
            <button type="button" className="step" aria-expanded={shown} onClick={() => setOpen(open === i ? null : i)}>
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
            {step.title === 'Trap and pan' && (
              <>
                <TensionRuler gaugeN={l.pan.gaugeN} answer={answer} target={design.target} system={system} />
                <div className="objection trap-room">
                  <TrapSays id={l.trap.id} />
                </div>
              </>
            )}
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

interface RulerProps {
  gaugeN: number;
  answer: Answer | undefined;
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
    <svg viewBox="0 0 298 62" width="100%" role="img" aria-label={`measured ${show('force', gaugeN, system)}`}>
      {window && (
        <>
          <g transform="translate(36 25)">
            <PanScale width={236} {...window} meanN={gaugeN} system={system} figures />
          </g>
          <text x={36} y={57} style={{ fill: window.conflict ? 'var(--dun)' : 'var(--ink)' }}>
            {rulerWords(window, target, system)}
          </text>
        </>
      )}
    </svg>
  );
}

function rulerWords(window: Answer['window'], target: string, system: System): string {
  if (window.maxN < 0) return 'under this cover no setting fires';
  const [spared, most] = [plural(window.spares), show('force', window.maxN, system)];
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
    .replace(/^x$/, 'offset')
    .replace(/^id$/, 'the trap')
    .toLowerCase();

const bedSize = (answer: Answer, system: System) =>
  `${show('length', answer.bed.lengthMm, system)} by ${show('length', answer.bed.widthMm, system)}, ${show('length', answer.bed.depthMm, system)} deep`;

function TargetFields({ design, onEdit }: { design: Design; onEdit: Props['onEdit'] }) {
  const [before, setBefore] = useState<Design | null>(null);
  const [failed, setFailed] = useState(false);
  const choose = async (target: string) => {
    if (target === design.target) return;
    try {
      const layout = await get<Layout>(`/defaults/${target}`);
      setFailed(false);
      setBefore(design);
      onEdit((d) => ({
        ...d,
        target,
        layout: { ...layout, trap: d.layout.trap.id ? d.layout.trap : { ...layout.trap, name: d.layout.trap.name } },
      }));
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
          The recipe was filled in for {word(design.target)}.{' '}
          <button type="button" className="word" onClick={() => onEdit((d) => ({ ...d, target: before.target, layout: before.layout }))}>
            undo
          </button>
        </div>
      )}
    </>
  );
}

function guideWords(guides: Guide[]): string {
  const counted = ['stone', 'clod', 'stick']
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
