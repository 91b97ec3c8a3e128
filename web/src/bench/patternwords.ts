import type { Layout } from '../lib/types.gen';
import { count, plural } from '../lib/words';

const patterns: Record<string, string> = {
  hole: 'hole under a stone',
  hole_dug_out: 'hole in a bank, soil thrown out',
  hole_subtle: 'hole with the soil carried off',
  pipe: 'pipe in the ground',
  drilled_pair: 'two drilled holes under snow',
  robbed_rebuild: 'deeper hole, second trap on the way in',
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
  log_crossing: 'low side of a log',
  hollow: 'natural hollow, no scent',
  walk_through: 'rut past scented grass',
  tuft: 'one tuft, dug in',
  tuft_pair: 'gap between two tufts',
  old_scat: 'old scat by a tuft',
  snow_post: 'mound of snow',
  tree_hole: 'hole in a tree',
  spring_hole: 'spring hole, pan the dry footing',
  cable_crawl: 'cable at a crawl-under',
  foot_snare: 'foot snare in a trail',
};

/** Why a pattern is poor for an animal. */
export const poorWords = (target: string): string => `poor for ${plural(target)}: few of them commit to a hole in a tree`;

/** How a set is made, by its parts: people do not agree on names. */
export function patternWords(l: Layout): string {
  const usual = patterns[l.pattern] ?? l.pattern;
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
    case 'crawl_under':
      return l.rigs.length > 1 ? `${usual}, both sides` : usual;
  }
  return usual;
}
