import { hashKey } from '@tanstack/react-query';
import type { Design, Layout, Make } from '../types.gen';

/** Whether a design is laid out as what stands of it, whatever order its words are kept in. */
export const asBuilt = (design: Design, make: Make): boolean =>
  design.target === make.target && hashKey([bare(design.layout)]) === hashKey([bare(make.layout)]);

/** A layout without what is blank. */
const bare = (layout: Layout): unknown => JSON.parse(JSON.stringify(layout, (_, value: unknown) => (value === '' ? undefined : value)));
