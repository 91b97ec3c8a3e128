import type { Catch, Found, Visit } from '../lib/types.gen';

/** A look as it begins: nothing is said of it. */
export const newLook = (line: string, makeId: string): Visit => ({
  id: '',
  lineId: line,
  makeId,
  at: '',
  finding: '',
  animal: '',
  by: '',
  also: [],
  rigs: [],
  side: '',
  bed: '',
  prints: [],
  photoId: null,
  search: null,
  note: '',
  catches: [],
  flags: '',
  mendedAt: null,
  undoneAt: null,
});

export const newCatch = (): Catch => ({
  id: '',
  visitId: '',
  species: '',
  sex: '',
  foot: '',
  hold: '',
  rigs: [],
  were: [],
  weightG: null,
  blood: null,
});

export const nothingFound: Found = { finding: '', animal: '', by: '' };
