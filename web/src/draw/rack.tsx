import type { KeyboardEvent } from 'react';
import { groundPath, rough } from './rough';
import { PanScale } from './panscale';
import { Chain, TrapShapeDrawing, type TrapShape } from './trap';
import type { System } from '../lib/words/units';

/** A trap as it hangs: what is written under it, and how it is drawn. */
export interface Hanging {
  id: string;
  number: number;
  size: string;
  shape: TrapShape;
  /** Not on the rack: only its nail and its outline. */
  out: boolean;
  /** Tied up with a red tag: it stays home. */
  kept: boolean;
  words: string;
  tone: 'ember' | 'dun' | 'soft' | 'plain';
  label: string;
  window?: { minN: number; maxN: number; conflict: boolean; meanN: number | undefined; sdN: number; verdict: string } | undefined;
}

const cell = 97;
const row = 141;
const scale = 0.37;
const tones = { ember: 'var(--ember)', dun: 'var(--dun)', soft: 'var(--soft)', plain: 'var(--ink)' };

interface Hook {
  x: number;
  y: number;
  hanging: Hanging;
  /** The first of its size on this rail. */
  heads: boolean;
}

/** Hangs the traps on rails, one size after another, with a gap between sizes. */
function hooks(all: Hanging[], width: number): { hooks: Hook[]; rails: number } {
  const found: Hook[] = [];
  let x = 0;
  let rail = 0;
  let size: string | null = null;
  for (const hanging of all) {
    const heads = hanging.size !== size;
    if (heads && x > 0) x += 16;
    if (x + cell > width) {
      x = 0;
      rail += 1;
    }
    found.push({ x: x + cell / 2, y: rail * row + 18, hanging, heads: heads || x === 0 });
    x += cell;
    size = hanging.size;
  }
  return { hooks: found, rails: rail + 1 };
}

interface Props {
  traps: Hanging[];
  width: number;
  chosen: string;
  system: System;
  onChoose: (id: string) => void;
}

/** The rack: rails with nails, and every trap to one scale on its own nail; those that are out have left their outline. */
export function RackDrawing({ traps, width, chosen, system, onChoose }: Props) {
  const hung = hooks(traps, width);
  const walk = (e: KeyboardEvent<SVGGElement>, id: string) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
    if (by !== undefined) {
      e.preventDefault();
      const all = e.currentTarget.ownerSVGElement?.querySelectorAll<SVGGElement>('.hook') ?? [];
      [...all].find((_, i) => all[i - by] === e.currentTarget)?.focus();
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      onChoose(id);
    }
  };
  return (
    <svg viewBox={`0 0 ${width} ${hung.rails * row + 8}`} width="100%" role="group" aria-label="the rack, trap by trap">
      {Array.from({ length: hung.rails }, (_, i) => (
        <g key={i}>
          <path d={groundPath(0, width, i * row + 18, 1.6, 31 + i, 40)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
          <path d={groundPath(0, width, i * row + 23, 1.4, 57 + i, 40)} fill="none" stroke="var(--rule)" strokeWidth={1} />
        </g>
      ))}
      {hung.hooks.map(({ x, y, hanging, heads }) => (
        <g key={hanging.id} transform={`translate(${x} ${y})`}>
          {heads && (
            <text x={-cell / 2 + 4} y={-6} className="quiet-text">
              {hanging.size}
            </text>
          )}
          <Hook hanging={hanging} chosen={hanging.id === chosen} system={system} onChoose={onChoose} onWalk={walk} />
        </g>
      ))}
    </svg>
  );
}

function Hook({
  hanging,
  chosen,
  system,
  onChoose,
  onWalk,
}: {
  hanging: Hanging;
  chosen: boolean;
  system: System;
  onChoose: (id: string) => void;
  onWalk: (e: KeyboardEvent<SVGGElement>, id: string) => void;
}) {
  const lean = (rough(hanging.number)() - 0.5) * 7;
  const ink = hanging.out ? 'var(--soft)' : 'var(--ink)';
  return (
    <g color={ink} cursor="pointer" onClick={() => onChoose(hanging.id)}>
      <g
        className="hook"
        role="button"
        tabIndex={0}
        aria-label={hanging.label}
        aria-pressed={chosen}
        onKeyDown={(e) => onWalk(e, hanging.id)}
      >
        <rect className="ground" x={-cell / 2 + 2} y={4} width={cell - 4} height={row - 26} />
        <circle cy={0} r={3} fill="var(--ink)" />
        <g transform={`rotate(${lean})`} opacity={hanging.out ? 0.75 : 1}>
          {!hanging.out && <Chain length={22} />}
          <g transform="translate(0 56)" strokeDasharray={hanging.out ? '2 4' : undefined}>
            {hanging.out ? (
              <circle r={(hanging.shape.jawSpreadMm / 2) * scale || 24} fill="none" stroke="currentColor" />
            ) : (
              <TrapShapeDrawing trap={hanging.shape} scale={scale} />
            )}
          </g>
        </g>
        {hanging.kept && (
          <g>
            <path d="M0 4L16 22" stroke="var(--ember)" strokeWidth={1.2} />
            <path d="M10 20l13 -4l6 15l-13 5z" fill="var(--ember)" />
          </g>
        )}
      </g>
      <g aria-hidden="true">
        <text className="numeral size-16 toned" x={-cell / 2 + 6} y={22} fontWeight={chosen ? 700 : 400} color="currentColor">
          {hanging.number}
        </text>
        {hanging.window && !hanging.out && (
          <g transform="translate(-32 100)">
            <PanScale width={64} {...hanging.window} system={system} />
          </g>
        )}
        <text
          className="toned size-12"
          y={114}
          textAnchor="middle"
          color={tones[hanging.tone]}
          fontWeight={hanging.tone === 'ember' ? 700 : 400}
        >
          {hanging.words}
        </text>
      </g>
    </g>
  );
}
