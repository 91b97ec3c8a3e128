/** Times as the line's own clock shows them. */

/** Each is made once: making one takes a hundred times as long as what it is made for. */
const made = new Map<string, Intl.DateTimeFormat>();

function part(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${zone} ${Object.entries(options).join(' ')}`;
  const is = made.get(key) ?? new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...options });
  made.set(key, is);
  return is;
}

export const clock = (iso: string, zone: string) => part(zone, { hour: '2-digit', minute: '2-digit' }).format(new Date(iso));

export const day = (iso: string, zone: string) => part(zone, { day: 'numeric', month: 'short' }).format(new Date(iso));

/** A day, with its year where it lies almost a year ago or longer. */
export const dayAt = (iso: string, now: string, zone: string) =>
  Date.parse(now) - Date.parse(iso) > 320 * 86_400_000 ? dayYear(iso, zone) : day(iso, zone);

/** A local date, 2026-12-04, as a day with its year. */
export const dayOf = (date: string) => dayYear(`${date}T12:00:00Z`, 'UTC');

/** A day with its year. */
export const dayYear = (iso: string, zone: string) => part(zone, { day: 'numeric', month: 'short', year: 'numeric' }).format(new Date(iso));

/** A day and time with its year, for what may be far off. */
export const longDate = (iso: string, zone: string) =>
  part(zone, { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' }).format(new Date(iso));

export const longDay = (iso: string, zone: string) =>
  part(zone, { weekday: 'long', day: 'numeric', month: 'long' }).format(new Date(iso)).replace(',', '');

/** The local calendar date, as 2026-12-04. */
export const date = (iso: string, zone: string) =>
  part(zone, { year: 'numeric', month: '2-digit', day: '2-digit' }).format(new Date(iso)).split('/').reverse().join('-');

/** How long ago something was, in words. */
export function ago(iso: string, now: string): string {
  const minutes = Math.max(0, Math.round((Date.parse(now) - Date.parse(iso)) / 60_000));
  if (minutes < 1) return 'just now';
  if (minutes < 90) return `${minutes} min ago`;
  return minutes < 48 * 60 ? `${Math.round(minutes / 60)} h ago` : `${Math.floor(minutes / 1440)} days ago`;
}

/** How many local days b lies after a. */
export const daysBetween = (a: string, b: string, zone: string) =>
  Math.round((Date.parse(date(b, zone)) - Date.parse(date(a, zone))) / 86400000);

/** When something must be done by, in words: a local midnight is named after the day that it ends. */
export function dueWords(due: string, now: string, zone: string): string {
  const last = new Date(Date.parse(due) - 1).toISOString();
  const days = daysBetween(now, last, zone);
  const midnight = clock(due, zone) === '00:00';
  if (Date.parse(due) < Date.parse(now)) {
    if (!midnight) return `late since ${clock(due, zone)}`;
    return days === -1 ? 'late since midnight' : `late since ${day(last, zone)}, ${-days} days`;
  }
  const when = days === 0 ? '' : days === 1 ? 'tomorrow' : longDay(last, zone);
  if (midnight) return when === '' ? 'by midnight' : `by midnight ${when}`;
  return `by ${clock(due, zone)} ${when}`.trim();
}

/** "2026-12-04T05:50" of a clock's own time, for an input. */
export const localInput = (iso: string, zone: string) => `${date(iso, zone)}T${clock(iso, zone)}`;

/** The instant of a local time typed as "2026-12-04T05:50" in a zone; NaN when it is no time. */
export function instant(local: string, zone: string): number {
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(local)) return NaN;
  const wall = Date.parse(local + ':00Z');
  if (Number.isNaN(wall)) return NaN;
  // The zone's offset is read at the time guessed with the offset before; twice is enough on either side of a change.
  let guess = wall;
  for (let i = 0; i < 2; i++) guess -= Date.parse(localInput(new Date(guess).toISOString(), zone) + ':00Z') - wall;
  // A time over which the clocks went ahead does not exist.
  return localInput(new Date(guess).toISOString(), zone) === local ? guess : NaN;
}

/** Why a typed local time is no time. */
export const noInstant = (local: string): string =>
  /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(local) && !Number.isNaN(Date.parse(local + ':00Z'))
    ? 'does not exist: the clocks went ahead over it'
    : 'is no date and time';
