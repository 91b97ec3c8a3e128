import { clock, instant, longDay } from './time';
import type { Day, Make, Visit } from '../types.gen';

/** A time as it is typed in a hurry: 7:05, 705, 0705, 7, 6:50 am, 3:30 pm. */
export function timeOf(typed: string): string | null {
  const [, hours, minutes, half] = /^(\d{1,2})(?:[:.]?(\d\d))?(?:\s*([ap])\.?(?:m\.?)?)?$/i.exec(typed.trim()) ?? [];
  if (hours === undefined || Number(hours) > (half ? 12 : 23) || Number(minutes ?? 0) > 59 || (half && Number(hours) === 0)) return null;
  const hour = half ? (Number(hours) % 12) + (half.toLowerCase() === 'p' ? 12 : 0) : Number(hours);
  return `${String(hour).padStart(2, '0')}:${minutes ?? '00'}`;
}

/** How far a typed time may lie ahead of the program's clock: two clocks never agree to the minute. */
const aheadMs = 2 * 60_000;

/** Whether a look says by a clock when it was. */
export const hasTime = (look: Pick<Visit, 'timed'>): boolean => look.timed !== false;

/** When a look was, on its day. */
export const timeWords = (look: Pick<Visit, 'at' | 'timed'>, zone: string): string =>
  hasTime(look) ? clock(look.at, zone) : 'that morning';

/**
 * When a look was of which only the day is known: between the nearest looks above and below it on the day's sheet that have a time, with
 * the nearest where only one has, else at first light; while its make stood, and no later than now.
 */
export function thatMorning(day: Day, setId: string, make: Make, now: string): string {
  const times = day.sets.map((s) => s.looks.filter(hasTime).map((v) => Date.parse(v.at)));
  const here = day.sets.findIndex((s) => s.setId === setId);
  const above = times
    .slice(0, here)
    .findLast((of) => of.length > 0)
    ?.at(-1);
  const below = times.slice(here + 1).find((of) => of.length > 0)?.[0];
  const at = above !== undefined && below !== undefined ? (above + below) / 2 : (above ?? below ?? Date.parse(day.morning));
  const built = Math.max(at, Date.parse(make.builtAt));
  const stood = make.pulledAt === null ? built : Math.min(built, Date.parse(make.pulledAt));
  return new Date(Math.min(stood, Date.parse(now))).toISOString();
}

export type When = { at: string; timed: boolean } | { wrong: string };

/** When a look was, by the time that was typed on a day; else why it cannot be told, or cannot have been. */
export function timeOn(typed: string, date: string, zone: string, now: string): When {
  const time = timeOf(typed);
  if (time === null) return { wrong: 'Write the time of the look, such as 7:05 or 3:30 pm' };
  const at = instant(`${date}T${time}`, zone);
  if (Number.isNaN(at)) return { wrong: 'This time does not exist on that day, since the clocks went ahead over it' };
  if (at > Date.parse(now) + aheadMs) {
    return { wrong: `${time} still lies ahead, it is ${clock(now, zone)} on ${longDay(now, zone)}. Write when the look was` };
  }
  return { at: new Date(at).toISOString(), timed: true };
}
