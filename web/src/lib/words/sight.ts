import type { Words } from './called';
import type { sightBys } from '../lists.gen';
import type { Answer, Sight } from '../types.gen';
import { trim } from './units';
import { listed } from './words';

export const sightReasons: Words<typeof sightBys> = {
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
  return `shows: ${says}${by.length > 0 ? `, ${listed(by.map((key) => sightReasons[key]))}` : ''}. About ${trim(share * 100, 0)} of 100 that pass would see it; smelling it is enough too`;
}
