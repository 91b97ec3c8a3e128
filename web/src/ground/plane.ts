import type { Line } from '../lib/types.gen';

/** Metres east (x) and north (y) of the line's middle. */
export interface Point {
  x: number;
  y: number;
}

const metresPerDegree = 111_320;

export const toPlane = (line: Line, latDeg: number, lonDeg: number): Point => ({
  x: (lonDeg - line.lonDeg) * metresPerDegree * Math.cos((line.latDeg * Math.PI) / 180),
  y: (latDeg - line.latDeg) * metresPerDegree,
});

export const toGlobe = (line: Line, p: Point) => ({
  latDeg: line.latDeg + p.y / metresPerDegree,
  lonDeg: line.lonDeg + p.x / (metresPerDegree * Math.cos((line.latDeg * Math.PI) / 180)),
});
