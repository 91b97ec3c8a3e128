import type { Layout } from '../lib/types.gen';
import { StillPlan } from './plan';
import { viewOf } from './view';

/** What of the drawing's page the small one shows, px: as much as the bench shows from above. */
const page = { width: 640, height: 330 };

/** A set from above, small: about its traps, or from what it is about. */
export function SmallPlan({ layout }: { layout: Layout }) {
  const view = viewOf(layout, page.width, page.height, page.height / 2, 0);
  const wide = 480;
  const left = layout.way ? (page.width - wide) / 2 : 24;
  return (
    <svg viewBox={`${left} 8 ${wide} 300`} className="small-plan" aria-hidden="true">
      <StillPlan layout={layout} view={view} />
    </svg>
  );
}
