import type { patterns as known } from '../lists.gen';
import type { Words } from './called';
import type { Layout, Refusal, WhyNever } from '../types.gen';
import { showDistance, type System } from './units';
import { backingWord, landWord, smellWord, wordIn } from './called';
import { count, plural } from './words';

const patterns: Words<typeof known> = {
  hole: 'hole under a stone',
  hole_dug_out: 'dug-out hole, soil thrown out',
  hole_subtle: 'hole with the soil carried off',
  pipe: 'pipe in the ground',
  punch_holes: 'punched holes about the trap',
  drilled_pair: 'two drilled holes under snow',
  robbed_rebuild: 'robbed hole, two traps',
  object: 'stone or bone beside a trail',
  skull: 'skull, spiked down',
  pull_stick: 'wrapped stick to pull at',
  three_stones: 'three stones about the bed',
  trench: 'trench down to the bait',
  trail: 'one trap past a stick',
  trail_pair: 'two traps about a stick',
  creek_pinch: 'creek pinch, two traps and a rag',
  culvert_pair: 'culvert mouth, two traps',
  crawl_under: 'fence crawl-under',
  log_crossing: 'log crossing',
  hollow: 'culvert, log or tree, blind',
  walk_through: 'two-track rut',
  tuft: 'one tuft, dug in',
  tuft_pair: 'gap between two tufts',
  old_scat: 'old scat by a tuft',
  snow_post: 'mound of snow',
  tree_hole: 'hole in a tree',
  spring_hole: 'spring hole, pan as the stepping stone',
  cable_crawl: 'cable at a crawl-under',
  foot_snare: 'foot snare in a trail',
};

/** What a pattern is called. */
export const patternName = (pattern: string): string => wordIn(patterns, pattern);

/** Why a pattern is poor for an animal. */
export const poorWords = (target: string): string => `poor for ${plural(target)}, few of them commit to a hole in a tree`;

/** How a set is made, by its parts: people do not agree on names. */
export function patternWords(l: Layout): string {
  const usual = wordIn(patterns, l.pattern);
  const sticks = l.guides.filter((g) => g.kind === 'stick').length;
  switch (l.pattern) {
    case 'punch_holes':
      return l.attractors.length === 1 ? 'one punched hole' : `${count(l.attractors.length)} punched holes about the trap`;
    case 'object':
      if (l.way) return 'stone or bone in the trail';
      return l.backing === 'none' ? `${usual}, nothing behind it` : usual;
    case 'skull':
      if (l.way) return 'skull in the trail, spiked down';
      return l.backing === 'none' ? `${usual}, nothing behind it` : usual;
    case 'trail':
      return sticks > 1 ? `one trap past ${count(sticks)} sticks` : usual;
    case 'hole':
      return l.backing === 'stone' ? usual : l.backing === 'none' ? 'hole, nothing behind it' : `hole before a ${backingWord(l.backing)}`;
    case 'crawl_under':
      return l.rigs.length > 1 ? `${usual}, both sides` : usual;
  }
  return usual;
}

/** What a pattern asks for and a spot does not have. */
export function lacksWords(key: string, withinM: number, system: System): string {
  switch (key) {
    case 'snow':
      return 'it is made of snow, and too little lies here';
    case 'robbed':
      return 'no look found this set robbed';
    case 'scat':
      return `no scat is noted within ${showDistance(withinM, system)}`;
  }
  return `no ${key === 'log' ? 'log' : landWord(key)} is drawn or noted within ${showDistance(withinM, system)}`;
}

/** How the parts of a set are called where that hangs on its pattern. */
interface PartWords {
  /** From what the setback is measured. */
  from: string;
  bait: string;
  lure: string;
  urine: string;
  /** What stands behind what it comes to. */
  behind: string;
  /** What steers the feet where no guide does. */
  steers: string;
}

const usualParts: PartWords = {
  from: 'hole edge',
  bait: 'bait, at the bottom',
  lure: 'lure, on lip or plug',
  urine: 'urine, on the backing',
  behind: 'what stands behind it',
  steers: 'feet may fall anywhere',
};

const partsOf: Record<string, Partial<PartWords>> = {
  pipe: { from: 'pipe', bait: 'bait, a dab inside', lure: 'lure, on the rim' },
  punch_holes: { from: 'first hole', bait: 'bait', lure: 'lure, on wool in the hole' },
  drilled_pair: { from: 'heap of snow', bait: 'bait, in the hole', lure: 'gland, in the other hole', urine: 'urine, on the snow' },
  object: { from: 'stone or bone', bait: 'bait, under it', lure: 'lure, tucked on it', urine: 'urine, on what stands tallest' },
  skull: { from: 'skull', bait: 'bait, under it', lure: 'lure, under it', urine: 'urine, on what stands tallest' },
  pull_stick: { from: 'stick', bait: 'bait, in the wrap', lure: 'lure, in the wrap', urine: 'urine, behind it' },
  three_stones: {
    from: 'head stone',
    bait: 'bait',
    lure: 'lure, in the hole under the stone',
    urine: 'urine, inside the ring',
    steers: 'the stones steer the feet',
  },
  trench: {
    from: 'head of the trench',
    bait: 'bait, under the soil at the head',
    lure: 'lure, in the small hole',
    urine: 'urine, on the bank',
    steers: 'the trench steers the feet',
  },
  hollow: { from: 'mouth of the hollow' },
  creek_pinch: { from: 'rag' },
  walk_through: { from: 'scented grass', bait: 'bait', lure: 'lure, in the grass', urine: 'urine, in the grass' },
  tuft: { from: 'tuft', bait: 'bait', lure: 'gland, on the inner face', urine: 'urine, on the tuft' },
  tuft_pair: { from: 'middle of the gap', bait: 'bait', lure: 'gland, on the inner face', urine: 'urine, on the inner face' },
  old_scat: { from: 'scat', bait: 'bait', lure: 'gland, beside it', urine: 'urine, on it' },
  snow_post: { from: 'mound', bait: 'bait', lure: 'gland, on it', urine: 'urine, on it' },
  tree_hole: { from: 'hole in the trunk', bait: 'bait, in the hole', lure: 'lure, on the stick in the hole', urine: 'urine' },
  spring_hole: { from: 'lure stick', bait: 'bait, on the stick', lure: 'lure, on the stick', urine: 'urine, on the bank' },
};

export const partWords = (l: Layout): PartWords => ({
  ...usualParts,
  ...(l.attractors.length === 0 && { from: 'middle of the way' }),
  ...partsOf[l.pattern],
});

/** Why a pattern is never scented so. */
const whyNever: Record<WhyNever, string> = {
  off_the_hole: 'it would take their mind off the hole',
  digs_in_ring: 'food makes them dig inside the ring',
  outside_ring: 'it would have them stand outside the ring',
  not_at_post: 'they mark a post, and would dig at food',
  no_scent: 'nothing is put there to smell',
  lures_alone: 'lure on wool, and nothing to dig for',
};

export const neverWords = ({ kind, why }: Refusal): string => `No ${smellWord(kind)} here, ${whyNever[why]}.`;
