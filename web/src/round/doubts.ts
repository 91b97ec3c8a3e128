import { rigsOf } from '../lib/words/parts';
import type { Make, Visit } from '../lib/types.gen';
import { canHold } from '../lib/lists.gen';
import { among } from '../lib/words/words';

/** Why a look cannot be so as it stands, as the program would find it; blank where it can. */
export function doubtOf(
  look: Pick<Visit, 'finding' | 'rigs' | 'catches'>,
  slots: number[],
  away: boolean,
): '' | 'strange' | 'holds' | 'found' {
  const strange = (slot: number) => !slots.includes(slot);
  if (look.rigs.some((r) => strange(r.slot)) || look.catches.some((c) => c.rigs.some(strange))) return 'strange';
  if (!among(canHold, look.finding) && look.rigs.some((r) => r.state === 'holding')) return 'holds';
  if ((look.finding === 'found' || look.finding === 'given_up') && !away) return 'found';
  return '';
}

const says = {
  strange: 'it names a trap that this set does not have; what is said of that counts for no trap',
  holds: 'a trap is said to hold, and nothing to be caught; it would be kept and count for nothing',
  found: 'no trap of this set is searched for; it would be kept and count for nothing',
};

/** The same in words, before it is kept. Sought is whether a trap of the set is searched for. */
export function doubtWords(look: Visit, make: Make, sought: boolean): string {
  const doubt = doubtOf(
    look,
    rigsOf(make.layout).map((rig) => rig.slot),
    sought,
  );
  return doubt === '' ? '' : says[doubt];
}
