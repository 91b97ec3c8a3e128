import { Measure } from '../../lib/fields/fields';
import type { Attractor, Hole, Layout, Trench, Way } from '../../lib/types.gen';
import { show, type System } from '../../lib/words/units';
import { backingWord } from '../../lib/words/called';
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
export const attractorParts = ['', '.slot', '.hole', '.radiusMm', '.heightMm', '.xMm', '.yMm'];

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
