import { show, showAbout, type System } from '../lib/words/units';
import type { Trench, Way } from '../lib/types.gen';
import { groundPath, hatching, rough, stonePath } from './rough';
import { across, alongMm, type View } from './view';

/** The room over the ground line in which things can stand. */
export const roomPx = (view: View) => view.groundY - 352;

/** Snow that can be drawn. */
export const leastSnowMm = 5;

/** Snow as it lies: behind a set it is left untouched and before it dragged off; on a way it lies all along. */
export function SnowCut({ snowMm, upTo, view, system }: { snowMm: number; upTo: number | undefined; view: View; system: System }) {
  const y = view.groundY;
  const top = y - Math.min(snowMm * view.scale, roomPx(view));
  const right = upTo ?? view.width - 4;
  return (
    <g>
      <path
        d={`${groundPath(4, right, top, 1.6, 8)}L${right + (upTo === undefined ? 0 : 10)} ${y}`}
        fill="none"
        stroke="var(--slate)"
        strokeWidth={1.4}
      />
      <path d={hatching(6, right - 2, top + 3, y - 2, 23)} stroke="var(--slate)" strokeWidth={0.9} opacity={0.5} aria-hidden="true" />
      <text className="halo toned" x={8} y={top - 6} color="var(--slate)">
        {show('length', snowMm, system)} of snow{upTo === undefined ? '' : ', dragged off in front'}
      </text>
    </g>
  );
}

/** Ground that water stands in: short waves between the strokes of its soil. */
export function WetGround({ view }: { view: View }) {
  const next = rough(37);
  let path = '';
  for (let y = view.groundY + 16; y < view.height - 8; y += 26)
    for (let x = 10 + next() * 40; x < view.width - 20; x += 50 + next() * 60) path += `M${x.toFixed(0)} ${y}q3 -4 6 0t6 0`;
  return <path d={path} fill="none" stroke="var(--slate)" strokeWidth={1} opacity={0.8} aria-hidden="true" />;
}

/** The floor of a trench, from its head to where it comes up. */
export function TrenchCut({ trench, behindMm, view, system }: { trench: Trench; behindMm: number; view: View; system: System }) {
  const y = view.groundY;
  const [head, mouth] = [across(view, -behindMm), across(view, trench.lengthMm - behindMm)];
  const floor = y + trench.headMm * view.scale;
  return (
    <g>
      <path d={`M${head} ${y - 3}L${head} ${floor}L${mouth} ${y}L${mouth} ${y - 3}Z`} fill="var(--paper)" stroke="none" />
      <path d={`M${head} ${y}V${floor}L${mouth} ${y}`} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      <path
        d={`M${head - 8} ${y}V${floor}M${head - 12} ${y}h8M${head - 12} ${floor}h8`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.1}
      />
      <text className="halo" x={head - 16} y={(y + floor) / 2 + 5} textAnchor="end">
        {show('length', trench.headMm, system)}
      </text>
    </g>
  );
}

/** Shallow water over the set: its surface and the soft floor. */
export function WaterCut({ view }: { view: View }) {
  const y = view.groundY;
  const [from, to] = [across(view, -150), across(view, 480)];
  let wave = `M${from} ${y - 15}`;
  for (let x = from; x < to; x += 24) wave += 'q6 -4 12 0t12 0';
  return (
    <g fill="none" stroke="var(--slate)">
      <path d={wave} strokeWidth={1.8} />
      <path d={`M${from} ${y - 15}L${from - 26} ${y}M${to} ${y - 15}L${to + 26} ${y}`} strokeWidth={1.2} />
    </g>
  );
}

/** What a way runs between, seen along it. */
export function WayCut({ way, view }: { way: Way; view: View }) {
  const [y, room, x] = [view.groundY, roomPx(view), across(view, alongMm(view, way))];
  switch (view.turned ? way.between : '') {
    case 'fence':
      return (
        <g stroke="var(--ink)" fill="none">
          <path d={`M${x - 46} ${y}Q${x} ${y + 34} ${x + 46} ${y}`} fill="var(--paper)" strokeWidth={1.6} />
          <path d={`M${x - 70} ${y + 40}V${y - room + 6}`} stroke="var(--soft)" strokeWidth={7} />
          {[0.32, 0.55, 0.8].map((at) => (
            <circle key={at} cx={x} cy={y - room * at} r={2.6} fill="var(--ink)" />
          ))}
        </g>
      );
    case 'culvert': {
      const mouth = across(view, -230);
      return (
        <g stroke="var(--ink)" fill="none">
          <path d={`M4 ${y - room + 14}H${mouth}V${y}M4 ${y - room + 20}H${mouth - 6}V${y}`} strokeWidth={2} />
          <path d={hatching(4, mouth - 8, y - room + 22, y - 2, 31)} stroke="var(--rule)" />
        </g>
      );
    }
    case 'banks': {
      const next = rough(14);
      let path = `M4 ${y - 62}`;
      let slope = '';
      for (let at = 24; at < view.width; at += 26) {
        const top = y - 56 - next() * 14;
        path += `L${at} ${top.toFixed(1)}`;
        slope += `M${at} ${top + 4}l${((next() - 0.5) * 8).toFixed(1)} ${(18 + next() * 22).toFixed(1)}`;
      }
      return <path d={path + slope} stroke="var(--soft)" fill="none" strokeWidth={1.2} />;
    }
    case 'ruts':
      return <path d={hatching(4, view.width - 4, y - 8, y + 8, 41)} stroke="var(--soft)" strokeWidth={1.6} />;
    case 'brush':
      return (
        <g stroke="var(--soft)" fill="none">
          {[-0.42, -0.2, 0, 0.2, 0.42].map((at) => (
            <path key={at} transform={`translate(${x + at * view.width} ${y})`} d={brushPath(Math.round(50 + at * 40))} strokeWidth={1.1} />
          ))}
        </g>
      );
  }
  return null;
}

