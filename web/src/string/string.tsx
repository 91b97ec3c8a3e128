import { useEffect, useRef, type KeyboardEvent } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { Mark } from '../draw/mark';
import { markOf, onDrag } from '../lib/words/parts';
import { groundPath } from '../draw/rough';
import { bedOf, bedShort } from '../lib/words/beds';
import { useLine, useLineID, useWeather } from '../lib/ask/queries';
import type { WeatherView } from '../lib/types.gen';
import { asBuilt } from '../lib/kept/asbuilt';
import { hasEnded } from '../lib/words/permission';
import { timeWords } from '../lib/words/when';
import { clock } from '../lib/words/time';
import { nights } from '../lib/words/units';
import type { LineNow, SetNow } from '../lib/kept/overlay';

interface Bead {
  key: string;
  to: string;
  label: string;
  kind?: string;
  number?: number;
  nights?: number;
  wants: string;
  tone: 'plain' | 'ember' | 'bold' | 'soft';
  dashed?: boolean;
  property?: string | undefined;
}

/** What a set wants, in few words. */
export function wants(set: SetNow, zone: string, bed = '', ended = false): { words: string; tone: Bead['tone'] } {
  const { bead, make } = set;
  if (set.waits) return { words: `${set.answered === 'looked' ? 'seen' : (set.answered ?? '')}, not sent`, tone: 'plain' };
  if (bead.state === 'down') return { words: 'down', tone: 'soft' };
  if (set.uncounted) return { words: `answered ${timeWords(set.uncounted.visit, zone)}`, tone: 'bold' };
  if (ended) return { words: 'permission ended', tone: 'ember' };
  if (bead.late) return { words: 'late', tone: 'ember' };
  if (bead.state === 'open') return { words: 'remake or pull', tone: 'ember' };
  if (bed !== '') return { words: bed, tone: 'ember' };
  if (onDrag(make.layout)) return { words: 'drag, look first', tone: 'bold' };
  return { words: bead.due ? dueShort(bead.due, zone) : '', tone: 'plain' };
}

const dueShort = (due: string, zone: string) => (clock(due, zone) === '00:00' ? 'by midnight' : `by ${clock(due, zone)}`);

function beadsOf(view: LineNow, weather: WeatherView | undefined): Bead[] {
  const line = view.line.id;
  const spot = new Map(view.spots.map((s) => [s.id, s.name]));
  const property = new Map(view.properties.map((p) => [p.id, p.name]));
  const sets = new Map(view.sets.map((s) => [s.set.id, s]));
  const designs = new Map(view.designs.map((d) => [d.id, d]));
  return view.round.flatMap((stop): Bead[] => {
    const at = { property: property.get(stop.propertyId) };
    const name = spot.get(stop.spotId) ?? '';
    const s = sets.get(stop.setId);
    const d = designs.get(stop.designId);
    if (s) {
      const { words, tone } = wants(s, view.line.zone, bedShort(bedOf(weather, s.set.id)), hasEnded(view, s.set.id));
      const sketch = designs.get(s.make.designId);
      const tomorrow = words.startsWith('by ') && !s.bead.today;
      return [
        {
          ...at,
          key: s.set.id,
          to: `/line/${line}/bench/${s.make.designId}`,
          label: `set ${s.set.number}, ${name}`,
          kind: markOf(s.make.layout),
          number: s.set.number,
          nights: s.bead.nights,
          wants: tomorrow ? 'tomorrow' : words,
          tone,
          // What is drawn on the bench is not what stands there.
          dashed: sketch !== undefined && s.bead.state !== 'down' && !asBuilt(sketch, s.make),
        },
      ];
    }
    if (d) {
      return [
        {
          ...at,
          key: d.id,
          to: `/line/${line}/bench/${d.id}`,
          label: `design at ${name}`,
          kind: markOf(d.layout),
          wants: view.built.includes(d.id) ? 'built, not sent' : 'not built yet',
          tone: 'soft',
          dashed: true,
        },
      ];
    }
    if (stop.setId !== '' || stop.designId !== '') return [];
    return [{ ...at, key: stop.spotId, to: `/line/${line}/ground?spot=${stop.spotId}`, label: `spot ${name}`, wants: name, tone: 'soft' }];
  });
}

const gap = 94;

