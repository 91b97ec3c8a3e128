import { show, showAbout, type System } from '../lib/words/units';
import { anchorWord } from '../lib/words/called';
import type { Anchor, Attractor, BedOutput, Guide, Layout, Rig, RigAnswer, Trench, Way } from '../lib/types.gen';
import { ThingCut } from './cutthings';
import { anchorOf, baits, coverWords, drags, isAside, lures, smellOf, standsItself, urines } from '../lib/words/parts';
import { groundPath, hatching, rough, stonePath } from './rough';
import { across, alongMm, beyond, headMm, isFar, mouthMm, type View } from './view';

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

/** A trap with what is computed of it and what holds it. */
interface Buried {
  rig: Rig;
  bed: BedOutput;
  anchor: Anchor | undefined;
}

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
      <path d={hatching(left, right, y + 6, view.height - 4, 11)} stroke="var(--rule)" strokeWidth={1.1} aria-hidden="true" />
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

/** Snow that can be drawn. */
const leastSnowMm = 5;

/** Snow as it lies: behind a set it is left untouched and before it dragged off; on a way it lies all along. */
function SnowCut({ snowMm, upTo, view, system }: { snowMm: number; upTo: number | undefined; view: View; system: System }) {
  const y = view.groundY;
  const top = y - Math.min(snowMm * view.scale, roomPx(view));
  const right = upTo ?? view.width - 4;
  return (
    <g>
      <path
        d={`${groundPath(4, right, top, 1.6, 8)}L${right + (upTo === undefined ? 0 : 10)} ${y}`}
        fill="none"
        stroke="var(--slate)"
        strokeWidth={1.4}
      />
      <path d={hatching(6, right - 2, top + 3, y - 2, 23)} stroke="var(--slate)" strokeWidth={0.9} opacity={0.5} aria-hidden="true" />
      <text className="halo toned" x={8} y={top - 6} color="var(--slate)">
        {show('length', snowMm, system)} of snow{upTo === undefined ? '' : ', dragged off in front'}
      </text>
    </g>
  );
}

/** Ground that water stands in: short waves between the strokes of its soil. */
function WetGround({ view }: { view: View }) {
  const next = rough(37);
  let path = '';
  for (let y = view.groundY + 16; y < view.height - 8; y += 26)
    for (let x = 10 + next() * 40; x < view.width - 20; x += 50 + next() * 60) path += `M${x.toFixed(0)} ${y}q3 -4 6 0t6 0`;
  return <path d={path} fill="none" stroke="var(--slate)" strokeWidth={1} opacity={0.8} aria-hidden="true" />;
}

/** The room over the ground line in which things can stand. */
const roomPx = (view: View) => view.groundY - 352;

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

/** The floor of a trench, from its head to where it comes up. */
function TrenchCut({ trench, behindMm, view, system }: { trench: Trench; behindMm: number; view: View; system: System }) {
  const y = view.groundY;
  const [head, mouth] = [across(view, -behindMm), across(view, trench.lengthMm - behindMm)];
  const floor = y + trench.headMm * view.scale;
  return (
    <g>
      <path d={`M${head} ${y - 3}L${head} ${floor}L${mouth} ${y}L${mouth} ${y - 3}Z`} fill="var(--paper)" stroke="none" />
      <path d={`M${head} ${y}V${floor}L${mouth} ${y}`} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      <path
        d={`M${head - 8} ${y}V${floor}M${head - 12} ${y}h8M${head - 12} ${floor}h8`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.1}
      />
      <text className="halo" x={head - 16} y={(y + floor) / 2 + 5} textAnchor="end">
        {show('length', trench.headMm, system)}
      </text>
    </g>
  );
}

/** Shallow water over the set: its surface and the soft floor. */
function WaterCut({ view }: { view: View }) {
  const y = view.groundY;
  const [from, to] = [across(view, -150), across(view, 480)];
  let wave = `M${from} ${y - 15}`;
  for (let x = from; x < to; x += 24) wave += 'q6 -4 12 0t12 0';
  return (
    <g fill="none" stroke="var(--slate)">
      <path d={wave} strokeWidth={1.8} />
      <path d={`M${from} ${y - 15}L${from - 26} ${y}M${to} ${y - 15}L${to + 26} ${y}`} strokeWidth={1.2} />
    </g>
  );
}

