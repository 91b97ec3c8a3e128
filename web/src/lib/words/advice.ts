/** What a finding means, in the trade's words. */

import type * as lists from '../lists.gen';
import type { CauseTold, HeldBy, MeansView, OptionTold, Since } from '../types.gen';
import { animalWord, call, footWord, type Words } from './called';
import { figure } from './learnt';
import { partsWords } from './apart';
import { duration } from './units';
import { capital, count, listed } from './words';

interface CauseWords {
  /** What lies behind it. */
  is: string;
  /** What would tell it from the next, as something to go and see. */
  tells: string;
  /** The fact that an answer to that speaks of, where it is yes or no; with a minus where yes denies it. */
  asks?: { fact: string; question: string };
}

const causes: Record<(typeof lists.causes)[number], CauseWords> = {
  wind_missed: { is: 'the wind never carried the scent to it', tells: 'where its prints run against last night’s wind' },
  not_new: { is: 'this smell is nothing new to it', tells: 'how often this smell lay here' },
  shy: { is: 'it is shy of what gapes', tells: 'prints that swing wide of the open hole' },
  not_hungry: { is: 'it was not hungry', tells: 'droppings full of what is eaten now' },
  not_seen: { is: 'it did not see the set', tells: 'prints that never turn towards it' },
  uneasy_scent: {
    is: 'a smell made it uneasy',
    tells: 'digging where the trap lies, nose prints',
    asks: { fact: 'scentOnBed', question: 'nose prints over the bed' },
  },
  scent_metal: {
    is: 'it smelt the trap',
    tells: 'digging where the trap lies, nose prints',
    asks: { fact: 'scentOnBed', question: 'nose prints over the bed' },
  },
  uneasy_shape: { is: 'something stood too high for it', tells: 'circling beyond the guides' },
  back_open: { is: 'it came at it from behind', tells: 'prints behind what it comes to' },
  from_behind: { is: 'it came at it from behind', tells: 'prints behind what it comes to' },
  young_set: { is: 'the set is young', tells: 'fresh soil, still dark' },
  pan_off: { is: 'the pan lies where no foot comes', tells: 'how far its prints lie from the pan' },
  short_visit: { is: 'nothing kept it there', tells: 'no scratching at what it comes to' },
  heavy: { is: 'the pan is too heavy', tells: 'press the pan, does it take more than the animal gives?' },
  locked: {
    is: 'the cover was locked',
    tells: 'a crust that lifts in one piece',
    asks: { fact: 'locked', question: 'the cover lifts in one piece' },
  },
  soil_under: {
    is: 'soil lies under the pan',
    tells: 'lift the pan, soil below it?',
    asks: { fact: '-panPlug', question: 'soil lies under the pan' },
  },
  cover_caught: { is: 'the pan cover caught on a jaw', tells: 'the pan cover under a jaw' },
  side_step: { is: 'it stepped on the rim only', tells: 'a print on the rim and nowhere else' },
  loose_bed: { is: 'the bed moves under its foot', tells: 'thumb at four corners', asks: { fact: '-firm', question: 'the bed moves' } },
  wobble: { is: 'the bed moves under its foot', tells: 'thumb at four corners', asks: { fact: '-firm', question: 'the bed moves' } },
  loose_soil: {
    is: 'the loose soil drew it',
    tells: 'digging in the heap, not at the trap',
    asks: { fact: 'looseSoil', question: 'it dug in the heap' },
  },
  digger: { is: 'it digs wherever it comes', tells: 'width and length of the claws’ marks' },
  much_bait: { is: 'there is too much bait', tells: 'bait scattered, the trap untouched' },
  shallow: { is: 'the bait lies too shallow', tells: 'what is left in the hole' },
  small_animal: { is: 'a small animal took it', tells: 'small prints at the hole' },
  scent_on_bed: { is: 'the bed smells', tells: 'hair on the bed', asks: { fact: 'scentOnBed', question: 'hair lies on the bed' } },
  lure_kind: { is: 'this lure is one to roll on', tells: 'which of the smells was rolled on before' },
  toe_touch: {
    is: 'a toe touched a pan that stands high',
    tells: 'the pan stands above the jaws',
    asks: { fact: 'panHigh', question: 'the pan stands above the jaws' },
  },
  light: { is: 'the pan is too light', tells: 'nothing but small prints' },
  slipped: {
    is: 'the jaws let it slip',
    tells: 'hair, a toe, the dog’s wear',
    asks: { fact: 'trapFault', question: 'something on the trap is worn' },
  },
  not_the_animal: {
    is: 'it was no animal that one is set for',
    tells: 'a hoof, a clod, a water line',
    asks: { fact: 'stock', question: 'stock was in the field' },
  },
  toe_hold: {
    is: 'it was held by a toe',
    tells: 'hair, a toe, the jaw against the foot',
    asks: { fact: 'panHigh', question: 'the pan stands above the jaws' },
  },
  jaws: { is: 'the jaws do not fit or are worn', tells: 'the jaw against the foot' },
  trap_fault: {
    is: 'the trap is at fault',
    tells: 'the dog’s wear',
    asks: { fact: 'trapFault', question: 'something on the trap is worn' },
  },
  tangled: { is: 'the chain hung on something', tells: 'chain wound round what stands in the circle' },
  drag_at_work: { is: 'the drag is at work', tells: 'the first scrape, and its direction' },
  anchor_failed: { is: 'the anchor came out', tells: 'an empty, clean hole' },
  link: { is: 'a link opened', tells: 'what is left of the chain', asks: { fact: 'trapFault', question: 'a link lies open' } },
  people: { is: 'people took it', tells: 'boot prints, a cut' },
};

