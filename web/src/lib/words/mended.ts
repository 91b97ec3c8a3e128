/** What mended, what lures brought, and how often animals come by, in words. */

import type { Circuit, Cure, LureBrought } from '../types.gen';
import { partsWords } from './apart';
import { figure } from './learnt';
import { count, listed, many, plural } from './words';

/** A share as one says it. */
const of100 = (share: number): string => String(Math.round(100 * share));

/** What became of a trouble after sets were made again in one way. */
export function cureWords(c: Cure): string {
  const how = c.part === '' ? 'made as it was' : partsWords([c.part]);
  const came =
    c.reached === 0
      ? 'nothing came to it since'
      : `of ${count(c.reached)} since ${c.kept === 0 ? 'none' : count(c.kept)} came through, which leaves ${of100(c.low)} to ${of100(c.high)} of 100`;
  return `${how}, ${many(c.makes, 'set')}, ${came}`;
}

/** What a lure brought over its nights. */
export function lureWords(l: LureBrought): string {
  const brought = [
    l.caught > 0 && `${many(l.caught, 'target')} caught`,
    l.others > 0 && many(l.others, 'non-target'),
    l.stood > 0 && `${count(l.stood)} stood at`,
    l.dug > 0 && `${count(l.dug)} dug`,
    l.robbed > 0 && `${count(l.robbed)} robbed`,
    l.rolled > 0 && `${count(l.rolled)} rolled on`,
  ].filter((x) => x !== false);
  const nights = `${figure(l.nights)} nights`;
  return `${nights}, ${brought.length === 0 ? 'nothing yet' : listed(brought)}${l.digs ? '; it makes them dig, keep it from a tight ring' : ''}`;
}

/** How often an animal comes by a place. */
export const circuitWords = (c: Circuit): string =>
  `${plural(c.animal)} about every ${figure(c.nights)} nights${c.within >= 0.5 ? `, give or take ${figure(c.within)}` : ''}, by ${many(c.passes, 'night')}`;
