import type { Attractor, Layout } from '../lib/types.gen';

/**
 * Where things stand on the bench's drawing: px of the plan's origin, and px per mm. Setback runs to the right and the animal's right
 * lies up; turned, the way runs across: along it to the right, setback down.
 */
export interface View {
  scale: number;
  x0: number;
  planY: number;
  groundY: number;
  width: number;
  height: number;
  turned: boolean;
}

/** The px of so many mm along the ruler. */
export const across = (view: View, alongMm: number) => view.x0 + alongMm * view.scale;
/** The px of so many mm up the page. */
export const up = (view: View, mm: number) => view.planY - mm * view.scale;

/** A place of the plan on the page. */
export const place = (view: View, xMm: number, yMm: number): { x: number; y: number } =>
  view.turned ? { x: across(view, xMm), y: up(view, -yMm) } : { x: across(view, yMm), y: up(view, xMm) };

/** A move on the page, px, as one on the plan, mm. */
export const moved = (view: View, dx: number, dy: number): { x: number; y: number } =>
  view.turned ? { x: dx / view.scale, y: dy / view.scale } : { x: -dy / view.scale, y: dx / view.scale };

/** How far along the ruler something lies. */
export const alongMm = (view: View, at: { xMm: number; yMm: number }): number => (view.turned ? at.xMm : at.yMm);

/** Puts what is drawn about (0, 0), its x up the page and its y to the right, at a place of the plan and turns it from x toward y. */
export const turned = (view: View, xMm: number, yMm: number, deg = 0): string => {
  const at = place(view, xMm, yMm);
  const turn = deg + (view.turned ? 90 : 0);
  return `translate(${at.x} ${at.y})${turn === 0 ? '' : ` rotate(${turn})`}`;
};

/** How long a hole's mouth is along its slant. */
export const mouthMm = (a: Attractor): number =>
  a.hole ? a.hole.diameterMm / Math.sin((a.hole.angleDeg * Math.PI) / 180) : 2 * (a.radiusMm ?? 0);

/** How far behind the first attractor's face the head of a trench lies: what the bait is under reaches out so far from it. */
export const headMm = (l: Layout): number => (l.attractors[0] ? mouthMm(l.attractors[0]) : 0);

/** The direction, away from the nearest pan, in which what an attractor takes up lies beyond its own place. */
export function beyond(l: Layout, a: Attractor): { x: number; y: number } {
  let [away, found] = [Infinity, { x: 0, y: -1 }];
  for (const { pan } of l.rigs) {
    if (!pan) continue;
    const [dx, dy] = [a.xMm - pan.xMm, a.yMm - pan.yMm];
    const far = Math.hypot(dx, dy);
    if (far > 0 && far < away) [away, found] = [far, { x: dx / far, y: dy / far }];
  }
  return found;
}

/** Whether the way of a set runs across its axis: then the drawing is turned. */
export const runsAcross = (l: Layout): boolean =>
  l.way !== undefined && Math.abs(Math.cos((l.way.bearingDeg * Math.PI) / 180)) > Math.SQRT1_2;

/** Whether a view is one from farther off, in which small things have no room for words. */
export const isFar = (view: View): boolean => view.scale < 0.25;

/** Whether two views show everything at the same place. */
export const alikeViews = (a: View, b: View): boolean => (Object.keys(a) as (keyof View)[]).every((key) => a[key] === b[key]);

/** A view from farther off, in which so much about a place fits the room over the ruler. */
export function closeUp(view: View, at: { xMm: number; yMm: number }, reachMm: number, roomPx: number): View {
  const scale = Math.min(view.scale, roomPx / reachMm);
  const far = { ...view, scale, x0: view.width / 2 };
  const to = place(far, at.xMm, at.yMm);
  return { ...far, x0: far.x0 - (to.x - far.width / 2), planY: far.planY - (to.y - far.planY) };
}

/** The view in which a set fits a page of a size. */
export function viewOf(l: Layout, width: number, height: number, planY: number, groundY: number): View {
  const full = width / 1067;
  const size = { width, height, groundY };
  if (runsAcross(l)) {
    const middle = l.attractors[0] && l.way ? l.way.yMm / 2 + 20 : (l.way?.yMm ?? 0);
    return { ...size, turned: true, scale: full, x0: width / 2, planY: planY - middle * full };
  }
  if (l.way) return { ...size, turned: false, scale: full * 0.85, x0: width / 2, planY };
  const back = Math.max(0, ...l.attractors.map((a) => mouthMm(a) - a.yMm)) * full;
  return { ...size, turned: false, scale: full, x0: Math.max(width * 0.194, back + width * 0.08), planY };
}
