import { memo } from 'react';
import type { Buried } from './cuttrap';
import { roomPx } from './cutground';
import { show, type System } from '../lib/words/units';
import type { Attractor, Guide, Layout, Rig, RigAnswer, Trench } from '../lib/types.gen';
import { ThingCut } from './cutthings';
import { anchorOf, baits, lures, smellOf, standsItself, urines } from '../lib/words/parts';
import { groundPath, hatching } from './rough';
import { across, alongMm, beyond, headMm, isFar, mouthMm, type View } from './view';
import { leastSnowMm, SnowCut, WetGround, TrenchCut, WaterCut, WayCut, offFrost, leastFrostMm, FrostLine, BackingCut } from './cutground';
import { LoopCut, BedDepth, TrapCut, AnchorCut } from './cuttrap';

interface Props {
  layout: Layout;
  /** What is computed of each trap. */
  rigs: RigAnswer[];
  soil: string;
  view: View;
  system: System;
  frostMm?: number | undefined;
  /** How deep snow lies; undefined where it is not known. */
  snowMm?: number | undefined;
  wet?: boolean;
}

/** The soil, which stays as it is whatever is moved in it. */
const Hatched = memo(function Hatched({ left, right, top, bottom }: { left: number; right: number; top: number; bottom: number }) {
  return <path d={hatching(left, right, top, bottom, 11)} stroke="var(--rule)" strokeWidth={1.1} aria-hidden="true" />;
});

/**
 * The set cut through along its axis, or along its way, on the plan's own ruler: what shows above the ground line and what lies
 * hidden below.
 */
