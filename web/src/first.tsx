import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, Navigate, useNavigate } from 'react-router';
import { Refused } from './lib/ask/api';
import { HereButton } from './ground/whereabouts';
import { Text, WrongFields } from './lib/fields/fields';
import { focusWrong } from './lib/fields/focuswrong';
import { OpenSaved } from './lib/fields/moving';
import { PlaceField, readPlace, typedPlace } from './lib/fields/placefield';
import { write } from './lib/kept/outbox';
import { useProgram, useFreshness } from './lib/ask/queries';
import { useOut } from './lib/ask/signedin';
import type { FieldProblem, Fix, Line } from './lib/types.gen';
import { ulid } from './lib/ulid';

/** The way in: the one line of the file, a choice among several, or a new one. */
export function FirstPage() {
  useFreshness();
  const program = useProgram();
  const lines = program.data?.lines;
  const [before, setBefore] = useState<number | null>(null);
  const [opened, setOpened] = useState(false);
  if (useOut() !== '' && !lines) return <Navigate to="/door" replace />;
  if (program.isError && !lines)
    return <main className="page ember">The program does not answer. Is it running? This page asks again by itself.</main>;
  if (!lines) return null;
  // A line that is begun here opens by itself, on the ground; one that was taken in, on its first page.
  if (before === null || (before === 0 && opened)) setBefore(lines.length);
  const only = lines[0];
  // An installed page asks for the round.
  const wanted = new URLSearchParams(window.location.search).has('round') ? 'round' : 'today';
  if (only && before === 1) return <Navigate to={`/line/${only.id}/${wanted}`} replace />;
  return (
    <main className="page two">
      <section>
        <h1>Old Burrow</h1>
        {lines.length > 0 ? (
          <ul className="rows">
            {lines.map((line) => (
              <li key={line.id}>
                <Link to={`/line/${line.id}/today`}>{line.name}</Link>
              </li>
            ))}
          </ul>
        ) : (
          <>
            <p>This data file is empty. Name your line and say where it lies. First light and sunrise follow from the place.</p>
            <p className="quiet">To look around first, run make demo. It shows a made-up line in a file of its own.</p>
            <h2>Moving here from another computer</h2>
            <p>Save all to one file there, from the book, and open that file here.</p>
            <OpenSaved onOpened={() => void program.refetch().then(() => setOpened(true))} />
          </>
        )}
      </section>
      <NewLine />
    </main>
  );
}

const zones = Intl.supportedValuesOf('timeZone');

function NewLine() {
  const navigate = useNavigate();
  const [line, setLine] = useState<Line>(() => ({
    id: ulid(),
    name: '',
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    latDeg: 0,
    lonDeg: 0,
    version: 0,
  }));
  const [place, setPlace] = useState<Fix | null>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [kept, setKept] = useState(false);
  const set = (change: Partial<Line>) => setLine({ ...line, ...change });
  const begin = async (typed: string) => {
    const missing: FieldProblem[] = [];
    // It may have been sent before its place was read.
    const read = place === null && typed !== '' ? await readPlace(typed) : place;
    const at = typeof read === 'string' ? null : read;
    if (line.name.trim() === '') missing.push({ field: 'name', says: 'Give your line a name' });
    if (at === null && typed === '') missing.push({ field: 'place', says: 'Paste its coordinates, or take this device’s place' });
    setProblems(missing);
    if (missing.length > 0) focusWrong();
    if (at === null || missing.length > 0) return;
    try {
      const sent = await write<Line>(`/lines/${line.id}`, { ...line, ...at }, `the line ${line.name}`);
      if (sent.state === 'taken') void navigate(`/line/${line.id}/ground`);
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
          void begin(typedPlace(e.currentTarget));
        }}
      >
        <h2>A new line</h2>
        <div className="form-grid">
          <Text label="its name" path="name" wide autoFocus value={line.name} onValue={(name) => set({ name })} />
          <PlaceField
            label="where it lies"
            file
            value={place}
            onPlace={setPlace}
            wrong={problems.find((p) => ['place', 'latDeg', 'lonDeg'].includes(p.field))?.says}
          />
          <HereButton onPlace={(latDeg, lonDeg) => setPlace({ latDeg, lonDeg })} />
          <Text label="clock (time zone)" path="zone" wide value={line.zone} list={zones} onValue={(zone) => set({ zone })} />
        </div>
        <div className="build">
          <Button type="submit">Begin the line</Button>
        </div>
        {kept && <p className="ember">Kept in this browser. The program does not answer; it is sent as soon as it does.</p>}
      </form>
    </WrongFields>
  );
}
