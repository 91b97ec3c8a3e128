import type { ReactNode } from 'react';
import { rough, stonePath } from './rough';

/** A thing cut through, on the ground at (0, 0): r px in radius, so many px high, with as much room above it as the page has. */
type Profile = (p: { r: number; high: number; room: number }) => ReactNode;

const ink = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.7 } as const;

/** A line across what is taller than the page has room for. */
const broken = (room: number) => `M-13 ${-room + 8}l26 -7M-13 ${-room + 15}l26 -7`;

function tuftPath(r: number, high: number): string {
  const next = rough(11);
  return Array.from({ length: 15 }, () => {
    const lean = (next() - 0.5) * 2;
    const top = high * (0.6 + 0.4 * next());
    return `M${(lean * r * 0.35).toFixed(1)} 0Q${(lean * r * 0.45).toFixed(1)} ${(-top * 0.6).toFixed(1)} ${(lean * r).toFixed(1)} ${(-top).toFixed(1)}`;
  }).join('');
}

const Tuft: Profile = ({ r, high, room }) => {
  const tall = Math.min(high, room);
  const deep = 90;
  return (
    <g {...ink}>
      <path d={tuftPath(r, tall)} strokeWidth={1.5} />
      <path
        d={`M${-r * 0.7} 1C${-r * 0.8} ${deep * 0.6} ${-r * 0.3} ${deep} 0 ${deep}S${r * 0.8} ${deep * 0.6} ${r * 0.7} 1`}
        fill="var(--chosen)"
        strokeDasharray="4 2.5"
      />
      <path d={`M-${r * 0.3} 12q-8 30 2 ${deep * 0.6}M0 10q6 36 -3 ${deep * 0.75}M${r * 0.3} 12q8 26 0 ${deep * 0.55}`} strokeWidth={0.9} />
      {high > room && <path d={broken(room)} />}
    </g>
  );
};

const Stone: Profile = ({ r, high }) => (
  <path
    d={stonePath(0, -Math.max(high, r) * 0.45, r, Math.max(high / 2, r * 0.8), 21, 9)}
    fill="var(--paper)"
    stroke="var(--ink)"
    strokeWidth={1.8}
  />
);

const Bone: Profile = ({ r }) => (
  <g {...ink}>
    <path d={`M${-r} -3C${-r} ${-r * 1.1} ${r * 0.1} ${-r} ${r * 0.35} ${-r * 0.5}L${r} ${-r * 0.4}V-3Z`} fill="var(--paper)" />
    <path d={`M${-r * 0.1} ${-r * 0.55}a${r * 0.16} ${r * 0.13} 0 1 0 .1 0`} />
    <path d={`M${-r * 0.3} ${-r * 0.9}V34`} strokeWidth={2.4} />
  </g>
);

const Stick: Profile = ({ high, room }) => {
  const tall = Math.min(high, room);
  return (
    <g {...ink}>
      <path d={`M-5 ${-tall}H5V88L0 98L-5 88Z`} fill="var(--paper)" />
      <path d={[0.1, 0.25, 0.4].map((at) => `M-6 ${-tall * (1 - at)}q6 5 12 -2`).join('')} stroke="var(--dun)" strokeWidth={2.4} />
    </g>
  );
};

const Scat: Profile = ({ r }) => (
  <g {...ink}>
    <path d={tuftPath(r * 0.7, r * 1.6)} stroke="var(--soft)" strokeWidth={1.1} />
    <path d={`M${r * 0.3} -3q8 -8 16 0t14 -1`} stroke="var(--dun)" strokeWidth={5} strokeLinecap="round" />
  </g>
);

const Snow: Profile = ({ r, high, room }) => (
  <path
    d={`M${-r * 1.15} 0Q${-r * 0.7} ${-Math.min(high, room)} 0 ${-Math.min(high, room)}T${r * 1.15} 0Z`}
    fill="var(--paper)"
    stroke="var(--ink)"
    strokeWidth={2}
    strokeDasharray="1 4"
    strokeLinecap="round"
  />
);

const Soil: Profile = ({ r }) => (
  <path d={`M${-r} 0Q${-r * 0.3} ${-r * 0.7} ${r} 0Z`} fill="var(--way)" stroke="var(--ink)" strokeWidth={1.3} />
);

const Trunk: Profile = ({ high, room }) => {
  const hole = Math.min(high, room - 20);
  return (
    <g {...ink}>
      <path d={`M6 ${-room}C0 ${-room / 2} 2 -14 20 0M-96 ${-room}C-88 ${-room / 2} -92 -14 -114 0`} strokeWidth={2.4} />
      <path d={`M-66 ${-room}V-6M-34 ${-room}V-10`} stroke="var(--soft)" strokeWidth={1} />
      <path d={`M3 ${-hole - 15}H-22q-10 15 0 30H1Z`} fill="var(--ink)" />
      <path d={`M-10 ${-hole}h26`} stroke="var(--dun)" strokeWidth={3.4} />
      {high > room - 20 && <path d={broken(room * 0.4)} />}
    </g>
  );
};

const Hollow: Profile = ({ room }) => (
  <g {...ink}>
    <path
      d={`M-46 0V${-room}M216 ${-room}Q176 ${-room * 0.78} 206 ${-room * 0.66}H-6C-24 ${-room * 0.56} -26 -20 -26 0`}
      strokeWidth={2.2}
    />
    <path d={`M-36 -6V${-room + 6}`} stroke="var(--soft)" strokeWidth={1} />
  </g>
);

const Grass: Profile = () => <path d={tuftPath(17, 40)} {...ink} strokeWidth={1.3} />;

const Rag: Profile = ({ room }) => (
  <g {...ink}>
    <path d={`M0 ${-room}V${-room + 16}`} strokeWidth={1} />
    <path d={`M-8 ${-room + 16}h16l-3 20l-6 -5l-7 8z`} fill="var(--paper)" />
  </g>
);

const profiles: Record<string, Profile> = {
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

/** What an animal comes to, cut through: x is the middle of it on the page. */
export function ThingCut({ of, x, y, r, high, room }: { of: string; x: number; y: number; r: number; high: number; room: number }) {
  const Profile = profiles[of] ?? Stone;
  return (
    <g transform={`translate(${x} ${y})`}>
      <Profile r={r} high={high} room={room} />
    </g>
  );
}
