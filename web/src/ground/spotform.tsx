import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Refused } from '../lib/api';
import { useDraft } from '../lib/draft';
import { Choice, Measure, Pick, Text, WrongFields } from '../lib/fields';
import { write } from '../lib/outbox';
import type { FieldProblem, Line, LineView, Property, Spot } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { soils, wetnesses, word } from '../lib/words';

interface Draft {
  spot: Spot;
  property: string;
  permission: string;
  placed: boolean;
  /** The id that a property gets if its name is new. */
  newPropertyID: string;
}

export interface SpotDraft {
  value: Draft;
  set: (value: Draft) => void;
  clear: () => void;
}

const beginSpot = (line: Line): Draft => ({
  spot: {
    id: ulid(),
    lineId: line.id,
    propertyId: '',
    name: '',
    latDeg: line.latDeg,
    lonDeg: line.lonDeg,
    travelBearingDeg: 0,
    travelWidthMm: 609.6,
    soil: 'loam',
    wetness: 'moist',
    version: 0,
  },
  property: '',
  permission: '',
  placed: false,
  newPropertyID: ulid(),
});

export function useSpotDraft(line: Line): SpotDraft {
  const [value, set, clear] = useDraft(`spot:${line.id}`, () => beginSpot(line));
  return {
    value,
    set,
    clear: () => {
      set(beginSpot(line));
      clear();
    },
  };
}

export function SpotForm({
  view,
  draft,
  onDone,
}: {
  view: LineView;
  draft: SpotDraft;
  onDone: (spotID: string) => void;
}) {
  const { spot, property, permission, placed, newPropertyID } = draft.value;
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [kept, setKept] = useState(false);
  const set = (change: Partial<Spot>) => draft.set({ ...draft.value, spot: { ...spot, ...change } });
  const known = view.properties.find((p) => p.name.toLowerCase() === property.trim().toLowerCase());

  const add = async () => {
    const missing: FieldProblem[] = [];
    if (property.trim() === '')
      missing.push({ field: 'property', says: 'is missing: name the property, so that its permission can be kept' });
    if (spot.name.trim() === '') missing.push({ field: 'name', says: 'is missing: write something here' });
    if (!placed)
      missing.push({ field: 'latDeg', says: 'is missing: touch its place on the ground, or write its coordinates' });
    setProblems(missing);
    if (missing.length > 0) return;
    const of: Property = known ?? {
      id: newPropertyID,
      lineId: view.line.id,
      name: property.trim(),
      permission,
      version: 0,
    };
    try {
      if (!known) await write(`/lines/${view.line.id}/properties/${of.id}`, of, `the property ${of.name}`);
      const sent = await write(
        `/lines/${view.line.id}/spots/${spot.id}`,
        { ...spot, propertyId: of.id },
        `the spot ${spot.name}`,
      );
      draft.clear();
      if (sent.sent) onDone(spot.id);
      else setKept(true);
    } catch (error) {
      if (error instanceof Refused) setProblems(error.problem.fields ?? []);
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
        <h2>A new spot</h2>
        <p className="quiet">
          Touch its place on the ground, or write its coordinates. What is written here is kept while you look
          elsewhere.
        </p>
        <div className="form-grid">
          <Text label="name" path="name" wide value={spot.name} onValue={(name) => set({ name })} />
          <Text
            label="property"
            path="property"
            wide
            value={property}
            list={view.properties.map((p) => p.name)}
            onValue={(name) => draft.set({ ...draft.value, property: name })}
          />
          {property.trim() !== '' && !known && (
            <Text
              label="permission: asked when, until when"
              path="permission"
              wide
              value={permission}
              onValue={(text) => draft.set({ ...draft.value, permission: text })}
            />
          )}
          <Measure
            label="degrees north"
            path="latDeg"
            kind="degrees"
            value={spot.latDeg}
            onValue={(latDeg) => draft.set({ ...draft.value, placed: true, spot: { ...spot, latDeg } })}
          />
          <Measure
            label="degrees east, west is minus"
            path="lonDeg"
            kind="degrees"
            value={spot.lonDeg}
            onValue={(lonDeg) => draft.set({ ...draft.value, placed: true, spot: { ...spot, lonDeg } })}
          />
          <Measure
            label="travel way runs, from north"
            path="travelBearingDeg"
            kind="angle"
            value={spot.travelBearingDeg}
            onValue={(travelBearingDeg) => set({ travelBearingDeg })}
          />
          <Measure
            label="travel way, wide"
            path="travelWidthMm"
            kind="ground"
            value={spot.travelWidthMm}
            onValue={(travelWidthMm) => set({ travelWidthMm })}
          />
          <Pick
            label="soil"
            path="soil"
            value={spot.soil}
            options={soils}
            name={word}
            onValue={(soil) => set({ soil })}
          />
          <Choice
            label="how it lies"
            path="wetness"
            value={spot.wetness}
            options={wetnesses}
            name={word}
            onValue={(wetness) => set({ wetness })}
          />
        </div>
        <div className="build">
          <Button type="submit">Mark the spot</Button>
        </div>
        {problems.some(
          (p) =>
            !['name', 'property', 'latDeg', 'lonDeg', 'travelBearingDeg', 'travelWidthMm', 'soil', 'wetness'].includes(
              p.field,
            ),
        ) && (
          <div className="wrong" role="alert">
            {problems.map((p) => `${p.field} ${p.says}`).join('; ')}
          </div>
        )}
        {kept && (
          <p className="ember">Kept in this browser: the program does not answer. It is sent as soon as it does.</p>
        )}
      </form>
    </WrongFields>
  );
}
