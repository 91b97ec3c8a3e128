import { rigsOf } from './parts';
import type { SetNow } from '../kept/overlay';
import type { Catch, Found, Layout, Visit } from '../types.gen';
import { clock, day } from './time';
import { uncountedWords } from './uncounted';
import { animalWord, bedFeltWord, evidenceWord, findingWord, footWord, holdWord } from './called';
import { count, listed, plural } from './words';
import { timeWords } from './when';

/** Whose a finding was and what says so; blank where that cannot be told. */
export const whoseWords = (f: Found): string =>
  f.animal === '' ? '' : `: ${animalWord(f.animal)}${f.by === 'seen' ? ', seen' : f.by ? `, by its ${evidenceWord(f.by)}` : ''}`;

/** What was caught, each kind once: coyote; two coyotes; coyote and raccoon. */
export function caughtWords(caught: Pick<Catch, 'species'>[]): string {
  const kinds = [...new Set(caught.map((c) => c.species))];
  const of = (species: string) => caught.filter((c) => c.species === species).length;
  return listed(kinds.map((species) => (of(species) === 1 ? animalWord(species) : `${count(of(species))} ${plural(species)}`)));
}

/** More of one animal: its sex, by which foot and how it was held, in which trap of several. */
export function caughtDetails(c: Catch, layout?: Layout): string {
  const traps = layout ? rigsOf(layout) : [];
  const held = traps.length > 1 ? traps.filter((t) => c.rigs.includes(t.slot)).map((t) => t.name) : [];
  return [
    c.sex === 'unknown' ? '' : c.sex,
    c.foot && footWord(c.foot),
    c.hold && holdWord(c.hold),
    held.length > 0 && `in ${listed(held)}`,
    c.owner && `owner ${c.owner}`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** What a look found, with what was caught, or by what its cover was locked. */
export function foundWords(look: Pick<Visit, 'finding' | 'catches' | 'bed'>): string {
  if (look.catches.length > 0) return `${findingWord(look.finding)}: ${caughtWords(look.catches)}`;
  return look.finding === 'locked' && look.bed ? `locked, ${bedFeltWord(look.bed)}` : findingWord(look.finding);
}

/** What was last seen or done at a set and when, as far as it is known here. */
export function stands(set: SetNow, now: string, zone: string): string {
  const { bead, lastVisit, make, answered, uncounted } = set;
  if (uncounted) return uncountedWords(uncounted, now, zone);
  const at = (iso: string) => `${day(iso, zone)} ${clock(iso, zone)}`;
  const waits = set.waits ? ', not sent yet' : '';
  if (answered === 'remade') return `remade ${at(make.builtAt)}${waits}`;
  if (answered === 'pulled') return `pulled${waits}`;
  const last = lastVisit
    ? `${foundWords(lastVisit).replace(': ', ', ')}${lastVisit.animal && lastVisit.catches.length === 0 ? `, ${animalWord(lastVisit.animal)}` : ''} ${day(lastVisit.at, zone)} ${timeWords(lastVisit, zone)}`
    : `built ${at(bead.last)}`;
  return `${last}${waits}${bead.state === 'open' ? '; remake or pull it' : ''}`;
}
