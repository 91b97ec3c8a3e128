import { panOvers, panUnders } from '../../lib/lists.gen';
import { PanScale } from '../../draw/panscale';
import { Measure, Pick, Text } from '../../lib/fields';
import type { Rig, RigAnswer } from '../../lib/types.gen';
import { show, type System } from '../../lib/units';
import { plural, word } from '../../lib/words';
import { FromRack } from '../fromshed';

/** A trap and its pan, in a line. */
export function trapWords(rig: Rig, read: boolean | null, answer: RigAnswer | undefined, system: System): string {
  const jaws = rig.jaws ? `, ${show('length', rig.jaws.spreadMm, system)}` : '';
  if (rig.loop) return `${word(rig.device)}, ${show('length', rig.loop.diameterMm, system)} across`;
  const how = read === null ? '' : read ? ', measured' : ', not measured';
  const pan = rig.pan ? `; pan at ${show('force', rig.pan.gaugeN, system)}${how}` : '';
  return `${rig.name || 'Trap'}${jaws}${pan}${answer ? `, ${show('force', answer.effectiveN, system)} with cover` : ''}`;
}

/** A rig, and where in the set it stands. */
export interface RigProps {
  rig: Rig;
  path: string;
  onRig: (rig: Rig) => void;
}

/** The size of a trap or a loop, where its pan lies, and what the gauge read. */
export function TrapFields({ rig, path, onRig, onMove }: RigProps & { onMove: (d: { x: number; y: number }) => void }) {
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
