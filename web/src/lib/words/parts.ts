import type { Anchor, Layer, Layout, Material, Rig, Smell } from '../types.gen';
import { show, type System } from './units';
import { dragKinds } from '../lists.gen';
import { among } from './words';
import { anchorWord, coverWord } from './called';

/** What pages that do not draw a set ask of its layout. Nobody else looks into one. */

/** The plan mark of a set. */
export const markOf = (l: Layout): string => l.kind;

/** Whether a trap of the set goes with the animal. */
export const onDrag = (l: Layout): boolean => l.anchors.some((a) => drags(a.kind));

/** Whether an anchor goes with the animal, and hangs in what it runs into. */
export const drags = (kind: string): boolean => among(dragKinds, kind);

/** Where a set itself stands, if it was said. */
export const placeOf = (l: Layout) => l.at;

/** The traps of the rack that the set is made with. */
export const trapsOf = (l: Layout): string[] => l.rigs.flatMap((r) => (r.trapId ? [r.trapId] : []));

/** The slots of a set's traps, as they are counted, and what each is called. */
export const rigsOf = (l: Layout): { slot: number; name: string }[] =>
  l.rigs.map((r, i) => ({ slot: r.slot, name: r.name || `trap ${i + 1}` }));

/** Those of them that close jaws, with the trap of the rack that each is; blank where it hangs on none. */
export const trapRigs = (l: Layout): { slot: number; name: string; trapId: string }[] =>
  l.rigs.flatMap((r, i) => (r.jaws ? [{ slot: r.slot, name: r.name || `trap ${i + 1}`, trapId: r.trapId ?? '' }] : []));

/** Whether a rig holds by a cable. */
export const cableIn = (l: Layout, slot: number): boolean => {
  const rig = l.rigs.find((r) => r.slot === slot);
  return rig !== undefined && (rig.loop !== undefined || anchorOf(l, rig)?.kind === 'cable');
};

/** Which way a set faces, degrees from north; null where nobody said. */
export const facingOf = (l: Layout): number | null => l.facingDeg ?? null;

/** How deep the hole of what an animal comes to is, by its slot. */
export const holeDepthOf = (l: Layout, slot: number): number => l.attractors.find((a) => a.slot === slot)?.hole?.depthMm ?? 0;

/** An anchor by its slot. */
export const anchorIn = (l: Layout, slot: number): Anchor | undefined => l.anchors.find((a) => a.slot === slot);

export const anchorOf = (l: Layout, rig: Rig): Anchor | undefined => l.anchors.find((a) => a.slot === rig.anchorSlot);

/** The anchors that stand to the side of what they hold, and can be seen from above, with the trap that each holds. */
export const asideOf = (l: Layout): { rig: Rig; anchor: Anchor; index: number }[] =>
  l.anchors.flatMap((anchor, index) => {
    const rig = l.rigs.find((r) => r.anchorSlot === anchor.slot);
    const driven = ['stake', 'crossed', 'cable'].includes(anchor.kind);
    return rig && driven && isAside(anchor, rig) ? [{ rig, anchor, index }] : [];
  });

/** Whether an anchor stands to the side of a trap, and not under its bed. */
export const isAside = (anchor: Anchor, rig: Rig): boolean => Math.hypot(anchor.xMm - rig.xMm, anchor.yMm - rig.yMm) > 60;

/** How each trap of the set is held, in words. */
export function heldWords(l: Layout, system: System): { name: string; drag: boolean; says: string }[] {
  return l.rigs.flatMap((rig) => {
    const anchor = anchorOf(l, rig);
    if (!anchor) return [];
    const chain = show(rig.chainMm > 1000 ? 'ground' : 'length', rig.chainMm, system);
    const drag = drags(anchor.kind);
    const says = drag
      ? `${chain} of chain`
      : `${anchorWord(anchor.kind)}, ${show('length', anchor.lengthMm ?? 0, system)} down, on ${chain} of chain`;
    return [{ name: l.rigs.length > 1 ? rig.name || `trap ${rig.slot + 1}` : '', drag, says }];
  });
}

/** A cover in words, from the top down. */
export const coverWords = (cover: Layer[], system: System): string =>
  [...cover]
    .reverse()
    .map((layer) => `${show('length', layer.thicknessMm, system)} of ${coverWord(layer.material)}`)
    .join(' on ') || 'nothing';

/** What weather and a foot meet first. */
export const topOf = (cover: Layer[]): Material => cover.at(-1)?.material ?? '';

/** A smell is named by the first of its kind. */
export const smellOf = (l: Layout, kinds: readonly string[]): Smell | undefined =>
  l.attractors.flatMap((a) => a.smells).find((s) => kinds.includes(s.kind));

export const baits = ['bait', 'food'] as const;
export const lures = ['lure', 'gland', 'curiosity', 'musk', 'call'] as const;
export const urines = ['urine'] as const;

/** What is its own backing: nothing else is drawn behind it. */
export const standsItself: readonly string[] = ['trunk', 'hollow', 'tuft', 'rag', 'grass'];
