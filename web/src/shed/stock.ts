import type { Lure } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';

/** What kind of measure a lure or a mixture is told by. */
export const measured = (by: string) => (by === 'weight' ? 'weight' : 'volume');

/** An amount of a lure as it is measured. */
export const amount = (lure: Lure, value: number, system: System) => show(measured(lure.by), value, system);
