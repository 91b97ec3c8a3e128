import { Unread } from '../lib/unread';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { Refused } from '../lib/api';
import { Text } from '../lib/fields';
import { FileButton, lookInto } from '../lib/file';
import { write } from '../lib/outbox';
import { useKinds, useLine } from '../lib/queries';
import { day } from '../lib/time';
import type { Bring, Brought, Kind, LineView, Report, Thing } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { anyWord } from '../lib/called';
import { capital, count, many } from '../lib/words';
import { oneColon } from '../lib/inwords';

/** Bringing in a GPX or GeoJSON file: first what each thing will become, then, when it is right, all of it or nothing. */
export function ImportPage() {
  const { data: view } = useLine();
  const { data: kinds } = useKinds();
  if (!view || !kinds) return <Unread />;
  return <Open view={view} kinds={kinds} />;
}

type State =
  | { state: 'no' }
  | { state: 'reading' }
  | { state: 'refused'; says: string }
  | { state: 'read'; report: Report; name: string; becomes: string[] }
  | { state: 'brought'; brought: Brought }
  | { state: 'kept' };

const leave = 'leave out';
const shownRows = 200;

function Open({ view, kinds }: { view: LineView; kinds: Kind[] }) {
  const [now, setNow] = useState<State>({ state: 'no' });
  const [property, setProperty] = useState('Brought in');
  const read = async (file: File) => {
    setNow({ state: 'reading' });
    try {
      const report = await lookInto<Report>(`/lines/${view.line.id}/import/preview`, file);
      setNow({ state: 'read', report, name: file.name, becomes: report.things.map((t) => (t.known || t.doubt ? leave : t.kind)) });
    } catch (error) {
      setNow({
        state: 'refused',
        says:
          error instanceof Refused
            ? oneColon(`${error.problem.detail.replace(/^file: /, `${capital(file.name)} `)}.`)
            : 'The file could not be read: it is too large to send, or the program does not answer.',
      });
    }
  };
  const bring = async () => {
    if (now.state !== 'read') return;
    // Whoever takes in what is doubtful has seen why.
    const things = now.report.things
      .map((t, i) => ({ ...t, kind: now.becomes[i] ?? leave, ...(t.doubt && { sure: true }) }))
      .filter((t) => t.kind !== leave);
    try {
      const sent = await write<Brought>(
        `/lines/${view.line.id}/import/${ulid()}`,
        { things, property } satisfies Bring,
        `${things.length} things of ${now.name}`,
      );
      setNow(sent.state === 'taken' ? { state: 'brought', brought: sent.answer } : { state: 'kept' });
    } catch (error) {
      setNow({
        state: 'refused',
        says: `Nothing was changed. ${error instanceof Refused ? oneColon(error.problem.detail) : ''}`,
      });
    }
  };
  return (
    <main className="page">
      <h2>Bring in a file</h2>
      <p>GPX 1.1 (waypoints, routes, tracks) or GeoJSON, up to 20 MB. You see what each thing will become before anything is changed.</p>
      <FileButton
        id="file"
        label="Choose a file"
        accept=".gpx,.geojson,.json,application/gpx+xml,application/geo+json"
        onFile={(file) => void read(file)}
      />
      {now.state === 'reading' && <p role="status">Reading the file.</p>}
      {now.state === 'refused' && (
        <p className="wrong" role="alert">
          {now.says} Nothing was changed.
        </p>
      )}
      {now.state === 'kept' && <p className="ember">Kept in this browser: the program does not answer. It is sent as soon as it does.</p>}
      {now.state === 'brought' && (
        <p role="status">
          <b>
            Brought in: {many(now.brought.features, 'thing')} on the map, {many(now.brought.spots, 'spot')},{' '}
            {many(now.brought.signs, 'sign')}.
          </b>{' '}
          <Link to={`/line/${view.line.id}/ground`}>See them on the ground</Link>
        </p>
      )}
      {now.state === 'read' && (
        <Preview
          view={view}
          kinds={kinds}
          report={now.report}
          becomes={now.becomes}
          onReport={(report) =>
            setNow({ ...now, report, becomes: report.things.map((t, i) => (t.doubt ? leave : (now.becomes[i] ?? t.kind))) })
          }
          onBecomes={(becomes) => setNow({ ...now, becomes })}
          property={property}
          onProperty={setProperty}
          onBring={() => void bring()}
        />
      )}
    </main>
  );
}

interface PreviewProps {
  view: LineView;
  kinds: Kind[];
  report: Report;
  becomes: string[];
  onReport: (report: Report) => void;
  onBecomes: (becomes: string[]) => void;
  property: string;
  onProperty: (name: string) => void;
  onBring: () => void;
}

