import { readingKinds } from '../lib/lists.gen';
import { Unread } from '../lib/ask/unread';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { nowISO } from '../lib/kept/clock';
import { Choice, Measure, Pick, WrongFields } from '../lib/fields/fields';
import { FileButton, HowItWent, useTakeIn, WrittenAs, WrongRows } from '../lib/fields/file';
import { tapMs, useOnce } from '../lib/fields/once';
import { write } from '../lib/kept/outbox';
import { useLine, useWeather } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { day } from '../lib/words/time';
import type { FieldProblem, LineView, Reading, ReadingKind, WeatherView } from '../lib/types.gen';
import { show, showAbout } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { bearing } from '../lib/words/words';
import { Source } from '../lib/source';
import { objections } from '../lib/ask/change';

/** The weather as it is known, and what the user knows better: readings by hand, an own log. */
export function WeatherPage() {
  const { data: view } = useLine();
  const { data: weather } = useWeather();
  if (!view || !weather) return <Unread />;
  return (
    <main className="page two">
      <section>
        <h2>Frost</h2>
        <Frost view={view} weather={weather} />
        <p className="quiet">
          Computed from every day’s mean cold since before the season, each spot’s soil, wetness and surface, and the snow on it; a probe
          scales what comes after it.
        </p>
        <Source weather={weather} view={view} />
        {!weather.connected && <p>No weather service is asked. Start with --weather and its address, or keep an own log here.</p>}
      </section>
      <section>
        <h2>Read today, by hand</h2>
        <ReadingForm view={view} weather={weather} />
        <h2 className="above-24">An own log</h2>
        <LogForm view={view} />
      </section>
    </main>
  );
}

function Frost({ view, weather }: { view: LineView; weather: WeatherView }) {
  const { system } = useSettings();
  if (!weather.known) return <p>Not known: it takes the weather of the weeks before.</p>;
  const mornings = weather.spots[0]?.mornings.slice(0, 3) ?? [];
  return (
    <table className="frost">
      <thead>
        <tr>
          <th>spot</th>
          <th>this morning</th>
          {mornings.map((m) => (
            <th key={m.date}>{day(m.date + 'T12:00:00Z', 'UTC')}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weather.spots.map((w) => (
          <tr key={w.spotId}>
            <td>
              {view.spots.find((s) => s.id === w.spotId)?.name} {w.probed && <span className="quiet">by probe</span>}
            </td>
            <td>{w.known ? `about ${showAbout('length', w.depthMm, system)}` : 'not known'}</td>
            {w.mornings.slice(0, 3).map((m) => (
              <td key={m.date}>{showAbout('length', m.depthMm, system)}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function ReadingForm({ view, weather }: { view: LineView; weather: WeatherView }) {
  const { system } = useSettings();
  const [kind, setKind] = useState<ReadingKind>('frost_probe');
  const [spotID, setSpotID] = useState('');
  const [value, setValue] = useState(0);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [said, setSaid] = useState('');
  const keep = useOnce(async () => {
    const reading: Reading = {
      id: ulid(),
      lineId: view.line.id,
      kind,
      spotId: kind === 'frost_probe' && spotID !== '' ? spotID : null,
      at: nowISO(),
      value: kind === 'snow_depth' ? value / 10 : value,
      deleted: false,
      version: 0,
    };
    try {
      await write(`/lines/${view.line.id}/readings/${reading.id}`, reading, 'a reading by hand');
      setProblems([]);
      setSaid('Saved; what follows is computed from it.');
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  }, tapMs);
  const words = (r: Reading) => {
    if (r.kind === 'wind_shift') return `wind from the ${bearing(r.value)}`;
    if (r.kind === 'snow_depth') return `snow ${show('length', r.value * 10, system)} deep`;
    return `frost ${show('length', r.value, system)} deep at ${view.spots.find((s) => s.id === r.spotId)?.name ?? ''}`;
  };
  return (
    <WrongFields problems={problems}>
      <form
        className="form-grid"
        onSubmit={(e) => {
          e.preventDefault();
          void keep();
        }}
      >
        <Choice
          label="what"
          path="kind"
          hide
          value={kind}
          options={readingKinds}
          name={(k) =>
            ({
              frost_probe: 'frost, by a probe',
              snow_depth: 'depth of snow',
              wind_shift: 'tonight’s wind will come from',
            })[k]
          }
          onValue={(k) => {
            setKind(k);
            setSaid('');
            setValue(0);
          }}
        />
        {kind === 'frost_probe' && (
          <Pick
            label="at the spot"
            path="spotId"
            value={spotID}
            blank="choose"
            options={view.spots.map((s) => s.id)}
            name={(id) => view.spots.find((s) => s.id === id)?.name ?? ''}
            onValue={setSpotID}
          />
        )}
        <Measure
          key={kind}
          label={kind === 'wind_shift' ? 'from, degrees from north' : 'deep'}
          path="value"
          kind={kind === 'wind_shift' ? 'angle' : 'length'}
          value={value}
          onValue={(v) => {
            setValue(v);
            setSaid('');
          }}
        />
        <div className="build wide">
          <Button type="submit">Keep the reading</Button>
          <span className="quiet" role="status">
            {said}
          </span>
        </div>
      </form>
      <ul className="rows above-8">
        {weather.readings.map((r) => (
          <li key={r.id}>
            {words(r)} <span className="quiet">{day(r.at, view.line.zone)}</span>{' '}
            <button
              type="button"
              className="word"
              onClick={() => void write(`/lines/${view.line.id}/readings/${r.id}`, { ...r, deleted: true }, 'a reading taken back')}
            >
              undo
            </button>
          </li>
        ))}
      </ul>
    </WrongFields>
  );
}

function LogForm({ view }: { view: LineView }) {
  const { preview, wrong, taken, look, lookAs, take } = useTakeIn(view.line.id, 'weather', 'The log');
  return (
    <>
      <p className="quiet">
        CSV, a row an hour. The first row names the columns: time, temp_c, wind_from_deg, wind_ms, and where known rain_mm, snow_cm,
        snow_depth_cm. Your own hours go over a service’s.
      </p>
      <FileButton id="log" label="Choose a log" accept=".csv,text/csv" onFile={look} />
      <HowItWent wrong={wrong} taken={taken} />
      {taken?.state === 'taken' && (
        <p className="quiet" role="status">
          Taken in: {taken.answer.hours} hours.
        </p>
      )}
      {preview && (
        <div className="notice">
          <WrittenAs written={preview.written} onEncoding={lookAs} />
          <WrongRows rows={preview.wrong} />
          {preview.hours[0] && (
            <p>
              {preview.hours.length} hours, {day(preview.hours[0].at, view.line.zone)} to{' '}
              {day(preview.hours.at(-1)?.at ?? preview.hours[0].at, view.line.zone)}
              {preview.wrong.length > 0 && `; ${preview.wrong.length} rows are left out`}.
            </p>
          )}
          <Button
            onClick={() => take({ hours: preview.hours }, `the ${preview.hours.length} hours of a log`)}
            disabled={preview.hours.length === 0}
          >
            Take in {preview.hours.length} hours
          </Button>
        </div>
      )}
    </>
  );
}
