import type { Point } from '../lib/plane';

export interface Label {
  key: string;
  text: string;
  at: Point;
  /** How far from its point the label keeps. */
  off: number;
  bold?: boolean;
  ink?: string;
}

export interface Placed extends Label {
  x: number;
  y: number;
  anchor: 'start' | 'middle' | 'end';
}

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

const letter = 6.4;
const high = 15;
const cell = 64;

/**
 * Places labels so that none lies over another or over a mark: each tries right, left, below and above of its point, the
 * first in the list first; one that finds no room is left out. Boxes are kept in a coarse grid, so that many stay quick.
 */
export function placeLabels(labels: Label[], marks: Box[], width: number, height: number): Placed[] {
  const grid = new Map<string, Box[]>();
  const cells = (b: Box) => {
    const keys: string[] = [];
    for (let i = Math.floor(b.x0 / cell); i <= Math.floor(b.x1 / cell); i++)
      for (let j = Math.floor(b.y0 / cell); j <= Math.floor(b.y1 / cell); j++) keys.push(`${i},${j}`);
    return keys;
  };
  const free = (b: Box) =>
    cells(b).every((key) => (grid.get(key) ?? []).every((o) => b.x1 <= o.x0 || b.x0 >= o.x1 || b.y1 <= o.y0 || b.y0 >= o.y1));
  const take = (b: Box) => cells(b).forEach((key) => grid.set(key, [...(grid.get(key) ?? []), b]));
  marks.forEach(take);
  const placed: Placed[] = [];
  for (const label of labels) {
    const long = label.text.length * letter * (label.bold ? 1.07 : 1) + 6;
    const { x, y } = label.at;
    const tries: Placed[] = [
      { ...label, x: x + label.off, y: y + 5, anchor: 'start' },
      { ...label, x: x - label.off, y: y + 5, anchor: 'end' },
      { ...label, x, y: y + label.off + 11, anchor: 'middle' },
      { ...label, x, y: y - label.off - 1, anchor: 'middle' },
    ];
    for (const t of tries) {
      const x0 = t.anchor === 'start' ? t.x - 2 : t.anchor === 'end' ? t.x - long + 2 : t.x - long / 2;
      const box = { x0, y0: t.y - high + 3, x1: x0 + long, y1: t.y + 3 };
      if (box.x0 < 2 || box.x1 > width - 2 || box.y0 < 2 || box.y1 > height - 2 || !free(box)) continue;
      take(box);
      placed.push(t);
      break;
    }
  }
  return placed;
}
