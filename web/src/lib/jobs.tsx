import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { beginAs } from './ask/begin';
import { useReach } from './ask/reach';
import type { LineNow } from './kept/overlay';
import { useSettings } from './settings';
import type { JobTold } from './types.gen';
import { jobWords } from './words/jobs';

interface Props {
  job: JobTold;
  view: LineNow;
  /** Keeps it quiet for some days; where it is not given that is not offered. */
  onNotNow?: (days: number) => void;
  /** Leaves it out of what is planned; likewise. */
  onLeaveOut?: () => void;
}

/** For how many days a job is kept quiet, and how that is called. */
const quiets = [
  [1, 'a day'],
  [3, 'three days'],
  [7, 'a week'],
] as const;

/** One job, with the way to do it. */
export function Job({ job, view, onNotNow, onLeaveOut }: Props) {
  const { system } = useSettings();
  const navigate = useNavigate();
  const [asks, setAsks] = useState(false);
  const [failed, setFailed] = useState(false);
  const line = `/line/${view.line.id}`;
  const { what, why } = jobWords(job, view, system);
  const set = view.sets.find((s) => s.set.id === job.setId);
  const builds = job.kind === 'build' || job.kind === 'move';
  const begin = async () => {
    if (!job.layout) return;
    try {
      void navigate(`${line}/bench/${await beginAs(view.line.id, job.spotId, job.target, job.layout)}`);
    } catch {
      setFailed(true);
    }
  };
  return (
    <>
      {builds ? (
        <button type="button" className="word" onClick={() => void begin()}>
          <b>{what}</b>
        </button>
      ) : job.change?.layout && set ? (
        <Link to={`${line}/bench/${set.make.designId}`} state={{ lay: job.change.layout }}>
          <b>{what}</b>
        </Link>
      ) : (
        <Link to={`${line}/round/${job.setId}`}>
          <b>{what}</b>
        </Link>
      )}
      <div className="quiet">
        {why}
        {onLeaveOut && (
          <>
            {' · '}
            <button type="button" className="word" aria-label={`leave it out, ${what}`} onClick={onLeaveOut}>
              leave it out
            </button>
          </>
        )}
        {onNotNow && !asks && (
          <>
            {' · '}
            <button type="button" className="word" aria-label={`not now, ${what}`} onClick={() => setAsks(true)}>
              not now
            </button>
          </>
        )}
        {onNotNow && asks && (
          <>
            {' · not for '}
            {quiets.map(([days, name]) => (
              <button key={days} type="button" className="word" onClick={() => onNotNow(days)}>
                {name}
              </button>
            ))}
          </>
        )}
      </div>
      {failed && <div className="wrong">It could not be kept in this browser.</div>}
    </>
  );
}

/** How far it is with what is being weighed; nothing once all is. */
export function Weighing({ told, of }: { told: number; of: number }) {
  const reached = useReach();
  if (told >= of) return null;
  return (
    <p className="quiet">
      {reached
        ? `Being weighed, ${told} of ${of}.`
        : `Known here of ${told} of ${of} sets and spots, the rest when the program is in reach.`}
    </p>
  );
}
