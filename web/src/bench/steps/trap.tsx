import { jawGuards, panOvers, panUnders } from '../../lib/lists.gen';
import { PanScale } from '../../draw/panscale';
import { Choice, Measure, Pick, Text } from '../../lib/fields/fields';
import type { Layout, Rig, RigAnswer } from '../../lib/types.gen';
import { show, type System } from '../../lib/words/units';
import { deviceWord, jawGuardWord, panOverWord, panUnderWord } from '../../lib/words/called';
import { plural } from '../../lib/words/words';
import { FromRack } from '../fromshed';
import { partWords } from '../../lib/words/patterns';

/** A trap and its pan, in a line. */
export function trapWords(rig: Rig, read: boolean | null, answer: RigAnswer | undefined, system: System): string {
  const jaws = rig.jaws ? `, ${show('length', rig.jaws.spreadMm, system)}` : '';
  if (rig.loop) return `${deviceWord(rig.device)}, ${show('length', rig.loop.diameterMm, system)} across`;
  const how = read === null ? '' : read ? ', measured' : ', not measured';
  const pan = rig.pan ? `; pan at ${show('force', rig.pan.gaugeN, system)}${how}` : '';
  return `${rig.name || 'Trap'}${jaws}${pan}${answer ? `, ${show('force', answer.effectiveN, system)} with cover` : ''}`;
}

/** Which way the dog points, seen by an animal that comes to the set: the levers lie across that. */
const dogs = [
  [0, 'away from it'],
  [45, 'away, to its right'],
  [90, 'to its right'],
  [135, 'toward it, on its right'],
  [180, 'toward it'],
  [-135, 'toward it, on its left'],
  [-90, 'to its left'],
  [-45, 'away, to its left'],
] as const;

/** The same where animals walk by, from either side. */
const dogInWay: Record<string, string> = {
  '90': 'on along the way',
  '-90': 'back along the way',
  '0': 'across it',
  '180': 'across it, to the other side',
};

const nearestDog = (deg: number): number => {
  const eighth = Math.round((((deg % 360) + 540) % 360) / 45) * 45 - 180;
  return eighth === -180 ? 180 : eighth;
};

/** Which way the dog of a trap points, in a word. */
export const dogWords = (axisDeg: number): string => dogs.find(([deg]) => deg === nearestDog(axisDeg))?.[1] ?? '';

/** A rig, and where in the set it stands. */
export interface RigProps {
  rig: Rig;
  path: string;
  onRig: (rig: Rig) => void;
}

/** The size of a trap or a loop, where its pan lies, and what the gauge read. */
export function TrapFields({
  layout,
  rig,
  path,
  onRig,
  onMove,
}: RigProps & { layout: Layout; onMove: (d: { x: number; y: number }) => void }) {
  const { pan, jaws, loop } = rig;
  const inWay = layout.way !== undefined && layout.attractors.length === 0;
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
            label={inWay ? 'pan, off the middle of the way' : `setback, ${partWords(layout).from} to pan`}
            path={`${path}.pan.yMm`}
            kind="length"
            value={pan.yMm}
            onValue={(yMm) => onMove({ x: 0, y: yMm - pan.yMm })}
          />
          <Measure
            label={inWay ? 'pan, along the way' : 'offset to the right (− left)'}
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
            name={panOverWord}
            onValue={(over) => onRig({ ...rig, over })}
          />
          <Pick
            label="under the pan"
            path={`${path}.under`}
            value={rig.under ?? ''}
            blank="nothing"
            options={panUnders}
            name={panUnderWord}
            onValue={(under) => onRig({ ...rig, under })}
          />
          <Pick
            label="before the loose jaw"
            path={`${path}.guard`}
            value={rig.guard ?? ''}
            blank="not said"
            options={jawGuards}
            name={jawGuardWord}
            onValue={(guard) => onRig({ ...rig, guard })}
          />
          <Choice
            label="the dog points"
            path={`${path}.axisDeg`}
            value={String(nearestDog(rig.axisDeg ?? 0))}
            options={dogs.map(([deg]) => String(deg)).filter((deg) => !inWay || deg in dogInWay)}
            name={(deg) => (inWay ? dogInWay[deg] : undefined) ?? dogs.find(([d]) => String(d) === deg)?.[1] ?? ''}
            onValue={(deg) => onRig({ ...rig, axisDeg: Number(deg) })}
          />
          <Measure
            label="trap turned, degrees (0 = levers across)"
            path={`${path}.axisDeg`}
            kind="angle"
            value={rig.axisDeg ?? 0}
            onValue={(axisDeg) => onRig({ ...rig, axisDeg })}
          />
        </>
      )}
      <Text label="name on the drawing" path={`${path}.name`} value={rig.name} onValue={(name) => onRig({ ...rig, name })} />
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
export function TensionRuler({ gaugeN, answer, target, system }: RulerProps) {
  const window = answer?.window;
  return (
    <svg viewBox="0 0 298 78" width="100%" role="img" aria-label={`the pan at ${show('force', gaugeN, system)}`}>
      {window && (
        <>
          <g transform="translate(36 25)">
            <PanScale width={236} {...window} meanN={gaugeN} verdict={answer.verdict} system={system} figures />
          </g>
          <text className="toned" y={57} color={window.conflict ? 'var(--dun)' : 'var(--ink)'}>
            {rulerWords(window, target, system).map((words, i) => (
              <tspan key={i} x={36} dy={i === 0 ? 0 : 16}>
                {words}
              </tspan>
            ))}
          </text>
        </>
      )}
    </svg>
  );
}

/** In lines that fit under the ruler. */
function rulerWords(window: RigAnswer['window'], target: string, system: System): string[] {
  if (window.maxN < 0) return ['under this cover no setting fires'];
  const [spared, most] = [window.spares.map(plural).join(' and '), show('force', window.maxN, system)];
  const fires = window.byTrade ? 'the trade’s figure, about 19 of 20 fire' : `19 of 20 ${plural(target)} fire`;
  if (spared === '') return [`up to ${most}`, fires];
  const least = show('force', window.minN, system);
  if (window.conflict) return [`no setting: ${plural(target)} fire up to ${most},`, `${spared} are spared from ${least}`];
  const spares = `${Math.round((1 - window.avoidChance) * 20) / 2} of 10`;
  return [`${show('force', window.minN, system, true)} to ${most}: ${fires},`, `${spares} ${spared} do not`];
}