export function CutThrough({ layout, rigs, soil, view, system, frostMm, snowMm, wet }: Props) {
  const y = view.groundY;
  const far = isFar(view); // then there is no room for words but of the anchors
  const [left, right] = [4, view.width - 4];
  const first = layout.attractors[0];
  const holes = layout.attractors.filter((a) => a.hole);
  const said = holes.find((a) => a.smells.some((s) => (baits as readonly string[]).includes(s.kind))) ?? holes[0];
  const behind = first ? across(view, alongMm(view, first)) - mouthMm(first) * view.scale : 0;
  const buried = layout.rigs.flatMap((rig): Buried[] => {
    const bed = rigs.find((r) => r.slot === rig.slot)?.bed;
    return bed ? [{ rig, bed, anchor: anchorOf(layout, rig) }] : [];
  });
  // A trap in a trench lies on its floor.
  const dip = (rig: Rig) => (layout.trench ? { ...view, groundY: y + floorMm(layout, layout.trench, rig.yMm) * view.scale } : view);
  /** What is the same of the next trap out is said there: words have no room between two. */
  const speaks = (i: number, of: (b: Buried) => unknown) => {
    const [here, next] = [buried[i], buried[i + 1]];
    return !here || !next || JSON.stringify(of(here)) !== JSON.stringify(of(next));
  };
  return (
    <g>
      <Hatched left={left} right={right} top={y + 6} bottom={view.height - 4} />
      {wet && <WetGround view={view} />}
      {snowMm !== undefined && snowMm >= leastSnowMm && (
        <SnowCut snowMm={snowMm} upTo={layout.way ? undefined : behind} view={view} system={system} />
      )}
      {layout.way && <WayCut way={layout.way} view={view} />}
      {first && !far && !view.turned && !standsItself.includes(first.of ?? '') && (
        <BackingCut kind={layout.backing} x={behind} y={y} urine={smellOf(layout, urines) !== undefined} />
      )}
      <path d={groundPath(left, right, y, 2.4, 4)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      {layout.trench && <TrenchCut trench={layout.trench} behindMm={headMm(layout)} view={view} system={system} />}
      {layout.kind === 'spring' && <WaterCut view={view} />}
      {layout.attractors.map((a) => (
        <AttractorCut key={a.slot} layout={layout} attractor={a} says={a === said && !far} frostMm={frostMm} view={view} system={system} />
      ))}
      {view.turned && layout.guides.map((g, i) => <GuideCut key={i} guide={g} view={view} />)}
      {frostMm !== undefined && frostMm > leastFrostMm && <FrostLine frostMm={frostMm} view={view} system={system} />}
      {buried.map((b, i) => (
        <AnchorCut
          key={b.rig.slot}
          {...b}
          says={speaks(i, (x) => [x.anchor?.kind, x.anchor?.lengthMm, x.rig.chainMm])}
          soil={soil}
          frostMm={frostMm}
          view={dip(b.rig)}
          system={system}
        />
      ))}
      {buried.map((b) => (
        <TrapCut key={b.rig.slot} {...b} view={dip(b.rig)} />
      ))}
      {layout.rigs.map(
        (rig) => rig.loop && <LoopCut key={rig.slot} rig={rig} anchor={anchorOf(layout, rig)} view={view} system={system} />,
      )}
      {!far &&
        buried.map((b, i) => (
          <BedDepth
            key={b.rig.slot}
            {...b}
            says={speaks(i, (x) => [x.bed.depthMm, x.rig.cover, x.anchor?.kind])}
            view={dip(b.rig)}
            system={system}
          />
        ))}
    </g>
  );
}

/** What an animal comes to: a hole along its slant, or a thing on the ground. */
interface AttractorCutProps {
  layout: Layout;
  attractor: Attractor;
  says: boolean;
  frostMm: number | undefined;
  view: View;
  system: System;
}

function AttractorCut(p: AttractorCutProps) {
  const { layout, attractor: a, view } = p;
  if (a.hole) return <HoleCut {...p} />;
  const away = beyond(layout, a);
  const r = a.radiusMm ?? 0;
  const x = across(view, alongMm(view, { xMm: a.xMm + away.x * r, yMm: a.yMm + away.y * r }));
  // What stands beside the cut, and not in it, is behind it.
  const aside = Math.abs(view.turned ? a.yMm - (layout.way?.yMm ?? 0) : a.xMm) > r + 60 && a.of !== 'rag';
  return (
    <g opacity={aside ? 0.3 : 1}>
      <ThingCut of={a.of ?? ''} x={x} y={view.groundY} r={r * view.scale} high={(a.heightMm ?? 0) * view.scale} room={roomPx(view)} />
    </g>
  );
}

/** How deep the floor of a trench lies at a setback. */
export const floorMm = (l: Layout, trench: Trench, setbackMm: number): number =>
  trench.headMm * Math.max(0, Math.min(1, 1 - (setbackMm + headMm(l)) / trench.lengthMm));

/** What lies across a way: a stick or a log on the ground. */
function GuideCut({ guide, view }: { guide: Guide; view: View }) {
  if (guide.kind !== 'stick' && guide.kind !== 'log') return null;
  const [x, r] = [across(view, alongMm(view, guide)), guide.rMm * view.scale];
  return (
    <g stroke="var(--ink)" fill="var(--paper)" strokeWidth={1.8}>
      <circle cx={x} cy={view.groundY - r * 0.92} r={r} />
      {r > 20 && (
        <path
          d={`M${x - r * 0.5} ${view.groundY - r}a${r * 0.5} ${r * 0.5} 0 1 0 ${r} 0`}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={1}
        />
      )}
    </g>
  );
}

/** A hole along its slant, with what lies in it and on its lip. */
function HoleCut(p: AttractorCutProps) {
  const { layout, view, system } = p;
  const { plug, hole, smells, of } = p.attractor;
  if (!hole) return null;
  const away = alongMm(view, { xMm: beyond(layout, p.attractor).x, yMm: beyond(layout, p.attractor).y }) > 0.3 ? 1 : -1;
  const lip = across(view, alongMm(view, p.attractor));
  const far = lip + away * mouthMm(p.attractor) * view.scale;
  const y = view.groundY;
  const slant = (hole.angleDeg * Math.PI) / 180;
  const [down, back] = [Math.sin(slant), -away * Math.cos(slant)];
  const deep = hole.depthMm * view.scale;
  const end = { x: lip - deep * back, y: y + deep * down };
  const endFar = { x: far - deep * back, y: y + deep * down };
  const middle = (share: number) => ({ x: (lip + far) / 2 - deep * back * share, y: y + deep * down * share });
  const round = hole.diameterMm * view.scale * 0.5;
  const bait = middle(0.96);
  const plugAt = middle(0.42);
  const inside = smells.find((s) => s.place === 'bottom' || s.place === 'plug');
  const baited = smells.find((s) => (baits as readonly string[]).includes(s.kind))?.name ?? inside?.name;
  const lured = smells.some((s) => s.place === 'lip' || (lures as readonly string[]).includes(s.kind));
  return (
    <>
      <path
        d={`M${far} ${y}L${endFar.x} ${endFar.y}C${endFar.x - round * back} ${endFar.y + round * down} ${end.x - round * back} ${end.y + round * down} ${end.x} ${end.y}L${lip} ${y}Z`}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={of === 'pipe' ? 4 : 1.8}
      />
      <path d={`M${Math.min(lip, far) + 1} ${y}H${Math.max(lip, far) - 1}`} stroke="var(--paper)" strokeWidth={4} />
      {of === 'pipe' && (
        <path d={`M${far} ${y + 2}V${y - 8}H${far - 3}M${lip} ${y + 2}V${y - 8}h3`} fill="none" stroke="var(--ink)" strokeWidth={3} />
      )}
      {plug !== 'none' && (
        <path
          d={`M${plugAt.x - 9} ${plugAt.y - 5}q4 -5 8 0t9 0M${plugAt.x - 9} ${plugAt.y + 4}q4 -5 8 0t9 0`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.7}
        />
      )}
      {inside && <circle cx={bait.x} cy={bait.y} r={Math.min(7.5, Math.max(3.5, round))} fill="var(--dun)" />}
      {lured && round > 8 && (
        <path d={`M${lip + 1} ${y - 3}q5 -6 9 -1`} fill="none" stroke="var(--dun)" strokeWidth={3} strokeLinecap="round" />
      )}
      {p.says && (
        <text
          className="halo"
          x={Math.max(8, Math.min(end.x, endFar.x) - 4)}
          y={Math.min(view.height - 10, offFrost(end.y + round * down + 17, p.frostMm, view))}
        >
          {[baited ?? 'no bait', plug === 'none' ? '' : `${plug} over it`].filter(Boolean).join(', ')} ·{' '}
          {show('length', hole.depthMm, system)} deep, {show('angle', hole.angleDeg, system)}
        </text>
      )}
    </>
  );
}
