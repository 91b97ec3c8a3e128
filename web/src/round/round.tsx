import { Link, useParams } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { markOf, onDrag } from '../lib/words/parts';
import { bedOf, bedSays } from '../lib/words/beds';
import { useLine, useWeather } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { clock, dueWords } from '../lib/words/time';
import type { LineNow, SetNow } from '../lib/kept/overlay';
import { capital, count } from '../lib/words/words';
import { toSee } from '../lib/kept/tosee';
import { stands } from '../lib/words/looks';
import { Hand } from './hand';
import { Plans } from '../lib/ask/may';
import { Opens } from '../lib/opens';
import { PlanWithWhatIHave } from './plan';
import { Sheet } from './sheet';
import { StillIn } from './stillin';

/** The round: at the table on one sheet, or one set with the list beside it; in the hand one or the other. */
export function RoundPage() {
  const { set } = useParams();
  const { data: view } = useLine();
  if (!view) return null;
  const open = view.sets.find((s) => s.set.id === set);
  if (set === undefined) {
    return (
      <main className="page round-page whole">
        <RoundList view={view} chosen={undefined} />
        <Sheet view={view} />
      </main>
    );
  }
  return (
    <main className={open ? 'page round-page open' : 'page round-page'}>
      <RoundList view={view} chosen={open?.set.id} />
      {open ? (
        <Hand key={open.set.id} view={view} open={open} />
      ) : (
        <p className="ember">No set stands under this address. Choose one from the list.</p>
      )}
    </main>
  );
}

function RoundList({ view, chosen }: { view: LineNow; chosen: string | undefined }) {
  const { zone, id } = view.line;
  const due = toSee(view);
  const seen = view.sets.filter((s) => !due.includes(s));
  const late = due.filter((s) => s.bead.late).length;
  const { firstLight, lastLight } = view.light;
  return (
    <section className="list">
      <h2>The round</h2>
      <p>
        {due.length === 0
          ? view.sets.some((s) => s.bead.state !== 'down')
            ? 'Nothing is due before tomorrow.'
            : 'No set is in the ground.'
          : `${capital(count(due.length))} to see by midnight${late > 0 ? '' : ', none late'}.`}{' '}
        {late > 0 && <b className="ember">{capital(count(late))} late.</b>} A look every calendar day is our habit, not a rule.{' '}
        {firstLight && lastLight && `Light enough from ${clock(firstLight, zone)} to ${clock(lastLight, zone)}.`}
      </p>
      <p className="quiet">Roads, ice, dark, cold, alone? Leave a plan of the round with somebody.</p>
      <ul className="rows">
        {due.map((s) => (
          <Row key={s.set.id} view={view} set={s} line={id} chosen={s.set.id === chosen} />
        ))}
      </ul>
      {view.stillIn.length > 0 && (
        <>
          <h3 className="above-16 still">Still in the ground</h3>
          <StillIn view={view} of={view.stillIn} />
        </>
      )}
      {seen.length > 0 && (
        <>
          <h3 className="above-16">Seen, or down</h3>
          <ul className="rows">
            {seen.map((s) => (
              <Row key={s.set.id} view={view} set={s} line={id} chosen={s.set.id === chosen} />
            ))}
          </ul>
        </>
      )}
      {chosen === undefined && (
        <Plans>
          <Opens word="tomorrow with what I have">
            <PlanWithWhatIHave view={view} />
          </Opens>
        </Plans>
      )}
    </section>
  );
}

function Row({ view, set, line, chosen }: { view: LineNow; set: SetNow; line: string; chosen: boolean }) {
  const { zone } = view.line;
  const spot = view.spots.find((s) => s.id === set.set.spotId);
  const property = view.properties.find((p) => p.id === spot?.propertyId);
  const { bead } = set;
  const { system } = useSettings();
  const { data: weather } = useWeather();
  const bed = bedSays(bedOf(weather, set.set.id), system);
  return (
    <li className={chosen ? 'in-hand' : undefined}>
      <Link className="due" to={`/line/${line}/round/${set.set.id}`} aria-current={chosen}>
        <MarkIcon kind={markOf(set.make.layout)} />
        <b>{set.set.number}</b>
        <span>
          {spot?.name} <span className="quiet">· {property?.name}</span>
          <span className="quiet under">
            {onDrag(set.make.layout) ? 'on a drag, look first; ' : ''}
            {bed !== '' && <b className="ember">{bed}; </b>}
            {stands(set, view.now, zone)}
          </span>
        </span>
        <b className={bead.late ? 'ember' : undefined}>{bead.state === 'down' ? 'down' : bead.due && dueWords(bead.due, view.now, zone)}</b>
      </Link>
    </li>
  );
}
