import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { nowISO } from '../lib/kept/clock';
import { Pick, Text, WrongFields } from '../lib/fields/fields';
import { dayAt } from '../lib/words/time';
import type { Feature, FeatureKind, FieldProblem, Ground, Kind, LineView } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { animalWord, featureWord, signWord, soilWord } from '../lib/words/called';
import { capital } from '../lib/words/words';
import { objections, type Changes } from '../lib/ask/change';
import { readPlaces } from './featureform';

/** The same ground as a table: every thing can be found, opened beside it, and added by its numbers, with the keyboard alone. */
export function GroundTable({ view, ground, kinds, changes }: { view: LineView; ground: Ground; kinds: Kind[]; changes: Changes }) {
  const rows = [
    ...ground.spots.map((s) => ({
      id: s.id,
      to: `?spot=${s.id}`,
      kind: 'spot',
      name: s.name,
      at: place(s.latDeg, s.lonDeg),
      note: soilWord(s.soil),
    })),
    ...ground.features.map((f) => ({
      id: f.id,
      to: `?feature=${f.id}`,
      kind: featureWord(f.kind),
      name: f.name,
      at: f.points.length === 1 ? place(f.points[0]?.[1] ?? 0, f.points[0]?.[0] ?? 0) : `${f.points.length} points`,
      note: f.note,
    })),
    ...ground.signs.map((s) => ({
      id: s.id,
      to: `?sign=${s.id}`,
      kind: s.what === 'none' ? 'no sign' : signWord(s.what),
      name: animalWord(s.animal),
      at: place(s.latDeg, s.lonDeg),
      note: dayAt(s.seenAt, view.now, view.line.zone),
    })),
  ];
  return (
    <div className="ground-table">
      <AddByNumbers view={view} kinds={kinds} changes={changes} />
      <table>
        <thead>
          <tr>
            <th>what</th>
            <th>name</th>
            <th>place</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id}>
              <td>
                <Link to={row.to}>{capital(row.kind)}</Link>
              </td>
              <td>{row.name}</td>
              <td>{row.at}</td>
              <td className="quiet">{row.note}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const place = (lat: number, lon: number) => `${lat.toFixed(5)}, ${lon.toFixed(5)}`;

function AddByNumbers({ view, kinds, changes }: { view: LineView; kinds: Kind[]; changes: Changes }) {
  const [kind, setKind] = useState<FeatureKind>('travel_way');
  const [name, setName] = useState('');
  const [points, setPoints] = useState('');
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const add = async () => {
    const read = readPlaces(points);
    if (!read) {
      setProblems([{ field: 'points', says: 'are not all places. Write one on each line, such as 46.8012, -105.3045' }]);
      return;
    }
    const feature: Feature = {
      id: ulid(),
      lineId: view.line.id,
      kind,
      name,
      note: '',
      points: read,
      widthMm: kind === 'travel_way' ? 900 : 0,
      propertyId: null,
      madeAt: nowISO(),
      deleted: false,
      version: 0,
    };
    try {
      await changes.change('features', null, feature, `${featureWord(kind)} added`);
      setName('');
      setPoints('');
      setProblems([]);
    } catch (error) {
      setProblems(objections(error));
    }
  };
  const wrong = problems.find((p) => p.field === 'points');
  return (
    <WrongFields problems={problems}>
      <form
        className="form-grid add-by-numbers"
        onSubmit={(e) => {
          e.preventDefault();
          void add();
        }}
      >
        <Pick label="add" path="kind" value={kind} options={kinds.map((k) => k.key)} name={featureWord} onValue={setKind} />
        <Text label="its name" path="name" value={name} onValue={setName} />
        <div>
          <label className="form-label" htmlFor="new-points">
            its points (degrees north, east), one on a line
          </label>
          <textarea
            id="new-points"
            className={wrong ? 'form-control is-invalid' : 'form-control'}
            rows={2}
            value={points}
            onChange={(e) => setPoints(e.target.value)}
          />
          {wrong && (
            <div className="wrong" role="alert">
              {wrong.says}
            </div>
          )}
        </div>
        <div className="build">
          <Button type="submit" variant="outline-primary">
            Add it
          </Button>
        </div>
      </form>
    </WrongFields>
  );
}
