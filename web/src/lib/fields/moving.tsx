import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Failed, follow, Refused } from '../ask/api';
import { FileButton, fileTrouble } from './file';
import { dayYear } from '../words/time';
import type { Moving, TakenIn } from '../types.gen';
import { listed, many } from '../words/words';

/** How far an archive has gone out or come in. */
export type Move = { is: 'no' | 'stopped' } | { is: 'running'; done: number; of: number } | { is: 'failed'; says: string };

/** Something that goes on for a while in the program, tells how far it is, and can be stopped. */
export function useMove() {
  const [move, setMove] = useState<Move>({ is: 'no' });
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  const run = async (path: string, body: unknown, what: string): Promise<Moving | null> => {
    const leave = new AbortController();
    running.current = leave;
    setMove({ is: 'running', done: 0, of: 0 });
    let last: Moving | null = null;
    try {
      await follow(path, body, leave.signal, (line) => {
        last = line as Moving;
        setMove({ is: 'running', done: last.done, of: last.of });
      });
      const came = last as Moving | null;
      if (came?.problem) throw new Refused(came.problem);
      setMove({ is: 'no' });
      return came;
    } catch (error) {
      if (leave.signal.aborted) setMove({ is: 'stopped' });
      else setMove({ is: 'failed', says: error instanceof Failed ? error.problem.detail : fileTrouble(error, what) });
      return null;
    }
  };
  return { move, run, stop: () => running.current?.abort() };
}

/** How far it is, and what became of what did not come to its end. */
export function HowFar({ move, doing, stopped, onStop }: { move: Move; doing: string; stopped: string; onStop: () => void }) {
  switch (move.is) {
    case 'running':
      return (
        <div className="notice" role="status">
          {doing}
          {move.of > 0 && `, ${move.done} of ${move.of} records`} ·{' '}
          <button type="button" className="word" onClick={onStop}>
            stop
          </button>
          <svg viewBox="0 0 240 6" width="100%" height={6} aria-hidden="true">
            <path d="M1 3H239" stroke="var(--soft)" strokeDasharray="2 3" />
            {move.of > 0 && <path d={`M1 3H${1 + (238 * move.done) / move.of}`} stroke="var(--ink)" strokeWidth={2} />}
          </svg>
        </div>
      );
    case 'stopped':
      return <p className="quiet">{stopped}</p>;
    case 'failed':
      return (
        <p className="wrong" role="alert">
          {move.says}
          {!/[.!?]$/.test(move.says) && '.'}
        </p>
      );
  }
  return null;
}

const told: [kind: string, noun: string][] = [
  ['lines', 'line'],
  ['properties', 'property'],
  ['spots', 'spot'],
  ['sets', 'set'],
  ['visits', 'look'],
  ['traps', 'trap'],
  ['lures', 'lure'],
  ['photos', 'photo'],
];

/** What an archive holds, in words. */
function heldWords(taken: TakenIn): string {
  const n = (kind: string) => taken.counts.filter((c) => c.kind === kind).reduce((sum, c) => sum + c.new + c.same, 0);
  return listed(told.filter(([kind]) => n(kind) > 0).map(([kind, noun]) => many(n(kind), noun)));
}

/** Opens a file that was saved by Old Burrow, on this or another computer: it is looked through before anything is changed. */
export function OpenSaved({ onOpened }: { onOpened: () => void }) {
  const { move, run, stop } = useMove();
  const [found, setFound] = useState<Moving | null>(null);
  const look = async (file: File) => {
    setFound(null);
    setFound(await run('/archive/in', new Blob([file], { type: 'application/octet-stream' }), 'The file'));
  };
  const open = async (id: string) => {
    const came = await run(`/archive/in/${id}`, {}, 'The file');
    if (came === null) return;
    setFound(null);
    onOpened();
  };
  const { id, takenIn } = found ?? {};
  return (
    <>
      {move.is !== 'running' && (
        <FileButton id="saved" label="Open a saved file" accept=".zip,application/zip" onFile={(file) => void look(file)} />
      )}
      <HowFar move={move} doing="Looking through it" stopped="Stopped; nothing was changed." onStop={stop} />
      {takenIn && move.is === 'no' && (
        <div className="notice" role="status">
          {takenIn.already ? (
            <>Everything in it is here already. Nothing was changed.</>
          ) : (
            <>
              Saved on {dayYear(takenIn.at, 'UTC')}, with {heldWords(takenIn)}.{' '}
              {takenIn.leftOut.length > 0 && `It was saved for others, without ${listed(takenIn.leftOut)}. `}
              Nothing is changed yet.
              <div className="build">
                <Button onClick={() => id && void open(id)}>Take it in</Button>
                <button type="button" className="word" onClick={() => setFound(null)}>
                  leave it
                </button>
              </div>
            </>
          )}
        </div>
      )}
    </>
  );
}
