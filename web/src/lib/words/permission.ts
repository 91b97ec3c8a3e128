import type { LineNow } from '../kept/overlay';
import { dayOf } from './time';
import type { Spot } from '../types.gen';

/** Whether the permission has ended for the land that a set stands on. */
export const hasEnded = (view: LineNow, setId: string): boolean => view.endings.some((e) => e.over && e.setIds.includes(setId));

/** That a permission has ended, or ends soon, for a set or for the spot of one that is not built; blank where it holds. */
export function endedWords(view: LineNow, setId: string | undefined, spot: Spot | undefined): string {
  const e = view.endings.find((one) => (setId !== undefined ? one.setIds.includes(setId) : one.propertyId === spot?.propertyId));
  if (!e) return '';
  return `${e.name}, permission ${e.over ? 'ended' : 'ends'} ${dayOf(e.until)}. ${e.over ? 'Pull it, or ask anew.' : 'Ask anew, or pull it by then.'}`;
}