/** What a way runs between, seen along it. */
function WayCut({ way, view }: { way: Way; view: View }) {
  const [y, room, x] = [view.groundY, roomPx(view), across(view, alongMm(view, way))];
  switch (view.turned ? way.between : '') {
    case 'fence':
      return (
        <g stroke="var(--ink)" fill="none">
          <path d={`M${x - 46} ${y}Q${x} ${y + 34} ${x + 46} ${y}`} fill="var(--paper)" strokeWidth={1.6} />
          <path d={`M${x - 70} ${y + 40}V${y - room + 6}`} stroke="var(--soft)" strokeWidth={7} />
          {[0.32, 0.55, 0.8].map((at) => (
            <circle key={at} cx={x} cy={y - room * at} r={2.6} fill="var(--ink)" />
          ))}
        </g>
      );
    case 'culvert': {
      const mouth = across(view, -230);
      return (
        <g stroke="var(--ink)" fill="none">
          <path d={`M4 ${y - room + 14}H${mouth}V${y}M4 ${y - room + 20}H${mouth - 6}V${y}`} strokeWidth={2} />
          <path d={hatching(4, mouth - 8, y - room + 22, y - 2, 31)} stroke="var(--rule)" />
        </g>
      );
    }
    case 'banks': {
      const next = rough(14);
      let path = `M4 ${y - 62}`;
      let slope = '';
      for (let at = 24; at < view.width; at += 26) {
        const top = y - 56 - next() * 14;
        path += `L${at} ${top.toFixed(1)}`;
        slope += `M${at} ${top + 4}l${((next() - 0.5) * 8).toFixed(1)} ${(18 + next() * 22).toFixed(1)}`;
      }
      return <path d={path + slope} stroke="var(--soft)" fill="none" strokeWidth={1.2} />;
    }
    case 'ruts':
      return <path d={hatching(4, view.width - 4, y - 8, y + 8, 41)} stroke="var(--soft)" strokeWidth={1.6} />;
    case 'brush':
      return (
        <g stroke="var(--soft)" fill="none">
          {[-0.42, -0.2, 0, 0.2, 0.42].map((at) => (
            <path key={at} transform={`translate(${x + at * view.width} ${y})`} d={brushPath(Math.round(50 + at * 40))} strokeWidth={1.1} />
          ))}
        </g>
      );
  }
  return null;
}

function brushPath(seed: number): string {
  const next = rough(seed);
  return Array.from(
    { length: 9 },
    () => `M${((next() - 0.5) * 20).toFixed(1)} 0l${((next() - 0.5) * 34).toFixed(1)} ${(-24 - next() * 40).toFixed(1)}`,
  ).join('');
}

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

/** A loop, with how high it hangs and what holds it. */
function LoopCut({ rig, anchor, view, system }: { rig: Rig; anchor: Anchor | undefined; view: View; system: System }) {
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
function BedDepth({ rig, bed, anchor, says, view, system }: Buried & { says: boolean; view: View; system: System }) {
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

/** Where words stand that would lie on the line of the frost: under it. */
function offFrost(y: number, frostMm: number | undefined, view: View): number {
  if (frostMm === undefined || frostMm <= leastFrostMm) return y;
  const line = view.groundY + frostMm * view.scale;
  return Math.abs(y - 5 - line) < 11 ? line + 16 : y;
}

/** Frost that can be drawn. */
const leastFrostMm = 4;

/** How deep the ground is frozen by tomorrow morning. */
function FrostLine({ frostMm, view, system }: { frostMm: number; view: View; system: System }) {
  const y = Math.min(view.groundY + frostMm * view.scale, view.height - 8);
  // Seen from far off there is no room for words between the ground and the line: they stand under it, where nothing is buried.
  const far = y - view.groundY < 22;
  const words = far ? { x: 8, y: y + 15 } : { x: view.width - 8, y: y - 6, textAnchor: 'end' as const };
  return (
    <g>
      <path d={`M4 ${y}H${view.width - 4}`} stroke="var(--slate)" strokeWidth={1.6} strokeDasharray="7 4" />
      <text className="halo toned" {...words} color="var(--slate)">
        frost by morning about {showAbout('length', frostMm, system)}
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
const beside = (x: number, off: number, view: View) => (x > view.width * 0.7 ? { x: x - off, textAnchor: 'end' as const } : { x: x + off });

/** Chain and what it holds to; a break in the line says that it goes deeper than is drawn. */
interface AnchorCutProps extends Buried {
  says: boolean;
  soil: string;
  frostMm: number | undefined;
  view: View;
  system: System;
}

function AnchorCut({ rig, bed, anchor, says, soil, frostMm, view, system }: AnchorCutProps) {
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
