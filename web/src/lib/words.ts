/** What the keys of records are called on the screen. */

import { checkKeys, trapsWithJaws } from './lists.gen';

const words: Record<string, string> = {
  coyote: 'coyote',
  red_fox: 'red fox',
  grey_fox: 'grey fox',
  bobcat: 'bobcat',
  raccoon: 'raccoon',
  skunk: 'skunk',
  opossum: 'opossum',
  badger: 'badger',
  dog: 'dog',
  cat: 'house cat',
  unsure: 'not sure',
  dirt_hole: 'dirt hole',
  dug_out: 'dug out, soil thrown behind',
  subtle: 'subtle, soil carried off',
  bank: 'bank',
  stone: 'field stone',
  sod: 'sod',
  tuft: 'tuft of grass',
  none: 'none',
  cable: 'earth anchor',
  stake: 'one stake',
  crossed: 'double-staked',
  drag: 'drag',
  grapple: 'grapple',
  toggle: 'toggle',
  log: 'log',
  fence_gap: 'gap under a fence',
  thick_brush: 'thick brush',
  timber: 'timber',
  edge: 'edge of cover',
  open: 'open ground',
  salt: 'salt',
  rocks: 'rocks a little',
  calcium_chloride: 'calcium chloride',
  propylene_glycol: 'propylene glycol',
  staple: 'staple in the tree',
  slide: 'slide cable',
  cable_loop: 'cable loop',
  foot_loop: 'foot snare',
  cloth: 'cloth',
  fibreglass: 'fibreglass',
  waxed_paper: 'waxed paper',
  leaf: 'leaf',
  foam: 'foam plug',
  polyfill: 'polyfill',
  dry_soil: 'dry soil',
  damp_packed: 'damp soil, packed',
  wet_soil: 'wet soil',
  rain_crust: 'rain crust',
  frozen_soil: 'frozen soil',
  peat: 'dry peat',
  waxed_soil: 'waxed soil',
  sand: 'sand',
  snow_dust: 'snow dust',
  snow_crust: 'snow crust',
  hulls: 'hulls',
  clippings: 'grass clippings',
  boundary: 'property boundary',
  two_track: 'two-track',
  pond: 'pond or water',
  breaks: 'breaks',
  road_bend: 'bend of a road',
  trail_meets_road: 'trail joins a road',
  crawl_under: 'crawl-under',
  peoples_trail: 'trail used by people',
  others_set: 'other trapper’s set',
  own_set: 'a set of mine',
  seen_from: 'in sight from here',
  litter: 'leaf litter',
  bare: 'bare ground',
  loose_sand: 'loose sand',
  firm_sand: 'firm sand',
  firm_clay: 'firm clay',
  soft_clay: 'soft clay',
  tracks: 'tracks',
  scratched: 'scratched ground',
  worn_trail: 'worn trail',
  '': 'not said',
  last_night: 'fresh (night before)',
  three_days: 'up to three days',
  week: 'about a week',
  older: 'older',
  nearly_all: 'nearly all of them',
  about_half: 'about half',
  few: 'few',
  ditch: 'ditch',
  spring: 'spring',
  quiet: 'quiet',
  passed: 'passed by',
  looked: 'looked, stood off',
  stood: 'stood there, missed the pan',
  stepped: 'stepped on it, did not fire',
  dug: 'dug out or flipped',
  robbed: 'robbed',
  rolled: 'rolled on',
  sprung: 'sprung, empty',
  lost: 'sprung, animal lost',
  catch: 'caught',
  gone: 'trap gone',
  locked: 'locked',
  disturbed: 'disturbed, can still fire',
  unable: 'disturbed, cannot fire',
  found: 'trap found again',
  given_up: 'trap given up',
  front: 'front',
  in_heat: 'in heat',
  taken: 'taken by people',
  left_fore: 'left fore',
  right_fore: 'right fore',
  left_hind: 'left hind',
  right_hind: 'right hind',
  pad: 'by the pad',
  flooded: 'flooded',
  toe: 'by the toe',
  coil_spring: 'coil spring',
  long_spring: 'long spring',
  foot_snare: 'foot snare',
  cable_restraint: 'cable restraint',
  worn_out: 'worn out',
  essence_in_oil: 'skunk essence in oil',
  urine_and_glycerin: 'urine and glycerin',
  baits_evenly: 'baits, equal parts',
  brine: 'salt water for the jaws',
  water: 'mostly water',
  pan_cover: 'pan cover',
  pan_covers: 'Pan covers',
  spare_trap: 'spare trap',
  field_glass: 'binoculars',
  hole_bar: 'bar for the hole',
  mat: 'kneeling mat, and one for spoil',
  gauge: 'pan gauge',
  clippers: 'clippers for blending grass',
  driver: 'anchor driver',
  mattock: 'mattock for frozen ground',
  eye_protection: 'eye protection, frozen ground flies',
  headlamp: 'headlamp',
  receiver: 'GPS receiver',
  drill: 'drill, for anchors through frost',
  clean_gloves: 'clean gloves, for metal and ground',
  lure_gloves: 'other gloves, for lure',
  driver_nut: 'driver nut',
  swivel_and_link: 'swivel and link',
  applicators: 'applicator sticks',
  setters: 'setters',
  passes: 'passes by',
  notices: 'notices',
  commits: 'commits',
  steps: 'steps on the pan',
  fires: 'fires it',
  held: 'is caught',
};

