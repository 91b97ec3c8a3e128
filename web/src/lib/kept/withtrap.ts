import type { Hung } from '../ask/hung';
import type { Layout, Rig } from '../types.gen';

/** The rig with a trap of the rack in it: its size, its pan and what that was measured at, and what is in its chain. */
export function withTrap(rig: Rig, h: Hung): Rig {
  const t = h.trap;
  const pan = rig.pan ?? { xMm: rig.xMm, yMm: rig.yMm, diameterMm: 0, gaugeN: 0 };
  return {
    ...rig,
    trapId: t.id,
    name: `trap ${t.number}`,
    jaws: { spreadMm: t.jawSpreadMm, frameMm: t.frameLengthMm, heightMm: t.setHeightMm },
    pan: { ...pan, diameterMm: t.panDiameterMm, gaugeN: h.tension?.meanN ?? pan.gaugeN },
    // What the rack does not say of its chain leaves what the design says.
    ...(t.swivels > 0 && { swivels: t.swivels }),
    ...(t.shockSpring && { spring: true }),
  };
}

/** A layout with one of its rigs changed, by its slot. */
export const withRig = (l: Layout, slot: number, change: (rig: Rig) => Rig): Layout => ({
  ...l,
  rigs: l.rigs.map((r) => (r.slot === slot ? change(r) : r)),
});

/** A layout with the pan of one of its rigs pressed, by its slot. */
export const withPress = (l: Layout, slot: number, gaugeN: number): Layout =>
  withRig(l, slot, (rig) => (rig.pan ? { ...rig, pan: { ...rig.pan, gaugeN } } : rig));
