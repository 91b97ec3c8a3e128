import { show, type System } from '../lib/units';
import { word } from '../lib/words';
import type { Anchor, Attractor, BedOutput, Layout, Rig, RigAnswer } from '../lib/types.gen';
import { anchorOf, baits, coverWords, lures, smellOf, urines } from './parts';
import { across, mouthMm, type View } from './plan';
import { groundPath, hatching, rough, stonePath } from './rough';

interface Props {
  layout: Layout;
  /** What is computed of each trap. */
  rigs: RigAnswer[];
  soil: string;
  view: View;
  system: System;
  frostMm?: number | undefined;
}

/** A trap with what is computed of it and what holds it. */
interface Buried {
  rig: Rig;
  bed: BedOutput;
  anchor: Anchor | undefined;
}

/** The set cut through along its axis, on the plan's own ruler: what shows above the ground line and what lies hidden below. */
export function CutThrough({ layout, rigs, soil, view, system, frostMm }: Props) {
  const y = view.groundY;
  const left = 4;
  const right = view.width - 4;
  const first = layout.attractors[0];
  const hole = first?.hole && first;
  const lip = across(view, 0);
  const far = hole ? lip - mouthMm(hole) * view.scale : lip;
  const buried = layout.rigs.flatMap((rig): Buried[] => {
    const bed = rigs.find((r) => r.slot === rig.slot)?.bed;
    return bed ? [{ rig, bed, anchor: anchorOf(layout, rig) }] : [];
  });
  /** What is the same of the next trap out is said there: words have no room between two. */
  const speaks = (i: number, of: (b: Buried) => unknown) => {
    const [here, next] = [buried[i], buried[i + 1]];
    return !here || !next || JSON.stringify(of(here)) !== JSON.stringify(of(next));
  };
  return (
    <g>
      <path d={hatching(left, right, y + 6, view.height - 4, 11)} stroke="var(--rule)" strokeWidth={1.1} aria-hidden="true" />
      {first && <BackingCut kind={layout.backing} x={far} y={y} urine={smellOf(layout, urines) !== undefined} />}
      <path d={groundPath(left, far, y, 2.4, 4)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      <path d={groundPath(lip, right, y, 2.4, 6)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      {hole && <HoleCut layout={layout} attractor={hole} lip={lip} far={far} view={view} system={system} />}
      {frostMm !== undefined && frostMm > 4 && <FrostLine frostMm={frostMm} view={view} system={system} />}
      {buried.map((b, i) => (
        <AnchorCut
          key={b.rig.slot}
          {...b}
          says={speaks(i, (x) => [x.anchor?.kind, x.anchor?.lengthMm, x.rig.chainMm])}
          soil={soil}
          view={view}
          system={system}
        />
      ))}
      {buried.map((b) => (
        <TrapCut key={b.rig.slot} {...b} view={view} />
      ))}
      {buried.map((b, i) => (
        <BedDepth
          key={b.rig.slot}
          {...b}
          says={speaks(i, (x) => [x.bed.depthMm, x.rig.cover, x.anchor?.kind])}
          view={view}
          system={system}
        />
      ))}
    </g>
  );
}

/** A hole along its slant, with what lies in it and on its lip. */
function HoleCut(p: { layout: Layout; attractor: Attractor; lip: number; far: number; view: View; system: System }) {
  const { layout, lip, far, view, system } = p;
  const { plug, hole } = p.attractor;
  if (!hole) return null;
  const y = view.groundY;
  const turn = (hole.angleDeg * Math.PI) / 180;
  const [down, back] = [Math.sin(turn), Math.cos(turn)];
  const deep = hole.depthMm * view.scale;
  const end = { x: lip - deep * back, y: y + deep * down };
  const endFar = { x: far - deep * back, y: y + deep * down };
  const middle = (share: number) => ({ x: (lip + far) / 2 - deep * back * share, y: y + deep * down * share });
  const round = hole.diameterMm * view.scale * 0.5;
  const bait = middle(0.96);
  const plugAt = middle(0.42);
  const baited = smellOf(layout, baits)?.name;
  return (
    <>
      <path
        d={`M${far} ${y}L${endFar.x} ${endFar.y}C${endFar.x - round * back} ${endFar.y + round * down} ${end.x - round * back} ${end.y + round * down} ${end.x} ${end.y}L${lip} ${y}Z`}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.8}
      />
      {plug !== 'none' && (
        <path
          d={`M${plugAt.x - 9} ${plugAt.y - 5}q4 -5 8 0t9 0M${plugAt.x - 9} ${plugAt.y + 4}q4 -5 8 0t9 0`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.7}
        />
      )}
      {baited && <circle cx={bait.x} cy={bait.y} r={7.5} fill="var(--dun)" />}
      {smellOf(layout, lures) && (
        <path d={`M${lip + 1} ${y - 3}q5 -6 9 -1`} fill="none" stroke="var(--dun)" strokeWidth={3} strokeLinecap="round" />
      )}
      <text className="halo" x={Math.max(8, Math.min(end.x, endFar.x) - 4)} y={Math.min(view.height - 10, end.y + round * down + 17)}>
        {[baited ?? 'no bait', plug === 'none' ? '' : `${plug} over it`].filter(Boolean).join(', ')} ·{' '}
        {show('length', hole.depthMm, system)} deep, {show('angle', hole.angleDeg, system)}
      </text>
    </>
  );
}

/** How deep a bed goes, and what covers it. */
function BedDepth({ rig, bed, anchor, says, view, system }: Buried & { says: boolean; view: View; system: System }) {
  if (!says) return null;
  const y = view.groundY;
  const right = across(view, rig.yMm + bed.widthMm / 2);
  const left = across(view, rig.yMm - bed.widthMm / 2);
  const deep = bed.depthMm * view.scale;
  return (
    <>
      <g stroke="var(--ink)" fill="none" strokeWidth={1.1} aria-hidden="true">
        <path d={`M${right + 12} ${y}V${y + deep}M${right + 8} ${y}h8M${right + 8} ${y + deep}h8`} />
      </g>
      <text className="halo" {...(right > view.width - 200 ? { x: left - 12, textAnchor: 'end' } : { x: right + 22 })} y={y + deep / 2 + 5}>
        <tspan fontWeight={700}>{show('length', bed.depthMm, system)}</tspan>
        <tspan dx={7}>{coverWords(rig.cover, system)} over</tspan>
        {anchor?.kind === 'drag' && <tspan dx={5}>· on a drag</tspan>}
      </text>
    </>
  );
}

/** How deep the ground is frozen by tomorrow morning. */
function FrostLine({ frostMm, view, system }: { frostMm: number; view: View; system: System }) {
  const y = Math.min(view.groundY + frostMm * view.scale, view.height - 8);
  return (
    <g>
      <path d={`M4 ${y}H${view.width - 4}`} stroke="var(--slate)" strokeWidth={1.6} strokeDasharray="7 4" />
      <text className="halo" x={view.width - 8} y={y - 6} textAnchor="end" style={{ fill: 'var(--slate)' }}>
        frost by morning about {show('length', frostMm, system)}
      </text>
    </g>
  );
}

/** Base, frame, levers, pan and cover in the bed. */
function TrapCut({ rig, bed, view }: Buried & { view: View }) {
  const { jaws, pan } = rig;
  if (!jaws || !pan) return null;
  const y = view.groundY;
  const px = (mm: number) => mm * view.scale;
  const left = across(view, rig.yMm - bed.widthMm / 2);
  const right = across(view, rig.yMm + bed.widthMm / 2);
  const floor = y + px(bed.depthMm);
  const stand = floor - px(rig.bed.baseMm);
  const top = stand - px(jaws.heightMm);
  const middle = across(view, pan.yMm);
  const jaw = px(jaws.spreadMm) / 2;
  const half = px(pan.diameterMm) / 2;
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
      <path d={`M${middle} ${stand}V${top + 4}`} stroke="var(--ink)" strokeWidth={1.6} />
      <path d={`M${middle - half} ${top + 4}H${middle + half}`} stroke="var(--ember)" strokeWidth={3} />
    </g>
  );
}

