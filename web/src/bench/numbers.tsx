import { useState, type ReactNode } from 'react';
import { Measure } from '../lib/fields/fields';
import type { Layout } from '../lib/types.gen';
import type { Kind } from '../lib/words/units';

/** One number of a design: where it stands in it, and what it is. */
interface NumberOf {
  path: string;
  kind: Kind;
  value: number;
}

const suffixes: [string, Kind][] = [
  ['Mm', 'length'],
  ['Deg', 'angle'],
  ['N', 'force'],
  ['G', 'weight'],
];

/** Every number of a design that has a unit, in the order in which it is kept. */
export function numbersOf(value: unknown, path = ''): NumberOf[] {
  if (typeof value === 'number') {
    const kind = suffixes.find(([end]) => path.endsWith(end))?.[1];
    return kind ? [{ path, kind, value }] : [];
  }
  if (Array.isArray(value)) return value.flatMap((one, i) => numbersOf(one, `${path}[${i}]`));
  if (value === null || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([key, one]) => numbersOf(one, path === '' ? key : `${path}.${key}`));
}

/** A design with another number at a path. */
export function withNumber<T>(whole: T, path: string, value: number): T {
  const keys = path.split(/[.[\]]+/).filter(Boolean);
  const put = (part: unknown, at: number): unknown => {
    const key = keys[at];
    if (key === undefined) return value;
    if (Array.isArray(part)) return part.map((one, i) => (String(i) === key ? put(one, at + 1) : (one as unknown)));
    const object = part as Record<string, unknown>;
    return { ...object, [key]: put(object[key], at + 1) };
  };
  return put(whole, 0) as T;
}

const parts: Record<string, string> = {
  attractors: 'what it comes to,',
  rigs: 'trap',
  anchors: 'anchor',
  guides: 'guide',
  way: 'way',
  trench: 'trench',
  lie: 'ground',
  facingDeg: 'faces',
};

const fields: Record<string, string> = {
  xMm: 'offset to the right (− left)',
  yMm: 'setback',
  radiusMm: 'half across',
  rMm: 'half across',
  heightMm: 'height',
  diameterMm: 'across',
  depthMm: 'depth',
  angleDeg: 'angle down',
  turnDeg: 'turned',
  axisDeg: 'dog, round from away',
  spreadMm: 'spread',
  frameMm: 'frame',
  gaugeN: 'tension',
  marginMm: 'larger by',
  baseMm: 'base',
  drainMm: 'drain',
  agentG: 'against freezing',
  thicknessMm: 'thick',
  chainMm: 'chain',
  lengthMm: 'length',
  widthMm: 'wide',
  openMm: 'open',
  headMm: 'head, deep',
  bearingDeg: 'runs',
  slopeDeg: 'slope',
  grassMm: 'grass, how tall',
  downDeg: 'falls toward',
};

/** A path in words: which part, and what of it. */
function pathWords(path: string): { part: string; name: string } {
  const [head = '', ...rest] = path.split('.');
  const [list = '', index] = head.split(/[[\]]/);
  const name = rest.map((key) => {
    const [word = '', nth] = key.split(/[[\]]/);
    return `${fields[word] ?? word}${nth === undefined ? '' : ` ${Number(nth) + 1}`}`;
  });
  return { part: `${parts[list] ?? list}${index === undefined ? '' : ` ${Number(index) + 1}`}`, name: name.join(' ') };
}

/** The whole design as one table of numbers, each of which can be typed over. */
export function AsNumbers({ layout, onLayout, children }: { layout: Layout; onLayout: (layout: Layout) => void; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const numbers = open ? numbersOf(layout) : [];
  const groups = [...new Set(numbers.map((n) => pathWords(n.path).part))];
  return (
    <div className="as-numbers">
      <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        all measures
      </button>
      {children && <> · {children}</>}
      {groups.map((group) => (
        <section key={group} aria-label={`${group}, all measures`}>
          <h3>{group}</h3>
          <div className="fields">
            {numbers
              .filter((n) => pathWords(n.path).part === group)
              .map((n) => (
                <Measure
                  key={n.path}
                  label={pathWords(n.path).name || group}
                  path={n.path}
                  kind={n.kind}
                  value={n.value}
                  onValue={(value) => onLayout(withNumber(layout, n.path, value))}
                />
              ))}
          </div>
        </section>
      ))}
    </div>
  );
}
