import { Unread } from '../lib/ask/unread';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { Text } from '../lib/fields/fields';
import { FileButton, HowItWent, useTakeIn } from '../lib/fields/file';
import { useKinds, useLine } from '../lib/ask/queries';
import { day } from '../lib/words/time';
import type { Kind, LineView, Report, Thing } from '../lib/types.gen';
import { anyWord } from '../lib/words/called';
import { capital, count, many } from '../lib/words/words';

/** Bringing in a GPX or GeoJSON file: first what each thing will become, then, when it is right, all of it or nothing. */
export function ImportPage() {
  const { data: view } = useLine();
  const { data: kinds } = useKinds();
  if (!view || !kinds) return <Unread />;
  return <Open view={view} kinds={kinds} />;
}

const leave = 'leave out';
const shownRows = 200;

function Open({ view, kinds }: { view: LineView; kinds: Kind[] }) {
  const { preview: report, setPreview, ...file } = useTakeIn(view.line.id, 'import', 'The file');
  const [property, setProperty] = useState('Brought in');
  /** What each thing becomes where that is not what the file says; of another file it holds no more. */
  const [said, setSaid] = useState<{ of: Report | null; becomes: string[] }>({ of: null, becomes: [] });
  const becomes = said.of === report ? said.becomes : (report?.things.map((t) => (t.known || t.doubt ? leave : t.kind)) ?? []);
  const bring = () => {
    if (!report) return;
    // Whoever takes in what is doubtful has seen why.
    const things = report.things
      .map((t, i) => ({ ...t, kind: becomes[i] ?? leave, ...(t.doubt && { sure: true }) }))
      .filter((t) => t.kind !== leave);
    file.take({ things, property }, `${many(things.length, 'thing')} of ${file.name}`);
  };
  return (
    <main className="page">
      <h2>Bring in a file</h2>
      <p>GPX 1.1 (waypoints, routes, tracks) or GeoJSON, up to 20 MB. You see what each thing will become before anything is changed.</p>
      <FileButton
        id="file"
        label="Choose a file"
        accept=".gpx,.geojson,.json,application/gpx+xml,application/geo+json"
        onFile={file.look}
      />
      {file.reading && <p role="status">Reading the file.</p>}
      <HowItWent wrong={file.wrong} taken={file.taken} />
      {file.taken?.state === 'taken' && (
        <p role="status">
          <b>
            Brought in: {many(file.taken.answer.features, 'thing')} on the map, {many(file.taken.answer.spots, 'spot')},{' '}
            {many(file.taken.answer.signs, 'sign')}.
          </b>{' '}
          <Link to={`/line/${view.line.id}/ground`}>See them on the ground</Link>
        </p>
      )}
      {report && (
        <Preview
          view={view}
          kinds={kinds}
          report={report}
          becomes={becomes}
          onReport={(next) => {
            setPreview(next);
            setSaid({ of: next, becomes: next.things.map((t, i) => (t.doubt ? leave : (becomes[i] ?? t.kind))) });
          }}
          onBecomes={(next) => setSaid({ of: report, becomes: next })}
          property={property}
          onProperty={setProperty}
          onBring={bring}
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
