import type { LineNow, SetNow } from './overlay';

/** The sets that still have to be seen today, in running order, the late ones first. */
export function toSee(view: LineNow): SetNow[] {
  return view.sets.filter((s) => s.bead.today).sort((a, b) => Number(b.bead.late) - Number(a.bead.late));
}
