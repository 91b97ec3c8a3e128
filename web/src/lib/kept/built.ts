import type { AsBuilt, Layout, Make } from '../types.gen';
import { act, type Outcome } from './outbox';

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

/** Says how a make was built: as it stands, beside what was drawn. */
export const sayBuilt = (make: Make, layout: Layout, said: AsBuilt, what: string): Promise<Outcome<Make>> =>
  act(`/lines/${make.lineId}/makes/${make.id}`, { ...make, layout, asBuilt: said }, what, { set: make.setId }) as Promise<Outcome<Make>>;
