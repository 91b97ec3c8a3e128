import { useState } from 'react';
import { nowISO } from '../lib/kept/clock';
import { objections } from '../lib/ask/change';
import { Measure, WrongFields } from '../lib/fields/fields';
import { problemWords } from '../lib/words/inwords';
import { useOnce } from '../lib/fields/once';
import { write } from '../lib/kept/outbox';
import { useSettings } from '../lib/settings';
import { day } from '../lib/words/time';
import type { Rack } from '../lib/ask/hung';
import type { Calibration, FieldProblem, LineView } from '../lib/types.gen';
import { trim } from '../lib/words/units';
import { ulid } from '../lib/ulid';

/** Trying the gauge with a known weight: what it reads is multiplied by what comes of it. */
export function Calibrate({ view, rack, gauge }: { view: LineView; rack: Rack; gauge: string }) {
  const { system } = useSettings();
  const [tried, setTried] = useState({ knownN: 22.24, readN: 22.24 });
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [open, setOpen] = useState(false);
  const known = rack.gauges.find((g) => g.name === gauge.trim());
  const keep = useOnce(async () => {
    const c: Calibration = { id: ulid(), lineId: view.line.id, gauge: gauge.trim(), at: nowISO(), ...tried };
    try {
      await write(`/lines/${view.line.id}/calibrations/${c.id}`, c, `the calibration of the ${c.gauge}`);
      setProblems([]);
      setOpen(false);
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  return (
    <WrongFields problems={problems}>
      <div className="quiet">
        {known?.calibratedAt
          ? `Tried with a weight on ${day(known.calibratedAt, view.line.zone)}, what it reads is multiplied by ${trim(known.factor, 3)}.`
          : 'Never tried with a known weight, taken as it reads.'}{' '}
        <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
          try it
        </button>
      </div>
      {open && (
        <div className="form-grid">
          <Measure
            label="a weight of"
            path="knownN"
            kind="force"
            value={tried.knownN}
            onValue={(knownN) => setTried({ ...tried, knownN })}
          />
          <Measure label="it reads" path="readN" kind="force" value={tried.readN} onValue={(readN) => setTried({ ...tried, readN })} />
          <div className="wide">
            <button type="button" className="word" onClick={() => void keep()}>
              use this correction
            </button>
            {problems
              .filter((p) => p.field === 'gauge')
              .map((p) => (
                <div key={p.field} className="wrong" role="alert">
                  {problemWords(p, system)}
                </div>
              ))}
          </div>
        </div>
      )}
    </WrongFields>
  );
}