const checks: Record<string, [part: string, sound: string]> = {
  jaws: ['jaws', 'meet'],
  springs: ['springs', 'lively'],
  dog: ['dog', 'straight'],
  latch: ['latch', 'clean and clicking'],
  pan_level: ['pan, level', 'with the jaws when set'],
  pan_square: ['pan, square', 'to the jaws'],
  play: ['side play', ''],
  frame: ['frame', 'true'],
  chain: ['chain', ''],
  swivels: ['swivels', 'turn: base, mid, end'],
  links: ['links', 'closed'],
  tag: ['tag', 'on'],
  finish: ['finish', 'boiled, dyed or waxed'],
};

/** What a shed check looks at, and what it should be. */
export const checkItems = checkKeys.map((key): [key: string, part: string, sound: string] => [key, ...(checks[key] ?? [key, ''])]);

export const checkPart = (key: string) => checkItems.find(([k]) => k === key)?.[1] ?? word(key);

export const hasJaws = (type: string) => trapsWithJaws.includes(type);

/** The word for a key; a key that has none is shown as it is, without its underscores. */
export const word = (key: string) => words[key] ?? key.replaceAll('_', ' ');

/** What an anchor is called. */
export const anchorWord = (kind: string) => (kind === 'log' ? 'log drag' : word(kind));

/** The plural of a noun. */
const pluralOf = (noun: string): string => {
  if (/[^aeiou]y$/.test(noun)) return `${noun.slice(0, -1)}ies`;
  return /(s|x|ch|sh)$/.test(noun) ? `${noun}es` : `${noun}s`;
};

/** More than one of an animal. */
export const plural = (key: string) => pluralOf(word(key));

/** So many of a thing: no set, one set, two sets, 13 sets. */
export const many = (n: number, noun: string, plural = pluralOf(noun)): string => `${count(n)} ${n === 1 ? noun : plural}`;

/** Some things, one after the other. */
export const listed = (of: string[]): string => (of.length < 2 ? (of[0] ?? '') : `${of.slice(0, -1).join(', ')} and ${of.at(-1) ?? ''}`);

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const small = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];

/** A count in words as far as twelve. */
export const count = (n: number) => small[n] ?? String(n);

const winds = [
  'north',
  'north-north-east',
  'north-east',
  'east-north-east',
  'east',
  'east-south-east',
  'south-east',
  'south-south-east',
  'south',
  'south-south-west',
  'south-west',
  'west-south-west',
  'west',
  'west-north-west',
  'north-west',
  'north-north-west',
];

/** A bearing in words. */
export const bearing = (deg: number) => winds[Math.round(deg / 22.5) % 16] ?? 'north';