export const causeWords = (key: CauseTold['key']): CauseWords => causes[key];

/** What is done about a cause. */
const mends: Words<typeof lists.mends> = {
  other_side: 'lay it on the other side of the way',
  other_smell: 'give it another smell',
  subtle: 'make it without a gaping hole',
  show: 'let it show more',
  clean: 'take the soil and cover off, clean gloves, new cover',
  lower_guides: 'lower the guides',
  backing: 'close its back',
  move_pan: 'move the pan to where the feet come',
  bait: 'give it something to stay for',
  lighten: 'lighten the pan',
  proof: 'cover it so that it cannot freeze',
  plug: 'put something under the pan',
  free_cover: 'free the pan cover of the jaws',
  guides: 'guide the foot',
  rebed: 'bed it anew',
  spoil_away: 'carry the soil off',
  second_trap: 'set a second trap where it digs',
  less_bait: 'give less bait',
  deepen: 'make the hole deeper',
  wedge: 'wedge the bait in',
  lower_pan: 'lower the pan',
  stiffen: 'stiffen the pan',
  swap_trap: 'put another trap in',
  shorten: 'clear the circle, or shorten the chain',
  anchor: 'anchor it better',
  rig: 'look over chain and links',
  landowner: 'ask the landowner',
  search: 'search for it',
  leave: 'leave it alone',
};

export const mendWords = call(mends);

const sures: Words<typeof lists.sures> = { most_likely: 'most likely', likely: 'likely', possible: 'possibly' };
export const sureWord = call(sures);

/** Facts, as what speaks for a cause or against it. */
const facts: Record<string, string> = {
  coverage: 'last night’s wind',
  step: 'where the feet come by the drawing',
  printsMm: 'where its prints lie',
  fire: 'the pan as it was measured',
  locked: 'the night’s weather',
  firm: 'how the bed was felt',
  scentOnBed: 'scent on the bed',
  looseSoil: 'where the soil went',
  shy: 'how shy they are here',
  met: 'what lay here before',
  bareHands: 'bare hands',
  panHigh: 'how high the pan stands',
  panPlug: 'what lies under the pan',
  jaws: 'the jaws',
  bait: 'the bait',
  holeMm: 'the hole’s depth',
  backing: 'what stands behind',
  hold: 'how the anchor holds here',
  drag: 'the drag',
  stock: 'stock in the field',
  rainMm: 'the rain',
  nights: 'how long it has stood',
  diggers: 'who digs about here',
  lossesHere: 'what was lost here',
  trapFault: 'the trap’s faults',
};

