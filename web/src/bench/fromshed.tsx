import { Pick, Text } from '../lib/fields';
import { useRack, useShelf } from '../lib/queries';
import { useSettings } from '../lib/settings';
import { day } from '../lib/time';
import type { Attractant, Design, FieldProblem, Hung, LineView, OnShelf, Rack } from '../lib/types.gen';
import { show } from '../lib/units';
import { faultWords, placeShort, trapName } from '../shed/says';

/** The design with a trap of the rack in it: its size, its pan, and what that was measured at. */
function withTrap(d: Design, h: Hung): Design {
  const t = h.trap;
  const l = d.layout;
  return {
    ...d,
    layout: {
      ...l,
      trap: { id: t.id, name: `No. ${t.number}`, jawSpreadMm: t.jawSpreadMm, frameLengthMm: t.frameLengthMm, setHeightMm: t.setHeightMm },
      pan: { ...l.pan, diameterMm: t.panDiameterMm, gaugeN: h.tension?.meanN ?? l.pan.gaugeN },
    },
  };
}

/** Why the trap of a design cannot go out; nothing where it can. */
export function trapProblems(design: Design, rack: Rack | undefined): FieldProblem[] {
  const { id } = design.layout.trap;
  if (!id || !rack) return [];
  const h = rack.traps.find((one) => one.trap.id === id);
  const no = (says: string) => [{ field: 'trap.id', says }];
  if (!h) return no('is no longer on the rack: choose another');
  const here = h.place.kind === 'set' && h.place.setId === design.setId;
  switch (here && h.faults.length === 0 ? '' : here ? 'fault' : h.bars) {
    case 'stands':
      return no(`stands in set ${h.place.number}: pull it there first, or choose another`);
    case 'away':
      return no(`is not on the rack (${placeShort(h.place)}): choose another`);
    case 'fault':
      return no(`is kept home (${faultWords(h)}): choose another, or mend it`);
  }
  return [];
}

/** Choosing the trap from the rack. What stands in another set, or is kept home, is not among them. */
export function FromRack({ design, onEdit }: { design: Design; onEdit: (change: (d: Design) => Design) => void }) {
  const { system } = useSettings();
  const { data: rack } = useRack();
  if (!rack || rack.traps.length === 0) return null;
  const { trap, pan } = design.layout;
  const named = rack.traps.find((h) => h.trap.id === trap.id);
  const free = rack.traps.filter((h) => h.wanted !== null && (h.trap.id === trap.id || h.bars === ''));
  const label = (h: Hung) => `${trapName(h)}${h.tension ? `, ${show('force', h.tension.meanN, system)}` : ', not measured'}`;
  const other = named?.tension && Math.abs(named.tension.meanN - pan.gaugeN) > 0.3 ? named.tension.meanN : undefined;
  return (
    <div className="wide">
      <Pick
        label="trap, from the rack"
        path="trap.id"
        value={trap.id ?? ''}
        blank="one that is not listed"
        options={free.map((h) => h.trap.id)}
        name={(id) => free.flatMap((h) => (h.trap.id === id ? [label(h)] : [])).join('')}
        onValue={(id) => {
          const h = rack.traps.find((one) => one.trap.id === id);
          onEdit((d) => (h ? withTrap(d, h) : { ...d, layout: { ...d.layout, trap: { ...d.layout.trap, id: '' } } }));
        }}
      />
      {named && other !== undefined && (
        <div className="quiet">
          It was measured at {show('force', other, system)}.{' '}
          <button type="button" className="word" onClick={() => onEdit((d) => withTrap(d, named))}>
            take that over
          </button>
        </div>
      )}
    </div>
  );
}

const slots = [
  { field: 'bait', id: 'baitId', label: 'bait, at the bottom', classes: ['bait', 'food'] },
  { field: 'lure', id: 'lureId', label: 'lure, on lip or plug', classes: ['gland', 'curiosity', 'musk', 'call', 'food'] },
  { field: 'urine', id: 'urineId', label: 'urine, on the backing', classes: ['urine'] },
] as const;

interface SmellProps {
  attractant: Attractant;
  spotID: string;
  view: LineView;
  onValue: (attractant: Attractant) => void;
}

/** What the set smells of. A name of the shelf means what stands there: its doses are counted, and its spots remembered. */
export function SmellFields({ attractant, spotID, view, onValue }: SmellProps) {
  const { data: shelf } = useShelf();
  const lures = shelf?.lures ?? [];
  const known = slots.flatMap((s) => lures.filter((l) => l.lure.id === attractant[s.id]));
  return (
    <>
      {slots.map((s) => (
        <Text
          key={s.field}
          label={s.label}
          path={`attractant.${s.field}`}
          value={attractant[s.field]}
          list={lures.filter((l) => (s.classes as readonly string[]).includes(l.lure.class)).map((l) => l.lure.name)}
          onValue={(text) => {
            const found = lures.find((l) => l.lure.name.toLowerCase() === text.trim().toLowerCase());
            onValue({ ...attractant, [s.field]: text, [s.id]: found?.lure.id ?? '' });
          }}
        />
      ))}
      {known.length > 0 && (
        <div className="wide quiet">
          {known.map((l) => (
            <Known key={l.lure.id} l={l} spotID={spotID} view={view} />
          ))}
        </div>
      )}
    </>
  );
}

/** How often this spot has met a lure, and what is left of it. */
function Known({ l, spotID, view }: { l: OnShelf; spotID: string; view: LineView }) {
  const met = l.met.find((m) => m.spotId === spotID);
  return (
    <div>
      {l.lure.name}:{' '}
      {met ? `met here ${met.times === 1 ? 'once' : `${met.times} times`}, last ${day(met.last, view.line.zone)}` : 'new here'};{' '}
      {l.dosesLeft === 0 ? <b className="ember">none left</b> : `${l.dosesLeft} ${l.dosesLeft === 1 ? 'dose' : 'doses'} left`}.
    </div>
  );
}