/** Where words stand beside something: to its right, or to its left where there is no more room. */
const beside = (x: number, off: number, view: View) => (x > view.width * 0.6 ? { x: x - off, textAnchor: 'end' as const } : { x: x + off });

/** Chain and what it holds to; a break in the line says that it goes deeper than is drawn. */
function AnchorCut({ rig, bed, anchor, says, soil, view, system }: Buried & { says: boolean; soil: string; view: View; system: System }) {
  if (!anchor) return null;
  const x = across(view, rig.pan?.yMm ?? rig.yMm);
  const from = view.groundY + bed.depthMm * view.scale;
  const bottom = view.height - 18;
  const chain = show(rig.chainMm > 1000 ? 'ground' : 'length', rig.chainMm, system);
  if (anchor.kind === 'drag') {
    const y = from + 34;
    return (
      <g fill="none" stroke="var(--ink)">
        <path d={`M${x} ${from}q4 26 40 ${y - from}h120`} strokeWidth={1.8} strokeDasharray="4 2.5" />
        <path d={`M${x + 160} ${y}h22m0 0q14 -2 12 -14m-12 14q14 2 12 14m-12 -14q-12 -4 -12 -12m12 12q-12 4 -12 12`} strokeWidth={2.2} />
        {says && (
          <text className="halo" stroke="none" x={x + 46} y={y + 32}>
            drag on {chain} of chain, in {soil}
          </text>
        )}
      </g>
    );
  }
  const lengthMm = anchor.lengthMm ?? 0;
  const aside = Math.hypot(anchor.xMm - rig.xMm, anchor.yMm - rig.yMm) > 60;
  const reach = view.groundY + lengthMm * view.scale;
  const end = Math.min(reach, bottom);
  const crossed = anchor.kind === 'crossed';
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
          <text className="halo" stroke="none" {...beside(x, 24, view)} y={end - 26}>
            {word(anchor.kind)}, {show('length', lengthMm, system)} down in {soil}
          </text>
          <text className="halo quiet-text" stroke="none" {...beside(x, 24, view)} y={end - 9}>
            {chain} of chain, {aside ? 'to the side' : 'under the bed'}
          </text>
        </>
      )}
    </g>
  );
}

