/** A layer of a mixture: its share of the whole, and what it is. */
export interface Layer {
  name: string;
  share: number;
  amount: string;
}

const width = 250;
const height = 226;
const glass = { x: 14, y: 16, width: 104, height: 196 };
const inks = ['var(--way)', 'var(--chosen)', 'var(--rule)', 'var(--lower)'];

/** Each layer on the one before, and its label beside it, but never on the label below. */
function stack(layers: Layer[]) {
  const placed: (Layer & { y: number; h: number; label: number })[] = [];
  for (const l of layers) {
    const below = placed.at(-1);
    const h = l.share * (glass.height - 14);
    const y = (below?.y ?? glass.y + glass.height) - h;
    placed.push({ ...l, y, h, label: Math.min(y + h / 2, (below?.label ?? Infinity) - 32) });
  }
  return placed;
}

/** A mixing jar with its parts in layers, as high as their share, each with its name and amount. */
export function Beaker({ layers, total }: { layers: Layer[]; total: string }) {
  const placed = stack(layers);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label={`${total}: ${layers.map((l) => `${l.amount} of ${l.name}`).join(', ')}`}
    >
      {placed.map((l, i) => (
        <g key={i}>
          <rect x={glass.x} y={l.y} width={glass.width} height={l.h} fill={inks[i % inks.length]} />
          <path d={`M${glass.x} ${l.y}h${glass.width}`} stroke="var(--ink)" strokeWidth={1} />
        </g>
      ))}
      {placed.map((l, i) => {
        const middle = l.y + l.h / 2;
        const at = l.label;
        return (
          <g key={i}>
            <path d={`M${glass.x + glass.width} ${middle}L${glass.x + glass.width + 18} ${at}`} stroke="var(--rule)" fill="none" />
            <text x={glass.x + glass.width + 24} y={at} className="heading">
              {l.amount}
            </text>
            <text x={glass.x + glass.width + 24} y={at + 14} className="quiet-text">
              {l.name}
            </text>
          </g>
        );
      })}
      <path
        d={`M${glass.x - 5} ${glass.y - 5}L${glass.x} ${glass.y}V${glass.y + glass.height}H${glass.x + glass.width}V${glass.y}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2.2}
      />
      <path
        d={Array.from({ length: 5 }, (_, i) => `M${glass.x} ${glass.y + glass.height - ((i + 1) * (glass.height - 14)) / 5}h8`).join('')}
        stroke="var(--ink)"
      />
    </svg>
  );
}
