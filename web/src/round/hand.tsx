import { useState } from 'react';
import { Link } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { heldWords, markOf, rigsOf, trapsOf } from '../lib/words/parts';
import { nowISO, useNow } from '../lib/kept/clock';
import { useOnce } from '../lib/fields/once';
import { remadeAsItWas } from '../lib/kept/built';
import { NotAccepted } from '../lib/kept/aside';
import { endedWords } from '../lib/words/permission';
import { act, isFor, isWaiting, useFile, useKept } from '../lib/kept/outbox';
import type { LineNow, SetNow } from '../lib/kept/overlay';
import { useSettings } from '../lib/settings';
import { clock, date, dueWords } from '../lib/words/time';
import type { AnchorOut, Catch, Finding, Make, OptionTold, Pull, Visit } from '../lib/types.gen';
import { nights, type System } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { bedOf, bedSays } from '../lib/words/beds';
import { useWeather } from '../lib/ask/queries';
import { findingWord } from '../lib/words/called';
import { capital, count } from '../lib/words/words';
import { TrapSays } from '../lib/trapsays';
import { searchedToday, toSee } from '../lib/kept/tosee';
import { newLook } from './looks';
import { CatchForm } from './catchform';
import { type Answer, answers, FindingForm } from './findingform';
import { SearchForm } from './searchform';
import { LookTrap } from './looktrap';
import { PullForm } from './pullform';
import { RemakeForm } from './remakeform';
import { Seen } from './seen';

/** Until it is drawn that something was kept, the same button stands there. */
const redrawnMs = 300;

