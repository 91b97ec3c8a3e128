import { Link } from 'react-router';
import { nowISO } from '../lib/kept/clock';
import { useState } from 'react';
import { useWeather } from '../lib/ask/queries';
import { allStill, bedded, Felt } from '../lib/fields/felt';
import { useOnce } from '../lib/fields/once';
import { pathOf, saidOf, unsaid } from '../lib/kept/built';
import { act, isWaiting, useKept } from '../lib/kept/outbox';
import type { LineNow, SetNow } from '../lib/kept/overlay';
import { useReach } from '../lib/ask/reach';
import { clock } from '../lib/words/time';
import type { Make, OptionTold, PointsAt, Pull } from '../lib/types.gen';
import { uncountedWords } from '../lib/words/uncounted';
import { capital } from '../lib/words/words';
import { leftOpen } from '../lib/words/stillin';
import { Means } from './means';
import { SearchCard } from './searchform';
import { StillIn } from './stillin';
import { toSee } from '../lib/kept/tosee';
import { caughtDetails, foundWords, whoseWords } from '../lib/words/looks';
import { timeWords } from '../lib/words/when';

/** Whether the bed of a set that was remade was felt since, and feeling it: one tap where nothing moves. */
function BedFelt({ open }: { open: SetNow }) {
  const { make } = open;
  const { data: weather } = useWeather();
  const [points, setPoints] = useState<PointsAt[] | null>(null);
  const say = (felt: PointsAt[]) => {
    const frozen = weather?.spots.find((s) => s.spotId === open.set.spotId)?.underfoot.frozen === true;
    const said = saidOf(make, make.layout, { ...unsaid, ...make.asBuilt, frozen, points: felt });
    void act(pathOf(make), said, `set ${open.set.number}, its bed felt`, { set: open.set.id, onKept: () => setPoints(null) });
  };
  const felt = make.asBuilt?.points ?? [];
  if (bedded(make.layout).length === 0) return null;
  if (felt.length > 0 && points === null) {
    return (
      <div>
        {feltWords(make)} ·{' '}
        <button type="button" className="word" onClick={() => setPoints(felt)}>
          feel it again
        </button>
      </div>
    );
  }
  return (
    <div>
      bed not felt since it was remade
      {points === null && (
        <div className="foot above-0">
          <button type="button" className="word" onClick={() => say(allStill(make.layout))}>
            nothing moves
          </button>
          <button type="button" className="word" onClick={() => setPoints([])}>
            it moves
          </button>
        </div>
      )}
      {points !== null && (
        <div className="fields">
          <Felt layout={make.layout} points={points} onPoints={setPoints} />
          <div className="wide">
            <button type="button" className="btn btn-primary" disabled={points.length === 0} onClick={() => say(points)}>
              Save
            </button>
          </div>
        </div>
      )}
    </div>
  );
}

/** What the core makes of what was felt; until it has, that it was. */
function feltWords({ layout, asBuilt }: Make) {
  const firm = bedded(layout).map((r) => r.bed.firm);
  if (firm.includes(false)) return <span className="ember">its bed moves; mend it before you leave</span>;
  if (firm.includes(undefined)) return 'its bed was felt';
  return asBuilt?.points.some((p) => p.felt.includes('rocks'))
    ? 'its bed lies as dead as frozen ground beds'
    : 'its bed was felt, nothing moves';
}

/** What was not done before a place was left: nothing forbids that. */
function LeftOpen({ done }: Pull) {
  const open = leftOpen(done);
  return open && <div className="dun">Left open: {open}.</div>;
}

