import { date } from '../words/time';
import type { LineNow, SetNow } from './overlay';

/** Whether a trap of it is searched for and somebody searched today: that rests until tomorrow, or until somebody looks again. */
export const searchedToday = ({ bead, lastVisit }: SetNow, now: string, zone: string): boolean =>
  bead.state === 'sought' && lastVisit !== null && date(lastVisit.at, zone) === date(now, zone);

/** The sets that still have to be seen today, in running order, the late ones first. */
export function toSee(view: LineNow): SetNow[] {
  return view.sets
    .filter((s) => s.bead.today && !searchedToday(s, view.now, view.line.zone))
    .sort((a, b) => Number(b.bead.late) - Number(a.bead.late));
}
