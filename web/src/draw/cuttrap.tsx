import { roomPx } from './cutground';
import { show, showAbout, type System } from '../lib/words/units';
import { anchorWord } from '../lib/words/called';
import type { Anchor, BedOutput, Rig } from '../lib/types.gen';
import { coverWords, drags, isAside } from '../lib/words/parts';
import { rough } from './rough';
import { across, alongMm, type View } from './view';
import { offFrost } from './cutground';

/** A trap with what is computed of it and what holds it. */
export interface Buried {
  rig: Rig;
  bed: BedOutput;
  anchor: Anchor | undefined;
}

/** A loop, with how high it hangs and what holds it. */
export function LoopCut({ rig, anchor, view, system }: { rig: Rig; anchor: Anchor | undefined; view: View; system: System }) {
  if (!rig.loop) return null;
  const [x, y] = [across(view, alongMm(view, rig)), view.groundY];
  const [wide, high] = [rig.loop.diameterMm * view.scale, rig.loop.heightMm * view.scale];
  const top = Math.min(high + wide, roomPx(view));
  const flat = rig.device === 'foot_loop';
  const held = anchor && `${anchorWord(anchor.kind)}, ${show('length', anchor.lengthMm ?? 0, system)}`;
  return (
    <g stroke="var(--ink)" fill="none">
      {flat ? (
        <>
          <path d={`M${x - wide / 2} ${y - 2}h${wide}`} stroke="var(--ember)" strokeWidth={3} />
          <path d={`M${x - wide / 2} ${y}v20h${wide}v-20`} fill="var(--chosen)" strokeWidth={1.5} />
          <path d={`M${x + wide / 2} ${y + 10}q60 4 90 -16`} strokeWidth={2.6} />
        </>
      ) : (
        <>
          <ellipse cx={x} cy={y - (high + top) / 2} rx={7} ry={(top - high) / 2} stroke="var(--ember)" strokeWidth={2.6} />
          {top < high + wide && <path d={`M${x - 13} ${y - top + 16}l26 -7M${x - 13} ${y - top + 23}l26 -7`} strokeWidth={1.4} />}
          <path d={`M${x - 26} ${y}V${y - high}M${x - 31} ${y}h10M${x - 31} ${y - high}h10`} strokeWidth={1.1} />
        </>
      )}
      <text className="halo" stroke="none" x={x + 52} y={y + 22}>
        {flat ? 'loop flat under the cover' : `${show('length', rig.loop.heightMm, system)} off the ground`},{' '}
        {show('length', rig.loop.diameterMm, system)} across
      </text>
      <text className="halo quiet-text" stroke="none" x={x + 52} y={y + 39}>
        {held}
        {anchor?.kind === 'slide' ? ', clear of the fence' : ''}
      </text>
    </g>
  );
}

/** How far something about a rig reaches along the ruler, where it is so long along the levers and so wide across them. */
function spanMm(rig: Rig, view: View, longMm: number, wideMm: number): number {
  const axis = ((rig.axisDeg ?? 0) * Math.PI) / 180;
  const [along, athwart] = view.turned ? [Math.cos(axis), Math.sin(axis)] : [Math.sin(axis), Math.cos(axis)];
  return longMm * Math.abs(along) + wideMm * Math.abs(athwart);
}

/** On which side of a trap the dog lies along the ruler, as 1 or -1; 0 where it lies across it and is not cut. */
function dogAlong(rig: Rig, view: View): number {
  const axis = ((rig.axisDeg ?? 0) * Math.PI) / 180;
  const along = view.turned ? Math.sin(axis) : -Math.cos(axis);
  return Math.abs(along) < 0.5 ? 0 : Math.sign(along);
}

/** How deep a bed goes, and what covers it. */
export function BedDepth({ rig, bed, anchor, says, view, system }: Buried & { says: boolean; view: View; system: System }) {
  if (!says) return null;
  const y = view.groundY;
  const [middle, half] = [alongMm(view, rig), spanMm(rig, view, bed.lengthMm, bed.widthMm) / 2];
  const right = across(view, middle + half);
  const deep = bed.depthMm * view.scale;
  return (
    <>
      <g stroke="var(--ink)" fill="none" strokeWidth={1.1} aria-hidden="true">
        <path d={`M${right + 12} ${y}V${y + deep}M${right + 8} ${y}h8M${right + 8} ${y + deep}h8`} />
      </g>
      <text className="halo" x={Math.min(right + 22, view.width - 152)} y={y + deep / 2 + 5}>
        <tspan fontWeight={700}>{showAbout('length', bed.depthMm, system)}</tspan>
        <tspan dx={7}>{coverWords(rig.cover, system)} over</tspan>
        {anchor && drags(anchor.kind) && <tspan dx={5}>· on a {anchorWord(anchor.kind)}</tspan>}
      </text>
    </>
  );
}