function BackingCut({ kind, x, y, urine }: { kind: string; x: number; y: number; urine: boolean }) {
  const scent =
    urine && kind !== 'none' ? <path d={`M${x - 22} ${y - 40}q-5 9 1 19`} stroke="var(--dun)" strokeWidth={2.4} fill="none" /> : null;
  switch (kind) {
    case 'none':
      return null;
    case 'tuft':
      return (
        <g stroke="var(--ink)" strokeWidth={1.6} fill="none">
          <path
            d={`M${x - 16} ${y}q-16 -22 -26 -46M${x - 15} ${y}q-8 -26 -8 -60M${x - 14} ${y}q2 -28 10 -54M${x - 12} ${y}q10 -18 16 -34M${x - 17} ${y}q-20 -10 -36 -24`}
          />
          {scent}
        </g>
      );
    case 'bank':
      return (
        <g>
          <path
            d={`M4 ${y - 62}Q${x - 42} ${y - 60} ${x - 14} ${y - 26}T${x} ${y}`}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={2.2}
          />
          {scent}
        </g>
      );
    default:
      return (
        <g>
          <path
            d={stonePath(x - 30, y - 23, 42, 30, kind === 'stone' ? 17 : 40, kind === 'stone' ? 8 : 14)}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={1.7}
            strokeDasharray={kind === 'sod' ? '5 2' : undefined}
          />
          {scent}
        </g>
      );
  }
}