/** Where each bead hangs: a property's beads take at least the room that its name needs. */
function places(beads: Bead[]): number[] {
  let x = 60;
  let groupStart = x;
  let name = beads[0]?.property;
  return beads.map((bead, i) => {
    if (i > 0) x += gap;
    if (bead.property !== name) {
      x = Math.max(x, groupStart + (name?.length ?? 0) * 6 + 24);
      groupStart = x;
      name = bead.property;
    }
    return x;
  });
}
const inks = { plain: 'var(--ink)', ember: 'var(--ember)', bold: 'var(--ink)', soft: 'var(--soft)' };

/** The whole line as a string of beads in running order, docked under every page. */
export function BeadString() {
  const { data: view } = useLine();
  const { data: weather } = useWeather();
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  const line = useLineID();
  const frame = useRef<HTMLDivElement>(null);
  const beads = view ? beadsOf(view, weather) : [];
  const at = places(beads);
  const here = beads.findIndex((b) => pathname + search === b.to || (pathname.includes('/round/') && pathname.endsWith(b.key)));
  const onRound = pathname.startsWith(`/line/${line}/round`);
  const target = (bead: Bead) => (onRound && bead.number !== undefined ? `/line/${line}/round/${bead.key}` : bead.to);

  useEffect(() => {
    const box = frame.current;
    if (box && here >= 0) box.scrollTo({ left: (at[here] ?? 0) - box.clientWidth / 2, behavior: 'smooth' });
  }, [here]); // eslint-disable-line react-hooks/exhaustive-deps -- the string stays put unless another set is chosen

  const walk = (e: KeyboardEvent, i: number) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
    if (by !== undefined) {
      e.preventDefault();
      frame.current?.querySelectorAll<SVGGElement>('.bead')[i + by]?.focus();
    }
    const bead = beads[i];
    if (bead && (e.key === 'Enter' || e.key === ' ')) {
      e.preventDefault();
      void navigate(target(bead));
    }
  };
  const width = Math.max(1280, (at.at(-1) ?? 0) + 120);
  return (
    <nav className="string" ref={frame} aria-label="the line, set by set">
      <svg width={width} height={92}>
        <path d={groundPath(0, width, 38, 2.2, 12, 30)} fill="none" stroke="var(--ink)" strokeWidth={1.6} />
        {beads.map((bead, i) => {
          const x = at[i] ?? 0;
          const ink = inks[bead.tone];
          return (
            <g key={bead.key} transform={`translate(${x} 38)`} onClick={() => void navigate(target(bead))} color={ink} cursor="pointer">
              <g
                className="bead"
                tabIndex={0}
                role="link"
                aria-label={`${bead.label}${bead.nights === undefined ? '' : `, ${nights(bead.nights)}`}${bead.wants === '' ? '' : `, ${bead.wants}`}`}
                aria-current={i === here ? 'true' : undefined}
                onKeyDown={(e) => walk(e, i)}
              >
                <circle
                  r={20}
                  fill={bead.kind === undefined ? 'transparent' : i === here ? 'var(--chosen)' : 'var(--paper)'}
                  stroke={bead.kind === undefined ? 'none' : ink}
                  strokeWidth={bead.tone === 'plain' || bead.tone === 'soft' ? 1.6 : 2.6}
                  strokeDasharray={bead.dashed ? '3.5 3' : undefined}
                />
                {bead.kind === undefined ? (
                  <path d="M-5 -5l10 10m0 -10l-10 10" stroke="var(--ink)" strokeWidth={1.8} />
                ) : (
                  <Mark kind={bead.kind} />
                )}
              </g>
              <g aria-hidden="true">
                {bead.property !== undefined && bead.property !== beads[i - 1]?.property && (
                  <text className="quiet-text" x={-gap / 2 + 4} y={-27}>
                    {bead.property}
                  </text>
                )}
                {bead.number !== undefined && (
                  <text className="numeral size-15 toned" x={-25} y={-14} textAnchor="end" color={ink}>
                    {bead.number}
                  </text>
                )}
                <text
                  className="toned size-12"
                  y={38}
                  textAnchor="middle"
                  color={ink}
                  fontWeight={bead.tone === 'ember' || bead.tone === 'bold' ? 700 : 400}
                >
                  {bead.nights === undefined ? '' : `${bead.nights} · `}
                  {bead.wants}
                </text>
              </g>
            </g>
          );
        })}
      </svg>
    </nav>
  );
}
