import { chores } from '../lists.gen';
import type { Chore, Pull, StillNow } from '../types.gen';
import { anchorOutWord, anchorWord, choreWord, trapOutWord } from './called';
import { listed } from './words';

/** What of a set is still in the ground, in words. */
export function stillInWords(x: StillNow, trapNumber: number | undefined): string {
  const trap = trapNumber === undefined ? 'its trap' : `trap ${trapNumber}`;
  const anchor = anchorWord(x.kind);
  const parts = [
    x.trap === 'frozen_in' ? `${trap} is frozen in` : x.trap === 'lost' ? `${trap} is lost` : '',
    x.anchor === 'frozen_in' ? `its ${anchor} is frozen in` : x.anchor === 'left' ? `its ${anchor} was left in` : '',
  ].filter(Boolean);
  return parts.join(', ');
}

/** What was not done before a place was left, where anybody ticked what was; nothing forbids that. */
export const leftOpen = (done: Chore[]): string => {
  const open = chores.filter((chore) => !done.includes(chore));
  return done.length === 0 || open.length === 0 ? '' : listed(open.map(choreWord));
};

/** How a set came out, in words that follow when. */
export function pulledWords({ later, rigs, done }: Pull): string {
  const came = rigs.flatMap((r) => [
    later || r.trap !== 'home' ? `the trap ${trapOutWord(r.trap)}` : '',
    r.anchor !== 'out' ? `its anchor ${anchorOutWord(r.anchor)}` : '',
  ]);
  const open = leftOpen(done);
  return [...new Set(came.filter(Boolean)), open && `not done there, ${open}`]
    .filter(Boolean)
    .map((one) => `; ${one}`)
    .join('');
}
