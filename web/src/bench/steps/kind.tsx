import { Measure, Pick, Text, Tick } from '../../lib/fields/fields';
import { betweens, mouths, wraps } from '../../lib/lists.gen';
import type { Attractor, Hole, Layout, Trench, Way } from '../../lib/types.gen';
import { show, type System } from '../../lib/words/units';
import { backingWord, betweenWord, mouthWord, wrapWord } from '../../lib/words/called';
import { capital } from '../../lib/words/words';

import { patternWords } from '../../lib/words/patterns';

/** A set's kind and pattern, in a line. */
export function kindWords(l: Layout, system: System): string {
  const hole = l.attractors[0]?.hole;
  const behind = l.backing === 'none' ? 'nothing behind' : `${backingWord(l.backing)} behind`;
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
export const attractorParts = ['', '.slot', '.of', '.fixed', '.wrap', '.colour', '.hole', '.radiusMm', '.heightMm', '.xMm', '.yMm'];

/** What such things are usually made of; whoever has another says so. */
const madeOf = ['stone', 'bone', 'dung', 'log', 'stick', 'tuft', 'grass', 'snow', 'soil', 'rag', 'scat'];

interface AttractorProps {
  attractor: Attractor;
  path: string;
  many: boolean;
  onAttractor: (attractor: Attractor) => void;
}

/** The size of what an animal comes to, and, where there are several, its place. */
export function AttractorFields({ attractor: a, path, many, onAttractor }: AttractorProps) {
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
      <Text
        label={a.hole ? `${nth}, lined with` : many ? `${nth}, made of` : 'made of'}
        path={`${path}.of`}
        value={a.of ?? ''}
        list={a.hole ? ['pipe'] : madeOf}
        onValue={(of) => onAttractor({ ...a, of })}
      />
      {!a.hole && (
        <Tick
          label={`${nth}: spiked, driven or grown fast`}
          path={`${path}.fixed`}
          value={a.fixed}
          onValue={(fixed) => onAttractor({ ...a, fixed })}
        />
      )}
      {a.kind === 'post' && (
        <>
          <Pick
            label={`${nth}, wrapped in`}
            path={`${path}.wrap`}
            value={a.wrap ?? ''}
            blank="nothing"
            options={wraps}
            name={wrapWord}
            onValue={(wrap) => onAttractor({ ...a, wrap })}
          />
          {a.wrap && (
            <Text
              label="the wrap, its colour"
              path={`${path}.colour`}
              value={a.colour ?? ''}
              onValue={(colour) => onAttractor({ ...a, colour })}
            />
          )}
        </>
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

/** The size of a trench. */
export function TrenchFields({ trench, onTrench }: { trench: Trench; onTrench: (trench: Trench) => void }) {
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

/** How wide a way lies open, and is narrowed to. */
export function WayFields({ way, onWay }: { way: Way; onWay: (way: Way) => void }) {
  return (
    <>
      <Measure
        label="way narrowed to"
        path="way.widthMm"
        kind="length"
        value={way.widthMm}
        onValue={(widthMm) => onWay({ ...way, widthMm })}
      />
      <Measure
        label="way before that"
        path="way.openMm"
        kind="length"
        value={way.openMm ?? null}
        onValue={(openMm) => onWay({ ...way, openMm })}
        onBlank={() => onWay({ ...way, openMm: undefined })}
      />
      <Pick
        label="it runs between"
        path="way.between"
        value={way.between ?? ''}
        blank="not said"
        options={betweens}
        name={betweenWord}
        onValue={(between) => onWay({ ...way, between })}
      />
      <Measure label="middle of the way, back" path="way.yMm" kind="length" value={way.yMm} onValue={(yMm) => onWay({ ...way, yMm })} />
      <Measure label="and to the right" path="way.xMm" kind="length" value={way.xMm} onValue={(xMm) => onWay({ ...way, xMm })} />
      <Measure
        label="way turned, degrees"
        path="way.bearingDeg"
        kind="angle"
        value={way.bearingDeg}
        onValue={(bearingDeg) => onWay({ ...way, bearingDeg })}
      />
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
      <Measure
        label="turned to the animal’s right, degrees"
        path={`${at}.turnDeg`}
        kind="angle"
        value={hole.turnDeg ?? 0}
        onValue={(turnDeg) => onHole({ ...hole, turnDeg })}
      />
      <Pick
        label={`${name}, its mouth`}
        path={`${at}.mouth`}
        value={hole.mouth ?? ''}
        blank="round"
        options={mouths}
        name={mouthWord}
        onValue={(mouth) => onHole({ ...hole, mouth })}
      />
    </>
  );
}
