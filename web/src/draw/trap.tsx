/** What a drawing of a trap needs to know of it, lengths in mm. */
export interface TrapShape {
  type: string;
  jawForm: string;
  offset: boolean | null;
  laminated: boolean | null;
  padded: boolean | null;
  jawSpreadMm: number;
  frameLengthMm: number;
  panDiameterMm: number;
}

const arc = (r: number, y: number, sweep: 0 | 1) => `M${-r} ${y}A${r} ${r} 0 0 ${sweep} ${r} ${y}`;

/** A trap from above, set, about (0, 0); a device without jaws as the loop that it throws. */
export function TrapShapeDrawing({ trap, scale }: { trap: TrapShape; scale: number }) {
  if (trap.type === 'foot_snare' || trap.type === 'cable_restraint') return <Loop arm={trap.type === 'foot_snare'} />;
  const r = (trap.jawSpreadMm / 2) * scale;
  const lever = (trap.frameLengthMm / 2) * scale;
  const long = trap.type === 'long_spring' ? 2.1 : 1;
  const gap = trap.offset ? 2.2 : 0.8;
  const stout = trap.laminated ? 4.6 : 2;
  return (
    <g fill="none" stroke="currentColor">
      <path d={`M${-lever * long} 0H${lever * long}`} strokeWidth={2.4} />
      <path d={`M${-lever * long} -4v8M${lever * long} -4v8`} strokeWidth={2} />
      {trap.type === 'coil_spring' &&
        [-1, 1].map((side) => (
          <path key={side} d={`M${side * (r + 3)} -6a3.4 3.4 0 1 0 0.1 0M${side * (r + 3)} 0a3.4 3.4 0 1 0 0.1 0`} strokeWidth={1.2} />
        ))}
      <path d={arc(r, -gap, 1) + arc(r, gap, 0)} strokeWidth={stout} />
      {trap.padded && <path d={arc(r - 4, -gap - 1, 1) + arc(r - 4, gap + 1, 0)} strokeWidth={2.6} strokeDasharray="5 2" />}
      <circle r={(trap.panDiameterMm / 2) * scale} fill="var(--paper)" strokeWidth={1.4} />
      <path d={`M${(-trap.panDiameterMm / 2) * scale} 0H${-r}`} strokeWidth={3} />
    </g>
  );
}

function Loop({ arm }: { arm: boolean }) {
  return (
    <g fill="none" stroke="currentColor" strokeWidth={1.6}>
      <path d="M0 -26C-34 -20 -34 30 0 30C34 30 34 -16 4 -22" />
      <rect x={-4} y={-28} width={9} height={7} fill="currentColor" stroke="none" />
      {arm && <path d="M4 -24L28 -38" strokeWidth={3} />}
    </g>
  );
}

/** A chain that hangs: links down from (0, 0). */
export function Chain({ length }: { length: number }) {
  const links = Math.max(1, Math.round(length / 7));
  return (
    <g fill="none" stroke="currentColor" strokeWidth={1.2}>
      {Array.from({ length: links }, (_, i) =>
        i % 2 === 0 ? (
          <ellipse key={i} cx={0} cy={4 + i * 7} rx={2.4} ry={4.6} />
        ) : (
          <path key={i} d={`M0 ${i * 7 - 0.5}v9`} strokeWidth={2} />
        ),
      )}
    </g>
  );
}