function brushPath(seed: number): string {
  const next = rough(seed);
  return Array.from(
    { length: 9 },
    () => `M${((next() - 0.5) * 20).toFixed(1)} 0l${((next() - 0.5) * 34).toFixed(1)} ${(-24 - next() * 40).toFixed(1)}`,
  ).join('');
}

/** Where words stand that would lie on the line of the frost: under it. */
export function offFrost(y: number, frostMm: number | undefined, view: View): number {
  if (frostMm === undefined || frostMm <= leastFrostMm) return y;
  const line = view.groundY + frostMm * view.scale;
  return Math.abs(y - 5 - line) < 11 ? line + 16 : y;
}

/** Frost that can be drawn. */
export const leastFrostMm = 4;

/** How deep the ground is frozen by tomorrow morning. */
export function FrostLine({ frostMm, view, system }: { frostMm: number; view: View; system: System }) {
  const y = Math.min(view.groundY + frostMm * view.scale, view.height - 8);
  // Seen from far off there is no room for words between the ground and the line: they stand under it, where nothing is buried.
  const far = y - view.groundY < 22;
  const words = far ? { x: 8, y: y + 15 } : { x: view.width - 8, y: y - 6, textAnchor: 'end' as const };
  return (
    <g>
      <path d={`M4 ${y}H${view.width - 4}`} stroke="var(--slate)" strokeWidth={1.6} strokeDasharray="7 4" />
      <text className="halo toned" {...words} color="var(--slate)">
        frost by morning about {showAbout('length', frostMm, system)}
      </text>
    </g>
  );
}

export function BackingCut({ kind, x, y, urine }: { kind: string; x: number; y: number; urine: boolean }) {
  const scent =
    urine && kind !== 'none' ? <path d={`M${x - 22} ${y - 40}q-5 9 1 19`} stroke="var(--dun)" strokeWidth={2.4} fill="none" /> : null;
  switch (kind) {
    case 'none':
      return null;
    case 'tuft':
      return (
        <g stroke="var(--ink)" strokeWidth={1.6} fill="none">
          <path
            d={`M${x - 16} ${y}q-16 -22 -26 -46M${x - 15} ${y}q-8 -26 -8 -60M${x - 14} ${y}q2 -28 10 -54M${x - 12} ${y}q10 -18 16 -34M${x - 17} ${y}q-20 -10 -36 -24`}
          />
          {scent}
        </g>
      );
    case 'bank':
      return (
        <g>
          <path
            d={`M4 ${y - 62}Q${x - 42} ${y - 60} ${x - 14} ${y - 26}T${x} ${y}`}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={2.2}
          />
          {scent}
        </g>
      );
    case 'log':
      return (
        <g stroke="var(--ink)" fill="none">
          <path d={stonePath(x - 32, y - 28, 32, 30, 12, 16)} fill="var(--paper)" strokeWidth={1.8} />
          <path
            d={[0.66, 0.33].map((at) => stonePath(x - 32, y - 28, 32 * at, 30 * at, 12, 16)).join('')}
            stroke="var(--soft)"
            strokeWidth={0.9}
          />
          {scent}
        </g>
      );
    case 'stump':
      return (
        <g stroke="var(--ink)" fill="none">
          <path
            d={`M${x - 2} ${y}q-10 -8 -12 -58l-14 3l-16 -4l-14 4q0 46 -14 55Z`}
            fill="var(--paper)"
            strokeWidth={1.8}
            strokeLinejoin="round"
          />
          <path d={`M${x - 24} ${y - 50}q-2 26 2 44M${x - 44} ${y - 50}q2 28 -2 42`} stroke="var(--soft)" strokeWidth={0.9} />
          {scent}
        </g>
      );
    default:
      return (
        <g>
          <path
            d={stonePath(x - 30, y - 23, 42, 30, kind === 'stone' ? 17 : 40, kind === 'stone' ? 8 : 14)}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={1.7}
            strokeDasharray={kind === 'sod' ? '5 2' : undefined}
          />
          {scent}
        </g>
      );
  }
}
