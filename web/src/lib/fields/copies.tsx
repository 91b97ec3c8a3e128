import { ago } from '../words/time';
import type { Backup } from '../types.gen';

const tooOldMs = 48 * 3_600_000;

/** Whether the copies of the data file ask for somebody: the last try failed, or what was written since two days is in none. */
export const asksForSomebody = (b: Backup | null | undefined, now: string): boolean =>
  !!b && (b.why !== '' || (b.at !== null && b.since > 0 && Date.parse(now) - Date.parse(b.at) > tooOldMs));

/** The last whole copy with its age, as the end of a sentence. */
export const copyWords = (b: Backup, now: string): string => (b.at === null ? 'none yet' : ago(b.at, now));

/** Why no copy could be made, and what to do. */
export function NoCopy({ backup }: { backup: Backup }) {
  if (backup.why === '') return null;
  return (
    <p className="ember" role="alert">
      The last try to copy the data file failed, since {backup.why}. Make room, or start the program with <code>--backup-dir</code> and
      another folder. It is tried again every hour.
    </p>
  );
}
