import { fallKinds } from '../lib/lists.gen';
import { useState } from 'react';
import { date, day, dayYear, daysBetween, instant, noInstant } from '../lib/words/time';
import type { Fall, FallKind, Ground, LineView, Sign } from '../lib/types.gen';
import { Choice, Text, WrongFields } from '../lib/fields/fields';
import type { FieldProblem } from '../lib/types.gen';
import { Seasons } from '../lib/fields/seasons';
import { ulid } from '../lib/ulid';
import { objections, type Changes } from '../lib/ask/change';

const dayMs = 86_400_000;
/** Sign older than this is no longer drawn. */
const forgottenDays = 60;

export interface Ages {
  first: string;
  last: string;
  days: number;
  /** Days from the first to the last, which is today unless the season is over. */
  shown: number;
  setShown: (n: number) => void;
  ageOf: (sign: Sign) => number | null;
}

/** Until when the ground can be shown: today, or the last sign of a season that is over. */
function lastDay(view: LineView, ground: Ground): string {
  const { season, open } = ground;
  if (season === null || season.id === open) return view.now;
  return ground.signs.reduce((a, s) => (s.seenAt > a ? s.seenAt : a), '') || `${season.to}T12:00:00Z`;
}

/** The date that the ground is shown at, and how old each sign was then. */
export function useAges(view: LineView, ground: Ground): Ages {
  const { zone } = view.line;
  const last = lastDay(view, ground);
  const firstSeen = ground.signs.reduce((a, s) => (s.seenAt < a ? s.seenAt : a), last);
  const days = Math.max(1, daysBetween(firstSeen, last, zone));
  const [back, setBack] = useState(0);
  const shown = Math.max(0, days - back);
  const ageOf = (sign: Sign) => {
    const age = shown - daysBetween(firstSeen, sign.seenAt, zone);
    return age < 0 || age > forgottenDays ? null : age;
  };
  return { first: firstSeen, last, days, shown, setShown: (n) => setBack(days - n), ageOf };
}

/** Replays sign as it appeared; falls of snow and rain stand on it, and can be added. */
export function DateSlider({ view, ground, ages, changes }: { view: LineView; ground: Ground; ages: Ages; changes: Changes }) {
  const { zone } = view.line;
  const at = new Date(Date.parse(ages.first) + ages.shown * dayMs).toISOString();
  const [adding, setAdding] = useState(false);
  const x = (iso: string) => (daysBetween(ages.first, iso, zone) / ages.days) * 100;
  return (
    <div className="slider">
      <Seasons seasons={ground.seasons} open={ground.open} all />
      <label className="quiet" htmlFor="date-slider">
        sign as it was on{' '}
        <b>
          {ages.shown < ages.days ? dayYear(at, zone) : ages.last === view.now ? `${day(view.now, zone)}, today` : dayYear(ages.last, zone)}
        </b>
      </label>
      <div className="track">
        <svg className="falls">
          {ground.falls.map((f) => (
            <svg key={f.id} x={`${Math.max(0, x(f.ended))}%`} overflow="visible">
              <title>{`${f.kind}, ${day(f.ended, zone)}`}</title>
              <line x1={1} x2={1} y2={26} />
              <text x={5} y={10}>
                {f.kind}
              </text>
            </svg>
          ))}
        </svg>
        <input
          id="date-slider"
          type="range"
          min={0}
          max={ages.days}
          value={ages.shown}
          aria-valuetext={day(at, zone)}
          onChange={(e) => ages.setShown(Number(e.target.value))}
        />
      </div>
      <button type="button" className="word quiet" aria-expanded={adding} onClick={() => setAdding(!adding)}>
        add snow or rain
      </button>
      {adding && <FallForm view={view} changes={changes} onDone={() => setAdding(false)} />}
    </div>
  );
}

function FallForm({ view, changes, onDone }: { view: LineView; changes: Changes; onDone: () => void }) {
  const { zone } = view.line;
  const [kind, setKind] = useState<FallKind>('snow');
  const [ended, setEnded] = useState(() => `${date(view.now, zone)}T00:00`);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const add = async () => {
    const at = instant(ended, zone);
    if (Number.isNaN(at)) {
      setProblems([{ field: 'ended', says: `${noInstant(ended)}. Choose when it stopped` }]);
      return;
    }
    const fall: Fall = {
      id: ulid(),
      lineId: view.line.id,
      kind,
      ended: new Date(at).toISOString(),
      deleted: false,
      version: 0,
    };
    try {
      await changes.change('falls', null, fall, `${kind} of ${day(fall.ended, zone)}`);
      onDone();
    } catch (error) {
      setProblems(objections(error));
    }
  };
  return (
    <WrongFields problems={problems}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void add();
        }}
      >
        <Choice label="what fell" path="kind" hide value={kind} options={fallKinds} name={(k) => k} onValue={setKind} />
        <Text label="it stopped at" path="ended" type="datetime-local" value={ended} onValue={setEnded} />
        <button type="submit" className="word">
          save
        </button>
      </form>
    </WrongFields>
  );
}
