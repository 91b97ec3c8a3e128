import { baits, lures, smellOf, urines } from '../../draw/parts';
import type { Layout } from '../../lib/types.gen';

/** What a set smells of, in a line. */
export function smellWords(l: Layout): string {
  const plug = l.attractors.find((a) => a.plug !== 'none')?.plug ?? 'none';
  const bait = smellOf(l, baits)?.name;
  const lure = smellOf(l, lures)?.name;
  const urine = smellOf(l, urines)?.name;
  const said = [
    bait && `${bait}${plug === 'none' ? '' : ` under ${plug}`}`,
    lure && `${lure}${l.kind === 'dirt_hole' ? ' on the lip' : ''}`,
    urine && `${urine}${l.kind === 'dirt_hole' ? ' behind' : ''}`,
  ];
  return said.filter(Boolean).join(', ') || 'nothing yet';
}
