import { runs, ways } from '../lib/words/waysrun';
import { canBeThere, metKinds, setKinds, soils, surfaces, throughs, wetnesses } from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useDraft } from '../lib/fields/draft';
import { focusWrong } from '../lib/fields/focuswrong';
import { Choice, Measure, Pick, Several, Text, WrongFields } from '../lib/fields/fields';
import type { FieldProblem, Line, LineView, Property, Spot } from '../lib/types.gen';
import { PhotoField } from '../lib/fields/photo';
import { PlaceField } from '../lib/fields/placefield';
import { roughly, type System } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { landWord, metWord, setWord, soilWord, surfaceWord, throughWord, wetnessWord } from '../lib/words/called';
import { listed } from '../lib/words/words';
import { objections, type Changes } from '../lib/ask/change';
import { HereButton } from './whereabouts';

interface Draft {
  spot: Spot;
  property: string;
  permission: string;
  /** Until when it holds, a date; blank where no end was said. */
  until?: string;
  /** The land is none of the list: its name is written. */
  another?: boolean;
  placed: boolean;
  /** The id that a property gets if its name is new. */
  newPropertyID: string;
}

export interface SpotDraft {
  value: Draft;
  set: (value: Draft) => void;
  clear: () => void;
}

/** A spot as it begins: nothing is known of it but its place. */
export const newSpot = (line: Line, known: Partial<Spot>): Spot => ({
  id: ulid(),
  lineId: line.id,
  propertyId: '',
  name: '',
  latDeg: line.latDeg,
  lonDeg: line.lonDeg,
  travelBearingDeg: null,
  travelWidthMm: null,
  waysMeet: null,
  soil: '',
  wetness: '',
  surface: '',
  swirls: false,
  shy: false,
  seenBy: '',
  through: '',
  there: [],
  met: [],
  deleted: false,
  version: 0,
  ...known,
});

const beginSpot = (line: Line): Draft => ({ spot: newSpot(line, {}), property: '', permission: '', placed: false, newPropertyID: ulid() });

export function useSpotDraft(line: Line): SpotDraft {
  const [begun, set, clear] = useDraft(`spot:${line.id}`, () => beginSpot(line));
  // A draft may be of a form that could say less of a spot.
  const value = { ...begun, spot: newSpot(line, begun.spot) };
  return {
    value,
    set,
    clear: () => {
      set(beginSpot(line));
      clear();
    },
  };
}

/** The land of a spot for which none was named. */
const unnamed = 'land not named yet';

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
  const { until = '', another = false } = draft.value;
  // Of several lands it is the one where the last spot was marked, until another is chosen.
  const last = view.properties.find((p) => p.id === [...view.spots].sort((a, b) => (a.id < b.id ? 1 : -1))[0]?.propertyId);
  const listed = view.properties.length > 0 && !another;
  const name = property.trim() !== '' ? property.trim() : listed ? (last ?? view.properties[0])?.name : '';
  const known = view.properties.find((p) => p.name.toLowerCase() === (name || unnamed).toLowerCase());

  const add = async () => {
    const missing: FieldProblem[] = [];
    const land = name || unnamed;
    if (spot.name.trim() === '') missing.push({ field: 'name', says: 'Give the spot a name' });
    if (!placed) missing.push({ field: 'latDeg', says: 'Touch its place on the map, or write its coordinates' });
    setProblems(missing);
    if (missing.length > 0) {
      focusWrong();
      return;
    }
    const of: Property = known ?? {
      id: newPropertyID,
      lineId: view.line.id,
      name: land,
      permission,
      asked: '',
      until,
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
      focusWrong();
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
          <Text label="name" path="name" wide autoFocus value={spot.name} onValue={(to) => set({ name: to })} />
          {listed ? (
            <Pick
              label="property"
              path="property"
              wide
              value={known?.name ?? ''}
              options={[...view.properties.map((p) => p.name), '']}
              name={(one) => one || 'another…'}
              onValue={(one) => draft.set({ ...draft.value, property: one, another: one === '' })}
            />
          ) : (
            <Text
              label="property"
              path="property"
              wide
              autoFocus={another}
              value={property}
              onValue={(one) => draft.set({ ...draft.value, property: one })}
            />
          )}
          {!known && name && (
            <>
              <Text
                label="permission, in your words"
                path="permission"
                wide
                value={permission}
                onValue={(text) => draft.set({ ...draft.value, permission: text })}
              />
              <Text
                label="permission ends"
                path="until"
                type="date"
                wide
                value={until}
                onValue={(on) => draft.set({ ...draft.value, until: on })}
              />
            </>
          )}
          <PlaceField
            label="its place, by a touch on the map or by coordinates"
            value={placed ? spot : null}
            onPlace={place}
            wrong={problems.find((p) => p.field === 'latDeg')?.says}
          />
          <HereButton onPlace={(latDeg, lonDeg) => place({ latDeg, lonDeg })} />
          <SpotFields spot={spot} set={set} />
        </div>
        <div className="build">
          <Button type="submit">Mark the spot</Button>
        </div>
        {kept && <p className="ember">Kept in this browser. The program does not answer; it is sent as soon as it does.</p>}
      </form>
    </WrongFields>
  );
}

