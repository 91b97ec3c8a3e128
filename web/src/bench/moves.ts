import type { Along, Layout, Way } from '../lib/types.gen';

export interface Shift {
  x: number;
  y: number;
}

export const by = <T extends { xMm: number; yMm: number }>(part: T, d: Shift): T => ({ ...part, xMm: part.xMm + d.x, yMm: part.yMm + d.y });

/** Moves a trap with its bed, and with the anchor that goes along. */
export const moveRig = (l: Layout, slot: number, d: Shift, along: Along[]): Layout => ({
  ...l,
  rigs: l.rigs.map((r) => (r.slot === slot ? { ...by(r, d), ...(r.pan && { pan: by(r.pan, d) }) } : r)),
  anchors: l.anchors.map((a) => (along.some((x) => x.rig === slot && x.anchor === a.slot) ? by(a, d) : a)),
});

export const moveGuide = (l: Layout, index: number, d: Shift): Layout => ({
  ...l,
  guides: l.guides.map((g, i) => (i === index ? by(g, d) : g)),
});

export const moveAnchor = (l: Layout, index: number, d: Shift): Layout => ({
  ...l,
  anchors: l.anchors.map((a, i) => (i === index ? by(a, d) : a)),
});

/** The middle of one edge of a way, a quarter of a page from where the set lies. */
export const wayEdge = (way: Way, sign: 1 | -1): Shift => {
  const turn = (way.bearingDeg * Math.PI) / 180;
  const [along, off] = [alongEdgeMm, (sign * way.widthMm) / 2];
  return { x: way.xMm + along * Math.cos(turn) - off * Math.sin(turn), y: way.yMm + along * Math.sin(turn) + off * Math.cos(turn) };
};

const alongEdgeMm = 330;

/** Narrows a way from both sides, or opens it, by one of its edges. */
export const widen = (l: Layout, sign: 1 | -1, d: Shift): Layout => {
  if (!l.way) return l;
  const turn = (l.way.bearingDeg * Math.PI) / 180;
  const out = sign * (d.y * Math.cos(turn) - d.x * Math.sin(turn));
  return { ...l, way: { ...l.way, widthMm: Math.max(leastMm, l.way.widthMm + 2 * out) } };
};

/** Draws a trench longer or shorter, and wider or narrower, by a corner of its foot. */
export const stretch = (l: Layout, d: Shift): Layout =>
  l.trench
    ? {
        ...l,
        trench: {
          ...l.trench,
          lengthMm: Math.max(leastMm, l.trench.lengthMm + d.y),
          widthMm: Math.max(leastMm, l.trench.widthMm + 2 * d.x),
        },
      }
    : l;

/** Nothing is dragged to less than this. */
const leastMm = 25;

/** The first attractor is the origin: when it moves, everything else moves the other way. */
export const moveAttractor = (l: Layout, index: number, d: Shift): Layout => {
  const back = { x: -d.x, y: -d.y };
  if (index > 0) return { ...l, attractors: l.attractors.map((a, i) => (i === index ? by(a, d) : a)) };
  return {
    ...l,
    attractors: l.attractors.map((a, i) => (i === 0 ? a : by(a, back))),
    ...(l.way && { way: by(l.way, back) }),
    rigs: l.rigs.map((r) => ({ ...by(r, back), ...(r.pan && { pan: by(r.pan, back) }) })),
    anchors: l.anchors.map((a) => by(a, back)),
    guides: l.guides.map((g) => by(g, back)),
  };
};
