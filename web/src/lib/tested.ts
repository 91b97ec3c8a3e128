/** What the tests call by name: see e2e/logic_test.go. */
export { learn, programTime, heard, nowISO } from './clock';
export { carriedOver, store } from './kept';
export { act, drop, dropPath, flush, keptNow, save, seen, sendAgain, setFile, write } from './outbox';
export { lifted } from './lift';
export { layBook, layGround, layLine } from './overlay';
export { dueWords, instant, localInput } from './time';
export { parse, duration, roughly, show } from './units';
export { count, plural, word } from './words';
export { remedyWords } from '../bench/remedies';
export { sightWords } from '../bench/sightwords';
