import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { keepOver, objections } from '../ask/change';
import { OneOf } from './oneof';
import { Text, WrongFields } from './fields';
import { useSeason } from '../ask/queries';
import { dayOf } from '../words/time';
import type { FieldProblem, Season } from '../types.gen';

/** The seasons of a line, the newest first: the open one is shown until another is chosen, and that is in the address. */
export function Seasons({ seasons, open, all }: { seasons: Season[]; open: string; all?: boolean }) {
  const [params, setParams] = useSearchParams();
  const chosen = useSeason();
  if (seasons.length < 2) return null;
  const names: Record<string, string> = Object.fromEntries(seasons.map((s) => [s.id === open ? '' : s.id, s.name]));
  const choose = (key: string) => {
    const next = new URLSearchParams(params);
    if (key === '') next.delete('season');
    else next.set('season', key);
    setParams(next, { replace: true });
  };
  const keys = [...seasons].reverse().map((s) => (s.id === open ? '' : s.id));
  return (
    <OneOf
      label="seasons"
      of={all ? [...keys, 'all'] : keys}
      chosen={chosen}
      name={(key) => names[key] ?? 'all seasons'}
      onChoose={choose}
    />
  );
}

/** What a season is called and which days it has. */
export function SeasonDays({ season }: { season: Season }) {
  const [editing, setEditing] = useState(false);
  return (
    <div className="quiet">
      {dayOf(season.from)} to {dayOf(season.to)} ·{' '}
      <button type="button" className="word" aria-expanded={editing} onClick={() => setEditing(!editing)}>
        change its name or days
      </button>
      {editing && <SeasonForm key={season.id} season={season} onDone={() => setEditing(false)} />}
    </div>
  );
}

function SeasonForm({ season, onDone }: { season: Season; onDone: () => void }) {
  const [x, setX] = useState(season);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [params, setParams] = useSearchParams();
  const keep = async (next: Season, what: string) => {
    try {
      await keepOver(`/lines/${x.lineId}/seasons/${x.id}`, next, what);
      if (next.deleted) {
        params.delete('season');
        setParams(params, { replace: true });
      }
      onDone();
    } catch (error) {
      setProblems(objections(error));
    }
  };
  const wrong = problems.find((p) => p.field === 'deleted' || p.field === 'version');
  return (
    <WrongFields problems={problems}>
      <form
        className="notice form-grid"
        onSubmit={(e) => {
          e.preventDefault();
          void keep(x, `the season ${x.name} changed`);
        }}
      >
        <Text label="its name" path="name" wide value={x.name} onValue={(name) => setX({ ...x, name })} />
        <Text label="first day" path="from" type="date" value={x.from} onValue={(from) => setX({ ...x, from })} />
        <Text label="last day" path="to" type="date" value={x.to} onValue={(to) => setX({ ...x, to })} />
        <div className="build wide">
          <button type="submit" className="btn btn-primary">
            Save
          </button>
          <button
            type="button"
            className="word"
            onClick={() => void keep({ ...season, deleted: true }, `the season ${season.name} removed`)}
          >
            remove this season
          </button>
        </div>
        {wrong && (
          <div className="wrong wide" role="alert">
            It {wrong.says}
          </div>
        )}
      </form>
    </WrongFields>
  );
}
