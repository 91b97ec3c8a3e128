import { useState } from 'react';
import { many } from '../lib/words/words';
import { Measure, Pick, Text } from '../lib/fields/fields';
import { carriers, smellKinds, smellPlaces } from '../lib/lists.gen';
import { carrierWord, smellPlaceWord, smellWord } from '../lib/words/called';
import { useRack, useShelf } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import { day } from '../lib/words/time';
import { withTrap } from '../lib/kept/withtrap';
import { baits, lures, urines } from '../lib/words/parts';
import type { Hung, Rack } from '../lib/ask/hung';
import type { Design, FieldProblem, Layout, LineView, OnShelf, Refusal, Rig, Smell } from '../lib/types.gen';
import { show } from '../lib/words/units';
import { neverWords, partWords } from '../lib/words/patterns';
import { faultWords, placeShort, trapName } from '../lib/words/traps';

/** A pan this near to what was read, in newtons, is at what was read. */
const near = 0.3;

/** The rig with a trap that is not on the rack. */
const unlisted = (rig: Rig): Rig => ({ ...rig, trapId: '' });

/** Whether a rig's pan stands where the gauge read the rack's trap; null where the trap is none of the rack. */
export function measured(rig: Rig, rack: Rack | undefined): boolean | null {
  const h = rack?.traps.find((one) => one.trap.id === rig.trapId);
  if (!h) return null;
  return h.tension !== null && Math.abs(h.tension.meanN - (rig.pan?.gaugeN ?? 0)) <= near;
}

/** Whom the pans of a design's traps should spare. */
export const sparesOf = (layout: Layout, target: string, rack: Rack | undefined): string[] => [
  ...new Set(
    layout.rigs.flatMap((r) => rack?.traps.find((h) => h.trap.id === r.trapId)?.trap.spares ?? []).filter((animal) => animal !== target),
  ),
];

/** Why the traps of a design cannot go out; nothing where they can. */
export const trapProblems = (design: Design, rack: Rack | undefined): FieldProblem[] =>
  rack ? design.layout.rigs.flatMap((rig, i) => problemsOf(rig, `rigs[${i}].trapId`, design, rack)) : [];

function problemsOf(rig: Rig, field: string, design: Design, rack: Rack): FieldProblem[] {
  if (!rig.trapId) return [];
  const h = rack.traps.find((one) => one.trap.id === rig.trapId);
  const no = (says: string) => [{ field, says }];
  if (!h) return no('is no longer on the rack. Choose another');
  const here = h.place.kind === 'set' && h.place.setId === design.setId;
  switch (here && h.faults.length === 0 ? '' : here ? 'fault' : h.bars) {
    case 'stands':
      return no(`stands in set ${h.place.number}. Pull it there first, or choose another`);
    case 'away':
      return no(`is not on the rack (${placeShort(h.place)}). Choose another`);
    case 'fault':
      return no(`is kept home (${faultWords(h)}). Choose another, or mend it`);
  }
  return [];
}

/** Choosing the trap from the rack. What stands in another set, or is kept home, is not among them. */
export function FromRack({ rig, path, onRig }: { rig: Rig; path: string; onRig: (rig: Rig) => void }) {
  const { system } = useSettings();
  const { data: rack } = useRack();
  if (!rack || rack.traps.length === 0) return null;
  const { trapId, pan } = rig;
  const named = rack.traps.find((h) => h.trap.id === trapId);
  const free = rack.traps.filter((h) => h.wanted !== null && (h.trap.id === trapId || h.bars === ''));
  const label = (h: Hung) => `${trapName(h)}${h.tension ? `, ${show('force', h.tension.meanN, system)}` : ', not measured'}`;
  const other = named?.tension && pan && Math.abs(named.tension.meanN - pan.gaugeN) > near ? named.tension.meanN : undefined;
  return (
    <div className="wide">
      <Pick
        label="which trap"
        path={`${path}.trapId`}
        value={trapId ?? ''}
        blank="one that is not listed"
        options={free.map((h) => h.trap.id)}
        name={(id) => free.flatMap((h) => (h.trap.id === id ? [label(h)] : [])).join('')}
        onValue={(id) => {
          const h = rack.traps.find((one) => one.trap.id === id);
          onRig(h ? withTrap(rig, h) : unlisted(rig));
        }}
      />
      {named && other !== undefined && (
        <div className="quiet">
          It was measured at {show('force', other, system)}.{' '}
          <button type="button" className="word" onClick={() => onRig(withTrap(rig, named))}>
            take that over
          </button>
        </div>
      )}
    </div>
  );
}

const slots = [
  { kinds: baits, begins: 'bait', place: 'bottom' },
  { kinds: lures, begins: 'lure', place: 'lip' },
  { kinds: urines, begins: 'urine', place: 'backing' },
] as const;
type Slot = (typeof slots)[number];

const slotOf = (kind: string): Slot | undefined => slots.find((slot) => (slot.kinds as readonly string[]).includes(kind));

/** What of the shelf goes where bait, lure or urine goes; food is put to either use. */
const shelved = { bait: ['bait', 'food'], lure: ['gland', 'curiosity', 'musk', 'call', 'food'], urine: ['urine'] };

interface SmellProps {
  layout: Layout;
  /** What the pattern is never scented with. */
  never?: Refusal[];
  smells: Smell[];
  path: string;
  spotID: string;
  view: LineView;
  onSmells: (smells: Smell[]) => void;
}

/**
 * What the set smells of, at one of the things that an animal comes to, or aside of them. A name of the shelf means what stands there: its doses
 * are counted, and its spots remembered.
 */
