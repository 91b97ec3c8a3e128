import type {
  Anchor,
  AnchorKind,
  Backing,
  Catch,
  Guide,
  Hole,
  Layer,
  Layout,
  LineTrap,
  Pan,
  Plug,
  SetKind,
  ShowKind,
  Smell,
  SmellKind,
  SmellPlace,
  Visit,
} from '../types.gen';

/**
 * What this browser kept before sets had patterns, as it is read today. The program lifts what it is sent in the same way; here it is
 * needed without it, since what was entered out of its reach is shown out of its reach.
 */

/** A set as it was written then: a dirt hole with one trap under one cover. */
interface FirstLayout {
  kind: SetKind;
  look: ShowKind;
  hole: Hole;
  backing: Backing;
  trap: { id?: string; name: string; jawSpreadMm: number; frameLengthMm: number; setHeightMm: number };
  pan: Pan;
  bed: { xMm: number; yMm: number; marginMm: number; baseMm: number; firm: boolean };
  cover: Layer;
  anchor: { kind: AnchorKind; lengthMm: number; chainMm: number };
  attractant: { bait: string; lure: string; urine: string; plug: Plug; baitId?: string; lureId?: string; urineId?: string };
  guides: Guide[] | null;
  facingDeg?: number;
}

function liftedLayout(l: FirstLayout): Layout {
  const { trap, bed, anchor, attractant: a } = l;
  const smell = (kind: SmellKind, name: string, lureId: string | undefined, place: SmellPlace): Smell[] =>
    name || lureId ? [{ kind, name, ...(lureId && { lureId }), place }] : [];
  const at = { xMm: bed.xMm, yMm: bed.yMm };
  const held: Anchor = { slot: 0, kind: anchor.kind, ...(anchor.lengthMm > 0 && { lengthMm: anchor.lengthMm }), ...at };
  return {
    schema: 2,
    kind: l.kind,
    pattern: 'hole',
    ...(l.facingDeg !== undefined && { facingDeg: l.facingDeg }),
    attractors: [
      {
        slot: 0,
        kind: 'hole',
        xMm: 0,
        yMm: 0,
        hole: l.hole,
        plug: a.plug,
        smells: [
          ...smell('bait', a.bait, a.baitId, 'bottom'),
          ...smell('lure', a.lure, a.lureId, 'lip'),
          ...smell('urine', a.urine, a.urineId, 'backing'),
        ],
      },
    ],
    rigs: [
      {
        slot: 0,
        ...(trap.id && { trapId: trap.id }),
        name: trap.name,
        device: 'jaws',
        ...at,
        jaws: { spreadMm: trap.jawSpreadMm, frameMm: trap.frameLengthMm, heightMm: trap.setHeightMm },
        pan: l.pan,
        bed: { marginMm: bed.marginMm, baseMm: bed.baseMm, firm: bed.firm },
        cover: [l.cover],
        chainMm: anchor.chainMm,
        anchorSlot: 0,
      },
    ],
    anchors: [held],
    guides: l.guides ?? [],
    backing: l.backing,
    show: l.look,
  };
}

/** A catch that did not name the trap that holds it. */
const liftedCatch = (c: Catch): Catch => ({ ...{ rigs: [], were: [], weightG: null, blood: null }, ...c });

/** A look that did not say whose it was. */
const liftedLook = (v: Visit): Visit => ({
  ...{ animal: '', by: '', also: [], rigs: [], side: '', bed: '', prints: [], photoId: null, search: null, mendedAt: null },
  ...v,
  catches: v.catches.map(liftedCatch),
});

/** A trap whose jaws were one word. */
function liftedTrap({ jaw, ...x }: LineTrap & { jaw: string }): LineTrap {
  const is = (word: string) => (jaw === word ? true : null);
  const jaws = {
    jawForm: jaw === 'square' ? ('square' as const) : ('' as const),
    offset: is('offset'),
    offsetMm: null,
    laminated: is('laminated'),
    padded: is('padded'),
  };
  return { ...x, ...jaws };
}

/** What was entered, as it is read today. What is sent again goes as it was written. */
export function lifted<T>(body: T): T {
  if (typeof body !== 'object' || body === null) return body;
  const is: object = body;
  let now: object = is;
  if ('layout' in is && typeof is.layout === 'object' && is.layout !== null && !('schema' in is.layout)) {
    now = { ...is, layout: liftedLayout(is.layout as FirstLayout) };
  } else if ('finding' in is && 'catches' in is && !('side' in is)) now = liftedLook(is as Visit);
  else if ('foot' in is && 'hold' in is) now = liftedCatch(is as Catch);
  else if ('jaw' in is) now = liftedTrap(is as LineTrap & { jaw: string });
  else if ('makeId' in is && 'undoneAt' in is && !('layout' in is) && !('rigs' in is))
    now = { later: false, rigs: [], done: [], note: '', ...is };
  else if ('presses' in is && 'cover' in is && !Array.isArray(is.cover)) now = { ...is, cover: [is.cover] };
  return now as T;
}
