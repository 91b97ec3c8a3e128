import { baits, lures, urines } from '../../lib/words/parts';
import type { Layout, Smell } from '../../lib/types.gen';
import { listed } from '../../lib/words/words';

/** What a set smells of, in a line: every smell of it once. */
export function smellWords(l: Layout): string {
  const plug = l.attractors.find((a) => a.plug !== 'none')?.plug ?? 'none';
  const all = [...l.attractors.flatMap((a) => a.smells), ...(l.aside ?? [])];
  const of = (kinds: readonly string[]) => [...new Set(all.filter((s) => kinds.includes(s.kind) && s.name !== '').map(placed(l)))];
  const [bait, lure, urine, scat] = [of(baits), of(lures), of(urines), of(['scat'])];
  const said = [
    bait.length > 0 && `${listed(bait)}${plug === 'none' ? '' : ` under ${plug}`}`,
    lure.length > 0 && listed(lure),
    listed(urine),
    listed(scat),
  ];
  return (
    said.filter(Boolean).join(', ') ||
    (wantsNone.includes(l.pattern) || l.attractors.length === 0 ? 'none: nothing is put there to smell' : 'nothing yet')
  );
}

const wantsNone = ['hollow', 'creek_pinch'];

/** A smell with where it is, where that says something. */
const placed =
  (l: Layout) =>
  (s: Smell): string => {
    const holed = l.kind === 'dirt_hole' && l.attractors.length === 1;
    const where: Record<string, string> = { lip: ' on the lip', backing: ' behind' };
    return `${s.name}${holed ? (where[s.place] ?? '') : ''}`;
  };
