import type { ReactNode } from 'react';
import type { Attractor, Layout } from '../lib/types.gen';
import { hatching, rough, stonePath } from './rough';
import { beyond, mouthMm, turned, type View } from './view';

/** A thing about its middle, r px in radius; the trap lies to its right. */
type Shape = (p: { r: number; seed: number }) => ReactNode;

const ink = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.6 } as const;

/** Blades of grass that lean outward from a clump. */
export function blades(r: number, many: number, seed: number): string {
  const next = rough(seed);
  return Array.from({ length: many }, () => {
    const turn = 2 * Math.PI * next();
    const [from, to] = [r * 0.25 * next(), r * (0.75 + 0.35 * next())];
    return `M${(from * Math.cos(turn)).toFixed(1)} ${(from * Math.sin(turn)).toFixed(1)}L${(to * Math.cos(turn)).toFixed(1)} ${(to * Math.sin(turn)).toFixed(1)}`;
  }).join('');
}

const Stone: Shape = ({ r, seed }) => <path d={stonePath(0, 0, r, r, seed, 9)} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.7} />;

const Bone: Shape = ({ r }) => (
  <g {...ink} fill="var(--paper)">
    <path
      d={`M${-r} 0C${-r} ${-r * 0.9} ${r * 0.1} ${-r * 0.8} ${r * 0.35} ${-r * 0.35}L${r} ${-r * 0.28}V${r * 0.28}L${r * 0.35} ${r * 0.35}C${r * 0.1} ${r * 0.8} ${-r} ${r * 0.9} ${-r} 0Z`}
    />
    <path
      d={`M${-r * 0.05} ${-r * 0.38}a${r * 0.16} ${r * 0.13} 0 1 0 .1 0M${-r * 0.05} ${r * 0.38}a${r * 0.16} ${r * 0.13} 0 1 0 .1 0M${r * 0.5} 0h${r * 0.4}`}
    />
  </g>
);

const Stick: Shape = ({ r }) => (
  <g {...ink}>
    <circle r={Math.max(5, r)} fill="var(--dun)" />
    <path d={`M${-Math.max(5, r) - 5} -7q5 7 0 14M${Math.max(5, r) + 5} -7q-5 7 0 14`} strokeWidth={1.1} />
  </g>
);

const Tuft: Shape = ({ r, seed }) => (
  <g {...ink}>
    <circle r={r * 0.55} strokeDasharray="2 3" strokeWidth={1} />
    <path d={blades(r, 30, seed)} strokeWidth={1.3} />
  </g>
);

const Scat: Shape = ({ r, seed }) => (
  <g {...ink}>
    <path d={blades(r, 14, seed)} strokeWidth={1.1} stroke="var(--soft)" />
    <path
      d={`M${r * 0.1} ${-r * 0.5}q${r * 0.4} ${r * 0.2} 0 ${r * 0.4}t0 ${r * 0.5}`}
      stroke="var(--dun)"
      strokeWidth={5}
      strokeLinecap="round"
    />
  </g>
);

const Snow: Shape = ({ r, seed }) => (
  <g {...ink}>
    <path d={stonePath(0, 0, r, r, seed, 16)} fill="var(--paper)" strokeDasharray="1 4" strokeLinecap="round" strokeWidth={2} />
    <path
      d={stonePath(0, 0, r * 0.5, r * 0.5, seed + 2, 12)}
      stroke="var(--soft)"
      strokeWidth={1}
      strokeDasharray="1 4"
      strokeLinecap="round"
    />
  </g>
);

const Soil: Shape = ({ r, seed }) => {
  const next = rough(seed);
  const grains = Array.from({ length: 60 }, () => {
    const [turn, out] = [2 * Math.PI * next(), r * Math.sqrt(next())];
    return `M${(out * Math.cos(turn)).toFixed(1)} ${(out * Math.sin(turn)).toFixed(1)}h0`;
  });
  return (
    <g {...ink}>
      <path d={stonePath(0, 0, r, r, seed, 13)} strokeWidth={1} fill="var(--way)" />
      <path d={grains.join('')} strokeWidth={2} strokeLinecap="round" />
    </g>
  );
};

/** A trunk is far wider than its hole: its bark is drawn, and the hole dark in it. */
const Trunk: Shape = () => (
  <g {...ink}>
    <path d={`M-2 -78C26 -40 26 40 -2 78`} strokeWidth={2.4} />
    <path d="M-22 -82C4 -42 4 42 -22 82M-44 -80C-20 -40 -20 40 -44 80" stroke="var(--soft)" strokeWidth={1} />
    <ellipse cx={16} cy={0} rx={5} ry={13} fill="var(--ink)" />
  </g>
);

const Hollow: Shape = () => (
  <g {...ink}>
    <path d="M206 -72C90 -104 -30 -92 -40 0S90 104 206 72" strokeWidth={2.4} />
    <path d={`M192 -80C80 -114 -46 -102 -56 0S80 114 192 80${hatching(-78, -58, -50, 50, 4)}`} stroke="var(--soft)" strokeWidth={1} />
  </g>
);

const Grass: Shape = ({ seed }) => <path d={blades(24, 22, seed)} {...ink} strokeWidth={1.2} />;

const Rag: Shape = () => (
  <g {...ink}>
    <path d="M-46 -30L40 26" strokeWidth={1} />
    <path d="M-4 -3l16 10l-3 14l-7 -4l-8 5z" fill="var(--paper)" />
  </g>
);

const things: Record<string, Shape> = {
  stone: Stone,
  bone: Bone,
  stick: Stick,
  tuft: Tuft,
  scat: Scat,
  snow: Snow,
  soil: Soil,
  trunk: Trunk,
  hollow: Hollow,
  grass: Grass,
  rag: Rag,
};

/** What an animal comes to, as it shows from above. A hole's mouth is as long as the slant makes it; other things lie beyond their place. */
export function AttractorPlan({ layout, attractor, view }: { layout: Layout; attractor: Attractor; view: View }) {
  const { hole, xMm, yMm } = attractor;
  const way = beyond(layout, attractor);
  // The thing's own right is toward the trap: from the page's right, where it lies with nothing turned.
  const deg = (Math.atan2(way.x, -way.y) * 180) / Math.PI;
  const long = mouthMm(attractor) * view.scale;
  const r = (attractor.radiusMm ?? 0) * view.scale;
  const Thing = things[attractor.of ?? ''] ?? Stone;
  return (
    <g transform={turned(view, xMm, yMm, deg)}>
      {hole ? (
        <Hole long={long} wide={hole.diameterMm * view.scale} pipe={attractor.of === 'pipe'} />
      ) : (
        <g transform={`translate(${-r} 0)`}>
          <Thing r={r} seed={21 + attractor.slot} />
        </g>
      )}
    </g>
  );
}

function Hole({ long, wide, pipe }: { long: number; wide: number; pipe: boolean }) {
  const least = 2.5;
  return (
    <g>
      {pipe && <ellipse cx={-long / 2} rx={long / 2 + 4} ry={wide / 2 + 4} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.8} />}
      <ellipse cx={-long / 2} rx={Math.max(least, long / 2)} ry={Math.max(least, wide / 2)} fill="var(--ink)" />
      {wide < 20 && <circle cx={-long / 2} r={wide / 2 + 5} fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray="2 2.4" />}
    </g>
  );
}
