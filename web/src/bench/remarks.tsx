import type { Remark, RemarkKey } from '../lib/types.gen';
import { show, type System } from '../lib/words/units';

const says: Record<RemarkKey, (by: string) => string> = {
  pan_above_jaws: (by) => `The pan stands ${by} above the jaws. It catches by the toes. Bend the post until it is level.`,
  pan_above_ground: (by) => `The pan stands ${by} above the ground. Dig the bed deeper.`,
  beds_touch: (by) => `Its bed reaches ${by} into the other. Set them apart.`,
  wider_than_trench: (by) => `The jaws are ${by} wider than the trench. Widen it, or take a smaller trap.`,
  levers_foul: (by) => `Its levers run ${by} into the trench’s wall. Turn them along the trench.`,
  guide_over_trap: (by) => `it lies ${by} over a jaw or the frame. Move it out.`,
  pawed_onto_pan: () => 'It can be pawed onto the pan. Spike it down, or take a bigger one.',
  bed_shallow: (by) => `The bed is ${by} too shallow for base, drain, trap and cover.`,
  cover_thick: (by) => `The cover is ${by} thicker than half an inch. Feet and frost both pack it.`,
  cover_freezes: (by) => `${by} too much of it freezes. Waxed soil or dry peat on top, and thin.`,
  attractor_in_bed: (by) => `It lies ${by} inside the bed. An animal that works it digs up the trap.`,
  guide_tall: (by) => `it is ${by} taller than six inches. Coyotes are uneasy beside it.`,
};

/** Which guide a remark is about: there are several, and each is numbered as the drawing names it. */
const guideWords = (path: string): string => {
  const nth = /^guides\[(\d+)\]/.exec(path)?.[1];
  return nth === undefined ? '' : `Guide ${Number(nth) + 1}, `;
};

/** What there is to say of some parts of a drawing. */
export function Remarks({ remarks, system }: { remarks: Remark[]; system: System }) {
  return remarks.map((r) => (
    <div key={r.path + r.key} className="objection dun">
      {guideWords(r.path)}
      {says[r.key](show('length', r.mm ?? 0, system))}
    </div>
  ));
}
