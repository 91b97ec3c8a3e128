import type { Line } from '../lib/types.gen';

/** Metres east (x) and north (y) of the line's middle. */
export interface Point {
  x: number;
  y: number;
}

export type Place = [number, number];

const metresPerDegree = 111_320;

export const toPlane = (line: Line, latDeg: number, lonDeg: number): Point => ({
  x: (lonDeg - line.lonDeg) * metresPerDegree * Math.cos((line.latDeg * Math.PI) / 180),
  y: (latDeg - line.latDeg) * metresPerDegree,
});

export const toGlobe = (line: Line, p: Point) => ({
  latDeg: line.latDeg + p.y / metresPerDegree,
  lonDeg: line.lonDeg + p.x / (metresPerDegree * Math.cos((line.latDeg * Math.PI) / 180)),
});

/** [longitude, latitude] of a point. */
export const toPlace = (line: Line, p: Point): Place => {
  const { latDeg, lonDeg } = toGlobe(line, p);
  return [lonDeg, latDeg];
};

export const fromPlace = (line: Line, [lon, lat]: readonly [number, number]) => toPlane(line, lat, lon);

/** Where the plane lies on the drawing: pixels per metre, and the pixel of the line's middle. */
export interface Window {
  k: number;
  x: number;
  y: number;
}

export const pixel = (w: Window, p: Point): Point => ({ x: w.x + w.k * p.x, y: w.y - w.k * p.y });
export const metres = (w: Window, px: Point): Point => ({ x: (px.x - w.x) / w.k, y: (w.y - px.y) / w.k });

/** The window of a size that shows all points, with room about them and never closer than some hundred metres. */
export function fit(points: Point[], width: number, height: number): Window {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const some = points.length > 0;
  const [west, east] = some ? [Math.min(...xs), Math.max(...xs)] : [-400, 400];
  const [south, north] = some ? [Math.min(...ys), Math.max(...ys)] : [-400, 400];
  const k = Math.min((width - 60) / Math.max(300, east - west), (height - 60) / Math.max(300, north - south));
  return { k, x: width / 2 - (k * (west + east)) / 2, y: height / 2 + (k * (south + north)) / 2 };
}
