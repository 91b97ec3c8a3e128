/** What nights are told apart by, and how two heaps of them compare, in words. */

import { anchors, bys, setKinds, smellKinds, type layoutParts } from '../lists.gen';
import type { Alike, Compared, Differ } from '../types.gen';
import { anchorWord, setWord, smellWord, type Words } from './called';
import { patternName } from './patterns';
import { in100, trapNights, trim } from './units';
import { among, capital, listed, many } from './words';

export type By = (typeof bys)[number];

/** Each way, and what is said of nights of which it was not said. */
const ways: Words<typeof bys> = {
  place: 'place',
  kind: 'kind of set',
  pattern: 'pattern',
  lure: 'lure',
  class: 'what it smells of',
  trap: 'trap',
  anchor: 'anchor',
  month: 'month',
};
export const wayWord = (by: By): string => ways[by];

const unsaid: Words<typeof bys> = {
  place: 'no place',
  kind: 'no kind',
  pattern: 'no pattern',
  lure: 'no lure',
  class: 'nothing to smell',
  trap: 'a trap that is not on the rack',
  anchor: 'no anchor',
  month: 'no month',
};

const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** What a kind of set is called. */
export const kindWord = (key: string): string => (among(setKinds, key) ? setWord(key) : key);

/** What a heap of nights is called; places by their names. */
export function heapName(by: By, { key, name }: { key: string; name?: string }, place: (id: string) => string): string {
  if (key === '') return unsaid[by];
  switch (by) {
    case 'place':
      return place(key);
    case 'kind':
      return kindWord(key);
    case 'pattern':
      return patternName(key);
    case 'lure':
      return name ?? key;
    case 'class':
      return among(smellKinds, key) ? smellWord(key) : key;
    case 'trap':
      return key;
    case 'anchor':
      return among(anchors, key) ? anchorWord(key) : key;
    case 'month':
      return `${monthNames[Number(key.slice(5)) - 1] ?? key} ${key.slice(0, 4)}`;
  }
}

/** What was held in how many nights. */
export const heldWords = ({ catches, trapNights: n }: { catches: number; trapNights: number }): string =>
  `${catches === 0 ? 'none' : String(catches)} in ${trapNights(n)}`;

/** The same, with what that is in 100 trap-nights; of a place also what is told of it, nearer what the line gives. */
export const rateWords = (of: Alike): string =>
  `${heldWords(of)}${of.rate && of.catches > 0 ? `: ${trim(of.rate.per100, 1)}` : ''}${of.shrunk == null ? '' : `, told as ${trim(of.shrunk, 1)}`}`;

/** In what else two heaps differ: in how many of 100 nights of each. */
const differWords = ({ a, b, ...of }: Differ, place: (id: string) => string): string => {
  const by = bys.find((key) => key === of.by);
  return `${by ? heapName(by, of, place) : of.key} (${in100(a)} against ${in100(b)})`;
};

/** How two heaps of nights compare, in words, with what else differed between them. */
export function comparedWords(c: Compared, nameA: string, nameB: string, place: (id: string) => string): string[] {
  if (!c.known) return ['One of them has no nights yet, and there is nothing to compare.'];
  const differs =
    c.differ.length === 0
      ? 'They differ in nothing else that much.'
      : `What else differs, in 100 nights of each: ${listed(c.differ.map((d) => differWords(d, place)))}. It may be that as well.`;
  return [
    `${capital(nameA)}, ${heldWords(c.a)}; ${nameB}, ${heldWords(c.b)}.`,
    c.a.catches + c.b.catches === 0 ? 'Neither held any.' : apartWords(c, nameA, nameB),
    differs,
  ];
}

/** For how many nights of each two ways are tried at the most. */
const mostTrial = 200;

/** Whether chance alone could set two heaps so far apart. */
export function apartWords(
  { ratio, p, more, beyond }: Pick<Compared, 'ratio' | 'p' | 'more' | 'beyond'>,
  first: string,
  second: string,
): string {
  if (ratio === 1) return 'Both held as many in as many nights.';
  const times =
    ratio === null
      ? `Only ${first} held any`
      : ratio === 0
        ? `Only ${second} held any`
        : `In as many nights ${first} held ${trim(ratio, ratio < 1 ? 2 : 1)} times as many as ${second}`;
  const by = `${times}; chance alone would set them so far apart ${Math.max(1, Math.round(100 * p))} times in 100.`;
  if (more === null) return by;
  if (beyond) return `${by} No season tells that apart.`;
  return `${by} About ${many(more, 'night')} more of each would tell${more > mostTrial ? ', too many for a trial of them' : ', laid turn about'}.`;
}

/** The parts in which a make was another than the one before it. */
const parts: Words<typeof layoutParts> = {
  pattern: 'another pattern',
  facing: 'facing another way',
  attractor: 'another hole or post',
  smells: 'other smells',
  trench: 'another trench',
  way: 'another way between',
  trap: 'another trap',
  setback: 'the pan stands elsewhere',
  pan: 'another pan tension',
  bed: 'another bed',
  cover: 'another cover',
  chain: 'another chain',
  anchor: 'another anchor',
  guides: 'other guides',
  backing: 'another backing',
  show: 'shown otherwise',
  spoil: 'the soil put elsewhere',
  hands: 'other hands',
  place: 'moved',
};
export const partsWords = (of: string[]): string => listed(of.map((part) => (parts as Record<string, string>)[part] ?? part));
