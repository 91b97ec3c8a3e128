import { useState } from 'react';
import { call, Refused } from '../lib/ask/api';
import { Measure, Pick } from '../lib/fields/fields';
import { useSettings } from '../lib/settings';
import type { Hung, Rack } from '../lib/ask/hung';
import type { Ask, PressRead } from '../lib/types.gen';
import { show } from '../lib/words/units';

/** Reading a connected gauge, one press at a time; what is no reading is said and not counted. */
export function ReadGauge({ rack, h, onRead }: { rack: Rack; h: Hung; onRead: (n: number) => void }) {
  const { system } = useSettings();
  const [made, setMade] = useState<{ panN: number; acts: string }>({ panN: h.tension?.meanN ?? 17.8, acts: 'well' });
  const [state, setState] = useState<{ reading: boolean; says: string; drifted: boolean }>({ reading: false, says: '', drifted: false });
  const read = async (zero: boolean) => {
    if (state.reading) return;
    setState({ reading: true, says: '', drifted: false });
    try {
      const press = await call<PressRead>('POST', '/press', { zero, ...made } satisfies Ask);
      if (press.drifted) {
        setState({
          reading: false,
          says: `The gauge drifts, at rest it reads ${show('force', press.offN, system)}. That press is not counted.`,
          drifted: true,
        });
        return;
      }
      setState({ reading: false, says: '', drifted: false });
      onRead(press.peakN);
    } catch (error) {
      setState({
        reading: false,
        says: error instanceof Refused ? error.problem.detail : 'The program does not answer. Write the press instead.',
        drifted: false,
      });
    }
  };
  if (!rack.reads) return <p className="quiet">No gauge is connected. Type what yours reads.</p>;
  return (
    <div className="notice">
      <button id="read-gauge" type="button" className="key wide-key" disabled={state.reading} onClick={() => void read(false)}>
        {state.reading ? 'press the pan now' : 'Read the gauge'}
      </button>
      {state.says && (
        <div className="wrong" role="alert">
          {state.says}{' '}
          {state.drifted && (
            <button type="button" className="word" onClick={() => void read(true)}>
              zero it and press again
            </button>
          )}
        </div>
      )}
      {rack.standIn && (
        <details className="quiet">
          <summary>This gauge is made up: what it does</summary>
          <div className="form-grid">
            <Measure label="the pan gives at" path="panN" kind="force" value={made.panN} onValue={(panN) => setMade({ ...made, panN })} />
            <Pick
              label="the gauge"
              path="acts"
              value={made.acts}
              options={['well', 'drifts', 'sticks']}
              name={(a) => (a === 'well' ? 'reads well' : a)}
              onValue={(acts) => setMade({ ...made, acts })}
            />
          </div>
        </details>
      )}
    </div>
  );
}
