import { offeredCovers } from './lists.gen';

/** What can be laid over a bed or into it; what weather made of one stands there only where it is. */
export const laidCovers = (is: string): string[] => (is === '' || offeredCovers.includes(is) ? offeredCovers : [...offeredCovers, is]);
