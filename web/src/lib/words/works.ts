import { terms } from './chain';
import { sightReasons } from './sight';

const others: Record<string, string> = {
  through: 'how many of those that pass take this very way',
  coverage: 'how much of the night its scent lies over the way',
};

/** What moves a way of making a set at a place from what it is elsewhere. */
export const reasonWords = (key: string): string =>
  others[key] ?? (terms as Partial<Record<string, string>>)[key] ?? (sightReasons as Partial<Record<string, string>>)[key] ?? key;