/** What is known of a spot's way and soil, in words. */
export function spotWords(spot: Spot, system: System): string {
  const wide = spot.travelWidthMm === null ? '' : `, about ${roughly(spot.travelWidthMm, system)} wide`;
  const way = spot.travelBearingDeg === null ? `way not known${wide}` : `way runs ${runs(spot.travelBearingDeg)}${wide}`;
  const soil = [spot.wetness, spot.soil && soilWord(spot.soil)].filter(Boolean).join(' ') || 'soil not known';
  const meet = spot.waysMeet !== null && spot.waysMeet > 1 ? `; ${spot.waysMeet} ways meet` : '';
  const through = spot.through && `; ${throughWord(spot.through)} that pass take this way`;
  const there = spot.there.length > 0 ? `; with ${listed(spot.there.map(landWord))}` : '';
  return `${way}; ${soil}${spot.surface && `, ${surfaceWord(spot.surface)}`}${meet}${through}${there}`;
}

/** What is known of a spot beside its name and place. */
export function SpotFields({ spot, set }: { spot: Spot; set: (change: Partial<Spot>) => void }) {
  const met = spot.met;
  return (
    <>
      <div className="wide">
        <PhotoField line={spot.lineId} photoId={spot.photoId ?? null} what="the spot" onPhoto={(photoId) => set({ photoId })} />
      </div>
      <Choice
        label="the travel way runs"
        path="travelBearingDeg"
        value={spot.travelBearingDeg === null ? '' : String((Math.round(spot.travelBearingDeg / 45) * 45) % 180)}
        options={['', ...ways.map(([deg]) => String(deg))]}
        name={(deg) => ways.find(([d]) => String(d) === deg)?.[1] ?? 'not known'}
        onValue={(deg) => set({ travelBearingDeg: deg === '' ? null : Number(deg) })}
      />
      <Pick
        label="soil"
        path="soil"
        value={spot.soil}
        options={soils}
        name={soilWord}
        blank="not known"
        onValue={(soil) => set({ soil })}
      />
      <Choice
        label="wetness"
        path="wetness"
        value={spot.wetness}
        options={['', ...wetnesses]}
        name={(key) => (key === '' ? 'not known' : wetnessWord(key))}
        onValue={(wetness) => set({ wetness })}
      />
      <Pick
        label="ground cover"
        path="surface"
        value={spot.surface}
        options={surfaces}
        name={surfaceWord}
        blank="not known"
        onValue={(surface) => set({ surface })}
      />
      <Measure
        label="travel way, wide"
        path="travelWidthMm"
        kind="ground"
        value={spot.travelWidthMm}
        onValue={(travelWidthMm) => set({ travelWidthMm })}
        onBlank={() => set({ travelWidthMm: null })}
      />
      <Choice
        label="ways that meet here"
        path="waysMeet"
        value={spot.waysMeet === null ? '' : String(spot.waysMeet)}
        options={['', '1', '2', '3', '4']}
        name={(n) => n || 'not known'}
        onValue={(n) => set({ waysMeet: n === '' ? null : Number(n) })}
      />
      <Choice
        label="of those that pass, on this very way go"
        path="through"
        value={spot.through}
        options={['', ...throughs]}
        name={(key) => (key === '' ? 'not known' : throughWord(key))}
        onValue={(through) => set({ through })}
      />
      <Several
        label="what is there, if it is not on the map"
        of={canBeThere}
        name={(key) => ({ scat: 'old scat', cover: 'cover or brush' })[key] ?? landWord(key)}
        chosen={spot.there}
        onChosen={(there) => set({ there })}
      />
      <Form.Check
        className="wide"
        id={`swirls-${spot.id}`}
        label="wind swirls here"
        checked={spot.swirls}
        onChange={(e) => set({ swirls: e.target.checked })}
      />
      <Form.Check
        className="wide"
        id={`shy-${spot.id}`}
        label="animals are trap-shy here"
        checked={spot.shy}
        onChange={(e) => set({ shy: e.target.checked })}
      />
      <Text label="in sight of" path="seenBy" wide value={spot.seenBy} onValue={(seenBy) => set({ seenBy })} />
      {met.map((m, i) => (
        <div className="wide form-grid" key={i}>
          <Pick
            label="used here"
            path={`met[${i}].what`}
            value={m.what}
            options={metKinds}
            name={metWord}
            onValue={(what) => set({ met: met.map((o, k) => (k === i ? { ...o, what } : o)) })}
          />
          <Text
            label="on"
            path={`met[${i}].on`}
            type="date"
            value={m.on}
            onValue={(on) => set({ met: met.map((o, k) => (k === i ? { ...o, on } : o)) })}
          />
          {m.what.endsWith('_set') && (
            <Pick
              label="of which kind"
              path={`met[${i}].kind`}
              value={m.kind ?? ''}
              options={setKinds}
              name={setWord}
              blank="not known"
              onValue={(kind) => set({ met: met.map((o, k) => (k === i ? { ...o, kind } : o)) })}
            />
          )}
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
        something more was used here
      </button>
    </>
  );
}
