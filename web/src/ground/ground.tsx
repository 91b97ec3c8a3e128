import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate, useSearchParams } from 'react-router';
import { beginDesign } from '../bench/bench';
import { Link } from 'react-router';
import { useGround, useLine } from '../lib/queries';
import { useSettings } from '../lib/settings';
import { clock, day, daysBetween } from '../lib/time';
import type { Ground, LineView, Sign, Spot } from '../lib/types.gen';
import { show } from '../lib/units';
import { bearing, capital, word } from '../lib/words';
import { GroundMap } from './map';
import { toGlobe, toPlane } from './plane';
import { SignForm } from './signform';
import { SpotForm, useSpotDraft } from './spotform';

/** The ground: what is marked, where it lies, and the two things that are added to it, spots and sign. */
export function GroundPage() {
  const { data: view } = useLine();
  const { data: ground } = useGround();
  if (!view || !ground) return null;
  return <Open view={view} ground={ground} />;
}

function Open({ view, ground }: { view: LineView; ground: Ground }) {
  const [params, setParams] = useSearchParams();
  const draft = useSpotDraft(view.line);
  const chosen = ground.spots.find((s) => s.id === params.get('spot'));
  const adding = params.has('add') || ground.spots.length === 0;
  const go = (next: Record<string, string>) => setParams(next, { replace: true });
  return (
    <main className="page ground-page">
      <Spots
        view={view}
        ground={ground}
        chosen={chosen?.id ?? null}
        onChoose={(id) => go({ spot: id })}
        onAdd={() => go({ add: 'spot' })}
      />
      <GroundMap
        view={view}
        ground={ground}
        chosen={chosen?.id ?? null}
        placing={
          adding && draft.value.placed ? toPlane(view.line, draft.value.spot.latDeg, draft.value.spot.lonDeg) : null
        }
        onPlace={
          adding
            ? (p) =>
                draft.set({ ...draft.value, placed: true, spot: { ...draft.value.spot, ...toGlobe(view.line, p) } })
            : null
        }
        onChoose={(id) => go({ spot: id })}
      />
      <div>
        {adding ? (
          <SpotForm key={draft.value.spot.id} view={view} draft={draft} onDone={(id) => go({ spot: id })} />
        ) : chosen ? (
          <ChosenSpot
            key={chosen.id}
            view={view}
            spot={chosen}
            signs={ground.signs.filter((s) => s.spotId === chosen.id)}
          />
        ) : (
          <>
            <h2>Choose a spot</h2>
            <p>Touch one on the ground to see its sign and what stands there, or add one.</p>
          </>
        )}
      </div>
    </main>
  );
}

function Spots({
  view,
  ground,
  chosen,
  onChoose,
  onAdd,
}: {
  view: LineView;
  ground: Ground;
  chosen: string | null;
  onChoose: (id: string) => void;
  onAdd: () => void;
}) {
  const properties = ground.properties.filter((p) => ground.spots.some((s) => s.propertyId === p.id));
  return (
    <div>
      {properties.map((p) => (
        <section key={p.id} style={{ marginBottom: 10 }}>
          <h3>{p.name}</h3>
          <div className="quiet">{p.permission || 'no permission noted'}</div>
          <ul className="rows">
            {ground.spots
              .filter((s) => s.propertyId === p.id)
              .map((s) => {
                const newest = ground.signs.find((g) => g.spotId === s.id);
                return (
                  <li key={s.id}>
                    <button
                      type="button"
                      className="word"
                      aria-current={s.id === chosen}
                      onClick={() => onChoose(s.id)}
                      style={{ fontWeight: s.id === chosen ? 700 : 400 }}
                    >
                      {s.name}
                    </button>{' '}
                    <span className="quiet">{newest ? signWords(newest, view) : 'no sign yet'}</span>
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
      <div className="build">
        <Button onClick={onAdd}>Add a spot</Button>
      </div>
    </div>
  );
}

function signWords(sign: Sign, view: LineView): string {
  const what = sign.what === 'none' ? 'no sign' : `${word(sign.what)}, ${word(sign.animal)}`;
  const days = daysBetween(sign.seenAt, view.now, view.line.zone);
  return `${what} · ${days === 0 ? 'today' : days === 1 ? 'yesterday' : day(sign.seenAt, view.line.zone)}`;
}

function ChosenSpot({ view, spot, signs }: { view: LineView; spot: Spot; signs: Sign[] }) {
  const { system } = useSettings();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const [failed, setFailed] = useState(false);
  const designs = view.designs.filter((d) => d.spotId === spot.id);
  const number = new Map(view.sets.map((s) => [s.set.id, s.set.number]));
  const bench = async () => {
    try {
      void navigate(`/line/${view.line.id}/bench/${await beginDesign(view.line.id, spot.id)}`);
    } catch {
      setFailed(true);
    }
  };
  return (
    <div>
      <h2>{spot.name}</h2>
      <div className="quiet">
        way {show('ground', spot.travelWidthMm, system)} wide, running {bearing(spot.travelBearingDeg)} (
        {show('angle', spot.travelBearingDeg, system)}); {spot.wetness} {word(spot.soil)}
      </div>
      <div className="build">
        <Button onClick={() => void bench()}>To the bench</Button>
        <button type="button" className="word" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          add sign
        </button>
      </div>
      {failed && <p className="wrong">The program does not answer. Try again in a moment.</p>}
      {designs.length > 0 && (
        <p style={{ marginTop: 8, marginBottom: 0 }}>
          {designs.map((d) => (
            <span key={d.id}>
              <Link to={`/line/${view.line.id}/bench/${d.id}`}>
                {d.setId ? `set ${number.get(d.setId) ?? ''}` : 'a design, not built yet'}
              </Link>{' '}
            </span>
          ))}
        </p>
      )}
      {adding && <SignForm view={view} spot={spot} onDone={() => setAdding(false)} />}
      <h3 style={{ marginTop: 14 }}>Sign, newest first</h3>
      <ul className="rows">
        {signs.map((s) => (
          <li key={s.id}>
            <b>{s.what === 'none' ? 'No sign' : `${capital(word(s.what))}, ${word(s.animal)}`}</b>{' '}
            <span className="quiet">
              {s.what === 'none' ? '' : word(s.age)} · seen {day(s.seenAt, view.line.zone)}{' '}
              {clock(s.seenAt, view.line.zone)}
            </span>
            {s.note && <div>{s.note}</div>}
          </li>
        ))}
      </ul>
      {signs.length === 0 && (
        <p className="quiet">None yet. What is there, or that nothing is, decides which set belongs here.</p>
      )}
    </div>
  );
}
