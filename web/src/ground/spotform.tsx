import { metKinds, soils, surfaces, wetnesses } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useDraft } from '../lib/draft';
import { Choice, Measure, Pick, Text, WrongFields } from '../lib/fields';
import type { FieldProblem, Line, LineView, Property, Spot } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { word } from '../lib/words';
import { objections, type Changes } from '../lib/change';
import { HereButton } from './whereabouts';

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

/** A spot as it begins: what is not known of it has the likeliest value. */
export const newSpot = (line: Line, known: Partial<Spot>): Spot => ({
  id: ulid(),
  lineId: line.id,
  propertyId: '',
  name: '',
  latDeg: line.latDeg,
  lonDeg: line.lonDeg,
  travelBearingDeg: 0,
  travelWidthMm: 609.6,
  waysMeet: 1,
  soil: 'loam',
  wetness: 'moist',
  surface: 'grass',
  swirls: false,
  shy: false,
  seenBy: '',
  met: [],
  deleted: false,
  version: 0,
  ...known,
});

const beginSpot = (line: Line): Draft => ({ spot: newSpot(line, {}), property: '', permission: '', placed: false, newPropertyID: ulid() });

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

/** A new spot: its name and place first, what is known of it below. */
export function SpotForm({
  view,
  draft,
  changes,
  onDone,
}: {
  view: LineView;
  draft: SpotDraft;
  changes: Changes;
  onDone: (spotID: string) => void;
}) {
  const { spot, property, permission, placed, newPropertyID } = draft.value;
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [kept, setKept] = useState(false);
  const set = (change: Partial<Spot>) => draft.set({ ...draft.value, spot: { ...spot, ...change } });
  const place = (change: Partial<Spot>) => draft.set({ ...draft.value, placed: true, spot: { ...spot, ...change } });
  const known = view.properties.find((p) => p.name.toLowerCase() === property.trim().toLowerCase());

  const add = async () => {
    const missing: FieldProblem[] = [];
    if (property.trim() === '')
      missing.push({ field: 'property', says: 'is missing: name the property, so that its permission can be kept' });
    if (spot.name.trim() === '') missing.push({ field: 'name', says: 'is missing: write something here' });
    if (!placed) missing.push({ field: 'latDeg', says: 'is missing: touch its place on the ground, or write its coordinates' });
    setProblems(missing);
    if (missing.length > 0) return;
    const of: Property = known ?? {
      id: newPropertyID,
      lineId: view.line.id,
      name: property.trim(),
      permission,
      asked: '',
      until: '',
      deleted: false,
      version: 0,
    };
    try {
      if (!known) await changes.change('properties', null, of, `the property ${of.name}`);
      const sent = await changes.change('spots', null, { ...spot, propertyId: of.id }, `the spot ${spot.name}`);
      draft.clear();
      if (sent) onDone(spot.id);
      else setKept(true);
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
        <h2>A new spot</h2>
        <p className="quiet">
          Touch its place on the ground, or write its coordinates. What is written here is kept while you look elsewhere.
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
              label="permission, in your words"
              path="permission"
              wide
              value={permission}
              onValue={(text) => draft.set({ ...draft.value, permission: text })}
            />
          )}
          <Measure label="degrees north" path="latDeg" kind="degrees" value={spot.latDeg} onValue={(latDeg) => place({ latDeg })} />
          <Measure
            label="degrees east, west is minus"
            path="lonDeg"
            kind="degrees"
            value={spot.lonDeg}
            onValue={(lonDeg) => place({ lonDeg })}
          />
          <HereButton onPlace={(latDeg, lonDeg) => place({ latDeg, lonDeg })} />
          <SpotFields spot={spot} set={set} />
        </div>
        <div className="build">
          <Button type="submit">Mark the spot</Button>
        </div>
        {kept && <p className="ember">Kept in this browser: the program does not answer. It is sent as soon as it does.</p>}
      </form>
    </WrongFields>
  );
}

/** What is known of a spot beside its name and place. */
export function SpotFields({ spot, set }: { spot: Spot; set: (change: Partial<Spot>) => void }) {
  const met = spot.met;
  return (
    <>
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
      <Choice
        label="ways that meet here"
        path="waysMeet"
        value={String(spot.waysMeet)}
        options={['1', '2', '3', '4']}
        name={(n) => n}
        onValue={(n) => set({ waysMeet: Number(n) })}
      />
      <Pick label="soil" path="soil" value={spot.soil} options={soils} name={word} onValue={(soil) => set({ soil })} />
      <Pick label="on it" path="surface" value={spot.surface} options={surfaces} name={word} onValue={(surface) => set({ surface })} />
      <Choice
        label="how it lies"
        path="wetness"
        value={spot.wetness}
        options={wetnesses}
        name={word}
        onValue={(wetness) => set({ wetness })}
      />
      <Form.Check
        className="wide"
        id={`swirls-${spot.id}`}
        label="wind swirls here: it cannot be played"
        checked={spot.swirls}
        onChange={(e) => set({ swirls: e.target.checked })}
      />
      <Form.Check
        className="wide"
        id={`shy-${spot.id}`}
        label="animals are shy here"
        checked={spot.shy}
        onChange={(e) => set({ shy: e.target.checked })}
      />
      <Text label="who sees it" path="seenBy" wide value={spot.seenBy} onValue={(seenBy) => set({ seenBy })} />
      {met.map((m, i) => (
        <div className="wide form-grid" key={i}>
          <Pick
            label="it has met"
            path={`met[${i}].what`}
            value={m.what}
            options={metKinds}
            name={word}
            onValue={(what) => set({ met: met.map((o, k) => (k === i ? { ...o, what } : o)) })}
          />
          <Text
            label="on"
            path={`met[${i}].on`}
            type="date"
            value={m.on}
            onValue={(on) => set({ met: met.map((o, k) => (k === i ? { ...o, on } : o)) })}
          />
          <Text
            label="what it was"
            path={`met[${i}].note`}
            wide
            value={m.note}
            onValue={(note) => set({ met: met.map((o, k) => (k === i ? { ...o, note } : o)) })}
          />
        </div>
      ))}
      <button type="button" className="word wide" onClick={() => set({ met: [...met, { what: 'others_set', note: '', on: '' }] })}>
        it has met something more
      </button>
    </>
  );
}
