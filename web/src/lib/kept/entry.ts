import type { Visit } from '../types.gen';

/** What is typed of a look on the sheet, until it is saved. */
export interface Entry {
  time: string;
  look: Visit;
  remade: boolean;
}

/** Where what is typed of a set on a day's sheet is kept until it is saved. */
export const draftOf = (date: string, setId: string): string => `sheet:${date}:${setId}`;
