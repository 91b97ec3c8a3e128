import type { whys as known } from '../lists.gen';
import type { Words } from './called';
import { timeWords } from './when';
import { clock } from './time';
import type { Uncounted } from '../types.gen';
import { findingWord, wordIn } from './called';

/** Why something is kept and counts for nothing. */
export const whys: Words<typeof known> = {
  ahead: 'in the future; not counted',
  far: 'its clock had lost the time',
  before: 'it lies before the set was built',
  after: 'the set had been pulled or remade by then',
  holds: 'a trap is said to hold, and nothing to be caught',
  found: 'no trap of the set was gone',
};

/** What answers a set though it does not count, and why. */
export function uncountedWords(u: Uncounted, now: string, zone: string): string {
  const answered = `answered ${timeWords(u.visit, zone)}`;
  return u.why === 'ahead'
    ? `${answered} by the phone; the program’s clock says ${clock(now, zone)}`
    : `${answered}, ${findingWord(u.visit.finding)}; it does not count, ${wordIn(whys, u.why)}`;
}
