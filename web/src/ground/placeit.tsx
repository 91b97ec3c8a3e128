import { lureClasses } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { beginDesign } from '../lib/ask/begin';
import { ask, Refused } from '../lib/ask/api';
import { Choice, Pick, Text } from '../lib/fields/fields';
import type { LineView, Places, OutlookQuestion, Side, Spot } from '../lib/types.gen';
import { useSettings } from '../lib/settings';
import { show, trim } from '../lib/words/units';
import { bearing } from '../lib/words/words';
import type { Changes } from '../lib/ask/change';
import { toGlobe, toPlane, type Point } from '../lib/plane';
import { newSpot } from './spotform';

export const percent = (share: number) => `${Math.round(share * 100)} %`;

/** Asks where beside a travel way an attractor belongs, for the class of scent chosen. */
export function usePlaceIt(view: LineView) {
  const [scentClass, setClass] = useState('gland');
  const [near, setNear] = useState<Point | null>(null);
  const [answer, setAnswer] = useState<Places | null>(null);
  const [wrong, setWrong] = useState('');
  const search = async (p: Point, of: string) => {
    setNear(p);
    setWrong('');
    try {
      const question: OutlookQuestion = { ...toGlobe(view.plane, p), class: of };
      setAnswer(await ask<Places>(`/lines/${view.line.id}/place`, question));
    } catch (error) {
      setAnswer(null);
      const problem = error instanceof Refused ? error.problem.fields?.[0] : undefined;
      setWrong(
        problem
          ? problem.field === 'latDeg'
            ? `That ${problem.says}`
            : `The ${problem.field} ${problem.says}; enter or import it first`
          : 'The program does not answer.',
      );
    }
  };
  return {
    scentClass,
    answer,
    wrong,
    point: (p: Point) => void search(p, scentClass),
    choose: (of: string) => {
      setClass(of);
      if (near) void search(near, of);
    },
    clear: () => {
      setAnswer(null);
      setNear(null);
      setWrong('');
    },
  };
}

export type PlaceIt = ReturnType<typeof usePlaceIt>;

/** The property of the spot nearest to a place: most likely the land it lies on. */
function propertyNear(view: LineView, at: { latDeg: number; lonDeg: number }): string {
  const here = toPlane(view.plane, at.latDeg, at.lonDeg);
  const far = (s: Spot) => {
    const p = toPlane(view.plane, s.latDeg, s.lonDeg);
    return Math.hypot(p.x - here.x, p.y - here.y);
  };
  return view.spots.reduce<Spot | undefined>((a, s) => (!a || far(s) < far(a) ? s : a), undefined)?.propertyId ?? '';
}

/** What the search found, in words, and the way on: to the bench, or a spot only. */
export function PlacePanel({
  view,
  place,
  changes,
  onSpot,
}: {
  view: LineView;
  place: PlaceIt;
  changes: Changes;
  onSpot: (id: string) => void;
}) {
  const { system } = useSettings();
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [chosen, setProperty] = useState<string | null>(null);
  const [failed, setFailed] = useState('');
  const best = place.answer?.sides[0];
  const property = chosen ?? (best ? propertyNear(view, best) : '');

  const mark = async (side: Side): Promise<string | null> => {
    const spot = newSpot(view.line, {
      propertyId: property,
      name: name.trim() === '' ? `${bearing(side.compassDeg)} side` : name.trim(),
      latDeg: side.latDeg,
      lonDeg: side.lonDeg,
      travelBearingDeg: Math.round(side.bearingDeg % 180),
    });
    try {
      await changes.change('spots', null, spot, `the spot ${spot.name}`);
      return spot.id;
    } catch (error) {
      setFailed(error instanceof Refused ? error.problem.detail : 'The program does not answer.');
      return null;
    }
  };
  const toBench = async (side: Side) => {
    const spot = await mark(side);
    if (spot === null) return;
    try {
      void navigate(`/line/${view.line.id}/bench/${await beginDesign(view.line.id, spot, side.facingDeg)}`);
    } catch {
      setFailed('The program does not answer. The spot is marked; begin its set on the bench later.');
    }
  };
  return (
    <div>
      <h2>Which side?</h2>
      <p>{best ? '' : 'Point at a travel way, where an attractor is wanted.'}</p>
      <Choice
        label="what it will smell of"
        path="class"
        value={place.scentClass}
        options={lureClasses}
        name={(c) => c}
        onValue={place.choose}
      />
      {place.wrong && (
        <div className="wrong" role="alert">
          {place.wrong}.
        </div>
      )}
      {best && (
        <>
          {place.answer?.sides.map((side, i) => (
            <p className="above-10 below-4" key={side.compassDeg}>
              {i === 0 ? 'Stand it on the ' : 'On the '}
              <b>{bearing(side.compassDeg)} side</b>
              {i === 0 &&
                `, ${show('ground', side.offM * 1000, system)} off the middle of the way, facing ${bearing(side.facingDeg)}, toward the way`}
              : scent then lies across it {percent(side.record)} of night hours
              {side.tonight > 0 && `, tonight ${percent(side.tonight)}`}.
            </p>
          ))}
          <p className="quiet">
            By the wind of {trim(place.answer?.nights ?? 0, 0)} nights, dusk to an hour after sunrise. Let hole or tuft be seen from both
            ways if the wind shifts; in broken ground it swirls, then use a loud scent.
          </p>
          <div className="form-grid">
            <Text label="name of the spot" path="name" value={name} onValue={setName} />
            <Pick
              label="property"
              path="propertyId"
              value={property}
              blank="choose"
              options={view.properties.map((p) => p.id)}
              name={(id) => view.properties.find((p) => p.id === id)?.name ?? ''}
              onValue={setProperty}
            />
          </div>
          <div className="build">
            <Button onClick={() => void toBench(best)}>Design a set here</Button>
            <button type="button" className="word" onClick={() => void mark(best).then((id) => id !== null && onSpot(id))}>
              mark a spot only
            </button>
          </div>
          {failed && (
            <div className="wrong" role="alert">
              {failed}
            </div>
          )}
        </>
      )}
    </div>
  );
}
