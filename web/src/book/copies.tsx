import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { ask, Failed } from '../lib/ask/api';
import { useNow } from '../lib/kept/clock';
import { Several } from '../lib/fields/fields';
import { HowFar, OpenSaved, useMove } from '../lib/fields/moving';
import type { LineNow } from '../lib/kept/overlay';
import { useProgram, useLine } from '../lib/ask/queries';
import { NoCopy } from '../lib/fields/copies';
import { ago, clock, longDay } from '../lib/words/time';
import type { Backup } from '../lib/types.gen';
import { Unread } from '../lib/ask/unread';
import { many } from '../lib/words/words';

/** Copies of the data file, and how it moves to another computer. */
export function CopiesPage() {
  const { data: view } = useLine();
  const program = useProgram();
  if (!view || !program.data) return <Unread />;
  return (
    <main className="page two">
      <section>
        <h2>Copies of the data file</h2>
        {program.data.backup ? (
          <Copies backup={program.data.backup} view={view} />
        ) : (
          <p>No copies are kept of the demo. Its line is made up.</p>
        )}
      </section>
      <section>
        <h2>Moving to another computer</h2>
        <p>
          Save all to one file. On the other computer start the program with a new data file, and open the saved one on its first page. Go
          on there and not here: two files are not put together again yet.
        </p>
        <SaveAll />
        <h3 className="above-24">For somebody else to look at</h3>
        <ForOthers />
        <h3 className="above-24">A file that was saved</h3>
        <Opened />
      </section>
    </main>
  );
}

function Copies({ backup: b, view }: { backup: Backup; view: LineNow }) {
  const client = useQueryClient();
  const now = useNow();
  const { zone } = view.line;
  const [state, setState] = useState<'' | 'copying' | { says: string }>('');
  const copy = async () => {
    setState('copying');
    try {
      await ask('/backup', {});
      setState('');
    } catch (error) {
      // Why a copy failed is told with how the copies stand, but for what only has to wait.
      const busy = error instanceof Failed && error.problem.code === 'busy';
      setState(
        !(error instanceof Failed)
          ? { says: 'The program does not answer. No copy was made.' }
          : busy
            ? { says: error.problem.detail }
            : '',
      );
    }
    await client.invalidateQueries({ queryKey: ['about'] });
  };
  return (
    <>
      {b.at ? (
        <p>
          The last whole copy was made {ago(b.at, now)}, on {longDay(b.at, zone)} at {clock(b.at, zone)}. It was read back and found whole.{' '}
          {b.since === 0 ? 'Nothing was written since.' : `${many(b.since, 'act')} ${b.since === 1 ? 'was' : 'were'} written since.`}
        </p>
      ) : (
        <p>No copy has been made yet.</p>
      )}
      {b.at && (
        <p className="quiet where-it-lies">
          {b.where}, {size(b.bytes)}
        </p>
      )}
      <NoCopy backup={b} />
      <div className="build">
        <Button disabled={state === 'copying'} onClick={() => void copy()}>
          {state === 'copying' ? 'Copying' : 'Make a copy now'}
        </Button>
      </div>
      {typeof state === 'object' && (
        <p className="wrong" role="alert">
          {state.says}
        </p>
      )}
      <p className="quiet above-12">
        By itself one is made each night from three o’clock, where something was written. It lies on the same disk as the data file and
        shares its fate, unless the program was started with <code>--backup-dir</code> and another. Carry one elsewhere now and then.
      </p>
      <h3 className="above-24">When the data file is lost or damaged</h3>
      <p>
        Stop the program, and put a copy in its place with <code>oldburrow restore --data FILE COPY</code>. The old file is set aside, and
        what this browser or a phone still holds is offered again.
      </p>
    </>
  );
}

const size = (bytes: number) => (bytes < 1 << 20 ? `${Math.max(1, Math.round(bytes / 1024))} KB` : `${(bytes / (1 << 20)).toFixed(1)} MB`);

function SaveAll() {
  const { move, run, stop } = useMove();
  const [saved, setSaved] = useState('');
  return (
    <>
      <div className="build">
        <Button
          disabled={move.is === 'running'}
          onClick={() => void run('/archive', { without: [] }, 'It').then((m) => setSaved(fetchSaved(m)))}
        >
          Save all to one file
        </Button>
        {saved !== '' && <span role="status">saved as {saved}</span>}
      </div>
      <HowFar move={move} doing="Saving" stopped="Stopped; nothing was saved." onStop={stop} />
    </>
  );
}

/** Has the browser fetch what was saved, under its name. */
function fetchSaved(m: { id?: string; name?: string } | null): string {
  if (!m?.id || !m.name) return '';
  const link = document.createElement('a');
  link.href = `/api/archive/${m.id}?name=${encodeURIComponent(m.name)}`;
  link.download = m.name;
  link.click();
  return m.name;
}

const parts = ['places', 'names', 'permission', 'notes'];

function ForOthers() {
  const { move, run, stop } = useMove();
  const [without, setWithout] = useState<string[]>(parts);
  const [saved, setSaved] = useState('');
  return (
    <>
      <p>
        Sets, looks and figures, without what nobody else need see. Who owns a dog, who helped and what stands on a tag are never in it, and
        its time zone always is. It is no copy to go on from.
      </p>
      <Several label="leave out" of={parts} name={(part) => part} chosen={without} onChosen={setWithout} />
      <div className="build">
        <button
          type="button"
          className="word"
          disabled={move.is === 'running' || without.length === 0}
          onClick={() => void run('/archive', { without }, 'It').then((m) => setSaved(fetchSaved(m)))}
        >
          save it for others
        </button>
        {saved !== '' && <span role="status">saved as {saved}</span>}
      </div>
      <HowFar move={move} doing="Saving" stopped="Stopped; nothing was saved." onStop={stop} />
    </>
  );
}

function Opened() {
  const client = useQueryClient();
  const { data: view } = useLine();
  return (
    <>
      <p className="quiet">
        It is opened in a data file that holds nothing yet. Here it can be seen whether everything in it is in this file too.
      </p>
      <OpenSaved onOpened={() => void client.invalidateQueries()} />
      {view && (
        <p className="above-18">
          <Link to={`/line/${view.line.id}/book`}>back to the book</Link>
        </p>
      )}
    </>
  );
}
