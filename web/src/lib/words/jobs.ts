/** What is worth doing over a line, in the trade's words. */

import type { JobTold, LineView } from '../types.gen';
import { mendWords } from './advice';
import { animalWord, findingWord } from './called';
import { figure } from './learnt';
import { patternName } from './patterns';
import { remedyWords } from './remedies';
import { duration, type System } from './units';
import { capital, plural } from './words';

/** What a job is: what is done, and why. */
export function jobWords(j: JobTold, view: LineView, system: System): { what: string; why: string } {
  const set = view.sets.find((s) => s.set.id === j.setId);
  const spot = view.spots.find((s) => s.id === j.spotId)?.name ?? '';
  const number = set ? `set ${set.set.number}` : '';
  const gain = `about ${figure(j.gain)} more ${figure(j.gain) === '1' ? animalWord(j.target) : plural(j.target)}, ${duration(j.minutes)}`;
  switch (j.kind) {
    case 'change': {
      const c = j.change;
      if (!c) return { what: capital(number), why: gain };
      if (c.remedy && set) return { what: `${capital(number)}, ${remedyWords(c.remedy, set.make.layout, system)}`, why: gain };
      return {
        what: `${capital(number)}, ${mendWords(c.mend)}`,
        why: `it was found ${findingWord(c.after)}; ${gain}${c.judged ? ', as it is judged' : ''}`,
      };
    }
    case 'trap':
      return { what: `${capital(number)}, take out its trap`, why: `the trap has a fault; ${gain}, as it is judged` };
    case 'build':
      return { what: `Build a ${patternName(j.pattern)} at ${spot}`, why: `nothing stands there; ${gain}` };
    case 'move':
      return { what: `Pull ${number}, build a ${patternName(j.pattern)} at ${spot}`, why: `it would bring more there; ${gain}` };
  }
  return { what: '', why: '' };
}
