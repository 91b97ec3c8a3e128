/** Repeatable unevenness, so that a drawn line looks drawn and is the same at every painting. */

/** A source of numbers from 0 to 1 that begins with a seed. */
export function rough(seed: number): () => number {
  let state = (seed * 2654435761) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state >>>= 0;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 4294967296;
  };
}

/** The path of a stone: a closed, uneven outline about a centre. */
export function stonePath(cx: number, cy: number, rx: number, ry: number, seed: number, corners = 8): string {
  const next = rough(seed);
  const points = Array.from({ length: corners }, (_, i) => {
    const turn = ((i + next() * 0.5) / corners) * 2 * Math.PI;
    const out = 0.84 + next() * 0.22;
    return `${(cx + rx * out * Math.cos(turn)).toFixed(1)} ${(cy + ry * out * Math.sin(turn)).toFixed(1)}`;
  });
  return `M${points.join('L')}Z`;
}

/** A line across that wavers a little, as ground does. */
export function groundPath(x0: number, x1: number, y: number, waver: number, seed: number, step = 16): string {
  const next = rough(seed);
  let path = `M${x0} ${y.toFixed(1)}`;
  for (let x = x0 + step; x < x1 + step; x += step) path += `L${Math.min(x, x1)} ${(y + (next() - 0.5) * waver).toFixed(1)}`;
  return path;
}

/** Broken hatching over an area: short level strokes in uneven rows. */
export function hatching(x0: number, x1: number, y0: number, y1: number, seed: number): string {
  const next = rough(seed);
  let path = '';
  for (let y = y0 + 8; y < y1; y += 11) {
    for (let x = x0 + next() * 30; x < x1; x += 22 + next() * 34) {
      const length = Math.min(8 + next() * 16, x1 - x);
      path += `M${x.toFixed(1)} ${(y + (next() - 0.5) * 3).toFixed(1)}h${length.toFixed(1)}`;
    }
  }
  return path;
}
