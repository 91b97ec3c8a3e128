import type { Point } from '../lib/plane';

export interface Label {
  key: string;
  text: string;
  at: Point;
  /** How far from its point the label keeps. */
  off: number;
  bold?: boolean;
  /** A number of a set, in the large figures. */
  numeral?: boolean;
  ink?: string;
}

export interface Placed extends Label {
  x: number;
  y: number;
  anchor: 'start' | 'middle' | 'end';
  box: Box;
}

export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

const letter = 6.4;
const high = 15;
const cell = 64;

/** What is taken of a sheet, kept in a coarse grid, so that many stay quick. */
function taken() {
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
  return { free, take };
}

/** Which marks have room to be drawn whole: the first in the list first, and none over another. */
export function haveRoom(marks: Box[]): boolean[] {
  const { free, take } = taken();
  return marks.map((mark) => {
    const has = free(mark);
    if (has) take(mark);
    return has;
  });
}

/**
 * Places labels so that none lies over another or over a mark: each tries right, left, below and above of its point and then aslant, the
 * first in the list first; one that finds no room is left out.
 */
export function placeLabels(labels: Label[], marks: Box[], width: number, height: number): Placed[] {
  const { free, take } = taken();
  marks.forEach(take);
  const placed: Placed[] = [];
  for (const label of labels) {
    const long = label.text.length * letter * (label.numeral ? 1.3 : label.bold ? 1.07 : 1) + 6;
    const { x, y } = label.at;
    const aslant = label.off * 0.7;
    const tries: Omit<Placed, 'box'>[] = [
      { ...label, x: x + label.off, y: y + 5, anchor: 'start' },
      { ...label, x: x - label.off, y: y + 5, anchor: 'end' },
      { ...label, x, y: y + label.off + 11, anchor: 'middle' },
      { ...label, x, y: y - label.off - 1, anchor: 'middle' },
      { ...label, x: x + aslant, y: y - aslant, anchor: 'start' },
      { ...label, x: x - aslant, y: y - aslant, anchor: 'end' },
      { ...label, x: x + aslant, y: y + aslant + 10, anchor: 'start' },
      { ...label, x: x - aslant, y: y + aslant + 10, anchor: 'end' },
    ];
    for (const t of tries) {
      const x0 = t.anchor === 'start' ? t.x - 2 : t.anchor === 'end' ? t.x - long + 2 : t.x - long / 2;
      const box = { x0, y0: t.y - high + 3, x1: x0 + long, y1: t.y + 3 };
      if (box.x0 < 2 || box.x1 > width - 2 || box.y0 < 2 || box.y1 > height - 2 || !free(box)) continue;
      take(box);
      placed.push({ ...t, box });
      break;
    }
  }
  return placed;
}

/** How far from its point a number may stand, nearest first. */
const reach = [8, 18, 30, 42];

/** Places numbers beside their points, farther away where there is no room near by: none of them is left out while any is to be had. */
export function placeNumbers(labels: Omit<Label, 'off'>[], marks: Box[], width: number, height: number): Placed[] {
  const placed: Placed[] = [];
  for (const off of reach) {
    const left = labels.filter((l) => !placed.some((p) => p.key === l.key));
    const stand = [...marks, ...placed.map((p) => p.box)];
    placed.push(
      ...placeLabels(
        left.map((l) => ({ ...l, off })),
        stand,
        width,
        height,
      ),
    );
  }
  return placed;
}
