import { Fragment, type ReactNode } from 'react';
import { Choice, Measure, Pick, Tick } from '../../lib/fields/fields';
import type { Rack } from '../../lib/ask/hung';
import { backings, chainLies, handsUsed, plugs, shows, spoils } from '../../lib/lists.gen';
import type { Anchor, Answer, Attractor, Design, Layout, LineView, Make, Rig, Spot } from '../../lib/types.gen';
import { animalWord, backingWord, chainLieWord, handsWord, plugWord, showWord, spoilWord } from '../../lib/words/called';
import { partWords } from '../../lib/words/patterns';
import type { System } from '../../lib/words/units';
import { bedByHand } from '../../lib/words/beds';
import { bearing, capital } from '../../lib/words/words';
import { TrapSays } from '../../lib/trapsays';
import { measured, SmellFields } from '../fromshed';
import { heavierOf, Holds, HoldsMore } from '../holds';
import { moveRig } from '../moves';
import { KeepPattern } from '../patterns';
import { Reach } from '../reach';
import { anchorWords, AnchorFields } from './anchor';
import { bedWords, BedFields } from './bed';
import { guideWords, GuideFields } from './guides';
import { kindWords, attractorParts, AttractorFields, TrenchFields, WayFields } from './kind';
import { wayRuns, TargetFields, PlaceFields, GroundFields } from './place';
import { smellWords } from './smells';
import { trapWords, TrapFields, TensionRuler } from './trap';

/** A step of the recipe: its line, the fields that open in its place, and which parts of a layout they are for. */
export interface Step {
  title: string;
  parts: string[];
  summary: string;
  under?: ReactNode;
  /** Whether it is of the rig: then the drawing shows what lies about the anchor. */
  rig?: boolean;
  fields: ReactNode;
}

/** The bench as the steps see it. */
export interface At {
  design: Design;
  view: LineView;
  spot: Spot | undefined;
  rack: Rack | undefined;
  answer: Answer | undefined;
  /** Whether the answer is of what stands there, and not of what stood there before something was wrong. */
  current: boolean;
  system: System;
  onEdit: (change: (design: Design) => Design) => void;
  onChoose: () => void;
}

/** The steps in the order of the work. */
export function stepsOf(at: At): Step[] {
  const l = at.design.layout;
  return [
    placeStep(at),
    kindStep(at),
    ...l.rigs.map((rig, i) => rigStep(at, rig, i)),
    ...l.anchors.map((anchor, i) => anchorStep(at, anchor, i)),
    ...l.rigs.filter((rig) => rig.jaws).map((rig, i) => bedStep(at, rig, i)),
    attractantStep(at),
    guidesStep(at),
  ];
}

const lay = ({ onEdit }: At, change: Partial<Layout>) => onEdit((d) => ({ ...d, layout: { ...d.layout, ...change } }));

const attract = (at: At, next: Attractor) =>
  lay(at, { attractors: at.design.layout.attractors.map((a) => (a.slot === next.slot ? next : a)) });

const rigTo = (at: At, next: Rig) => lay(at, { rigs: at.design.layout.rigs.map((r) => (r.slot === next.slot ? next : r)) });

const answerOf = ({ answer }: At, rig: Rig) => answer?.rigs.find((r) => r.slot === rig.slot);

const nth = (i: number, title: string) => (i === 0 ? title : `${['Second', 'Third'][i - 1] ?? 'Another'} ${title.toLowerCase()}`);

/** Where it stands, for what, and how it faces. */
function placeStep(at: At): Step {
  const { design, spot, view } = at;
  const l = design.layout;
  return {
    title: 'Spot and target',
    parts: ['target', 'facingDeg', 'lie'],
    summary: `${spot?.name ?? ''}, ${animalWord(design.target)}; ${l.facingDeg === undefined ? wayRuns(spot) : `facing ${bearing(l.facingDeg)}`}`,
    fields: (
      <>
        <TargetFields design={design} onEdit={at.onEdit} />
        {spot && <PlaceFields layout={l} spot={spot} plane={view.plane} onLayout={(change) => lay(at, change)} />}
        <GroundFields layout={l} onLayout={(change) => lay(at, change)} />
      </>
    ),
  };
}