/** What is doubtful of a file’s places, reason by reason: it is left out until somebody says otherwise. */
function Doubtful({ report, becomes, onReport, onBecomes }: Pick<PreviewProps, 'report' | 'becomes' | 'onReport' | 'onBecomes'>) {
  const reasons = [...new Set(report.things.flatMap((t) => (t.doubt ? [t.doubt] : [])))];
  if (reasons.length === 0) return null;
  const take = (reason: string) => onBecomes(report.things.map((t, i) => (t.doubt === reason ? t.kind : (becomes[i] ?? leave))));
  const exchange = (reason: string) => {
    const things = report.things.map((t) => {
      if (t.doubt !== reason) return t;
      const points: Thing['points'] = t.points.map(([lon, lat]) => [lat, lon]);
      return { ...t, doubt: '', says: '', points };
    });
    onReport({ ...report, things });
  };
  return (
    <div className="notice">
      <h3>Are these places right?</h3>
      {reasons.map((reason) => {
        const these = report.things.filter((t) => t.doubt === reason);
        const first = these[0];
        return (
          <p key={reason} className="ember">
            {these.length > 1 && `${these.length} things; the first, `}
            <b>{first?.name || 'one without a name'}</b>
            {these.length > 1 && ','}
            {first?.says}. {these.length === 1 ? 'It is' : 'They are'} left out.{' '}
            <button type="button" className="word" onClick={() => take(reason)}>
              take {these.length === 1 ? 'it' : 'them'} as {these.length === 1 ? 'it is' : 'they are'}
            </button>
            {reason === 'exchanged' && (
              <>
                {' · '}
                <button type="button" className="word" onClick={() => exchange(reason)}>
                  exchange latitude and longitude
                </button>
              </>
            )}
          </p>
        );
      })}
    </div>
  );
}

function Preview({ view, kinds, report, becomes, onReport, onBecomes, property, onProperty, onBring }: PreviewProps) {
  const groups = new Map<string, number[]>();
  report.things.forEach((t, i) => {
    const key = `${t.form} · ${t.type.startsWith('sign/') ? 'sign' : t.type || 'no type'}`;
    groups.set(key, [...(groups.get(key) ?? []), i]);
  });
  const taken = becomes.filter((b) => b !== leave).length;
  const known = report.things.filter((t) => t.known).length;
  const needsProperty = report.things.some((t, i) => becomes[i] === 'spot' && !t.land);
  const options = (t: Thing) => [
    leave,
    ...(t.form === 'point' ? ['spot', 'sign'] : []),
    ...kinds.filter((k) => k.form === t.form || (t.form === 'line' && k.form === 'area' && t.points.length > 2)).map((k) => k.key),
  ];
  const select = (t: Thing, value: string, name: string, onChange: (v: string) => void) => (
    <select
      className="form-select"
      aria-label={`${name.split(' ').map(anyWord).join(' ')} becomes`}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {value === 'several' && <option value="several">several things</option>}
      {options(t).map((o) => (
        <option key={o} value={o}>
          {anyWord(o)}
        </option>
      ))}
    </select>
  );
  return (
    <div className="import">
      {report.said.map((said) => (
        <p key={said}>{capital(said)}.</p>
      ))}
      <Doubtful report={report} becomes={becomes} onReport={onReport} onBecomes={onBecomes} />
      {report.ignored.length > 0 && (
        <div className="notice">
          <h3>Not understood</h3>
          {report.ignored.map((g) => (
            <div key={g.what + g.why} className="dun">
              {g.what} {g.why}
              {g.count > 1 && `, ${g.count} times`}
            </div>
          ))}
        </div>
      )}
      <div className="notice">
        <h3>What it holds</h3>
        <table>
          <tbody>
            {[...groups].map(([key, members]) => {
              const first = report.things[members[0] ?? 0];
              const values = new Set(members.map((i) => becomes[i]));
              if (!first) return null;
              return (
                <tr key={key}>
                  <td>
                    {members.length} × {key.split(' ').map(anyWord).join(' ')}
                  </td>
                  <td>
                    {select(first, values.size === 1 ? (becomes[members[0] ?? 0] ?? leave) : 'several', key, (v) =>
                      onBecomes(becomes.map((b, i) => (members.includes(i) ? v : b))),
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {known > 0 && (
          <p className="quiet">
            {capital(count(known))} {known === 1 ? 'is on this line already, and is' : 'are on this line already, and are'} left out unless
            you say otherwise.
          </p>
        )}
      </div>
      {needsProperty && (
        <Text
          label="spots that name no property go to"
          path="property"
          value={property}
          list={view.properties.map((p) => p.name)}
          onValue={onProperty}
        />
      )}
      <div className="build">
        <Button onClick={onBring} disabled={taken === 0}>
          Bring in {taken} {taken === 1 ? 'thing' : 'things'}
        </Button>
      </div>
      <table className="things">
        <thead>
          <tr>
            <th>name</th>
            <th>date</th>
            <th>form</th>
            <th>becomes</th>
          </tr>
        </thead>
        <tbody>
          {report.things.slice(0, shownRows).map((t, i) => (
            <tr key={i}>
              <td>
                {t.name || t.spot?.name || t.note || '(no name)'}
                {t.known && <span className="quiet"> · here already</span>}
              </td>
              <td>{t.time ? day(t.time, view.line.zone) : ''}</td>
              <td>{t.form === 'point' ? 'point' : `${t.form}, ${t.points.length} points`}</td>
              <td>
                {select(t, becomes[i] ?? leave, t.name || `thing ${i + 1}`, (v) => onBecomes(becomes.map((b, k) => (k === i ? v : b))))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {report.things.length > shownRows && (
        <p className="quiet">and {report.things.length - shownRows} more, which become what their group becomes</p>
      )}
    </div>
  );
}
