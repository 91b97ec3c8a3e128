/** A way runs either way along a line: four of them, between the eight winds. */
export const ways = [
  [0, 'north and south'],
  [45, 'north-east and south-west'],
  [90, 'east and west'],
  [135, 'south-east and north-west'],
] as const;

/** Which way a way runs, by the nearest of the four. */
export const runs = (deg: number): string => ways[Math.round(deg / 45) % 4]?.[1] ?? '';
