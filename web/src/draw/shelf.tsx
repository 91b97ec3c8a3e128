import type { KeyboardEvent } from 'react';
import { groundPath } from './rough';

/** A bottle or jar on the shelf. */
export interface Standing {
  key: string;
  id: string;
  /** Written on its class's place on the shelf, before the first of the class. */
  heading?: string | undefined;
  name: string;
  jar: boolean;
  open: boolean;
  /** 0 to 1. */
  full: number;
  words: string;
  tone: 'ember' | 'dun' | 'plain' | 'soft';
}

const cell = 82;
const plank = 152;
const tones = { ember: 'var(--ember)', dun: 'var(--dun)', soft: 'var(--soft)', plain: 'var(--ink)' };

const bottlePath = 'M-17 0V-46Q-17 -54 -8 -58V-68H8V-58Q17 -54 17 -46V0Z';
const jarPath = 'M-24 0V-52Q-24 -56 -20 -56H20Q24 -56 24 -52V0Z';

/** Bottles and jars on planks, each filled as far as it is. */
export function ShelfDrawing({
  all,
  width,
  chosen,
  onChoose,
}: {
  all: Standing[];
  width: number;
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const across = Math.floor(width / cell);
  const planks = Math.max(1, Math.ceil(all.length / across));
  return (
    <svg viewBox={`0 0 ${width} ${planks * plank}`} width="100%" role="group" aria-label="the shelf, bottle by bottle">
      {Array.from({ length: planks }, (_, i) => (
        <path key={i} d={groundPath(0, width, i * plank + 104, 1.4, 71 + i, 60)} fill="none" stroke="var(--ink)" strokeWidth={3} />
      ))}
      {all.map((one, i) => (
        <g key={one.key} transform={`translate(${(i % across) * cell + cell / 2} ${Math.floor(i / across) * plank + 102})`}>
          {one.heading !== undefined && (
            <text className="quiet-text" x={-cell / 2 + 6} y={-86}>
              {one.heading}
            </text>
          )}
          <Bottle one={one} chosen={one.id === chosen} onChoose={onChoose} />
        </g>
      ))}
    </svg>
  );
}

function Bottle({ one, chosen, onChoose }: { one: Standing; chosen: boolean; onChoose: (id: string) => void }) {
  const path = one.jar ? jarPath : bottlePath;
  const tall = one.jar ? 50 : 48;
  const half = one.jar ? 24 : 17;
  const choose = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' && e.key !== ' ') return;
    e.preventDefault();
    onChoose(one.id);
  };
  return (
    <g cursor="pointer" onClick={() => onChoose(one.id)}>
      <g
        className="hook"
        role="button"
        tabIndex={0}
        aria-pressed={chosen}
        aria-label={`${one.name}, ${one.open ? 'open' : 'not open'}, ${one.words}`}
        onKeyDown={choose}
      >
        <rect className="ground" x={-cell / 2 + 2} y={-80} width={cell - 4} height={122} />
        {one.full > 0 && <rect x={-half + 2} y={-tall * one.full} width={2 * half - 4} height={tall * one.full} fill="var(--way)" />}
        {one.full > 0 && <path d={`M${-half + 2} ${-tall * one.full}H${half - 2}`} stroke="var(--ink)" strokeWidth={1} />}
        <path d={path} fill="none" stroke="var(--ink)" strokeWidth={1.7} strokeDasharray={one.full <= 0 ? '3 3' : undefined} />
        <rect
          x={one.jar ? -22 : -9}
          y={one.jar ? -64 : -76}
          width={one.jar ? 44 : 18}
          height={8}
          fill={one.open ? 'none' : 'var(--ink)'}
          stroke="var(--ink)"
          strokeWidth={1.4}
        />
      </g>
      <g aria-hidden="true">
        <text className="size-12" y={20} textAnchor="middle" fontWeight={chosen ? 700 : 400}>
          {one.name}
        </text>
        <text className="size-12 toned" y={35} textAnchor="middle" color={tones[one.tone]} fontWeight={one.tone === 'ember' ? 700 : 400}>
          {one.words}
        </text>
      </g>
    </g>
  );
}
