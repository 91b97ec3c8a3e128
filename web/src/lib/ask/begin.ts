import { get } from './api';
import { save } from '../kept/outbox';
import type { Design, Layout } from '../types.gen';
import { ulid } from '../ulid';

/** Begins a design at a spot and gives its id; the recipe starts with the trade's defaults for a coyote. */
export async function beginDesign(lineID: string, spotID: string, facingDeg?: number): Promise<string> {
  const defaults = await get<Layout>(`/lines/${lineID}/defaults/coyote?spot=${spotID}`);
  return beginAs(lineID, spotID, 'coyote', facingDeg === undefined ? defaults : { ...defaults, facingDeg });
}

/** Begins a design of a set that is laid out so. */
export async function beginAs(lineID: string, spotID: string, target: string, layout: Layout): Promise<string> {
  const id = ulid();
  const design: Design = { id, lineId: lineID, spotId: spotID, setId: null, target, layout, version: 0 };
  await save(`/lines/${lineID}/designs/${id}`, design, 'a new design');
  return id;
}
