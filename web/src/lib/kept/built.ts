import type { AsBuilt, Layout, Make, Form, PointsAt, Renewal } from '../types.gen';

/** Of how a make was built nothing is said yet. */
export const unsaid: AsBuilt = {
  designed: null,
  form: '',
  points: [],
  frozen: false,
  scentOnBed: null,
  landmark: '',
  minutes: null,
  note: '',
};

export const pathOf = ({ lineId, id }: Make): string => `/lines/${lineId}/makes/${id}`;

/** A make with how it was built said: as it stands, beside what was drawn. Whether its beds are firm the core says by what was felt. */
export const saidOf = (make: Make, layout: Layout, said: AsBuilt): Make => ({ ...make, layout: unfelt(layout), asBuilt: said });

const unfelt = (l: Layout): Layout => ({ ...l, rigs: l.rigs.map((r) => (r.jaws ? { ...r, bed: { ...r.bed, firm: undefined } } : r)) });

/** How a set was made again: in which bed, what was felt, and what was taken anew. */
export interface Remade {
  form: Form;
  points: PointsAt[];
  renewed: Renewal[];
  note: string;
  frozen?: boolean;
}

/** A set made again, as it lies now. What came onto a bed that is kept stays on it, but under soil and cover of the circle. */
export function remadeOtherwise(before: Make, id: string, builtAt: string, layout: Layout, how: Remade): Make {
  const { scentOnBed = null, landmark = '' } = before.asBuilt ?? {};
  const again = { ...before, id, follows: null, builtAt, pulledAt: null, flags: '', undoneAt: null };
  const keeps = (how.form === 'same_bed' || how.form === 'preserved') && !how.renewed.includes('circle_soil');
  return saidOf(again, layout, { ...unsaid, landmark, ...how, scentOnBed: keeps ? scentOnBed : null });
}

/** A set made again in the same bed as it was: that is not felt yet. */
export const remadeAsItWas = (before: Make, id: string, builtAt: string): Make =>
  remadeOtherwise(before, id, builtAt, before.layout, { form: 'same_bed', points: [], renewed: [], note: '' });
