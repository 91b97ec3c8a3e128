import { useState } from 'react';
import { useSettings } from '../lib/settings';
import type { Circumstances, Layout, Other, Range, Remedy, Sight, Sparing } from '../lib/types.gen';
import { dayOf } from '../lib/words/time';
import { duration, nights, trim } from '../lib/words/units';
import { animalWord } from '../lib/words/called';
import { capital, listed, plural } from '../lib/words/words';
import { Opens } from '../lib/opens';
import type { Follows } from './following';
import { openWords } from './link';
import { remedyWords } from '../lib/words/remedies';

/** A change that was tried: what it was, and the set before it and after. */
export interface Tried {
  words: string;
  before: Layout;
  after: Layout;
}

interface Props {
  follows: Follows & { busy: boolean };
  around: Circumstances | undefined;
  layout: Layout;
  target: string;
  tried: Tried | null;
  onTry: (tried: Tried | null) => void;
}

/** So many are shown before one asks for more. */
const few = 3;

const per100 = (n: number): string => (n < 0.95 ? trim(n, 2) : trim(n, 1));

/** Which single change would help most, by how much, and what it takes. */
export function WhatHelps({ follows, around, layout, target, tried, onTry }: Props) {
  const single = follows.remedies.filter((r) => r.key !== 'pattern');
  const otherwise = follows.remedies.filter((r) => r.key === 'pattern');
  const given = { layout, onTry, busy: follows.busy, built: (around?.night ?? 1) > 1 };
  return (
    <section className="notice" aria-label="what would help" aria-busy={follows.busy}>
      <h3>What would help</h3>
      <div role="status">
        {tried ? (
          <>
            Tried: {tried.words}.{' '}
            <button type="button" className="word" onClick={() => onTry(null)}>
              put it back
            </button>
          </>
        ) : (
          follows.busy && follows.done && <span className="quiet">Being weighed anew; this is of the set before.</span>
        )}
      </div>
      {single.length > 0 && <Offers {...given} offers={single} says={(r) => gainWords(r, target)} />}
      {single.length === 0 && follows.done && <p className="quiet">No single change would catch more for certain.</p>}
      {!follows.done && <p className="quiet">Trying what the trade offers…</p>}
      {otherwise.length > 0 && (
        <Opens word="made another way">
          <Offers {...given} offers={otherwise} says={(r) => gainWords(r, target)} />
        </Opens>
      )}
      {follows.sparings.length > 0 && (
        <Opens word="what would spare others">
          <Offers {...given} offers={follows.sparings} says={(s) => spareWords(s, target)} />
        </Opens>
      )}
      <details className="quiet">
        <summary>what this comes from</summary>
        {overWords(around)} Each change is tried on the same 20,000 made-up visits of a {animalWord(target)}, foot for foot, and the whole
        chain is computed of both. Listed is what catches more by over twice the error of that difference, and by a twentieth of what the
        set catches. A change that opens the bed of a coyote set has it settle anew for three nights, another pattern is another set; that
        is counted. Minutes are those at the set, without the way there. What would spare others is tried on 4,000 visits of each of them.
        Minutes, and how readily an animal commits, are judgements of the trade.
      </details>
    </section>
  );
}

/** So many of an animal; one is one. */
export const animals = (n: number, key: string): string => `${per100(n)} ${per100(n) === '1' ? animalWord(key) : plural(key)}`;

/** Over which nights a gain is told. */
function overWords(around: Circumstances | undefined): string {
  const { left = 0, leftTo = '' } = around ?? {};
  if (left <= 0) return 'Told over fourteen nights, since it is not known when the line comes up.';
  return leftTo === '' ? `Told over the next ${nights(left)}.` : `Told over the ${nights(left)} to the end of the ${leftTo}.`;
}

const gainWords = (r: Remedy, target: string): string =>
  [
    `${per100(r.gain)} more ${per100(r.gain) === '1' ? animalWord(target) : plural(target)} in 100 nights`,
    r.minutes > 0 && `${takes(r.minutes)} there`,
    r.anew && 'it settles anew',
    r.opens !== undefined && `only because a season turns on ${dayOf(r.opens)}`,
  ]
    .filter(Boolean)
    .join(', ');

/** A short act is told by the minute, a long one roughly. */
const takes = (minutes: number): string => (minutes < 10 ? `${trim(minutes, 0)} min` : duration(minutes));

/** How many fewer, and what that costs. */
function spareWords(s: Sparing, target: string): string {
  // Fewer dogs may be more raccoons: each is said by itself.
  const kept = s.fewerPets >= 0.05 ? ` in all, ${per100(s.fewerPets)} fewer dogs and cats` : '';
  const cost =
    s.gain < -2 * s.error
      ? `${animals(-s.gain, target)} fewer`
      : s.gain > 2 * s.error
        ? `${animals(s.gain, target)} more`
        : `no ${animalWord(target)} less`;
  return `${per100(s.fewer)} fewer in 100 nights${kept}; ${cost}`;
}

