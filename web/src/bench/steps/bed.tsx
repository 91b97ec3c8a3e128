import { agentWord, coverWord } from '../../lib/words/called';
import { laidCovers } from '../../lib/words/covers';
import { agents } from '../../lib/lists.gen';
import { Fragment } from 'react';
import { Measure, Pick, Tick } from '../../lib/fields/fields';
import { coverWords } from '../../lib/words/parts';
import type { Agent, Bed, Layer, Rig, RigAnswer } from '../../lib/types.gen';
import { showAbout, type System } from '../../lib/words/units';

import type { RigProps } from './trap';

/** A bed and its cover, in a line. */
export function bedWords(rig: Rig, answer: RigAnswer | undefined, system: System): string {
  const firm = rig.bed.firm === undefined ? 'firm or not is not known' : rig.bed.firm ? 'nothing moves' : 'bed still gives';
  return `${coverWords(rig.cover, system)}; ${firm}${answer ? `; ${bedSize(answer, system)}` : ''}`;
}

const thinMm = 3.175;
const usualAgentG = 100;

/** How a bed is dug, filled, kept from freezing and covered. */
export function BedFields({ rig, path, onRig }: RigProps) {
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
            options={laidCovers(one.material)}
            name={coverWord}
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
        options={laidCovers(bed.fill ?? '')}
        name={coverWord}
        onValue={(fill) => lay({ fill })}
      />
      <Pick
        label="against freezing"
        path={`${path}.bed.agent`}
        value={bed.agent ?? ''}
        blank="nothing"
        options={agents}
        name={agentWord}
        onValue={(agent: Agent) => lay(agent === '' ? { agent, agentG: undefined } : { agent, agentG: bed.agentG ?? usualAgentG })}
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
      <Tick
        label="firm: nothing moves wherever a thumb presses"
        path={`${path}.bed.firm`}
        value={bed.firm}
        onValue={(firm) => lay({ firm })}
      />
    </>
  );
}

const bedSize = (answer: RigAnswer, system: System) =>
  `${showAbout('length', answer.bed.lengthMm, system)} by ${showAbout('length', answer.bed.widthMm, system)}, ${showAbout('length', answer.bed.depthMm, system)} deep`;
