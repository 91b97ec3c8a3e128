/** What the chain of odds hangs on, in words. */

import type { Words } from './called';
import type { ages, termKeys, unknownKeys } from '../lists.gen';

/** What is not known, and what it would take to know it. */
export const unknown: Words<typeof unknownKeys> = {
  sign: 'whether there is sign. Look for tracks within fifty yards, and say also where there are none',
  sign_age: 'how old the sign is. Say it where you saw it',
  ways_meet: 'how many ways meet at the spot',
  coverage: 'over how much of the night its scent lies across the way. Draw the way, and say which way it faces',
  through: 'how many of those that pass take this very way. Say it at the spot',
  firm: 'whether the bed is firm',
  about: 'whether they are about in this cold',
  hold: 'whether the anchor holds, by the soil of the spot or a pull with a scale',
};

/** What speaks for or against a set. */
export const terms: Words<typeof termKeys> = {
  bed_loose: 'the bed gives',
  loose_soil: 'loose soil at the pan',
  tall_fence: 'guides over six inches',
  tree_hole: 'a hole in a tree',
  close: 'it must come in between',
  show: 'torn-up ground, or something that stands out',
  shy_show: 'something that stands out at a shy place',
  scent_on_bed: 'scent on the bed',
  mark_season: 'they mark before breeding',
  mark_early: 'they hardly mark yet',
  food_early: 'they eat for the winter',
  food_late: 'food draws less so late',
  in_water: 'they must step into water',
  kind_met: 'they have met this kind of set here often',
  back_open_snow: 'its back is open in snow',
  shy_open_hole: 'an open hole at a shy place',
  shy_punch_holes: 'a shy place',
  lure_new: 'a lure that is new here',
  lure_met: 'they have met this lure here often',
  in_season: 'a smell in its season',
  out_of_season: 'smells out of season',
  bare_hands: 'bare hands',
};

/** How old the best sign near a set is. */
export const signs: Words<typeof ages> = {
  today: 'tracks of today',
  days_3: 'sign of the last three days',
  days_7: 'sign of the last week',
  older: 'older sign',
  none: 'no sign, on ground that would hold it',
  no_age: 'sign of which nobody said how old it is',
};
