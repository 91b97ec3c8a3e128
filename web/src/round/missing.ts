import { targets } from '../lib/lists.gen';
import { among } from '../lib/words/words';
import type { FieldProblem, Visit } from '../lib/types.gen';

/** What a look still lacks before it can be kept, each at its field; the program asks for the same. */
export function missingOf(look: Pick<Visit, 'finding' | 'animal' | 'by' | 'also' | 'catches'>): FieldProblem[] {
  const found: FieldProblem[] = [];
  const lacks = (field: string, says: string) => found.push({ field, says });
  if (look.finding === '') lacks('finding', 'Choose what was found');
  if (look.by !== '' && look.animal === '') lacks('animal', 'Choose whose it was');
  look.also.forEach((also, i) => {
    if (also.finding === '') lacks(`also[${i}].finding`, 'Choose what else was found');
    if (also.by !== '' && also.animal === '') lacks(`also[${i}].animal`, 'Choose whose it was');
  });
  if (look.finding === 'catch' && look.catches.length === 0) lacks('catches', 'Choose what was caught');
  look.catches.forEach((c, i) => {
    if (c.species === '') lacks(`catches[${i}].species`, 'Choose what was caught');
    // Of an animal that the line is not set for its kind is enough.
    else if (c.sex === '' && among(targets, c.species)) lacks(`catches[${i}].sex`, 'Choose its sex, or unknown');
  });
  return found;
}
