import { show, type System } from '../lib/words/units';

/** The sheet that the bench draws on: its size, and where the plan's middle, the ruler and the ground of the cut lie. */
export const width = 640;
export const height = 632;
export const planY = 168;
export const rulerY = 336;
export const groundY = 446;

/** An offset in words. */
export function side(xMm: number, system: System): string {
  if (Math.abs(xMm) < 1) return 'on the axis';
  return `${show('length', Math.abs(xMm), system)} to the ${xMm > 0 ? 'right' : 'left'}`;
}
