import type { Lure, Shelf } from '../lib/types.gen';
import { show, type System } from '../lib/units';

/** What kind of measure a lure or a mixture is told by. */
export const measured = (by: string) => (by === 'weight' ? 'weight' : 'volume');

/** An amount of a lure as it is measured. */
export const amount = (lure: Lure, value: number, system: System) => show(measured(lure.by), value, system);

/** The coldest night to come with a little to spare, or a hard winter's where none is known. */
export const coldToStand = (shelf: Shelf) => (shelf.coldest === null ? -20 : Math.min(0, Math.floor(shelf.coldest.tempC) - 3));
