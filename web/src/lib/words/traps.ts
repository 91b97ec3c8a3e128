import { topOf } from './parts';
import { day } from './time';
import type { Hung } from '../ask/hung';
import type { LineTrap, LineView, OldBy, Place, Wanted } from '../types.gen';
import { show, type System } from './units';
import { awayWord, coverWord } from './called';
import { checkPart, plural } from './words';

/** A trap by its number and the user's name for its size. */
export const trapName = (h: Hung) => `Trap ${h.trap.number}, ${sizeWords(h.trap.size)}`;

/** A gauge by its name, within a sentence. */
export const gaugeWords = (name: string) => (/^(my|our|the) /.test(name) ? name : `the ${name}`);

/** What a size is called: a bare figure says that it is one. */
export const sizeWords = (size: string) => (/^\d/.test(size) ? `size ${size}` : size);

/** What is known of a trap's jaws, and how wide they open. */
export function jawWords(t: LineTrap, system: System): string {
  const gap = t.offsetMm === null ? 'offset' : `${show('length', t.offsetMm, system)} offset`;
  const are = [t.padded ? 'padded' : '', t.laminated ? 'laminated' : '', t.offset ? gap : '', t.jawForm];
  return [...are, 'jaws', show('length', t.jawSpreadMm, system)].filter(Boolean).join(' ');
}

/** Where a trap is, in few words. */
export function placeShort(place: Place): string {
  switch (place.kind) {
    case 'set':
      return `in set ${place.number}`;
    case 'missing':
      return `missing, set ${place.number}`;
    case 'left':
      return `frozen in, set ${place.number}`;
    case 'away':
      return awayWord(place.why);
  }
  return '';
}

/** Where a trap is, and since when. */
export function placeWords(place: Place, view: LineView): string {
  const since = place.since ? ` since ${day(place.since, view.line.zone)}` : '';
  const spot = view.spots.find((s) => s.id === place.spotId)?.name;
  switch (place.kind) {
    case 'set':
      return `It stands in set ${place.number}${spot ? `, ${spot}` : ''},${since}.`;
    case 'missing':
      return `It is missing from set ${place.number}${spot ? `, ${spot}` : ''},${since}.`;
    case 'left':
      return `It is frozen in where set ${place.number} was${spot ? `, ${spot}` : ''},${since}.`;
    case 'away':
      return `It is not on the rack, ${awayWord(place.why)}.`;
  }
  return place.since ? `It hangs on the rack, back${since}.` : 'It hangs on the rack.';
}

/** What keeps a trap home, in words; blank where nothing does. */
export const faultWords = (h: Hung) => h.faults.map((f) => `${checkPart(f.key)} ${f.note ? `(${f.note})` : 'faulty'}`).join('; ');

const olds: Record<Exclude<OldBy, ''>, string> = {
  month: 'more than a month ago',
  changed: 'before it was changed or mended',
  held: 'before it last fired',
};

/** A share of a hundred, in words. */
const inHundred = (share: number) => `${Math.round(share * 100)} in 100`;

/** What is to be said of a trap's reading wherever the trap appears; blank for one that is new and in its window. */
export function readingTrouble(h: Hung, system: System): { says: string; tone: 'ember' | 'dun' } | null {
  const { tension, wanted } = h;
  if (!wanted) return null;
  const reads = tension ? show('force', tension.meanN, system) : '';
  switch (h.verdict) {
    case 'locked':
      return { says: `no setting fires under ${coverWord(topOf(wanted.cover))}`, tone: 'ember' };
    case 'unmeasured':
      return { says: 'never measured', tone: 'dun' };
    case 'light':
      return { says: `${reads} is too light to spare ${wanted.spares.map(plural).join(' and ')}`, tone: 'ember' };
    case 'heavy':
      return {
        says: `${reads} is too heavy, about ${inHundred(tension?.fails ?? 0)} ${plural(wanted.targets[0] ?? '')} would not fire it`,
        tone: 'ember',
      };
    case 'doubt':
      return {
        says: `${reads}, about ${inHundred(tension?.fails ?? 0)} ${plural(wanted.targets[0] ?? '')} would not fire it`,
        tone: 'dun',
      };
    case 'conflict':
      return { says: `${reads}; ${conflictWords(wanted)}`, tone: 'dun' };
  }
  return tension && tension.old !== '' ? { says: `${reads} measured ${olds[tension.old]}`, tone: 'dun' } : null;
}

export const oldWords = (old: OldBy) => (old === '' ? '' : olds[old]);

export const conflictWords = (w: Wanted) =>
  `no setting fires for ${plural(w.targets[0] ?? '')} and spares ${w.spares.map(plural).join(' and ')}`;

/** The window in words. */
export function windowWords(w: Wanted, system: System): string {
  if (w.maxN < 0) return `No setting fires under ${coverWord(topOf(w.cover))}.`;
  const target = plural(w.targets[0] ?? '');
  if (w.conflict)
    return `No setting does both, up to ${show('force', w.maxN, system)} for ${target}, from ${show('force', w.minN, system)} to spare ${w.spares.map(plural).join(' and ')}.`;
  const fires = w.byTrade ? `the trade’s figure for ${target}, about 19 of 20 fire it` : `19 of 20 ${target} fire it`;
  return w.spares.length > 0
    ? `${show('force', w.minN, system, true)} to ${show('force', w.maxN, system)}: ${fires}, ${w.spares.map(plural).join(' and ')} mostly do not.`
    : `Up to ${show('force', w.maxN, system)}: ${fires}; no small animal is spared.`;
}
