import { keepLocal, local } from './local';

/**
 * Which data file the program has open, as this browser knows it, and how many writes it has taken. A file that has taken fewer than
 * it had is an older copy of itself: what was taken since is not in it.
 */
interface Standing {
  writes: number;
  /** How many it had taken when it was found to be older; null while it was not, or since somebody has said what to do. */
  older: number | null;
}

let file = localStorage.getItem('file') ?? '';
const listeners = new Set<() => void>();
const strays = new Set<() => void>();
const olders = new Set<(file: string, before: string, writes: number) => void>();

const keyOf = (name: string) => `standing:${name}`;
const standing = (name: string): Standing => local<Standing>(keyOf(name), { writes: 0, older: null });

function put(name: string, s: Standing) {
  keepLocal(keyOf(name), JSON.stringify(s));
  listeners.forEach((listen) => listen());
}

export const fileNow = (): string => file;

/** Which file it is, whichever of its lives. */
const itself = (name: string) => name.split('/')[0] ?? '';

/** Takes the name of the file that the program has open; false where that is no news. One that was restored is an older copy of itself. */
export function setFile(name: string): boolean {
  if (file === name) return false;
  const before = file;
  file = name;
  const { writes } = standing(name);
  if (before !== '' && itself(before) === itself(name) && writes < writesOf(before)) found(name, before, writes);
  keepLocal('file', name);
  listeners.forEach((listen) => listen());
  return true;
}

/** How many writes a file was last known to have taken. */
export const writesOf = (name: string): number => standing(name).writes;

/** How many writes the open file had taken when it was found to be an older copy; null while nothing is wrong. */
export const olderNow = (): number | null => standing(file).older;

/**
 * Takes what an answer says of a file: how many writes it has taken. Answers overtake each other, so that it is compared with what was
 * known when it was asked for.
 */
export function hear(name: string, writes: number, before: number): void {
  const is = standing(name);
  if (writes >= before) {
    if (writes > is.writes) put(name, { ...is, writes });
    return;
  }
  found(name, name, writes);
}

/** A file was found to be an older copy of one that had taken more writes. */
function found(name: string, before: string, writes: number): void {
  put(name, { writes, older: Math.min(writes, standing(name).older ?? writes) });
  olders.forEach((listen) => listen(name, before, writes));
}

/** Somebody has said what to do about an older copy. */
export function settled(): void {
  put(file, { ...standing(file), older: null });
}

/** Calls back when something answers for another file than it was asked for. */
export const onStray = (listen: () => void) => void strays.add(listen);
export const stray = (): void => strays.forEach((listen) => listen());

/** Calls back with a file that was found to be an older copy, what it was called before, and how many writes it has taken. */
export const onOlder = (listen: (file: string, before: string, writes: number) => void) => void olders.add(listen);

export const onStanding = (listen: () => void) => {
  listeners.add(listen);
  return () => void listeners.delete(listen);
};