/** By what a cause is as likely as it is told; blank where nothing that is known moved it. */
export const movedWords = (moved: string[]): string =>
  moved.length === 0 ? '' : `by ${listed(moved.slice(0, 2).map((m) => facts[m] ?? m))}`;

/** Why a set is left alone. */
const alone: Words<typeof lists.becauses> = {
  mend: '',
  unsure: 'nothing says for certain what to change',
  patience: 'what is new is looked at before it is trusted, and each touch makes it new',
  waiting: 'a change brings hardly more than waiting does',
};
export const aloneWord = call(alone);

/** So many nights, in words where they are few. */
const nightsWords = (n: number): string => `${count(Math.round(n))} ${Math.round(n) === 1 ? 'night' : 'nights'}`;

/** What a set without a catch says, by what it promised; blank where it promised nothing, or has stood no night. */
export function barrenWords({ oneIn, nights: worked, barren, target }: MeansView): string {
  if (oneIn <= 0 || worked < 0.5) return '';
  const promised = `about one ${animalWord(target)} in ${nightsWords(oneIn)} was promised`;
  const says = Math.round(worked) === 1 ? 'says' : 'say';
  switch (barren) {
    case 'nothing':
      return `${nightsWords(worked)} without a catch ${says} nothing yet, ${promised}`;
    case 'little':
      return `${nightsWords(worked)} without a catch ${says} little, ${promised}`;
    case 'much':
      return `${nightsWords(worked)} without a catch, and ${promised}, so it or the place is poorer than drawn`;
  }
  return '';
}

/** What a mend may bring and take. */
export function optionWords(o: OptionTold): string {
  if (o.layout === null) return o.act === '' ? 'it would cost more nights than it brings' : '';
  return [
    o.times > 1 && `about ${figure(o.times)} times as many${o.judged ? ', as it is judged' : ''}`,
    o.lost >= 0.5 && `it settles anew, at the cost of ${nightsWords(o.lost)}`,
    `${duration(o.minutes)} there`,
  ]
    .filter(Boolean)
    .join('; ');
}

const links: Partial<Record<Since['link'], { reached: (n: number) => string; kept: string }>> = {
  notices: { reached: (n) => many(n, 'came by', 'came by'), kept: 'tried it' },
  commits: { reached: (n) => many(n, 'came by', 'came by'), kept: 'tried it' },
  steps: { reached: (n) => many(n, 'stood at it', 'stood at it'), kept: 'stepped on the pan' },
  fires: { reached: (n) => many(n, 'step', 'steps'), kept: 'fired it' },
  held: { reached: (n) => many(n, 'time fired', 'times fired'), kept: 'held' },
};
const many = (n: number, one: string, more: string) => `${count(n)} ${n === 1 ? one : more}`;

/** What came of a change that was made after a finding, and whether the record agrees with it. */
export function sinceWords(s: Since, found: string): string {
  const link = links[s.link];
  if (!link) return '';
  const came =
    s.reached === 0 ? 'nothing that would tell' : `${link.reached(s.reached)}, ${s.kept === 0 ? 'none' : count(s.kept)} ${link.kept}`;
  const says = { not_yet: 'that says nothing yet', agrees: 'the change does what it was made for', disagrees: 'the change does not help' }[
    s.says
  ];
  return `Made again after ${found} with ${partsWords(s.parts)}. ${capital(nightsWords(s.nights))} since, ${came}; ${says}.`;
}

/** What a catch says of the set: which trap of two held it, by which foot and how; blank where nobody looked. */
export function heldByWords(h: HeldBy): string {
  const by = [h.of > 1 && h.trap, h.foot && `the ${footWord(h.foot)}`].filter((x) => x !== false && x !== '');
  const how = h.hold === 'pad' ? 'by the pad, as it should be' : h.hold === 'toe' ? 'by a toe only, which a pan that stands high does' : '';
  if (by.length === 0 && how === '') return '';
  return [`the ${animalWord(h.species)} was held`, by.length > 0 && `by ${listed(by as string[])}`, how].filter(Boolean).join(' ');
}
