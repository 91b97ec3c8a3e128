import { patterns } from '../lib/lists.gen';
import Button from 'react-bootstrap/Button';
import type { LineNow } from '../lib/kept/overlay';
import type { Design, Layout, Make, Spot } from '../lib/types.gen';
import { nights, duration } from '../lib/words/units';
import { soilWord } from '../lib/words/called';
import { among } from '../lib/words/words';
import { standsIn, type Frost } from '../lib/ask/circumstances';
import { useAnswer } from './answer';
import type { Saving } from './design';
import { Drawing } from './drawing';
import { patternWords } from '../lib/words/patterns';

export interface OpenProps {
  design: Design;
  view: LineNow;
  saving: Saving;
  can: { back: boolean; on: boolean };
  onEdit: (change: (design: Design) => Design) => void;
  onStep: (way: 'back' | 'on') => void;
  onSettle: (keep: 'mine' | 'theirs', theirs: Design) => Promise<void>;
}

/** What stands of a set, drawn to be looked at. */
export function Stands({ make, spot, spares, frost }: { make: Make; spot: Spot | undefined; spares: string[]; frost: Frost | undefined }) {
  const found = useAnswer(make.layout, make.target, spares, false, {
    underfoot: frost?.underfoot,
    stands: standsIn(spot, frost),
    circumstances: undefined,
  });
  return (
    <div inert>
      <Drawing
        layout={make.layout}
        target={make.target}
        soil={soilWords(spot)}
        answer={found.answer}
        rigging={false}
        land={[]}
        snowMm={undefined}
        wet={spot?.wetness === 'wet'}
        frostMm={undefined}
        onMove={() => undefined}
        onRest={() => undefined}
      />
    </div>
  );
}

export const soilWords = (spot: Spot | undefined): string => (spot?.soil ? `${spot.wetness} ${soilWord(spot.soil)}`.trim() : 'the ground');

/** About how long it takes to build, and what that comes from. */
export function Minutes({ minutes, layout, frozen, snow }: { minutes: number; layout: Layout; frozen: boolean; snow: boolean }) {
  const times = [
    frozen ? 'three times that in frozen ground' : layout.lie?.baked ? 'twice that in ground baked hard' : '',
    snow ? 'half as much again in snow' : '',
  ].filter(Boolean);
  return (
    <details className="quiet">
      <summary>
        about {duration(minutes)} to build{frozen ? ' in frozen ground' : ''}
      </summary>
      The habit of the trade for {patternWords(layout)} in open ground{times.length > 0 ? `, ${times.join(', ')}` : ''}. A judgement: your
      own builds are not timed yet.
    </details>
  );
}

export function SavingWords({ saving }: { saving: Saving }) {
  switch (saving.state) {
    case 'saved':
      return <span>saved</span>;
    case 'saving':
      return <span>saving</span>;
    case 'kept':
      return <span className="ember">kept in this browser, not saved yet</span>;
    case 'refused':
      return <span className="ember">not saved: see below</span>;
    case 'conflict':
      return <span className="ember">changed elsewhere</span>;
  }
}

export function Conflict({ theirs, onSettle }: { theirs: Design; onSettle: OpenProps['onSettle'] }) {
  return (
    <div className="notice" role="alert">
      <p>This design was changed in another window since you opened it. Both are still there.</p>
      <Button onClick={() => void onSettle('mine', theirs)}>Keep what is here</Button>{' '}
      <button type="button" className="word" onClick={() => void onSettle('theirs', theirs)}>
        take the other
      </button>
    </div>
  );
}

interface HeadProps {
  layout: Layout;
  set: LineNow['sets'][number] | undefined;
  differs: boolean;
  spot: Spot | undefined;
  ended: string;
}

/** Which set is on the bench, at which spot, and how what is drawn differs from what stands there. */
export function Head({ layout, set, differs, spot, ended }: HeadProps) {
  return (
    <>
      <h2>
        {set ? `Set ${set.set.number}` : 'A new set'}, {spot?.name}
      </h2>
      {set && differs && (
        <p className="drawn-here">
          Set {set.set.number}: {patternWords(set.make.layout)} stands, {nights(set.bead.nights)}. Drawn here:{' '}
          {patternWords(layout) === patternWords(set.make.layout) ? 'the same, changed' : patternWords(layout)}, <b>not built</b>.
        </p>
      )}
      {!among(patterns, layout.pattern) && (
        <p className="ember" role="status">
          A newer program made this set, of a kind that is not known here ({layout.pattern}). It is kept as it is; nothing is said of what
          it is worth.
        </p>
      )}
      {ended && (
        <p className="ember" role="status">
          {ended}
        </p>
      )}
    </>
  );
}
