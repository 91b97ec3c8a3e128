import type { SetNow } from '../lib/overlay';
import type { Found } from '../lib/types.gen';
import { clock, day } from '../lib/time';
import { uncountedWords } from '../lib/uncounted';
import { word } from '../lib/words';

/** Whose a finding was and what says so; blank where that cannot be told. */
export const whoseWords = (f: Found): string =>
  f.animal === '' ? '' : `: ${word(f.animal)}${f.by === 'seen' ? ', seen' : f.by ? `, by its ${word(f.by)}` : ''}`;

/** What was last seen or done at a set and when, as far as it is known here. */
export function stands(set: SetNow, now: string, zone: string): string {
  const { bead, lastVisit, make, answered, uncounted } = set;
  if (uncounted) return uncountedWords(uncounted, now, zone);
  const at = (iso: string) => `${day(iso, zone)} ${clock(iso, zone)}`;
  const waits = set.waits ? ', not sent yet' : '';
  if (answered === 'remade') return `remade ${at(make.builtAt)}${waits}`;
  if (answered === 'pulled') return `pulled${waits}`;
  const last = lastVisit
    ? `${word(lastVisit.finding)}${lastVisit.animal ? `, ${word(lastVisit.animal)}` : ''} ${at(lastVisit.at)}`
    : `built ${at(bead.last)}`;
  return `${last}${waits}${bead.state === 'open' ? '; remake or pull it' : ''}`;
}
