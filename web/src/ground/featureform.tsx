import { PhotoField } from '../lib/fields/photo';
import { Link } from 'react-router';
import { useState } from 'react';
import { Measure, Pick, Text } from '../lib/fields/fields';
import type { Feature, Kind, LineView, Property } from '../lib/types.gen';
import { featureWord } from '../lib/words/called';
import type { Changes } from '../lib/ask/change';
import { KeepForm, useKeep } from '../lib/fields/keep';
import { nameOf } from './map';

/** The kinds with the form of one kind, which it can become without drawing it anew. */
export const sameForm = (kinds: Kind[], key: string) => {
  const form = kinds.find((k) => k.key === key)?.form;
  return kinds.filter((k) => k.form === form).map((k) => k.key);
};

const places = (points: [number, number][]) => points.map(([lon, lat]) => `${lat.toFixed(6)}, ${lon.toFixed(6)}`).join('\n');

/** Reads "46.8, -105.3" line by line; undefined when a line is none. */
export function readPlaces(text: string): [number, number][] | undefined {
  const found: [number, number][] = [];
  for (const row of text
    .split('\n')
    .map((r) => r.trim())
    .filter(Boolean)) {
    const parts = row
      .replace(/−/g, '-')
      .split(/[\s,;]+/)
      .map(Number);
    const [lat, lon] = parts;
    if (parts.length !== 2 || lat === undefined || lon === undefined || Number.isNaN(lat) || Number.isNaN(lon)) return undefined;
    found.push([lon, lat]);
  }
  return found;
}

interface Props {
  view: LineView;
  kinds: Kind[];
  feature: Feature;
  changes: Changes;
  onGone: () => void;
}

/** A thing on the map in words and numbers: what it is, its name, its points. */
export function FeaturePanel({ view, kinds, feature, changes, onGone }: Props) {
  const form = useKeep(changes, 'features', feature);
  const { x, set, problems } = form;
  const [typed, setTyped] = useState(() => places(feature.points));
  const keep = async (next: Feature, what: string) => {
    const points = readPlaces(typed);
    if (!points) {
      form.setProblems([{ field: 'points', says: 'are not all places: write one on each line, such as 46.8012, -105.3045' }]);
      return false;
    }
    return form.keep({ ...next, points: places(points) === places(feature.points) ? feature.points : points }, what);
  };
  const wrong = problems.find((p) => p.field === 'points');
  return (
    <KeepForm
      said={form.said}
      problems={problems}
      onDelete={() => void keep({ ...x, deleted: true }, `${nameOf(x)} deleted`).then((ok) => ok && onGone())}
      onKeep={() => void keep(x, `${nameOf(x)} changed`)}
    >
      <h2>{nameOf(x)}</h2>
      <div className="quiet">{featureWord(x.kind)}; drag its points on the ground, or change them here</div>
      <div className="form-grid">
        <Pick
          label="what it is"
          path="kind"
          value={x.kind}
          options={sameForm(kinds, x.kind)}
          name={featureWord}
          onValue={(kind) => set({ kind })}
        />
        <Text label="name" path="name" value={x.name} onValue={(name) => set({ name })} />
        {x.kind === 'travel_way' && (
          <Measure label="wide" path="widthMm" kind="ground" value={x.widthMm} onValue={(widthMm) => set({ widthMm })} />
        )}
        {x.kind === 'boundary' && (
          <Pick
            label="of the property"
            path="propertyId"
            value={x.propertyId ?? ''}
            blank="none"
            options={view.properties.map((p) => p.id)}
            name={(id) => view.properties.find((p) => p.id === id)?.name ?? ''}
            onValue={(id) => set({ propertyId: id === '' ? null : id })}
          />
        )}
        <Text label="note" path="note" wide value={x.note} onValue={(note) => set({ note })} />
        <div className="wide">
          <label className="form-label" htmlFor={`points-${x.id}`}>
            its points: degrees north, east, one on a line
          </label>
          <textarea
            id={`points-${x.id}`}
            className={wrong ? 'form-control is-invalid' : 'form-control'}
            rows={Math.min(6, x.points.length + 1)}
            value={typed}
            onChange={(e) => {
              setTyped(e.target.value);
              form.unsay();
            }}
          />
          {wrong && (
            <div className="wrong" role="alert">
              {wrong.says}
            </div>
          )}
        </div>
      </div>
    </KeepForm>
  );
}

/** A property: its name and its permission, asked when and until when. */
export function PropertyPanel({ property, changes, onGone }: { property: Property; changes: Changes; onGone: () => void }) {
  const { x, set, problems, said, keep } = useKeep(changes, 'properties', property);
  return (
    <KeepForm
      said={said}
      problems={problems}
      onDelete={
        property.version === 0
          ? undefined
          : () => void keep({ ...x, deleted: true }, `the property ${x.name} removed`).then((ok) => ok && onGone())
      }
      onKeep={() => void keep(x, `the property ${x.name}`).then((ok) => ok && property.version === 0 && onGone())}
    >
      <h2>{property.version === 0 ? 'A new property' : property.name}</h2>
      <p className="quiet">Ask the landowner first, and write down what was said.</p>
      <div className="form-grid">
        <Text label="name" path="name" wide value={x.name} onValue={(name) => set({ name })} />
        <Text label="permission asked on" path="asked" type="date" value={x.asked} onValue={(asked) => set({ asked })} />
        <Text label="permission ends" path="until" type="date" value={x.until} onValue={(until) => set({ until })} />
        <Text label="what was said" path="permission" wide value={x.permission} onValue={(permission) => set({ permission })} />
        <div className="wide">
          <PhotoField
            line={x.lineId}
            photoId={x.paperId ?? null}
            what="the paper of the permission"
            onPhoto={(paperId) => set({ paperId })}
          />
        </div>
      </div>
      {property.version > 0 && (
        <p className="words">
          <Link to={`/line/${property.lineId}/done?property=${property.id}`}>print</Link>
          <Link to={`/line/${property.lineId}/done?property=${property.id}`}>as CSV</Link>
        </p>
      )}
    </KeepForm>
  );
}
