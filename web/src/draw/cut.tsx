import { show, type System } from '../lib/units';
import { word } from '../lib/words';
import type { BedOutput, Layout } from '../lib/types.gen';
import { across, type View } from './plan';
import { groundPath, hatching, rough, stonePath } from './rough';

interface Props {
  layout: Layout;
  bed: BedOutput;
  soil: string;
  view: View;
  system: System;
  frostMm?: number | undefined;
}

/** The set cut through along its axis, on the plan's own ruler: what shows above the ground line and what lies hidden below. */
export function CutThrough({ layout, bed, soil, view, system, frostMm }: Props) {
  const { hole, cover, anchor } = layout;
  const y = view.groundY;
  const left = 4;
  const right = view.width - 4;
  const bottom = view.height - 4;
  const turn = (hole.angleDeg * Math.PI) / 180;
  const [down, back] = [Math.sin(turn), Math.cos(turn)];
  const px = (mm: number) => mm * view.scale;
  const lip = across(view, 0);
  const far = lip - px(hole.diameterMm / down);
  const deep = px(hole.depthMm);
  const end = { x: lip - deep * back, y: y + deep * down };
  const endFar = { x: far - deep * back, y: y + deep * down };
  const middle = (share: number) => ({ x: (lip + far) / 2 - deep * back * share, y: y + deep * down * share });
  const round = px(hole.diameterMm) * 0.5;
  const bait = middle(0.96);
  const plug = middle(0.42);
  const bedLeft = across(view, layout.bed.yMm - bed.widthMm / 2);
  const bedRight = across(view, layout.bed.yMm + bed.widthMm / 2);
  return (
    <g>
      <path d={hatching(left, right, y + 6, bottom, 11)} stroke="var(--rule)" strokeWidth={1.1} aria-hidden="true" />
      <BackingCut kind={layout.backing} x={far} y={y} urine={layout.attractant.urine} />
      <path d={groundPath(left, far, y, 2.4, 4)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      <path d={groundPath(lip, right, y, 2.4, 6)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      <path
        d={`M${far} ${y}L${endFar.x} ${endFar.y}C${endFar.x - round * back} ${endFar.y + round * down} ${end.x - round * back} ${end.y + round * down} ${end.x} ${end.y}L${lip} ${y}Z`}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.8}
      />
      {layout.attractant.plug !== 'none' && (
        <path
          d={`M${plug.x - 9} ${plug.y - 5}q4 -5 8 0t9 0M${plug.x - 9} ${plug.y + 4}q4 -5 8 0t9 0`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.7}
        />
      )}
      {layout.attractant.bait && <circle cx={bait.x} cy={bait.y} r={7.5} fill="var(--dun)" />}
      {layout.attractant.lure && (
        <path d={`M${lip + 1} ${y - 3}q5 -6 9 -1`} fill="none" stroke="var(--dun)" strokeWidth={3} strokeLinecap="round" />
      )}
      <text className="halo" x={Math.max(left + 4, Math.min(end.x, endFar.x) - 4)} y={Math.min(bottom - 6, end.y + round * down + 17)}>
        {[layout.attractant.bait || 'no bait', layout.attractant.plug === 'none' ? '' : `${layout.attractant.plug} over it`]
          .filter(Boolean)
          .join(', ')}{' '}
        · {show('length', hole.depthMm, system)} deep, {show('angle', hole.angleDeg, system)}
      </text>
      {frostMm !== undefined && frostMm > 4 && <FrostLine frostMm={frostMm} view={view} system={system} />}
      <AnchorCut layout={layout} bed={bed} soil={soil} view={view} system={system} />
      <TrapCut layout={layout} bed={bed} view={view} left={bedLeft} right={bedRight} />
      <g stroke="var(--ink)" fill="none" strokeWidth={1.1} aria-hidden="true">
        <path d={`M${bedRight + 12} ${y}V${y + px(bed.depthMm)}M${bedRight + 8} ${y}h8M${bedRight + 8} ${y + px(bed.depthMm)}h8`} />
      </g>
      <text className="halo" x={bedRight + 22} y={y + px(bed.depthMm) / 2 + 5}>
        <tspan fontWeight={700}>{show('length', bed.depthMm, system)}</tspan>
        <tspan dx={7}>
          {show('length', cover.thicknessMm, system)} of {word(cover.material)} over
        </tspan>
        {anchor.kind === 'drag' && <tspan dx={5}>· on a drag</tspan>}
      </text>
    </g>
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
function TrapCut({ layout, bed, view, left, right }: { layout: Layout; bed: BedOutput; view: View; left: number; right: number }) {
  const y = view.groundY;
  const px = (mm: number) => mm * view.scale;
  const floor = y + px(bed.depthMm);
  const stand = floor - px(layout.bed.baseMm);
  const top = stand - px(layout.trap.setHeightMm);
  const middle = across(view, layout.pan.yMm);
  const jaw = px(layout.trap.jawSpreadMm) / 2;
  const pan = px(layout.pan.diameterMm) / 2;
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
      <path
        d={`M${left + 1} ${y}H${right - 1}V${y + Math.max(2, px(layout.cover.thicknessMm))}H${left + 1}Z`}
        fill="var(--way)"
        stroke="none"
      />
      <path
        d={`M${middle - jaw} ${stand}H${middle + jaw}M${middle - jaw} ${stand}q-1 ${top - stand} 5 ${top - stand + 3}M${middle + jaw} ${stand}q1 ${top - stand} -5 ${top - stand + 3}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2.6}
      />
      <path d={`M${middle} ${stand}V${top + 4}`} stroke="var(--ink)" strokeWidth={1.6} />
      <path d={`M${middle - pan} ${top + 4}H${middle + pan}`} stroke="var(--ember)" strokeWidth={3} />
    </g>
  );
}

/** Chain and what it holds to; a break in the line says that it goes deeper than is drawn. */
function AnchorCut({ layout, bed, soil, view, system }: Props) {
  const { anchor } = layout;
  const x = across(view, layout.pan.yMm);
  const from = view.groundY + bed.depthMm * view.scale;
  const bottom = view.height - 18;
  const chain = show(anchor.chainMm > 1000 ? 'ground' : 'length', anchor.chainMm, system);
  if (anchor.kind === 'drag') {
    const y = from + 34;
    return (
      <g fill="none" stroke="var(--ink)">
        <path d={`M${x} ${from}q4 26 40 ${y - from}h120`} strokeWidth={1.8} strokeDasharray="4 2.5" />
        <path d={`M${x + 160} ${y}h22m0 0q14 -2 12 -14m-12 14q14 2 12 14m-12 -14q-12 -4 -12 -12m12 12q-12 4 -12 12`} strokeWidth={2.2} />
        <text className="halo" stroke="none" x={x + 46} y={y + 32}>
          drag on {chain} of chain, in {soil}
        </text>
      </g>
    );
  }
  const reach = view.groundY + anchor.lengthMm * view.scale;
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
      <text className="halo" stroke="none" x={x + 24} y={end - 26}>
        {word(anchor.kind)}, {show('length', anchor.lengthMm, system)} down in {soil}
      </text>
      <text className="halo quiet-text" stroke="none" x={x + 24} y={end - 9}>
        {chain} of chain, under the bed
      </text>
    </g>
  );
}

function BackingCut({ kind, x, y, urine }: { kind: string; x: number; y: number; urine: string }) {
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
