/** The plan mark of a kind of set: a filled square is the trap, beside it what the kind is known by. 32 by 20, about (0, 0). */
export function Mark({ kind }: { kind: string }) {
  const square = <rect x={5} y={-4.5} width={9} height={9} fill="currentColor" stroke="none" />;
  switch (kind) {
    case 'flat':
      return (
        <g fill="none" stroke="currentColor" strokeWidth={1.8}>
          <path d="M-11 4.5 L-8.5 -5 L-1 -2.5 L-2 4.5 Z" />
          {square}
        </g>
      );
    case 'trench':
      return (
        <g fill="none" stroke="currentColor" strokeWidth={1.8}>
          <path d="M15 -8 H-7 A8 8 0 0 0 -7 8 H15" />
          <rect x={-1} y={-4.5} width={9} height={9} fill="currentColor" stroke="none" />
        </g>
      );
    case 'trail':
      return (
        <g fill="none" stroke="currentColor" strokeWidth={1.8}>
          <path d="M-13 -9 H13 M-13 9 H13" />
          <rect x={-8} y={-6} width={7.5} height={7.5} fill="currentColor" stroke="none" />
          <rect x={1} y={-1.5} width={7.5} height={7.5} fill="currentColor" stroke="none" />
        </g>
      );
    case 'scent_post':
      return (
        <g fill="none" stroke="currentColor" strokeWidth={2}>
          <path d="M-6.5 7 L-12 -5 M-6.5 7 L-6.5 -9 M-6.5 7 L-1 -5" />
          {square}
        </g>
      );
    case 'tree':
      return (
        <g fill="none" stroke="currentColor" strokeWidth={1.8}>
          <path d="M-6.5 9 V2 M-6.5 2 L-13 -8 M-6.5 2 L0 -8" />
          <circle cx={-6.5} cy={-6} r={2.6} />
          {square}
        </g>
      );
    case 'spring':
      return (
        <g fill="none" stroke="currentColor" strokeWidth={1.8}>
          <circle cx={-6.5} cy={-2.5} r={4} />
          <path d="M-14 6 q3.5 -4 7 0 t7 0" />
          {square}
        </g>
      );
    case 'device':
      return <circle r={7.5} fill="none" stroke="currentColor" strokeWidth={2.2} />;
    default:
      return (
        <g fill="none" stroke="currentColor" strokeWidth={2.2}>
          <circle cx={-6.5} cy={0} r={5} />
          {square}
        </g>
      );
  }
}

/** A plan mark as a drawing of its own, some pixels high. */
export function MarkIcon({ kind, height = 20 }: { kind: string; height?: number }) {
  return (
    <svg viewBox="-16 -10 32 20" height={height} width={height * 1.6} aria-hidden="true">
      <Mark kind={kind} />
    </svg>
  );
}
