import { isPhoto, isVersioned, type Kept } from './kept';

/** What of what is kept goes next, and what waits for what. */

const idOf = (path: string): string => /^\/lines\/\w+\/\w+\/(\w+)/.exec(path)?.[1] ?? '';

/** A change to something that is there already, not something new nor something done. */
export const isEdit = (w: Pick<Kept, 'body'>): boolean => isVersioned(w.body) && w.body.version > 0;

const isUndo = (w: Pick<Kept, 'path'>): boolean => w.path.endsWith('/undo');

/** What a body names. A photo that was set aside is done without. */
const named = ['photoId', 'setId', 'makeId', 'visitId', 'designId', 'spotId', 'propertyId', 'trapId', 'lureId', 'bottleId'];

function names({ path, body }: Kept): string[] {
  if (typeof body !== 'object' || body === null || body instanceof Blob) return [idOf(path)];
  return [idOf(path), ...named.flatMap((key) => ((body as Record<string, unknown>)[key] as string | null | undefined) ?? [])];
}

/** What cannot go now, and with it what came after it: the rest of its set, and what names it. */
class Held {
  private readonly ids = new Set<string>();
  private readonly sets = new Set<string>();

  add(w: Kept) {
    if (!isEdit(w)) this.ids.add(idOf(w.path));
    if (w.set !== '') this.sets.add(w.set);
  }

  waits(w: Kept): boolean {
    return (w.set !== '' && this.sets.has(w.set)) || names(w).some((id) => this.ids.has(id));
  }
}

/** What is on its way, in its order: what can be sent, and what waits for something that was set aside or just failed. */
export function inTurn(rows: Kept[], failed: ReadonlySet<string>): { goes: Kept[]; waits: Kept[] } {
  const held = new Held();
  const goes: Kept[] = [];
  const waits: Kept[] = [];
  for (const w of rows) {
    if (w.takenAt !== null) continue;
    if (w.refused !== null) {
      if (!isPhoto(w) && !isUndo(w)) held.add(w); // what was not taken back stands: nothing waits for that
    } else if (failed.has(w.mutation)) {
      held.add(w);
    } else if (held.waits(w)) {
      held.add(w);
      waits.push(w);
    } else goes.push(w);
  }
  return { goes, waits };
}

/** A look without a photo that was set aside: the photo stays there with its reason, and the look goes. */
export function withoutPhoto(w: Kept, rows: Kept[]): unknown {
  const photo = (w.body as { photoId?: string | null } | null)?.photoId;
  const aside = photo && rows.some((r) => isPhoto(r) && r.refused !== null && idOf(r.path) === photo);
  return aside ? { ...(w.body as object), photoId: null } : w.body;
}
