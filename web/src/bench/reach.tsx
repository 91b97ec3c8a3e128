import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { routes } from '../lib/ask/routes';
import { useSettings } from '../lib/settings';
import type { Design, InLand, Neighbour, ReachAsked } from '../lib/types.gen';
import { showDistance, type System } from '../lib/words/units';
import { landWord } from '../lib/words/called';
import { listed } from '../lib/words/words';

/** What lies about a design at its place, where it is asked for. */
export function useReachOf({ lineId, layout, target, spotId, setId }: Design, wanted: boolean) {
  const asked = { layout, target, spotId, setId: setId ?? '' } satisfies ReachAsked;
  return useQuery({
    ...routes.reach(lineId, asked),
    placeholderData: keepPreviousData,
    enabled: wanted,
    retry: false,
  });
}

/** What of the land, and which other sets, an animal held in this one would reach; from where it would be seen. */
export function Reach({ design }: { design: Design }) {
  const { system } = useSettings();
  const { data, error } = useReachOf(design, true);
  if (error) return <div className="wide quiet">What lies about it on the land is not known without the program.</div>;
  if (!data) return null;
  const unsure = data.sets.filter((s) => s.m === null);
  const says = [...data.land.map((t) => landWords(t, system)), ...data.sets.filter((s) => s.meets).map((s) => meetsWords(s, system))];
  return (
    <div className="wide">
      {says.map((one) => (
        <div key={one} className="ember">
          {one} Is it meant so?
        </div>
      ))}
      {data.land.length > 0 && design.layout.facingDeg === undefined && (
        <div className="quiet">It is drawn when it is said which way the set faces.</div>
      )}
      {says.length === 0 && <div className="quiet">Nothing that is drawn on the ground lies in its reach.</div>}
      {unsure.length > 0 && (
        <div className="dun">
          {unsure.length === 1 ? 'Set' : 'Sets'} {listed(unsure.map((s) => String(s.number)))} {unsure.length === 1 ? 'stands' : 'stand'} at
          this spot too. Say in the first step where each stands, or whether two held animals reach each other is not known.
        </div>
      )}
      {data.seenBy && <div className="dun">A held animal would be seen by {data.seenBy}.</div>}
      <div className="quiet">
        {data.own ? 'About the place of the set itself.' : 'About its spot, since where the set itself stands is not said.'}
      </div>
    </div>
  );
}

const nameOf = (t: InLand) => (t.name && t.name !== landWord(t.kind) ? `${landWord(t.kind)}, ${t.name}` : landWord(t.kind));

function landWords(t: InLand, system: System): string {
  const off = `${showDistance(t.m, system)} off`;
  switch (t.within) {
    case 'run':
      return `A drag runs to the ${nameOf(t)} as often as not, ${off}.`;
    case 'far':
      return `A drag may run to the ${nameOf(t)}, ${off}.`;
  }
  if (t.within === 'seen') return `A held animal would be seen ${t.name || 'from where it was marked'}, ${off}.`;
  return `In reach: ${nameOf(t)}, ${off}.`;
}

const meetsWords = (s: Neighbour, system: System): string =>
  `An animal held in set ${s.number}, ${showDistance(s.m ?? 0, system)} off, and one held here reach each other.`;
