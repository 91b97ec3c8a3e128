import type { Backing, Layout, Remedy, SmellKind, Stronger } from '../types.gen';
import { show, showAbout, type System } from './units';
import { anyWord, backingWord, smellWord, wordIn } from './called';
import { bearing } from './words';
import { anchorIn, holeDepthOf } from './parts';
import { patternWords } from './patterns';

const plain: Record<string, string> = {
  firm_bed: 'bed it firm',
  thinner_cover: 'cover it thinner',
  plug: 'close the hole with wool',
  guides: 'clods beside the pan',
  closer_guides: 'the guides an inch closer',
  wider_guides: 'the guides an inch wider',
  no_guides: 'take the guides away',
  lower_guides: 'lower the guides',
  stick: 'a stick to step over',
  narrow: 'narrow it',
  second_trap: 'a second trap',
  scent: 'something to smell',
  add_urine: 'urine on its back',
  add_bait: 'bait as well',
  no_bait: 'leave the bait out',
  lower_lure: 'the lure low, an inch or two up',
  soil_away: 'carry the loose soil off',
  gloves: 'gloves on',
  dig_out: 'dig it out, so that it shows',
  blend: 'blend it in',
  scat: 'move a scat to it',
  roll_stone: 'a stone to roll on, well aside',
  wait: 'leave it alone, it settles by the fourth night',
};

/** What could be otherwise at a set, in the fewest words. */
export function remedyWords(r: Remedy, layout: Layout, system: System): string {
  const rig = layout.rigs.find((x) => x.slot === r.slot);
  const trap = layout.rigs.length > 1 && ofTrap.includes(r.key) ? ` of ${rig?.name || `trap ${r.slot + 1}`}` : '';
  switch (r.key) {
    case 'move_pan':
      return `the pan${trap}${trap && ','} ${movedWords(r, layout.way !== undefined, system)}`;
    case 'move_stick':
      return `the stick ${movedWords(r, true, system)}`;
    case 'lighter_pan':
      return `lighten the pan${trap} to ${show('force', r.gaugeN ?? 0, system)}`;
    case 'heavier_pan':
      return `stiffen the pan${trap} to ${show('force', r.gaugeN ?? 0, system)}`;
    case 'deeper_hole':
      return `deepen the hole to ${show('length', r.layout ? holeDepthOf(r.layout, r.slot) : 0, system)}`;
    case 'other_cover':
      return `cover the bed${trap} with ${anyWord(r.to ?? '')}`;
    case 'backing':
      return `a ${backingWord((r.to ?? '') as Backing)} behind it`;
    case 'other_lure':
      return r.lure
        ? `${r.lure} instead, ${r.doses === 1 ? 'one dose' : `${r.doses ?? 0} doses`} on the shelf`
        : `a ${smellWord((r.to ?? '') as SmellKind)} lure instead, none on the shelf yet`;
    case 'call_aside':
      return `${r.lure || 'a call lure'} hung aside and high`;
    case 'face':
      return `face it ${bearing(r.facingDeg ?? 0)}`;
    case 'pattern':
      return r.layout ? patternWords(r.layout) : anyWord(r.to ?? '');
    case 'anchor': {
      const anchor = r.layout ? anchorIn(r.layout, r.slot) : undefined;
      const [is, was] = [r.layout, layout].map((l) => l?.rigs.find((x) => x.anchorSlot === r.slot));
      const chainMm = r.to === 'shorter' || is?.chainMm !== was?.chainMm ? (is?.chainMm ?? 0) : 0;
      const spring = is?.spring === true && was?.spring !== true;
      return anchor ? strongerWords({ key: r.to ?? '', anchor, chainMm, spring }, system) : anyWord(r.to ?? '');
    }
  }
  return wordIn(plain, r.key) + trap;
}

const ofTrap = ['firm_bed', 'move_pan', 'lighter_pan', 'heavier_pan', 'other_cover', 'thinner_cover'];

/** By how much, and which way: out from what smells and to the sides of an animal that faces it, or along the way and across it. */
function movedWords({ xMm = 0, yMm = 0 }: Remedy, inWay: boolean, system: System): string {
  const by = (mm: number, more: string, less = more) =>
    mm === 0 ? '' : `${showAbout('length', Math.abs(mm), system)} ${mm > 0 ? more : less}`;
  const parts = inWay
    ? [by(xMm, 'along the way'), by(yMm, xMm === 0 ? 'across the way' : 'across it')]
    : [by(yMm, 'farther out', 'closer in'), by(xMm, 'to the right', 'to the left')];
  return parts.filter(Boolean).join(', ');
}

/** What makes an anchor hold better, in words. */
export function strongerWords(s: Pick<Stronger, 'key' | 'anchor' | 'chainMm' | 'spring'>, system: System): string {
  const eased = [
    s.key !== 'shorter' && (s.chainMm ?? 0) > 0 && `the chain shortened to ${show('length', s.chainMm ?? 0, system)}`,
    s.key !== 'spring' && s.spring === true && 'a shock spring in it',
  ].filter(Boolean);
  return [strongerAlone(s, system), ...eased].join(', ');
}

function strongerAlone(s: Pick<Stronger, 'key' | 'anchor' | 'chainMm'>, system: System): string {
  const long = showAbout('length', s.anchor.lengthMm ?? 0, system);
  switch (s.key) {
    case 'deeper':
      return `drive it deeper, ${long}`;
    case 'below':
      return `reach below the frost, ${long}`;
    case 'cross':
      return 'cross it with a second stake';
    case 'cable':
      return `use an earth anchor, ${long}`;
    case 'drag':
      return 'use a drag';
    case 'shorter':
      return `shorten the chain to ${show('length', s.chainMm ?? 0, system)}`;
    case 'spring':
      return 'put a shock spring in the chain';
  }
  return anyWord(s.key);
}