/** One set in the hand: how it is rigged, five answers, one more choice, done, next. */
export function Hand({ view, open }: { view: LineNow; open: SetNow }) {
  const { system } = useSettings();
  const now = useNow();
  const kept = useKept();
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [anew, setAnew] = useState(false);
  /** What is being done at it beside answering. */
  const [doing, setDoing] = useState<'remake' | 'pull' | 'look' | null>(null);
  /** The trap that another is wanted for, by its slot. */
  const [swap, setSwap] = useState<number | null>(null);
  /** What is to be made otherwise, by what a finding means. */
  const [mend, setMend] = useState<OptionTold | null>(null);
  /** What is known of a trap that was searched for and found with an animal. */
  const [sought, setSought] = useState<Partial<Visit> | null>(null);
  const file = useFile();
  const ofSet = kept.filter((w) => isFor(w, file) && w.set === open.set.id);
  const aside = ofSet.filter((w) => w.refused !== null);
  const why = ofSet.find((w) => isWaiting(w) && w.why !== null)?.why;
  const { data: weather } = useWeather();
  // What the bed asks for stands above the answers where it is known before they are drawn. Where it comes
  // late it stands under them: nothing moves from under a finger.
  const [ahead] = useState(weather !== undefined);
  const bed = bedSays(bedOf(weather, open.set.id), system);
  const asks = bed !== '' && <p className="ember">{capital(bed)}.</p>;
  const due = toSee(view);
  const place = due.findIndex((s) => s.set.id === open.set.id);
  const spot = view.spots.find((s) => s.id === open.set.spotId);
  const ended = open.bead.state === 'down' ? '' : endedWords(view, open.set.id, spot);
  const waiting = kept.filter((w) => isWaiting(w) && w.stalled).length;
  const { zone } = view.line;
  const remadeToday = open.make.follows !== null && date(open.make.builtAt, zone) === date(now, zone);
  const seen =
    open.answered !== null ||
    open.uncounted !== null ||
    open.bead.state === 'down' ||
    (!open.bead.today && (open.lastVisit !== null || remadeToday)) ||
    searchedToday(open, now, zone);

  /**
   * Records an act of its own, whatever was answered and taken back before. Once it is kept the next can be done: the program may take long to
   * answer, or never.
   */
  const record = useOnce(
    (kind: 'visits' | 'makes' | 'pulls', id: string, body: unknown, what: string) =>
      new Promise<boolean>((done) => {
        const onKept = () => {
          setAnew(false);
          setAnswer(null);
          setSought(null);
          setDoing(null);
          setSwap(null);
          setMend(null);
          done(true);
        };
        void act(`/lines/${view.line.id}/${kind}/${id}`, body, what, { set: open.set.id, onKept }).then(({ state }) =>
          done(state === 'taken' || state === 'kept'),
        );
      }),
    redrawnMs,
  );
  const look = (finding: Finding, catches: Catch[], told: Partial<Visit> = {}) => {
    const id = ulid();
    const visit: Visit = { ...newLook(view.line.id, open.make.id), ...told, id, at: nowISO(), finding, catches };
    return record('visits', id, visit, `set ${open.set.number}, ${findingWord(finding)}`);
  };
  const remake = (remade = (id: string, at: string) => remadeAsItWas(open.make, id, at)) => {
    const id = ulid();
    return record('makes', id, remade(id, nowISO()), `set ${open.set.number} remade`);
  };
  const pull = (told: Pick<Pull, 'rigs' | 'done' | 'note'>) => {
    const id = ulid();
    const pulled: Pull = { id, lineId: view.line.id, makeId: open.make.id, at: nowISO(), later: false, undoneAt: null, ...told };
    return record('pulls', id, pulled, `set ${open.set.number} pulled`);
  };
  const onDo = (what: 'remake' | 'pull' | 'look', as?: OptionTold) => {
    setMend(as ?? null);
    setDoing(what);
  };
  /** What became of the anchor of a make that was made again elsewhere. */
  const leave = (makeId: string, anchor: AnchorOut) => {
    const id = ulid();
    const rigs = rigsOf(open.make.layout).map(({ slot }) => ({ slot, trap: 'home' as const, sprung: false, anchor }));
    const told: Pull = { id, lineId: view.line.id, makeId, at: nowISO(), later: true, rigs, done: [], note: '', undoneAt: null };
    return act(`/lines/${view.line.id}/pulls/${id}`, told, `the old anchor of set ${open.set.number}`, { set: open.set.id });
  };

  return (
    <div className="hand">
      <div className="top">
        <span>
          {place >= 0 ? `${place + 1} of ${due.length} · ` : ''}
          {clock(now, view.line.zone)}
        </span>
        <span>{waiting > 0 ? `${count(waiting)} not sent yet` : ''}</span>
      </div>
      <div className="who">
        <MarkIcon kind={markOf(open.make.layout)} height={50} />
        <div>
          <h1>Set {open.set.number}</h1>
          <div>
            {spot?.name}, {nights(open.bead.nights)}
          </div>
          {open.bead.late && open.bead.due && <b className="ember">{dueWords(open.bead.due, now, view.line.zone)}</b>}
        </div>
      </div>
      {ended && <p className="ember">{ended}</p>}
      <Rigged make={open.make} system={system} />
      {ahead && asks}
      {trapsOf(open.make.layout).map((id) => (
        <TrapSays key={id} id={id} />
      ))}
      {aside.map((w) => (
        <NotAccepted key={w.mutation} write={w} />
      ))}
      {why && (
        <p className="ember" role="alert">
          {why}
        </p>
      )}
      {aside.length > 0 && ofSet.some(isWaiting) && <p className="quiet">What was done at this set after that waits with it.</p>}
      {doing === 'pull' ? (
        <PullForm make={open.make} onBack={() => setDoing(null)} onPull={(told) => void pull(told)} />
      ) : doing === 'look' ? (
        <LookTrap
          make={open.make}
          set={open.set.number}
          onBack={() => setDoing(null)}
          onSwap={(slot) => {
            setSwap(slot);
            setDoing('remake');
          }}
        />
      ) : doing === 'remake' ? (
        <RemakeForm
          key={open.make.id}
          open={open}
          line={view.line.id}
          swap={swap}
          mend={mend}
          onBack={() => setDoing(null)}
          onRemade={(remade, anchor) => {
            const before = open.make.id;
            void remake(remade).then((done) => (done && anchor !== null ? leave(before, anchor) : undefined));
          }}
        />
      ) : seen && !anew ? (
        <Seen view={view} open={open} onRemake={() => remake()} onDo={onDo} onAgain={() => setAnew(true)} />
      ) : answer === null && open.bead.state === 'sought' ? (
        <SearchForm
          open={open}
          line={view.line.id}
          onFound={(finding, told) => (finding === '' ? setSought(told) : void look(finding, [], told))}
          onHolds={() => setAnswer(answers.find((a) => a.key === 'holding') ?? null)}
        />
      ) : answer === null ? (
        <>
          <div className="answers settling" key="answers">
            {answers.map((a) => (
              <button
                key={a.key}
                type="button"
                className={a.key === 'quiet' ? 'answer first' : 'answer'}
                onClick={() => (a.key === 'quiet' ? void look('quiet', []) : setAnswer(a))}
              >
                <b>{a.name}</b>
                <span>{a.hint}</span>
              </button>
            ))}
          </div>
          <div className="foot">
            <Link to={`/line/${view.line.id}/round`}>the whole round</Link>
            <button type="button" className="word" onClick={() => setDoing('look')}>
              ten-second look
            </button>
            <SkipLink view={view} open={open} />
          </div>
        </>
      ) : answer.key === 'holding' ? (
        <CatchForm
          view={view}
          open={open}
          onBack={() => setAnswer(null)}
          onRecord={(caught) => look(sought ? 'found' : 'catch', caught, { ...sought, animal: caught[0]?.species ?? '', by: 'seen' })}
        />
      ) : (
        <FindingForm
          key={answer.key}
          answer={answer}
          make={open.make}
          before={open.prints}
          onBack={() => setAnswer(null)}
          onFound={(finding, told) => void look(finding, [], told)}
        />
      )}
      {!ahead && asks}
    </div>
  );
}

/** How each trap is rigged, before anything else: what would be found if one is gone. */
function Rigged({ make, system }: { make: Make; system: System }) {
  return heldWords(make.layout, system).map(({ name, drag, says }, i) => (
    <div className="rig" key={i}>
      {name && `${capital(name)}, `}
      <b>{drag ? (name ? 'on a drag' : 'On a drag') : name ? 'fixed' : 'Fixed'}:</b> {says}.
      {drag && ' If the trap is gone, follow the drag from here; do not walk past it.'}
    </div>
  ));
}

function SkipLink({ view, open }: { view: LineNow; open: SetNow }) {
  const due = toSee(view);
  const next = due[due.findIndex((s) => s.set.id === open.set.id) + 1] ?? due.find((s) => s.set.id !== open.set.id);
  return next ? <Link to={`/line/${view.line.id}/round/${next.set.id}`}>skip for now</Link> : <span />;
}