export function SmellFields({ layout, never, smells, path, spotID, view, onSmells }: SmellProps) {
  const { data: shelf } = useShelf();
  const onShelf = shelf?.lures ?? [];
  const words = partWords(layout);
  const known = smells.flatMap((s) => onShelf.filter((l) => l.lure.id === s.lureId));
  const aside = never === undefined;
  const firsts = aside ? [] : slots.map((slot) => ({ slot, at: smells.findIndex((s) => slotOf(s.kind) === slot) }));
  const others = smells.flatMap((_, i) => (firsts.some((f) => f.at === i) ? [] : [i]));
  const named = (smell: Smell, slot: Slot | undefined, name: string): Smell => {
    const found = onShelf.find((l) => l.lure.name.toLowerCase() === name.trim().toLowerCase());
    const kind = slot?.kinds.find((k) => k === found?.lure.class) ?? smell.kind;
    return { ...smell, kind, name, lureId: found?.lure.id ?? '' };
  };
  const listOf = (slot: Slot | undefined) =>
    onShelf.filter((l) => slot === undefined || shelved[slot.begins].includes(l.lure.class)).map((l) => l.lure.name);
  const row = (i: number, smell: Smell, label: string, slot: Slot | undefined) => (
    <SmellRow
      key={slot && firsts.some((f) => f.at === i) ? slot.begins : i}
      smell={smell}
      label={label}
      path={`${path}[${i}]`}
      list={listOf(slot)}
      onName={(name) => onSmells(name === '' && slot ? smells.filter((_, k) => k !== i) : smells.with(i, named(smell, slot, name)))}
      onSmell={(next) => onSmells(smells.with(i, next))}
      onGone={() => onSmells(smells.filter((_, k) => k !== i))}
    />
  );
  return (
    <>
      {firsts.map(({ slot, at }) => {
        const smell = smells[at];
        if (smell) return row(at, smell, words[slot.begins], slot);
        const refused = never?.find((n) => n.kind === slot.begins);
        if (refused) {
          return (
            <div key={slot.begins} className="wide quiet">
              {neverWords(refused)}
            </div>
          );
        }
        const blank: Smell = { kind: slot.begins, name: '', place: slot.place };
        return (
          <Text
            key={slot.begins}
            label={words[slot.begins]}
            path={`${path}[${smells.length}].name`}
            value=""
            list={listOf(slot)}
            onValue={(name) => name !== '' && onSmells([...smells, named(blank, slot, name)])}
          />
        );
      })}
      {others.map((i) => {
        const smell = smells[i];
        return smell && row(i, smell, aside ? `${smellWord(smell.kind)}, aside` : `more: ${smellWord(smell.kind)}`, undefined);
      })}
      <div className="wide">
        <button type="button" className="word" onClick={() => onSmells([...smells, { kind: 'lure', name: 'lure', place: 'beside' }])}>
          {aside ? 'something to smell, aside of it' : 'one more smell'}
        </button>
        {!aside && (
          <>
            {' · '}
            <button type="button" className="word" onClick={() => onSmells([...smells, { kind: 'scat', name: 'scat', place: 'beside' }])}>
              scat moved to it
            </button>
          </>
        )}
      </div>
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

interface RowProps {
  smell: Smell;
  label: string;
  path: string;
  list: string[];
  onName: (name: string) => void;
  onSmell: (smell: Smell) => void;
  onGone: () => void;
}

/** One smell by its name; how much of it lies where, and on what, opens under it. */
function SmellRow({ smell, label, path, list, onName, onSmell, onGone }: RowProps) {
  const [open, setOpen] = useState(false);
  const { system } = useSettings();
  const lies = [
    smell.amount,
    smell.carrier && smell.carrier !== 'bare' && `on ${carrierWord(smell.carrier)}`,
    smellPlaceWord(smell.place),
    smell.heightMm && `${show('length', smell.heightMm, system)} up`,
  ].filter(Boolean);
  return (
    <>
      <div>
        <Text label={label} path={`${path}.name`} value={smell.name} list={list} onValue={onName} />
        <button type="button" className="word quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {lies.join(', ')}
        </button>
      </div>
      {open && (
        <>
          <Pick
            label="what it is"
            path={`${path}.kind`}
            value={smell.kind}
            options={smellKinds}
            name={smellWord}
            onValue={(kind) => onSmell({ ...smell, kind })}
          />
          <Text label="how much" path={`${path}.amount`} value={smell.amount ?? ''} onValue={(amount) => onSmell({ ...smell, amount })} />
          <Pick
            label="carried on"
            path={`${path}.carrier`}
            value={smell.carrier ?? ''}
            blank="not said"
            options={carriers}
            name={carrierWord}
            onValue={(carrier) => onSmell({ ...smell, carrier })}
          />
          <Pick
            label="where"
            path={`${path}.place`}
            value={smell.place}
            options={smellPlaces}
            name={smellPlaceWord}
            onValue={(place) => onSmell({ ...smell, place })}
          />
          <Measure
            label="how high up"
            path={`${path}.heightMm`}
            kind="length"
            value={smell.heightMm ?? null}
            onValue={(heightMm) => onSmell({ ...smell, heightMm })}
            onBlank={() => onSmell({ ...smell, heightMm: undefined })}
          />
          <div>
            <button type="button" className="word" onClick={onGone}>
              take this smell away
            </button>
          </div>
        </>
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
      {met ? `used here ${met.times === 1 ? 'once' : `${met.times} times`}, last ${day(met.last, view.line.zone)}` : 'new here'};{' '}
      {l.dosesLeft === 0 ? <b className="ember">none left</b> : `${many(l.dosesLeft, 'dose')} left`}.
    </div>
  );
}
