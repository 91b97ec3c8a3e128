import { targets } from '../../lib/lists.gen';
import { useState } from 'react';
import { ask } from '../../lib/ask/api';
import { Choice, Measure, Tick } from '../../lib/fields/fields';
import type { Design, Layout, Lie, Plane, Repattern, Repatterned, Spot } from '../../lib/types.gen';
import { animalWord } from '../../lib/words/called';
import { toGlobe, toPlane } from '../../lib/plane';
import { runs } from '../../lib/words/waysrun';

/** Which way the travel way of a spot runs, where that is known. */
export const wayRuns = (spot: Spot | undefined) =>
  spot && spot.travelBearingDeg !== null ? `way runs ${runs(spot.travelBearingDeg)}` : 'which way the way runs is not known';

/** For which animal a set is made; another keeps how it is made. */
export function TargetFields({ design, onEdit }: { design: Design; onEdit: (change: (design: Design) => Design) => void }) {
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
      <Choice
        label="set for"
        path="target"
        value={design.target}
        options={targets}
        name={animalWord}
        onValue={(target) => void choose(target)}
      />
      {failed && <div className="wide wrong">The program does not answer; the target stays as it was.</div>}
      {before && before.target !== design.target && (
        <div className="wide quiet">
          Pan, jaws and guides are those for {animalWord(design.target)} now; the rest stayed.{' '}
          <button type="button" className="word" onClick={() => onEdit((d) => ({ ...d, target: before.target, layout: before.layout }))}>
            undo
          </button>
        </div>
      )}
    </>
  );
}

/** Where the set itself stands, by how far and which way from its spot's mark; blank is at the mark, as far as is known. */
export function PlaceFields({
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
  /** Which way it stands off, while it is not said how far. */
  const [toward, setToward] = useState<number | null>(null);
  const stand = (m: number, deg: number) => {
    const turn = (deg * Math.PI) / 180;
    onLayout({ at: toGlobe(plane, { x: mark.x + m * Math.sin(turn), y: mark.y + m * Math.cos(turn) }) });
  };
  const deg = off && off.m > 0.01 ? off.deg : toward;
  return (
    <>
      <Measure
        label="distance from the spot"
        path="at.latDeg"
        kind="ground"
        value={off ? off.m * 1000 : null}
        onValue={(mm) => stand(mm / 1000, deg ?? 0)}
        onBlank={() => onLayout({ at: undefined })}
      />
      <Measure
        label="direction, degrees from north"
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
export function GroundFields({ layout: l, onLayout }: { layout: Layout; onLayout: (change: Partial<Layout>) => void }) {
  const lie = l.lie ?? {};
  const lies = (change: Lie) => onLayout({ lie: { ...lie, ...change } });
  const angle = (label: string, path: string, value: number | undefined, set: (deg: number | undefined) => void) => (
    <Measure label={label} path={path} kind="angle" value={value ?? null} onValue={set} onBlank={() => set(undefined)} />
  );
  const is = (label: string, key: 'stony' | 'baked' | 'sheltered') => (
    <Tick label={label} path={`lie.${key}`} value={lie[key]} onValue={(so) => lies({ [key]: so })} />
  );
  return (
    <>
      {angle('faces (degrees)', 'facingDeg', l.facingDeg, (facingDeg) => onLayout({ facingDeg }))}
      {angle('slope', 'lie.slopeDeg', lie.slopeDeg, (slopeDeg) => lies({ slopeDeg }))}
      {angle('slopes toward (degrees)', 'lie.downDeg', lie.downDeg, (downDeg) => lies({ downDeg }))}
      <Measure
        label="grass about it, how tall"
        path="lie.grassMm"
        kind="length"
        value={lie.grassMm ?? null}
        onValue={(grassMm) => lies({ grassMm })}
        onBlank={() => lies({ grassMm: undefined })}
      />
      {(l.kind === 'spring' || lie.waterMm !== undefined) && (
        <Measure
          label="water over it, how deep"
          path="lie.waterMm"
          kind="length"
          value={lie.waterMm ?? null}
          onValue={(waterMm) => lies({ waterMm })}
          onBlank={() => lies({ waterMm: undefined })}
        />
      )}
      {is('stony', 'stony')}
      {is('baked hard, it takes twice as long', 'baked')}
      {is('under a tree or a roof', 'sheltered')}
    </>
  );
}
