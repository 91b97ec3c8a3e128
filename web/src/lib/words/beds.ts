import type { BedNow, WeatherView } from '../types.gen';
import { show, type System } from './units';
import { agentWord } from './called';
import { count } from './words';

const worst = ['will_lock', 'bail', 'crusted', 'rocks', 'not_known', 'soft', 'sound'];

/** The bed of a set that asks for the most; undefined where nothing is known of them. */
export const bedOf = (weather: WeatherView | undefined, setID: string): BedNow | undefined =>
  weather?.sets
    .find((s) => s.setId === setID)
    ?.beds.reduce<BedNow | undefined>((a, b) => (a === undefined || worst.indexOf(b.word) < worst.indexOf(a.word) ? b : a), undefined);

/** What a bed asks for, in two words; blank where it asks for nothing. */
export const bedShort = (bed: BedNow | undefined): string => short[bed?.word ?? ''] ?? '';

const short: Record<string, string> = { will_lock: 'will lock', bail: 'bail it', crusted: 'crusted', rocks: 'rocks' };

/** Less water than this is a film: a ruler shows none, and there is nothing to bail. */
const leastShownMm = 2;

/** What several beds ask for together; blank for one that asks for something of its own. */
export const bedsSay = (bed: BedNow): string =>
  bed.word === 'bail'
    ? 'want bailing, water stands in their beds'
    : bed.word === 'will_lock' && bed.renewG === 0 && bed.waterMm >= leastShownMm
      ? 'will lock by morning; bail them, and put dry peat or waxed soil over'
      : bed.word === 'not_known'
        ? 'stood through days without weather; feel whether their beds are wet'
        : '';

/** What a bed asks for, and why. */
export function bedSays(bed: BedNow | undefined, system: System): string {
  if (bed?.word === 'not_known') return `feel its bed, ${bed.missing === 1 ? 'a day has' : `${count(bed.missing)} days have`} no weather`;
  if (!bed || bedShort(bed) === '') return '';
  if (bed.word === 'crusted') return 'was crusted; break the crust, and cover it anew';
  if (bed.word === 'rocks') return 'rocks, in ground that is not frozen; bed it firm';
  const water =
    bed.waterMm >= leastShownMm
      ? `about ${show('length', bed.waterMm, system)} of water stands in its bed`
      : bed.waterMm >= 1
        ? 'a film of water stands in its bed'
        : 'its cover is damp';
  if (bed.word === 'bail') return `wants bailing, ${water}`;
  const salt =
    bed.renewG > 0
      ? `renew the ${agentWord(bed.agent)}, about ${show('weight', bed.renewG, system)}`
      : bed.waterMm >= leastShownMm
        ? 'bail it, and put dry peat or waxed soil over'
        : 'put dry peat or waxed soil over instead';
  return `will lock by morning, ${water}; ${salt}`;
}

/** What is done by hand at the bed of a trap, in order; none of it has a figure. */
export const bedByHand = (pattern: string): string[] => [
  'a pit for chain and swivels, so that nothing lies under the frame',
  pattern === 'spring_hole' ? 'the levers a little under water' : 'notches for the levers, and nothing wound under them',
  'dry soil inside the jaws at once, before it rolls in by itself',
  'packed hard outside the jaws, not within',
  'the pan lowest of all, no hump over it',
];
