import { useState } from 'react';
import { Choice } from '../lib/fields/fields';
import { useOnce } from '../lib/fields/once';
import { nowISO } from '../lib/kept/clock';
import { act } from '../lib/kept/outbox';
import { cableIn, trapRigs } from '../lib/words/parts';
import type { CheckKey, Make, ShedCheck } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { Back } from './eachtrap';

/** What ten seconds at a set trap look at, what it should be, and what is done about a fault on the spot. */
const looksAt: { key: CheckKey; asks: string; does: string; cable?: boolean }[] = [
  { key: 'dog', asks: 'the dog straight', does: 'A bent dog holds by luck. Put another trap in, and bend it true at home.' },
  { key: 'latch', asks: 'the latch clean', does: 'Soil in the latch holds the pan. Clean it, set it anew, press it again.' },
  {
    key: 'pan_level',
    asks: 'the pan flush',
    does: 'Bend its post forward and the pan comes lower, back and it comes higher, a little at a time. Then press it again.',
  },
  { key: 'links', asks: 'every link closed', does: 'Close the link with the pliers, or the trap walks off.' },
  { key: 'chain', asks: 'the cable without a kink', does: 'A kinked cable breaks there. Put another in.', cable: true },
];

interface Props {
  make: Make;
  set: number;
  onBack: () => void;
  /** To put another trap in the place of the one in a slot. */
  onSwap: (slot: number) => void;
}

/** Ten seconds at the trap where it stands: what is wrong goes into the trap's story, and another is offered. */
export function LookTrap({ make, set, onBack, onSwap }: Props) {
  const rigs = trapRigs(make.layout).filter((r) => r.trapId !== '');
  const [slot, setSlot] = useState(rigs[0]?.slot ?? 0);
  const [said, setSaid] = useState<Partial<Record<CheckKey, 'right' | 'wrong'>>>({});
  const [kept, setKept] = useState(false);
  const rig = rigs.find((r) => r.slot === slot);
  const asked = looksAt.filter((l) => !l.cable || cableIn(make.layout, slot));
  const wrong = asked.filter((l) => said[l.key] === 'wrong');
  const save = useOnce(
    (all: boolean) =>
      new Promise<boolean>((done) => {
        const items = asked.flatMap((l) => {
          const is = all ? 'right' : said[l.key];
          return is ? [{ key: l.key, sound: is === 'right', note: is === 'wrong' ? `seen at set ${set}` : '' }] : [];
        });
        const check: ShedCheck = { id: ulid(), lineId: make.lineId, trapId: rig?.trapId ?? '', at: nowISO(), items };
        const onKept = () => {
          setKept(true);
          done(true);
        };
        void act(`/lines/${make.lineId}/checks/${check.id}`, check, `ten seconds at ${rig?.name ?? 'the trap'}`, { onKept }).then(
          ({ state }) => done(state === 'taken' || state === 'kept'),
        );
      }),
  );
  if (!rig) {
    return (
      <>
        <p>The trap of this set hangs on no rack, so that nothing can be noted of it.</p>
        <Back onBack={onBack} />
      </>
    );
  }
  if (kept) {
    return (
      <>
        <p role="status">{wrong.length === 0 ? `${rig.name}: sound where it stands.` : `Noted of ${rig.name}.`}</p>
        {wrong.map((l) => (
          <p key={l.key}>{l.does}</p>
        ))}
        {wrong.length > 0 && (
          <button type="button" className="btn btn-primary next" onClick={() => onSwap(slot)}>
            Put another trap in
          </button>
        )}
        <Back onBack={onBack} />
      </>
    );
  }
  return (
    <>
      <h2>Ten seconds at the trap</h2>
      <p className="quiet">Fingers outside the jaws, nothing over the pan.</p>
      {rigs.length > 1 && (
        <div className="whose">
          <Choice
            label="which"
            path="trapId"
            value={String(slot)}
            options={rigs.map((r) => String(r.slot))}
            name={(k) => rigs.find((r) => String(r.slot) === k)?.name ?? ''}
            onValue={(k) => setSlot(Number(k))}
          />
        </div>
      )}
      {asked.map((l) => (
        <div className="whose" key={l.key}>
          <Choice
            label={l.asks}
            path={`items.${l.key}`}
            value={said[l.key] ?? ''}
            options={['right', 'wrong'] as const}
            name={(k) => (k === 'right' ? 'yes' : 'no')}
            onValue={(is) => setSaid({ ...said, [l.key]: is })}
          />
        </div>
      ))}
      {Object.keys(said).length === 0 ? (
        <button type="button" className="btn btn-primary next" onClick={() => void save(true)}>
          All of it is right
        </button>
      ) : (
        <button type="button" className="btn btn-primary next" onClick={() => void save(false)}>
          Save
        </button>
      )}
      <Back onBack={onBack} />
    </>
  );
}
