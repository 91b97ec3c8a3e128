import type { Words } from '../lib/words/called';
import type { sightBys } from '../lib/lists.gen';
import type { Answer, Sight } from '../lib/types.gen';
import { trim } from '../lib/words/units';
import { listed } from '../lib/words/words';

const shows: Words<typeof sightBys> = {
  dug_out: 'dug out',
  subtle: 'blended in',
  dark_on_snow: 'dark on snow',
  bare_on_grass: 'bare ground on grass',
  stirs: 'something stirs over it',
  under_snow: 'under the snow',
  in_grass: 'lower than the grass',
  in_cover: 'in cover',
};

/** Whether a set lies blind in a way, where there is nothing to notice. */
export const isBlind = (answer: Answer): boolean => answer.sight.word === 'trail';

/** How well a set shows to an animal that passes, and what makes it show so. */
export function sightWords({ word: says, share, by }: Sight): string {
  if (says === 'trail') return 'it lies in the way, and need not be seen';
  return `shows: ${says}${by.length > 0 ? `, ${listed(by.map((key) => shows[key]))}` : ''}. About ${trim(share * 100, 0)} of 100 that pass would see it; smelling it is enough too`;
}
