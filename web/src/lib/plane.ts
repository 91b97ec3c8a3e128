import type { Plane } from './types.gen';

/** Metres east (x) and north (y) of the line's middle. */
export interface Point {
  x: number;
  y: number;
}

export type Place = [number, number];

export const toPlane = (on: Plane, latDeg: number, lonDeg: number): Point => ({
  x: (lonDeg - on.middle.lonDeg) * on.eastM,
  y: (latDeg - on.middle.latDeg) * on.northM,
});

export const toGlobe = (on: Plane, p: Point) => ({
  latDeg: on.middle.latDeg + p.y / on.northM,
  lonDeg: on.middle.lonDeg + p.x / on.eastM,
});

/** [longitude, latitude] of a point. */
export const toPlace = (on: Plane, p: Point): Place => {
  const { latDeg, lonDeg } = toGlobe(on, p);
  return [lonDeg, latDeg];
};

export const fromPlace = (on: Plane, [lon, lat]: readonly [number, number]) => toPlane(on, lat, lon);

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
