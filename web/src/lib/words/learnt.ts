/** What a line's record says of what its drawings promised, in words. */

import type { cameSays, levelKeys } from '../lists.gen';
import type { Came, LinkFound, Lost, Showed, Told } from '../types.gen';
import type { Words } from './called';
import { dayYear } from './time';
import { in100, trim } from './units';
import { capital, plural } from './words';

/** By how much a promise is told. */
export function timesWords(factor: number): string {
  if (factor > 1.05) return `${trim(factor, 1)} times what the drawing promises`;
  if (factor > 0.95) return 'what the drawing promises';
  return `${in100(factor)} in 100 of what the drawing promises`;
}

export const figure = (n: number): string => trim(n, n < 0.95 ? 2 : n < 9.5 ? 1 : 0);

/** What was promised, and what came. */
export const cameWords = ({ expected, caught }: { expected: number; caught: number }): string =>
  `${figure(expected)} promised, ${caught === 0 ? 'none' : String(caught)} came`;

/** What a make's drawing promised, and what came. */
export const ofMakeWords = ({ expected, caught }: { expected: number; caught: number }): string =>
  `the drawing promised ${figure(expected)}, ${caught === 0 ? 'none' : String(caught)} came`;

/** Of what a level tells. */
export const levelWords = (target: string, kind: string): Words<typeof levelKeys> => ({
  line: 'the whole line, all targets',
  target: `${plural(target)} on the whole line`,
  kind: `${plural(target)} at a ${kind} here`,
  spot: `${plural(target)} at this spot`,
});

/** At a level, what was promised and what came, and between what a promise is told four times in five. */
export const toldWords = (told: Told): string => `${cameWords(told)}; ${trim(told.low, 1)} to ${trim(told.high, 1)} times`;

/** The narrowest level that anything was promised at. */
export const narrowest = (told: Told[]): Told | undefined => told.findLast((level) => level.expected > 0);

/** The links that findings tell of: what reached one, what was kept, and what one of these did. */
const links = {
  commits: ['came by where the ground would show it', 'worked a set', 'worked it'],
  steps: ['put a foot at a set where that would show', 'stepped on a pan', 'stepped'],
  fires: ['stepped on a pan', 'fired it', 'fired it'],
  held: ['fired a trap', 'were held', 'was held'],
} as const;
export type LeakKey = keyof typeof links;

/** What a link is called where it stands by itself. */
export const leakNames: Record<LeakKey, string> = { commits: 'works it', steps: 'steps', fires: 'fires', held: 'is held' };

export const leakKeys = Object.keys(links) as LeakKey[];

/** Findings that seldom show stand for several: then how many reached a link is no count. */
const reachedWords = ({ reached, size }: LinkFound): string =>
  `${size !== undefined && size < reached ? 'about ' : ''}${Math.round(reached)}`;

const promisedWords = ({ model, reached }: LinkFound): string => figure(model * reached);

const counted = (n: number): string => (Math.round(n) === 0 ? 'none' : String(Math.round(n)));

/** What the findings of a line say of a link. */
export function leakWords(key: LeakKey, found: LinkFound): string {
  const [reached, kept] = links[key];
  return `of ${reachedWords(found)} that ${reached}, ${counted(found.kept)} ${kept}; the drawings promised ${promisedWords(found)}`;
}

/** The same in a row of its own. */
export const leakRow = (found: LinkFound): string => `${counted(found.kept)} of ${reachedWords(found)}; ${promisedWords(found)} promised`;

const apart: Words<typeof cameSays> = {
  fewer: 'fewer than they promise',
  more: 'more than they promise',
};

/** What the drawings promised in all, what came, and whether that is told apart. */
export function accountWords(all: Came): string {
  if (all.expected === 0) return 'What the drawings promised is told from the first night on.';
  const came = all.caught === 0 ? 'none came' : `${all.caught} came`;
  return `The drawings promised ${figure(all.expected)} targets and ${came}, ${all.says === '' ? 'which chance alone could do' : apart[all.says]}.`;
}

/** How far what was promised has been told, while it is told anew. */
export const anewWords = ({ toldTo }: { toldTo: string | null }, { line: { zone } }: { line: { zone: string } }): string =>
  `What the drawings promised is being told anew${toldTo === null ? '' : `, as far as ${dayYear(toldTo, zone)} so far`}.`;

/** What a finding tells of a link, and for how many it stands. */
export function showedWords(key: LeakKey, { kept, counts }: Showed): string {
  const stands = counts >= 1.5 ? `, and stands for about ${Math.round(counts)}` : '';
  return `${kept[key] ? links[key][2] : 'lost there'}${stands}`;
}

/** At which link a target is lost most, and how sure that is. */
export function lossWords({ animal, links, told }: Lost): string {
  const leak = leakKeys.find((key) => key === told.leak);
  if (!leak) return `${capital(plural(animal))} are lost nowhere more than the drawings promise.`;
  const sure = told.sure ? '' : ' That is too few to tell yet.';
  return `${capital(plural(animal))} are lost most here: ${leakWords(leak, links[leak])}.${sure}`;
}
