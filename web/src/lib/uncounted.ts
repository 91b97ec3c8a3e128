import { timeWords } from '../round/when';
import { clock } from './time';
import type { Uncounted } from './types.gen';
import { word } from './words';

/** Why something is kept and counts for nothing. */
export const whys: Record<string, string> = {
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
    : `${answered}, ${word(u.visit.finding)}; it does not count, ${whys[u.why] ?? u.why}`;
}
