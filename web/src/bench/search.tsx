import { useEffect, useRef, useState } from 'react';
import { follow, Refused } from '../lib/ask/api';
import type { BestPlaces, Layout, Progress, Question } from '../lib/types.gen';
import { trim } from '../lib/words/units';
import { alike } from './design';
import type { Tried } from './helps';

type State =
  { is: 'no' | 'stopped' | 'failed' } | { is: 'running'; tried: number; of: number } | { is: 'found'; best: BestPlaces; of: Layout };

interface Props {
  question: Question | undefined;
  onTry: (tried: Tried) => void;
}

/** Searches for the best places of pans, sticks and stones, all at once; it can be stopped, and what is found is told by fresh feet. */
export function FindBest({ question, onTry }: Props) {
  const [state, setState] = useState<State>({ is: 'no' });
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  // What was found of another set says nothing of this one.
  const layout = question?.layout;
  const stale = state.is === 'found' && layout !== undefined && !alike(state.of, layout);
  const run = async (q: Question) => {
    const leave = new AbortController();
    running.current = leave;
    setState({ is: 'running', tried: 0, of: 1 });
    try {
      await follow('/bench/best', { ...q, map: false }, leave.signal, (line) => {
        const { tried, of, best } = line as Progress;
        setState(best ? { is: 'found', best, of: q.layout } : { is: 'running', tried, of });
      });
    } catch (error) {
      setState({ is: leave.signal.aborted ? 'stopped' : error instanceof Refused ? 'no' : 'failed' });
    }
  };
  const begin = (
    <button type="button" className="word" disabled={!question} onClick={() => question && void run(question)}>
      find the best places
    </button>
  );
  return (
    <div className="notice" role="group" aria-label="the best places">
      {state.is === 'running' ? (
        <div role="status">
          Tried {state.tried} of {state.of} ways to place pan, sticks and stones ·{' '}
          <button type="button" className="word" onClick={() => running.current?.abort()}>
            stop
          </button>
          <svg viewBox="0 0 240 6" width="100%" height={6} aria-hidden="true">
            <path d="M1 3H239" stroke="var(--soft)" strokeDasharray="2 3" />
            <path d={`M1 3H${1 + (238 * state.tried) / state.of}`} stroke="var(--ink)" strokeWidth={2} />
          </svg>
        </div>
      ) : (
        <>
          {begin}
          {state.is === 'stopped' && <p className="quiet">Stopped; nothing is changed.</p>}
          {state.is === 'failed' && <p className="wrong">The program does not answer; nothing is changed.</p>}
          {state.is === 'found' && !stale && <Told best={state.best} of={state.of} onTry={onTry} />}
        </>
      )}
    </div>
  );
}

function Told({ best, of, onTry }: { best: BestPlaces; of: Layout; onTry: (tried: Tried) => void }) {
  if (!best.better) return <p role="status">No better place for certain, {best.tried} were tried.</p>;
  return (
    <p role="status">
      {trim(best.gain, 1)} more in 100 nights, give or take {trim(2 * best.error, 2)}, tried on visits that the search never met ·{' '}
      <button type="button" className="word" onClick={() => onTry({ words: 'the best places', before: of, after: best.layout })}>
        try it
      </button>
    </p>
  );
}
