import { useSettings } from '../lib/settings';
import type { Hung } from '../lib/ask/hung';
import { show, trim } from '../lib/words/units';
import { capital, plural } from '../lib/words/words';
import type { AtGauge, Judged } from './judge';
import { conflictWords, windowWords } from '../lib/words/traps';

/** What the presses come to against the window, which way to turn the pan, and who would fire it. */
export function Verdict({ h, at, judged }: { h: Hung; at: AtGauge; judged: Judged }) {
  const { system } = useSettings();
  const { answer } = judged;
  if (!answer) return judged.trouble ? <p className="ember">{judged.trouble}</p> : null;
  const { measured, wanted, turn, verdict } = answer;
  const quarter = h.tension?.perQuarterN ?? 0;
  return (
    <>
      {measured ? (
        <>
          <div className="figure-large">{show('force', measured.meanN, system)}</div>
          {at.presses.length > 1 && <div className="quiet">spread {trim(measured.spread * 100, 0)} %</div>}
        </>
      ) : (
        <>
          <h2>The window</h2>
          {h.tension && <p className="quiet">It last read {show('force', h.tension.meanN, system)}.</p>}
        </>
      )}
      {verdict === 'inside' && (
        <p>
          <b>Inside its window.</b>
        </p>
      )}
      {turn.way !== '' && (
        <p className="ember">
          <b>{capital(turn.way)}</b>, about {show('force', turn.toMiddleN, system)} to the middle of the window,{' '}
          {show('force', turn.toEdgeN, system)} at least.
          {quarter > 0 &&
            ` A quarter turn moved it ${show('force', quarter, system)} the last time, so about ${trim(answer.quarters, 1)} of them.`}
        </p>
      )}
      {verdict === 'conflict' && (
        <p className="dun">
          <b>{capital(conflictWords(wanted))}.</b> Choose by the drawing what you give up.
        </p>
      )}
      <p>{windowWords(wanted, system)}</p>
      {measured?.wide && (
        <p className="dun">The presses lie far apart. The pan sticks, or the gauge does not stand on its middle. Press again.</p>
      )}
      {measured?.creeps && (
        <p className="dun">
          Each press reads {(at.presses[0] ?? 0) < (at.presses.at(-1) ?? 0) ? 'more' : 'less'} than the last, so the gauge drifts, or the
          pan settles. Zero it and press again.
        </p>
      )}
      {answer.fires.length > 0 && (
        <ul className="others around-6">
          {[at.target, ...at.spares].map((key, i) => (
            <li key={key}>
              {plural(key)} <span>{trim((answer.fires[i] ?? 0) * 100, 0)} of 100 that step on it fire it</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
