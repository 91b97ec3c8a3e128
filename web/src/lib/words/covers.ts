import { offeredCovers } from '../lists.gen';
import type { Material } from '../types.gen';
import { among } from './words';

/** What can be laid over a bed or into it; what weather made of one stands there only where it is. */
export const laidCovers = (is: Material): readonly Exclude<Material, ''>[] =>
  is === '' || among(offeredCovers, is) ? offeredCovers : [...offeredCovers, is];