/** Base, frame, levers, pan and cover in the bed. */
export function TrapCut({ rig, bed, view }: Buried & { view: View }) {
  const { jaws, pan } = rig;
  if (!jaws || !pan) return null;
  const y = view.groundY;
  const px = (mm: number) => mm * view.scale;
  const [at, wide] = [alongMm(view, rig), spanMm(rig, view, bed.lengthMm, bed.widthMm) / 2];
  const left = across(view, at - wide);
  const right = across(view, at + wide);
  const floor = y + px(bed.depthMm);
  const stand = floor - px(rig.bed.baseMm);
  const top = stand - px(jaws.heightMm);
  const middle = across(view, alongMm(view, pan));
  const jaw = px(spanMm(rig, view, jaws.frameMm, jaws.spreadMm)) / 2;
  const half = px(pan.diameterMm) / 2;
  const dogSide = dogAlong(rig, view);
  const thick = rig.cover.reduce((sum, layer) => sum + layer.thicknessMm, 0);
  const next = rough(9);
  let grains = '';
  for (let x = left + 3; x < right - 3; x += 4.5) {
    for (let g = stand + 2; g < floor - 1; g += 3.5) grains += `M${(x + next() * 3).toFixed(1)} ${(g + next() * 2).toFixed(1)}h0`;
  }
  return (
    <g>
      <path
        d={`M${left} ${y}L${left + 3} ${floor}H${right - 3}L${right} ${y}Z`}
        fill="var(--chosen)"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      <path d={grains} stroke="var(--ink)" strokeWidth={1.4} strokeLinecap="round" opacity={0.7} />
      <path d={`M${left + 1} ${y}H${right - 1}V${y + Math.max(2, px(thick))}H${left + 1}Z`} fill="var(--way)" stroke="none" />
      <path
        d={`M${middle - jaw} ${stand}H${middle + jaw}M${middle - jaw} ${stand}q-1 ${top - stand} 5 ${top - stand + 3}M${middle + jaw} ${stand}q1 ${top - stand} -5 ${top - stand + 3}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2.6}
      />
      {dogSide !== 0 && (
        <path
          d={`M${middle + dogSide * (jaw + 5)} ${stand}V${top + 1}L${middle + dogSide * (half - 2)} ${top + 6}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      )}
      <path d={`M${middle} ${stand}V${top + 4}`} stroke="var(--ink)" strokeWidth={1.6} />
      <path d={`M${middle - half} ${top + 4}H${middle + half}`} stroke="var(--ember)" strokeWidth={3} />
    </g>
  );
}

/** Where words stand beside something: to its right, or to its left where there is no more room. */
export const beside = (x: number, off: number, view: View) =>
  x > view.width * 0.7 ? { x: x - off, textAnchor: 'end' as const } : { x: x + off };

/** Chain and what it holds to; a break in the line says that it goes deeper than is drawn. */
interface AnchorCutProps extends Buried {
  says: boolean;
  soil: string;
  frostMm: number | undefined;
  view: View;
  system: System;
}

export function AnchorCut({ rig, bed, anchor, says, soil, frostMm, view, system }: AnchorCutProps) {
  if (!anchor) return null;
  const x = across(view, alongMm(view, rig.pan ?? rig));
  const from = view.groundY + bed.depthMm * view.scale;
  const bottom = view.height - 18;
  const chain = show(rig.chainMm > 1000 ? 'ground' : 'length', rig.chainMm, system);
  if (drags(anchor.kind)) {
    const y = from + 34;
    return (
      <g fill="none" stroke="var(--ink)">
        <path d={`M${x} ${from}q4 26 40 ${y - from}h120`} strokeWidth={1.8} strokeDasharray="4 2.5" />
        <path d={`M${x + 160} ${y}h22m0 0q14 -2 12 -14m-12 14q14 2 12 14m-12 -14q-12 -4 -12 -12m12 12q-12 4 -12 12`} strokeWidth={2.2} />
        {says && (
          <text className="halo" stroke="none" x={x + 46} y={y + 32}>
            {anchorWord(anchor.kind)} on {chain} of chain, in {soil}
          </text>
        )}
      </g>
    );
  }
  const lengthMm = anchor.lengthMm ?? 0;
  if (anchor.kind === 'staple') {
    const [trunk, y] = [across(view, 0) + 2, view.groundY];
    return (
      <g fill="none" stroke="var(--ink)">
        <path d={`M${x - 40} ${y + 10}Q${(x + trunk) / 2} ${y + 26} ${trunk + 12} ${y - 14}`} strokeWidth={1.8} strokeDasharray="4 2.5" />
        <path d={`M${trunk - 14} ${y - 20}h26v10h-26`} strokeWidth={2.6} />
        {says && (
          <text className="halo" stroke="none" {...beside(x, 24, view)} y={from + 34}>
            {anchorWord(anchor.kind)}, {show('length', lengthMm, system)} in the wood, {chain} of chain
          </text>
        )}
      </g>
    );
  }
  const aside = isAside(anchor, rig);
  const reach = view.groundY + lengthMm * view.scale;
  const end = Math.min(reach, bottom);
  const crossed = anchor.kind === 'crossed';
  const says1 = offFrost(Math.max(end - 26, from + 14), frostMm, view);
  const lines = crossed ? [-16, 16] : [0];
  return (
    <g fill="none" stroke="var(--ink)">
      <path d={`M${x} ${from}q7 7 0 14t0 14`} strokeWidth={1.8} strokeDasharray="4 2.5" />
      {lines.map((lean) => (
        <path key={lean} d={`M${x - lean * 0.4} ${from + 26}L${x + lean} ${end}`} strokeWidth={anchor.kind === 'cable' ? 1.5 : 3.4} />
      ))}
      {anchor.kind === 'cable' && <path d={`M${x - 13} ${end + 7}L${x + 13} ${end - 5}`} strokeWidth={4} />}
      {reach > bottom && <path d={`M${x - 11} ${end - 26}l22 -7M${x - 11} ${end - 19}l22 -7`} strokeWidth={1.3} />}
      {says && (
        <>
          <text className="halo" stroke="none" {...beside(x, 24, view)} y={says1}>
            {anchorWord(anchor.kind)}, {show('length', lengthMm, system)} down in {soil}
          </text>
          <text className="halo quiet-text" stroke="none" {...beside(x, 24, view)} y={says1 + 17}>
            {chain} of chain, {aside ? 'to the side' : 'under the bed'}
          </text>
        </>
      )}
    </g>
  );
}
