import type { AsBuilt, Layout, Make } from '../types.gen';

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

/** A set made again in the same bed as it was: that is not felt yet; scent on it and its landmark stay. */
export const remadeAsItWas = (before: Make, id: string, builtAt: string): Make => {
  const { scentOnBed = null, landmark = '' } = before.asBuilt ?? {};
  const again = { ...before, id, follows: null, builtAt, pulledAt: null, flags: '', undoneAt: null };
  return saidOf(again, before.layout, { ...unsaid, form: 'same_bed', scentOnBed, landmark });
};