interface OffersProps<T extends Remedy> {
  offers: T[];
  says: (offer: T) => string;
  layout: Layout;
  /** Whether the set stands already. */
  built: boolean;
  /** What is offered may be of the set before: trying it would take back what was changed since. */
  busy: boolean;
  onTry: (tried: Tried) => void;
}

function Offers<T extends Remedy>({ offers, says, layout, built, busy, onTry }: OffersProps<T>) {
  const { system } = useSettings();
  const [all, setAll] = useState(false);
  const shown = all ? offers : offers.slice(0, few);
  return (
    <ul className="helps">
      {shown.map((r) => {
        const words = r.key === 'wait' && !built ? 'from the fourth night on' : remedyWords(r, layout, system);
        const after = r.layout;
        return (
          <li key={`${r.key} ${r.slot} ${r.to ?? ''}`}>
            {capital(words)}{' '}
            <span className="quiet">
              {says(r)}
              {after && (
                <>
                  {' · '}
                  <button
                    type="button"
                    className="word"
                    disabled={busy}
                    aria-label={`try it: ${words}`}
                    onClick={() => onTry({ words, before: layout, after })}
                  >
                    try it
                  </button>
                </>
              )}
            </span>
          </li>
        );
      })}
      {offers.length > few && (
        <li>
          <button type="button" className="word" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? 'fewer' : `${offers.length - few} more`}
          </button>
        </li>
      )}
    </ul>
  );
}

interface WhoProps {
  others: Other[];
  /** Of all that the line is set for, the target among them. */
  all: Range | null;
  around: Circumstances | undefined;
  sight: Sight | undefined;
}

/** Hardly any are not drawn. */
const hardly = 0.05;

/** Who else the set would catch, behind one word. */
export function WhoElse(props: WhoProps) {
  return (
    <section className="notice" aria-label="who else">
      <Opens word="who else comes">
        <Others {...props} />
      </Opens>
    </section>
  );
}

/** Who else the set would catch in a hundred nights, by who is about. */
function Others({ others, all, around, sight }: WhoProps) {
  // Of whom nothing is known nothing is drawn.
  const known = others.flatMap(({ species, fire, per100: range }) => (range ? [{ species, fire, ...range }] : []));
  const drawn = known.filter((o) => o.mid >= hardly);
  const rest = known.filter((o) => o.mid < hardly).map((o) => plural(o.species));
  const most = Math.max(1, ...drawn.map((o) => o.high));
  const x = (n: number) => 2 + (n / most) * 118;
  const late = Object.entries(around?.others ?? {}).flatMap(([key, is]) => (is.about !== undefined && is.about < 1 ? [plural(key)] : []));
  const unlooked = others.filter((o) => o.unlooked).map((o) => plural(o.species));
  return (
    <>
      <h3>Who else, in 100 set-nights</h3>
      <ul className="others">
        {drawn.map(({ species, fire, low, mid, high }) => {
          return (
            <li key={species}>
              {animalWord(species)}
              <svg
                viewBox="0 0 160 15"
                height={15}
                role="img"
                aria-label={`${per100(mid)}, between ${per100(low)} and ${per100(high)}; ${trim(fire * 100, 0)} of 100 that work it`}
              >
                <path d={`M${x(low)} 8H${x(high)}`} stroke="currentColor" strokeWidth={0.8} strokeDasharray="2 2" />
                <path d={`M2 8H${x(mid)}`} stroke="currentColor" strokeWidth={1.8} />
                <circle cx={x(mid)} cy={8} r={3.4} fill="currentColor" />
                <text className="toned" x={x(high) + 8} y={12.5} color="currentColor">
                  {per100(mid)}
                </text>
              </svg>
            </li>
          );
        })}
      </ul>
      {all && (
        <div className="quiet">
          All targets together, about {per100(all.mid)}, {openWords(all)}.
        </div>
      )}
      {rest.length > 0 && <div className="quiet">Hardly any {listed(rest)}.</div>}
      {unlooked.length > 0 && <div className="quiet">Nobody looked for sign of {listed(unlooked)}.</div>}
      {late.length > 0 && <div className="quiet">Now few {listed(late)} are about.</div>}
      {sight?.word === 'bold' && !late.includes(plural('skunk')) && (
        <div className="quiet">A set that shows so calls skunks and opossums too, early in the season.</div>
      )}
      <details className="quiet">
        <summary>what this comes from</summary>
        The line is broken between where it lies four times in five. The best sign of each near the set, and what came to it by your own
        looks; how many are about at this time and in this cold; how readily each works a set; and 20,000 visits of each, against pan and
        anchor. The visits are computed, the rest are judgements.
      </details>
    </>
  );
}