/** What it is, and what an animal comes to. */
function kindStep(at: At): Step {
  const { design, system } = at;
  const l = design.layout;
  return {
    title: 'Kind and pattern',
    parts: [
      'kind',
      'pattern',
      'show',
      'spoil',
      'hands',
      'backing',
      'way',
      'trench',
      ...l.attractors.flatMap((_, i) => attractorParts.map((part) => `attractors[${i}]${part}`)),
    ],
    summary: kindWords(l, system),
    fields: (
      <>
        <div className="wide">
          <button type="button" className="word" onClick={at.onChoose}>
            make it another way
          </button>
        </div>
        <Choice
          label="how it shows"
          path="show"
          value={l.show}
          options={shows}
          name={(k) => showWord(k).split(',')[0] ?? k}
          onValue={(show) => lay(at, { show })}
        />
        <Choice
          label={partWords(l).behind}
          path="backing"
          value={l.backing}
          options={backings}
          name={backingWord}
          onValue={(backing) => lay(at, { backing })}
        />
        <Choice
          label="the loose soil went"
          path="spoil"
          value={l.spoil ?? ''}
          options={spoils}
          name={spoilWord}
          onValue={(spoil) => lay(at, { spoil })}
        />
        <Choice
          label="hands"
          path="hands"
          value={l.hands ?? ''}
          options={handsUsed}
          name={handsWord}
          onValue={(hands) => lay(at, { hands })}
        />
        {l.attractors.map((a, i) => (
          <AttractorFields
            key={a.slot}
            attractor={a}
            path={`attractors[${i}]`}
            many={l.attractors.length > 1}
            onAttractor={(next) => attract(at, next)}
          />
        ))}
        {l.trench && <TrenchFields trench={l.trench} onTrench={(trench) => lay(at, { trench })} />}
        {l.way && <WayFields way={l.way} onWay={(way) => lay(at, { way })} />}
        <KeepPattern design={design} />
      </>
    ),
  };
}

/** A trap with its pan, or a loop. */
function rigStep(at: At, rig: Rig, i: number): Step {
  const { design, rack, system } = at;
  const l = design.layout;
  return {
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
      `rigs[${i}].guard`,
    ],
    summary: trapWords(rig, measured(rig, rack), at.current ? answerOf(at, rig) : undefined, system),
    under: (
      <>
        {rig.pan && <TensionRuler gaugeN={rig.pan.gaugeN} answer={answerOf(at, rig)} target={design.target} system={system} />}
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
        onRig={(next) => rigTo(at, next)}
        onMove={(d) => at.onEdit((x) => ({ ...x, layout: moveRig(x.layout, rig.slot, d, at.answer?.along ?? []) }))}
      />
    ),
  };
}

/** What holds an animal, and what it could reach. */
function anchorStep(at: At, anchor: Anchor, i: number): Step {
  const { design, answer, system } = at;
  const l = design.layout;
  const held = l.rigs.filter((r) => r.anchorSlot === anchor.slot);
  return {
    title: nth(i, 'Anchor'),
    parts: [
      `anchors[${i}]`,
      ...l.rigs.flatMap((r, k) =>
        r.anchorSlot === anchor.slot ? [`rigs[${k}].chainMm`, `rigs[${k}].chainLies`, `rigs[${k}].swivels`, `rigs[${k}].anchorSlot`] : [],
      ),
    ],
    summary: anchorWords(anchor, held[0], system),
    rig: true,
    under: (
      <Holds
        target={design.target}
        held={answer?.anchors.find((h) => h.slot === anchor.slot)}
        heavier={heavierOf(answer, anchor.slot)}
        current={at.current}
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
            current={at.current}
            onStronger={(to) => lay(at, to.layout)}
          >
            {i === 0 && <Reach design={design} />}
          </HoldsMore>
        }
        onAnchor={(next) => lay(at, { anchors: l.anchors.map((a) => (a.slot === anchor.slot ? next : a)) })}
      >
        {held.map((rig) => (
          <Fragment key={rig.slot}>
            <Measure
              label={held.length > 1 ? `chain of ${rig.name || `trap ${rig.slot + 1}`}` : 'chain'}
              path={`rigs[${l.rigs.indexOf(rig)}].chainMm`}
              kind="length"
              value={rig.chainMm}
              onValue={(chainMm) => rigTo(at, { ...rig, chainMm })}
            />
            <Measure
              label="swivels in it"
              path={`rigs[${l.rigs.indexOf(rig)}].swivels`}
              kind="number"
              value={rig.swivels ?? null}
              onValue={(n) => rigTo(at, { ...rig, swivels: Math.round(n) })}
              onBlank={() => rigTo(at, { ...rig, swivels: undefined })}
            />
            <Tick
              label="a shock spring in the chain"
              path={`rigs[${l.rigs.indexOf(rig)}].spring`}
              value={rig.spring}
              onValue={(spring) => rigTo(at, { ...rig, spring })}
            />
            <Pick
              label="the chain lies"
              path={`rigs[${l.rigs.indexOf(rig)}].chainLies`}
              value={rig.chainLies ?? ''}
              blank="not said"
              options={chainLies}
              name={chainLieWord}
              onValue={(lies) => rigTo(at, { ...rig, chainLies: lies })}
            />
          </Fragment>
        ))}
      </AnchorFields>
    ),
  };
}

