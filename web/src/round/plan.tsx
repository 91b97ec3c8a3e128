import { useState } from 'react';
import { Refused } from '../lib/ask/api';
import { useJobs, useRack } from '../lib/ask/queries';
import { Measure, Tick } from '../lib/fields/fields';
import { Job, Weighing } from '../lib/jobs';
import type { LineNow } from '../lib/kept/overlay';
import { figure } from '../lib/words/learnt';
import { trapName } from '../lib/words/traps';
import { duration } from '../lib/words/units';
import { count } from '../lib/words/words';

/** With these hours, these traps and these nights: what to do and build, in which order, with what it may bring. It is changed by hand. */
export function PlanWithWhatIHave({ view }: { view: LineNow }) {
  const [hours, setHours] = useState<number | null>(2);
  const [nights, setNights] = useState<number | null>(null);
  const [traps, setTraps] = useState<string[] | null>(null);
  const [without, setWithout] = useState<string[]>([]);
  const { data: rack } = useRack();
  const none = traps !== null && traps.length === 0;
  const { data: planned, error } = useJobs({
    minutes: (hours ?? 2) * 60,
    ...(nights !== null && { nights }),
    // Where none is ticked, one that is on no rack stands for none.
    ...(traps !== null && { traps: none ? ['none'] : traps }),
    without,
  });
  // What was planned before is not what is asked for now.
  const refused = error instanceof Refused;
  const data = refused ? undefined : planned;
  const free = rack?.traps.filter((h) => data?.traps.includes(h.trap.id) === true || traps?.includes(h.trap.id) === true) ?? [];
  const [all] = useState(() => new Set<string>());
  for (const h of free) all.add(h.trap.id);
  const listed = rack?.traps.filter((h) => all.has(h.trap.id)) ?? [];
  const has = (id: string) => traps === null || traps.includes(id);
  return (
    <div className="plan">
      <div className="fields">
        <Measure label="hours" path="hours" kind="number" value={hours} onValue={setHours} onBlank={() => setHours(null)} />
        <Measure
          label="nights it is to stand"
          path="nights"
          kind="number"
          value={nights}
          onValue={setNights}
          onBlank={() => setNights(null)}
        />
      </div>
      {refused && (
        <p className="wrong" role="alert">
          Hours go from 0 to 24, nights from 0 to 366.
        </p>
      )}
      <details>
        <summary>
          {listed.filter((h) => has(h.trap.id)).length === 1
            ? 'one trap is free'
            : `${count(listed.filter((h) => has(h.trap.id)).length)} traps are free`}
        </summary>
        <div className="ticks">
          {listed.map((h) => (
            <Tick
              key={h.trap.id}
              label={trapName(h)}
              path={`traps.${h.trap.id}`}
              value={has(h.trap.id)}
              onValue={(is) => {
                const now = traps ?? listed.map((x) => x.trap.id);
                setTraps(is ? [...now, h.trap.id] : now.filter((id) => id !== h.trap.id));
              }}
            />
          ))}
        </div>
      </details>
      {data && data.jobs.length === 0 && <p>Nothing fits into that. Leave the sets as they stand.</p>}
      {data && data.jobs.length > 0 && (
        <p>
          In {duration(data.minutes)} about <b>{figure(data.gain)}</b> animals more than by leaving all as it is.
        </p>
      )}
      <ol className="rows">
        {data?.jobs.map((job) => (
          <li key={job.key}>
            <Job job={job} view={view} onLeaveOut={() => setWithout([...without, job.key].sort())} />
          </li>
        ))}
      </ol>
      {without.length > 0 && (
        <button type="button" className="word" onClick={() => setWithout([])}>
          put back what was left out
        </button>
      )}
      {data && <Weighing told={data.told} of={data.of} />}
      <p className="quiet">
        What is begun stands in tomorrow’s kit. Judgements, by what this line has shown so far, told over the nights that are left, with the
        way to spots where nothing stands.
      </p>
    </div>
  );
}
