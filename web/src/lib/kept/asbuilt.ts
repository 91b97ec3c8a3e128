import { hashKey } from '@tanstack/react-query';
import type { Design, Layout, Make } from '../types.gen';

/** Whether a design is laid out as what stands of it, whatever order its words are kept in. */
export const asBuilt = (design: Design, make: Make): boolean =>
  design.target === make.target && bare(design.layout) === bare(make.asBuilt?.designed ?? make.layout);

const told = new WeakMap<Layout, string>();

/** A layout without what is blank, as one text; of each it is told once. */
function bare(layout: Layout): string {
  const is = told.get(layout) ?? hashKey([JSON.parse(JSON.stringify(layout, (_, value: unknown) => (value === '' ? undefined : value)))]);
  told.set(layout, is);
  return is;
}
