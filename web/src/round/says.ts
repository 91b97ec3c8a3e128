import type { SetNow } from '../lib/overlay';
import { clock, day } from '../lib/time';
import { word } from '../lib/words';

/** What was last seen or done at a set and when, as far as it is known here. */
export function stands(set: SetNow, zone: string): string {
  const { bead, lastVisit, make, answered } = set;
  const at = (iso: string) => `${day(iso, zone)} ${clock(iso, zone)}`;
  const waits = set.waits ? ', not sent yet' : '';
  if (answered === 'remade') return `remade ${at(make.builtAt)}${waits}`;
  if (answered === 'pulled') return `pulled${waits}`;
  const last = lastVisit ? `${word(lastVisit.finding)} ${at(lastVisit.at)}` : `built ${at(bead.last)}`;
  return `${last}${waits}${bead.state === 'open' ? '; remake or pull it' : ''}`;
}
