import type { Layout, Points, PointsAt, Rig } from '../types.gen';
import { feels } from '../lists.gen';
import { feelWord } from '../words/called';
import { Choice } from './fields';

/** The traps of a set that lie in a bed. */
export const bedded = (l: Layout): Rig[] => l.rigs.filter((r) => r.jaws);

/** Nothing moves at any point of any trap. */
export const allStill = (l: Layout): PointsAt[] => bedded(l).map((r) => ({ slot: r.slot, felt: ['still', 'still', 'still', 'still'] }));

/** Where a point of a trap lies, seen by an animal at the set: what turns from the x axis by so much is to a side, or nearer to it or farther. */
function lies(deg: number): string {
  const turn = (deg * Math.PI) / 180;
  const [x, y] = [Math.cos(turn), Math.sin(turn)];
  if (Math.abs(x) >= Math.abs(y)) return x > 0 ? 'right' : 'left';
  return y > 0 ? 'near' : 'far';
}

/** The four points of a trap in their order: both ends of its levers, then both jaws. */
const pointsOf = ({ axisDeg = 0 }: Rig): string[] => [
  `lever, ${lies(axisDeg)}`,
  `lever, ${lies(axisDeg + 180)}`,
  `jaw, ${lies(axisDeg + 90)}`,
  `jaw, ${lies(axisDeg + 270)}`,
];

/** What a thumb feels at the four points of each trap, a tap each; none is preset. */
export function Felt({ layout, points, onPoints }: { layout: Layout; points: PointsAt[]; onPoints: (points: PointsAt[]) => void }) {
  const rigs = bedded(layout);
  if (rigs.length === 0) return null;
  return (
    <>
      <div className="wide">
        <button type="button" className="word" onClick={() => onPoints(allStill(layout))}>
          nothing moves at {rigs.length > 1 ? 'any of them' : 'all four'}
        </button>
      </div>
      {rigs.map((rig, i) => {
        const at = points.findIndex((p) => p.slot === rig.slot);
        const felt = points[at]?.felt ?? ['', '', '', ''];
        const path = `asBuilt.points[${at < 0 ? points.length : at}].felt`;
        return pointsOf(rig).map((name, k) => (
          <Choice
            key={`${rig.slot} ${k}`}
            label={rigs.length > 1 ? `${rig.name || `trap ${i + 1}`}, ${name}` : name}
            path={`${path}[${k}]`}
            value={felt[k] ?? ''}
            options={feels}
            name={feelWord}
            onValue={(feel) => {
              const next = { slot: rig.slot, felt: felt.with(k, feel) as Points };
              onPoints(at < 0 ? [...points, next] : points.with(at, next));
            }}
          />
        ));
      })}
    </>
  );
}
