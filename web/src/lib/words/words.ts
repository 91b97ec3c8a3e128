/** The grammar of the screen: counts, plurals, lists, bearings; and what a shed check looks at. */

import { animalWord } from './called';
import { checkKeys, trapsWithJaws } from '../lists.gen';

const checks: Record<(typeof checkKeys)[number], [part: string, sound: string]> = {
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
export const checkItems = checkKeys.map((key) => [key, ...checks[key]] as const);

export const checkPart = (key: string) => checkItems.find(([k]) => k === key)?.[1] ?? `unknown: ${key}`;

export const hasJaws = (type: string) => among(trapsWithJaws, type);

/** Tells whether a key is one of a list. */
export const among = <K extends string>(list: readonly K[], key: string): key is K => (list as readonly string[]).includes(key);

/** The plural of a noun. */
const pluralOf = (noun: string): string => {
  if (/[^aeiou]y$/.test(noun)) return `${noun.slice(0, -1)}ies`;
  return /(s|x|ch|sh)$/.test(noun) ? `${noun}es` : `${noun}s`;
};

/** More than one of an animal. */
export const plural = (key: string) => pluralOf(animalWord(key));

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