/** What a foot feels, and what lies over the pan. */
function bedStep(at: At, rig: Rig, i: number): Step {
  return {
    title: nth(i, 'Bed and cover'),
    parts: [`rigs[${i}].bed`, `rigs[${i}].cover`, `rigs[${i}].xMm`, `rigs[${i}].yMm`],
    summary: bedWords(rig, answerOf(at, rig), at.system),
    under: i === 0 && asksForHands(at) && <div className="quiet by-hand">{capital(bedByHand(at.design.layout.pattern).join('; '))}.</div>,
    fields: <BedFields rig={rig} path={`rigs[${i}]`} onRig={(next) => rigTo(at, next)} />,
  };
}

/** Whether what is done at a bed by hand is told without being asked for: at the first of a pattern, and where something was found that points at it. */
function asksForHands({ design, view }: At): boolean {
  const made = view.sets.map((s) => s.make);
  if (!made.some((m) => madeAs(m) === design.layout.pattern)) return true;
  const set = view.sets.find((s) => s.set.id === design.setId);
  const felt = set?.make.asBuilt?.points.flatMap((p) => p.felt) ?? [];
  const found = set?.lastVisit;
  return (
    felt.some((f) => f === 'gives' || f === 'rocks') || found?.bed === 'rocks' || found?.finding === 'dug' || found?.finding === 'stepped'
  );
}

const madeAs = ({ layout }: Make): string => layout.pattern;

/** What it smells of. */
function attractantStep(at: At): Step {
  const { answer, design, view } = at;
  const l = design.layout;
  return {
    title: 'Attractant',
    parts: ['aside', ...l.attractors.flatMap((_, i) => [`attractors[${i}].smells`, `attractors[${i}].plug`])],
    summary: smellWords(l),
    fields: (
      <>
        {l.attractors.map((a, i) => (
          <Fragment key={a.slot}>
            <SmellFields
              layout={l}
              never={i === 0 ? (answer?.never ?? []) : (answer?.never ?? []).filter((n) => a.smells.some((s) => s.kind === n.kind))}
              smells={a.smells}
              path={`attractors[${i}].smells`}
              spotID={design.spotId}
              view={view}
              onSmells={(smells) => attract(at, { ...a, smells })}
            />
            {a.hole && (
              <Choice
                label="plug over the bait"
                path={`attractors[${i}].plug`}
                value={a.plug}
                options={plugs}
                name={plugWord}
                onValue={(plug) => attract(at, { ...a, plug })}
              />
            )}
          </Fragment>
        ))}
        <SmellFields
          layout={l}
          smells={l.aside ?? []}
          path="aside"
          spotID={design.spotId}
          view={view}
          onSmells={(aside) => lay(at, { aside })}
        />
      </>
    ),
  };
}

/** What steers the feet. */
function guidesStep(at: At): Step {
  const l = at.design.layout;
  return {
    title: 'Guides',
    parts: ['guides'],
    summary: guideWords(l),
    fields: <GuideFields guides={l.guides} onGuides={(guides) => lay(at, { guides })} />,
  };
}