/** What was answered, with undo; and, in another place on the screen, what comes next. */
export function Seen({
  view,
  open,
  onRemake,
  onDo,
  onAgain,
}: {
  view: LineNow;
  open: SetNow;
  onRemake: () => Promise<boolean>;
  onDo: (what: 'remake' | 'pull' | 'look', as?: OptionTold) => void;
  onAgain: () => void;
}) {
  const line = view.line.id;
  const { zone } = view.line;
  // What answers it without counting is the newest there is.
  const uncounted = open.uncounted;
  const visit = uncounted?.visit ?? open.lastVisit;
  const next = toSee(view).find((s) => s.set.id !== open.set.id);
  const details = visit?.catches.map((c) => caughtDetails(c, open.make.layout)).filter(Boolean) ?? [];
  const remade = visit === null ? open.make.follows !== null : visit.makeId !== open.make.id;
  const down = open.bead.state === 'down';
  const reached = useReach();
  const kept = useKept();
  const stalled = kept.some((w) => w.set === open.set.id && isWaiting(w) && w.stalled);
  const waits = !open.waits ? (
    ' · recorded'
  ) : reached && !stalled ? (
    ' · sending'
  ) : (
    <span className="ember"> · kept on this device, not sent yet</span>
  );
  const { pull } = open;

  const undo = useOnce(async (path: string) => {
    const outcome = await act(`${path}/undo`, { at: nowISO() }, `undo of set ${open.set.number}`, { set: open.set.id });
    return outcome.state !== 'unkept';
  });
  return (
    <>
      <div className="recorded" role="status">
        {visit && (
          <div>
            <b>{foundWords(visit)}</b>
            {visit.catches.length === 0 && whoseWords(visit)}
            {details.length > 0 && `, ${details.join('; ')}`}, {timeWords(visit, zone)}
            {!remade && !down && waits}
          </div>
        )}
        {uncounted && <div className="ember">{capital(uncountedWords(uncounted, view.now, zone))}.</div>}
        {remade && (
          <div>
            <b>remade</b>, {clock(open.make.builtAt, zone)}
            {waits}
          </div>
        )}
        {remade && !down && open.make.asBuilt && <BedFelt key={open.make.id} open={open} />}
        {down && (
          <div>
            <b>pulled</b>; it is down
            {waits}
            {pull && <LeftOpen {...pull} />}
          </div>
        )}
        {down && <StillIn view={view} of={view.stillIn.filter((x) => x.setId === open.set.id)} here />}
      </div>
      <div className="settling" key={`${visit?.id} ${open.make.id} ${open.bead.state}`}>
        <div className="foot above-0">
          {!remade && !down && visit && (
            <button type="button" className="word" onClick={() => void undo(`/lines/${line}/visits/${visit.id}`)}>
              undo
            </button>
          )}
          {remade && !down && (
            <button type="button" className="word" onClick={onAgain}>
              look again
            </button>
          )}
          {!remade && !down && (
            <button type="button" className="word" onClick={() => void onRemake()}>
              remade as it was
            </button>
          )}
          {!remade && !down && (
            <button type="button" className="word" onClick={() => onDo('remake')}>
              remade otherwise
            </button>
          )}
          {!down && open.lastVisit?.makeId !== open.make.id && (
            <Link className="word" to={`/line/${line}/bench/${open.make.designId}`}>
              say how it stands
            </Link>
          )}
          {!down && (
            <button type="button" className="word" onClick={() => onDo('look')}>
              ten-second look
            </button>
          )}
          {!down && (
            <button type="button" className="word" onClick={() => onDo('pull')}>
              pulled
            </button>
          )}
          {pull && (
            <button type="button" className="word" onClick={() => void undo(`/lines/${line}/pulls/${pull.id}`)}>
              undo
            </button>
          )}
        </div>
        {visit?.finding === 'catch' && (
          <p>
            <b>Gloves</b> for carcass, blood and scat. Report what must be reported; check with your agency.
          </p>
        )}
        <div className="room-for-next" />
        <Link className="btn btn-primary next" to={next ? `/line/${line}/round/${next.set.id}` : `/line/${line}/round`}>
          {next
            ? `Next: set ${next.set.number}, ${view.spots.find((s) => s.id === next.set.spotId)?.name ?? ''}`
            : 'Done, every set is seen'}
        </Link>
        {!remade && !down && (
          <div className="foot">
            <button type="button" className="word" onClick={onAgain}>
              look again
            </button>
          </div>
        )}
        {open.bead.state === 'sought' && <SearchCard open={open} line={line} toward={visit?.search?.toward ?? ''} />}
        {!remade && !down && visit && !open.uncounted && <Means open={open} line={line} visit={visit.id} onDo={onDo} />}
      </div>
    </>
  );
}
