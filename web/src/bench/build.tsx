import { hashKey } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useSearchParams } from 'react-router';
import { Refused } from '../lib/ask/api';
import { Pick, Text } from '../lib/fields/fields';
import { trapName } from '../lib/words/traps';
import { withRig, withTrap } from '../lib/kept/withtrap';
import { write } from '../lib/kept/outbox';
import { useNow } from '../lib/kept/clock';
import { useSettings } from '../lib/settings';
import { clock, instant, noInstant, localInput, longDay } from '../lib/words/time';
import type { LineNow } from '../lib/kept/overlay';
import type { Rack } from '../lib/ask/hung';
import type { Along, Design, Layout, Make, Question, Rig } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { AsBuiltPass } from './built';
import { animalWord } from '../lib/words/called';
import { capital, listed } from '../lib/words/words';

interface Props {
  design: Design;
  view: LineNow;
  rack: Rack | undefined;
  onLayout: (layout: Layout) => void;
  /** Not while the bench has something to put right. */
  ready: boolean;
  /** What is wrong with it and can be built all the same. */
  concerns: string[];
  /** Whether the ground is frozen. */
  frozen: boolean;
  /** Which anchor goes along with which trap. */
  along: Along[];
  /** By what the bench was asked. */
  question: Question | undefined;
}

type Built =
  | { state: 'no' }
  | { state: 'building' }
  | { state: 'built'; make: Make; as: string }
  | { state: 'kept'; make: Make; as: string }
  | { state: 'failed'; says: string };

/** Records the set as made. One design built twice by two quick taps is one make: its id is made before the first tap. */
export function Build({ design, view, rack, ready, concerns, frozen, along, question, onLayout }: Props) {
  /** Slots of traps of which it was said that they hang on no rack. */
  const [unlisted, setUnlisted] = useState<number[]>([]);
  const [built, setBuilt] = useState<Built>({ state: 'no' });
  const [typed, setTyped] = useState<string | null>(null);
  const makeID = useRef(ulid());
  const newSetID = useRef(ulid());
  const { zone } = view.line;
  const { system } = useSettings();
  const now = useNow();
  const at = typed === null ? Date.parse(now) : instant(typed, zone);
  const odd = Number.isNaN(at)
    ? `This ${noInstant(typed ?? '')}`
    : at > Date.parse(now) + 60_000
      ? `This lies in the future, it is ${clock(now, zone)} on ${longDay(now, zone)}`
      : undefined;
  const set = view.sets.find((s) => s.set.id === design.setId);
  const verb = set ? 'Remake it' : 'Build it';
  const free = (rack?.traps ?? []).filter((h) => h.wanted !== null && h.bars === '');
  const asked = free.length > 0 ? design.layout.rigs.filter((r) => !r.trapId && r.jaws && !unlisted.includes(r.slot)) : [];
  const choose = (rig: Rig, id: string) => {
    const h = free.find((one) => one.trap.id === id);
    if (h) onLayout(withRig(design.layout, rig.slot, (r) => withTrap(r, h)));
    else setUnlisted([...unlisted, rig.slot]);
  };
  const recipe = hashKey([design.layout]); // the same words, whether they were typed here or came from the program

  const build = async () => {
    if (built.state === 'building') return;
    setBuilt({ state: 'building' });
    const make: Make = {
      id: makeID.current,
      lineId: design.lineId,
      setId: design.setId ?? newSetID.current,
      designId: design.id,
      follows: null,
      target: design.target,
      layout: design.layout,
      asBuilt: null,
      builtAt: new Date(at).toISOString(),
      pulledAt: null,
      step: null,
      fire: null,
      flags: '',
      undoneAt: null,
    };
    try {
      const sent = await write<Make>(
        `/lines/${design.lineId}/makes/${make.id}`,
        make,
        `${verb.toLowerCase()}, for ${animalWord(design.target)}`,
      );
      setBuilt(sent.state === 'taken' ? { state: 'built', make: sent.answer, as: recipe } : { state: 'kept', make, as: recipe });
      setTyped(null);
      makeID.current = ulid();
    } catch (error) {
      setBuilt({
        state: 'failed',
        says: error instanceof Refused ? error.problem.detail : 'This browser could not keep it.',
      });
    }
  };

  const pass = { at: { design, view, spot: view.spots.find((s) => s.id === design.spotId), rack, system }, frozen, along, question };
  // How a set stood that was looked at is put right from its story.
  const putRight = useSearchParams()[0].has('stood');
  const stands = set && set.bead.state !== 'down' ? set : undefined;

  // Once it is built, building again needs a change on the bench, or another place on the screen.
  if ((built.state === 'built' || built.state === 'kept') && built.as === recipe) {
    const number = built.state === 'built' ? view.sets.find((s) => s.set.id === built.make.setId)?.set.number : undefined;
    return (
      <div className="notice" role="status">
        {built.state === 'kept' ? (
          <b>Kept in this browser. The program does not answer; it is sent as soon as it does.</b>
        ) : (
          <>
            <b>
              {number === undefined ? 'The set' : `Set ${number}`} is built, {clock(built.make.builtAt, zone)} on{' '}
              {longDay(built.make.builtAt, zone)}.
            </b>{' '}
            Look at it by midnight tomorrow. To remake it, change what you changed and press Remake.
          </>
        )}
        <AsBuiltPass key={built.make.id} {...pass} make={built.make} looked={false} />
      </div>
    );
  }
  return (
    <div>
      {ready && concerns.length > 0 && <div className="ember">{capital(listed(concerns))}.</div>}
      {asked.map((rig, i) => (
        <Pick
          key={rig.slot}
          label={design.layout.rigs.length > 1 ? `which trap? (${rig.name || `trap ${i + 1}`})` : 'which trap?'}
          path={`rigs[${design.layout.rigs.indexOf(rig)}].trapId`}
          value=""
          blank="choose"
          options={[...free.filter((h) => design.layout.rigs.every((r) => r.trapId !== h.trap.id)).map((h) => h.trap.id), 'none']}
          name={(id) => free.flatMap((h) => (h.trap.id === id ? [trapName(h)] : [])).join('') || 'one that is not on the rack'}
          onValue={(id) => choose(rig, id)}
        />
      ))}
      <div className="build">
        <Button onClick={() => void build()} disabled={!ready || asked.length > 0 || odd !== undefined || built.state === 'building'}>
          {built.state === 'building' ? 'Recording' : concerns.length > 0 ? `${verb} all the same` : verb}
        </Button>
        {typed === null ? (
          <button type="button" className="word" onClick={() => setTyped(localInput(now, zone))}>
            built at another time
          </button>
        ) : (
          <Text label="built at" path="builtAt" type="datetime-local" value={typed} onValue={setTyped} />
        )}
      </div>
      {odd && (
        <div className="wrong" role="alert">
          {odd}.
        </div>
      )}
      {stands && (stands.lastVisit === null || putRight) && (
        <AsBuiltPass key={stands.make.id} {...pass} make={stands.make} looked={stands.lastVisit !== null} />
      )}
      {!ready && <div className="quiet">Correct what is marked above, then it can be built.</div>}
      {built.state === 'failed' && (
        <div className="wrong" role="alert">
          Not recorded: {built.says} Nothing is lost; try again.
        </div>
      )}
    </div>
  );
}
