import {
  animals,
  bedsFelt,
  conditions,
  evidence,
  feet,
  foundCame,
  foundHolding,
  foundQuiet,
  foundTrouble,
  foundWorked,
  holds,
  pets,
  rigStates,
  sexes,
  sides,
  targets,
  winds,
} from '../lib/lists.gen';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { heldWords, markOf, rigsOf, trapsOf } from '../draw/parts';
import { SetPlan } from '../draw/setplan';
import { nowISO, useNow } from '../lib/clock';
import { useDraft } from '../lib/draft';
import { Choice, Measure, Text, WrongFields } from '../lib/fields';
import { useOnce } from '../lib/once';
import { act, dropPath, isWaiting, useKept } from '../lib/outbox';
import type { LineNow, SetNow } from '../lib/overlay';
import { PhotoField } from '../lib/photo';
import { useReach } from '../lib/reach';
import { useSettings } from '../lib/settings';
import { clock, date, dueWords } from '../lib/time';
import type { Catch, FieldProblem, Found, Make, Problem, Pull, RigFound, Search, Visit } from '../lib/types.gen';
import { nights, type System } from '../lib/units';
import { ulid } from '../lib/ulid';
import { bedOf, bedSays } from '../lib/beds';
import { useWeather } from '../lib/queries';
import { capital, count, word } from '../lib/words';
import { TrapSays } from '../shed/trapsays';
import { toSee } from '../today/today';
import { MoreOfLook } from './lookfields';
import { newCatch, newLook } from './looks';
import { whoseWords } from './says';

interface Answer {
  key: string;
  name: string;
  hint: string;
  /** What is asked next; a single finding is recorded at once. */
  findings: string[];
}

const answers: Answer[] = [
  { key: 'quiet', name: 'Quiet', hint: 'seen from here, nothing touched', findings: foundQuiet },
  { key: 'came', name: 'Something came', hint: 'passed, looked, left sign', findings: foundCame },
  {
    key: 'worked',
    name: 'It worked the set',
    hint: 'stepped, dug, robbed, sprung',
    findings: foundWorked,
  },
  { key: 'holding', name: 'Holding', hint: 'an animal is in the trap', findings: foundHolding },
  {
    key: 'trouble',
    name: 'Trouble',
    hint: 'frozen, flooded, gone, driven over',
    findings: foundTrouble,
  },
];

const hints: Record<string, string> = {
  passed: 'took no interest',
  looked: 'scat, urine, circled',
  stood: 'was at the hole, no print on the pan',
  stepped: 'print on the pan',
  dug: 'unsprung, felt or smelt',
  robbed: 'bait gone',
  rolled: 'hair, trap dragged out',
  sprung: 'fired, foot missed or slipped',
  lost: 'hair, toe, torn circle; trap there',
  gone: 'trap and anchor or drag',
  locked: 'could not have fired',
  disturbed: 'stock, vehicle, dirt or litter on it',
  unable: 'stock, vehicle, dirt or litter on it',
  taken: 'talk to the landowner',
};

/** One set in the hand: how it is rigged, five answers, one more choice, done, next. */
export function Hand({ view, open }: { view: LineNow; open: SetNow }) {
  const { system } = useSettings();
  const now = useNow();
  const kept = useKept();
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [anew, setAnew] = useState(false);
  /** What is known of a trap that was searched for and found with an animal. */
  const [sought, setSought] = useState<Partial<Visit> | null>(null);
  const [refused, setRefused] = useState<Act | null>(null);
  const { data: weather } = useWeather();
  // What the bed asks for stands above the answers where it is known before they are drawn. Where it comes
  // late it stands under them: nothing moves from under a finger.
  const [ahead] = useState(weather !== undefined);
  const bed = bedSays(bedOf(weather, open.set.id), system);
  const asks = bed !== '' && <p className="ember">{capital(bed)}.</p>;
  const due = toSee(view);
  const place = due.findIndex((s) => s.set.id === open.set.id);
  const spot = view.spots.find((s) => s.id === open.set.spotId);
  const waiting = kept.filter((w) => isWaiting(w) && w.stalled).length;
  const { zone } = view.line;
  const remadeToday = open.make.follows !== null && date(open.make.builtAt, zone) === date(now, zone);
  // A search that was given its answer today rests until tomorrow, or until somebody looks again.
  const searched = open.bead.state === 'sought' && open.lastVisit !== null && date(open.lastVisit.at, zone) === date(now, zone);
  const seen =
    open.answered !== null || open.bead.state === 'down' || (!open.bead.today && (open.lastVisit !== null || remadeToday)) || searched;

  /** Records an act of its own, whatever was answered and taken back before. */
  const record = useOnce(async (kind: 'visits' | 'makes' | 'pulls', id: string, body: unknown, what: string) => {
    const path = `/lines/${view.line.id}/${kind}/${id}`;
    setRefused(null);
    setAnew(false);
    setAnswer(null);
    setSought(null);
    const outcome = await act(path, body, what);
    if (outcome.state === 'refused') setRefused({ path, what, problem: outcome.problem });
    return outcome.state !== 'refused';
  });
  const look = (finding: string, catches: Catch[], told: Partial<Visit> = {}) => {
    const id = ulid();
    const visit: Visit = { ...newLook(view.line.id, open.make.id), ...told, id, at: nowISO(), finding, catches };
    return record('visits', id, visit, `set ${open.set.number}: ${word(finding)}`);
  };
  const remake = () => {
    const id = ulid();
    const make: Make = { ...open.make, id, follows: null, builtAt: nowISO(), pulledAt: null, flags: '', undoneAt: null };
    return record('makes', id, make, `set ${open.set.number} remade`);
  };
  const pull = () => {
    const id = ulid();
    const pulled: Pull = { id, lineId: view.line.id, makeId: open.make.id, at: nowISO(), undoneAt: null };
    return record('pulls', id, pulled, `set ${open.set.number} pulled`);
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
      <Rigged make={open.make} system={system} />
      {ahead && asks}
      {trapsOf(open.make.layout).map((id) => (
        <TrapSays key={id} id={id} />
      ))}
      {refused && <NotAccepted act={refused} onGone={() => setRefused(null)} />}
      {seen && !anew ? (
        <Seen view={view} open={open} onRemake={remake} onPull={pull} onAgain={() => setAnew(true)} />
      ) : answer === null && open.bead.state === 'sought' ? (
        <SearchForm
          open={open}
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
            <SkipLink view={view} open={open} />
          </div>
        </>
      ) : answer.key === 'holding' ? (
        <CatchForm
          view={view}
          open={open}
          onBack={() => setAnswer(null)}
          onRecord={(caught) => look(sought ? 'found' : 'catch', [caught], { ...sought, animal: caught.species, by: 'seen' })}
        />
      ) : (
        <FindingForm
          key={answer.key}
          answer={answer}
          make={open.make}
          onBack={() => setAnswer(null)}
          onFound={(finding, told) => void look(finding, [], told)}
        />
      )}
      {!ahead && asks}
    </div>
  );
}

interface FindingProps {
  answer: Answer;
  make: Make;
  onBack: () => void;
  onFound: (finding: string, told: Visit) => void;
}

/** One more choice: what was found. What else is known is said before it, or not at all. */
function FindingForm({ answer, make, onBack, onFound }: FindingProps) {
  const [told, setTold] = useState(() => newLook(make.lineId, make.id));
  const [seeks, setSeeks] = useState(false);
  const tell = (change: Partial<Visit>) => setTold({ ...told, ...change });
  if (seeks) return <GoneForm onBack={() => setSeeks(false)} onGone={(search) => onFound('gone', { ...told, search })} />;
  return (
    <>
      <h2>{answer.name}</h2>
      {answer.key !== 'trouble' && <Whose told={told} onTold={tell} />}
      <EachTrap make={make} rigs={told.rigs} onRigs={(rigs) => tell({ rigs })} />
      <div className="answers settling">
        {answer.findings.map((finding) => (
          <button
            key={finding}
            type="button"
            className="answer"
            onClick={() => (finding === 'gone' ? setSeeks(true) : onFound(finding, told))}
          >
            <b>{word(finding)}</b>
            <span>{hints[finding]}</span>
          </button>
        ))}
      </div>
      <MoreToSay make={make} told={told} onTold={tell} />
      <Back onBack={onBack} />
    </>
  );
}

/** Nothing was meant: to the answers again. */
const Back = ({ onBack }: { onBack: () => void }) => (
  <div className="foot">
    <button type="button" className="word" onClick={onBack}>
      back
    </button>
  </div>
);

interface EachProps {
  make: Make;
  rigs: RigFound[];
  onRigs: (rigs: RigFound[]) => void;
}

/** How each trap was found, where a set has several. */
function EachTrap({ make, rigs, onRigs }: EachProps) {
  const traps = rigsOf(make.layout);
  if (traps.length < 2) return null;
  const state = (slot: number) => rigs.find((r) => r.slot === slot)?.state ?? '';
  const say = (slot: number, said: string) =>
    onRigs([...rigs.filter((r) => r.slot !== slot), ...(said === state(slot) ? [] : [{ slot, state: said }])]);
  return traps.map((rig) => (
    <div className="whose" key={rig.slot}>
      <Choice
        label={rig.name}
        path="rigs"
        value={state(rig.slot)}
        options={rigStates.filter((key) => key !== 'holding')}
        name={(key) => rigWords[key] ?? key}
        onValue={(said) => say(rig.slot, said)}
      />
    </div>
  ));
}

interface ToldProps {
  make: Make;
  told: Visit;
  onTold: (change: Partial<Visit>) => void;
}

/** What a look can say beside its finding, for whoever wants to: it is said before the finding is touched. */
function MoreToSay({ make, told, onTold }: ToldProps) {
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <div className="foot">
        <button type="button" className="word" onClick={() => setOpen(true)}>
          more to say first
        </button>
      </div>
    );
  }
  const chosen = (now: string, key: string) => (now === key ? '' : key);
  return (
    <div className="whose">
      <Choice
        label="it came from"
        path="side"
        value={told.side}
        options={sides}
        name={word}
        onValue={(side) => onTold({ side: chosen(told.side, side) })}
      />
      <Choice
        label="the bed felt"
        path="bed"
        value={told.bed}
        options={bedsFelt}
        name={word}
        onValue={(bed) => onTold({ bed: chosen(told.bed, bed) })}
      />
      <SetPlan layout={make.layout} prints={told.prints} onPrint={(print) => onTold({ prints: [...told.prints, print].slice(-6) })} />
      {told.prints.length > 0 && (
        <button type="button" className="word" onClick={() => onTold({ prints: [] })}>
          no prints
        </button>
      )}
      <MoreOfLook look={told} onLook={onTold} />
      <Text label="note" path="note" value={told.note} onValue={(note) => onTold({ note })} />
      <PhotoField line={make.lineId} photoId={told.photoId} what="the set" onPhoto={(photoId) => onTold({ photoId })} />
    </div>
  );
}

const windNames: Record<string, string> = {
  n: 'north',
  ne: 'north-east',
  e: 'east',
  se: 'south-east',
  s: 'south',
  sw: 'south-west',
  w: 'west',
  nw: 'north-west',
};

const noSearch: Search = { toward: '', cover: '', farM: null, hungOn: '' };

/** A trap is gone: what is known of where it went, so that it can be searched for. */
function GoneForm({ onBack, onGone }: { onBack: () => void; onGone: (search: Search) => void }) {
  const [search, setSearch] = useState(noSearch);
  return (
    <>
      <h2>Trap gone</h2>
      <p>The set stays on the round, late, until the trap is found or given up.</p>
      <div className="whose">
        <Choice
          label="it went toward, if that can be told"
          path="search.toward"
          value={search.toward}
          options={winds}
          name={(key) => windNames[key] ?? key}
          onValue={(toward) => setSearch({ ...search, toward: toward === search.toward ? '' : toward })}
        />
        <Text
          label="cover there, and what was last seen"
          path="search.cover"
          value={search.cover}
          onValue={(cover) => setSearch({ ...search, cover })}
        />
      </div>
      <button type="button" className="btn btn-primary next" onClick={() => onGone(search)}>
        Search for it
      </button>
      <Back onBack={onBack} />
    </>
  );
}

interface SearchProps {
  open: SetNow;
  onFound: (finding: string, told: Partial<Visit>) => void;
  onHolds: () => void;
}

/** A search that is open: found, not found today, or given up. */
function SearchForm({ open, onFound, onHolds }: SearchProps) {
  const [search, setSearch] = useState<Search>({ ...noSearch, toward: open.lastVisit?.search?.toward ?? '' });
  const [found, setFound] = useState(false);
  const [rigs, setRigs] = useState(open.lastVisit?.rigs ?? []);
  const known = open.lastVisit?.search;
  // Found or given up is said of the trap that was gone: what the others were found as stands beside it.
  const others = rigs.filter((r) => r.state !== 'gone');
  const change = (part: Partial<Search>) => setSearch({ ...search, ...part });
  const seen = known && [known.toward && `toward the ${windNames[known.toward] ?? known.toward}`, known.cover].filter(Boolean).join('; ');
  return (
    <>
      <h2>Its trap is searched for</h2>
      <p>
        {seen ? `It went ${seen}.` : 'Nothing is known of where it went.'}{' '}
        <b>It may hold an animal: come up to it from where you can see it first.</b>
      </p>
      <EachTrap make={open.make} rigs={rigs} onRigs={setRigs} />
      {!found ? (
        <div className="answers settling" key="search">
          {(
            [
              ['Found', 'how far, which way, on what it hung', () => setFound(true)],
              ['Not found today', 'the search goes on', () => onFound('gone', { search: known ?? noSearch, rigs })],
              [
                'Given up',
                'remake the set with another trap, or pull it',
                () => onFound('given_up', { search: known ?? noSearch, rigs: others }),
              ],
            ] as const
          ).map(([name, hint, onClick]) => (
            <button key={name} type="button" className="answer" onClick={onClick}>
              <b>{name}</b>
              <span>{hint}</span>
            </button>
          ))}
        </div>
      ) : (
        <div className="whose">
          <Measure
            label="how far off"
            path="search.farM"
            kind="ground"
            value={search.farM === null ? null : search.farM * 1000}
            onValue={(mm) => change({ farM: mm / 1000 })}
            onBlank={() => change({ farM: null })}
          />
          <Choice
            label="which way"
            path="search.toward"
            value={search.toward}
            options={winds}
            name={(key) => windNames[key] ?? key}
            onValue={(toward) => change({ toward: toward === search.toward ? '' : toward })}
          />
          <Text label="on what it hung" path="search.hungOn" value={search.hungOn} onValue={(hungOn) => change({ hungOn })} />
          <button type="button" className="btn btn-primary next" onClick={() => onFound('found', { search, rigs: others })}>
            Found, empty
          </button>
          <button
            type="button"
            className="btn btn-primary next"
            onClick={() => {
              onFound('', { search, rigs: others });
              onHolds();
            }}
          >
            Found, with an animal
          </button>
        </div>
      )}
    </>
  );
}

interface WhoseProps {
  told: Found;
  onTold: (change: Partial<Found>) => void;
}

/** Whose a finding was: mostly a target's; and what says so, which is mostly a track. */
function Whose({ told, onTold }: WhoseProps) {
  const [others, setOthers] = useState(false);
  const offered = others ? animals : targets;
  return (
    <div className="whose">
      <Choice
        hide
        label="whose it was"
        path="animal"
        value={told.animal}
        options={['', ...offered, ...(others ? [] : ['another'])]}
        name={(key) => (key === '' ? 'cannot tell' : word(key))}
        onValue={(animal) => (animal === 'another' ? setOthers(true) : onTold({ animal, by: animal === '' ? '' : told.by || 'track' }))}
      />
      <div className="told-by" style={{ visibility: told.animal === '' ? 'hidden' : undefined }}>
        <Choice
          hide
          label="what says so"
          path="by"
          value={told.by}
          options={evidence}
          name={(key) => (key === 'seen' ? 'saw it' : `its ${word(key)}`)}
          onValue={(by) => onTold({ by })}
        />
      </div>
    </div>
  );
}

/** How one of several traps was found; that one holds is said by its catch. */
const rigWords: Record<string, string> = { set: 'still set', fired: 'sprung', locked: 'frozen', gone: 'gone' };

/** An act that the program would not have. */
interface Act {
  path: string;
  what: string;
  problem: Problem;
}

/** It is not recorded and not lost: it stays here until it is let go. */
function NotAccepted({ act: { path, what, problem }, onGone }: { act: Act; onGone: () => void }) {
  const letGo = async () => {
    await dropPath(path);
    onGone();
  };
  return (
    <div className="wrong" role="alert">
      Not accepted, still kept here: {what}. {problem.detail}{' '}
      <button type="button" className="word" onClick={() => void letGo()}>
        let it go
      </button>
    </div>
  );
}

/** How each trap is rigged, before anything else: what would be found if one is gone. */
function Rigged({ make, system }: { make: Make; system: System }) {
  return heldWords(make.layout, system).map(({ name, drag, says }, i) => (
    <div className="rig" key={i}>
      {name && `${capital(name)}: `}
      <b>{drag ? 'On a drag.' : 'Fixed.'}</b> {says}.{drag && ' If the trap is gone, follow the drag from here; do not walk past it.'}
    </div>
  ));
}

function SkipLink({ view, open }: { view: LineNow; open: SetNow }) {
  const due = toSee(view);
  const next = due[due.findIndex((s) => s.set.id === open.set.id) + 1] ?? due.find((s) => s.set.id !== open.set.id);
  return next ? <Link to={`/line/${view.line.id}/round/${next.set.id}`}>skip for now</Link> : <span />;
}

/** What was answered, with undo; and, in another place on the screen, what comes next. */
function Seen({
  view,
  open,
  onRemake,
  onPull,
  onAgain,
}: {
  view: LineNow;
  open: SetNow;
  onRemake: () => Promise<boolean>;
  onPull: () => Promise<boolean>;
  onAgain: () => void;
}) {
  const line = view.line.id;
  const { zone } = view.line;
  const visit = open.lastVisit;
  const next = toSee(view).find((s) => s.set.id !== open.set.id);
  const caught = visit?.catches[0];
  const remade = visit === null ? open.make.follows !== null : visit.makeId !== open.make.id;
  const down = open.bead.state === 'down';
  const reached = useReach();
  const waits = !open.waits ? ' · recorded' : reached ? ' · sending' : <span className="ember"> · kept on this device, not sent yet</span>;
  const pulled = useKept().findLast((w) => down && w.path.startsWith(`/lines/${line}/pulls/`) && (w.body as Pull).makeId === open.make.id);

  const undo = useOnce(async (path: string) => {
    await act(`${path}/undo`, { at: nowISO() }, `undo of set ${open.set.number}`);
    return true;
  });
  return (
    <>
      <div className="recorded" role="status">
        {visit && (
          <div>
            <b>{word(visit.finding)}</b>
            {!caught && whoseWords(visit)}
            {caught && `: ${word(caught.species)}, ${word(caught.foot)}, ${word(caught.hold)}`}, {clock(visit.at, zone)}
            {!remade && !down && waits}
          </div>
        )}
        {remade && (
          <div>
            <b>remade</b>, {clock(open.make.builtAt, zone)}
            {waits}
          </div>
        )}
        {down && (
          <div>
            <b>pulled</b>; it is down
            {waits}
          </div>
        )}
      </div>
      <div className="settling" key={`${visit?.id} ${open.make.id} ${open.bead.state}`}>
        <div className="foot" style={{ marginTop: 0 }}>
          {!remade && !down && visit && (
            <button type="button" className="word" onClick={() => void undo(`/lines/${line}/visits/${visit.id}`)}>
              undo
            </button>
          )}
          {remade && !down && (
            <button type="button" className="word" onClick={onAgain}>
              look again
            </button>
          )}
          {!remade && !down && (
            <button type="button" className="word" onClick={() => void onRemake()}>
              remade as it was
            </button>
          )}
          {!down && (
            <button type="button" className="word" onClick={() => void onPull()}>
              pulled
            </button>
          )}
          {pulled && (
            <button type="button" className="word" onClick={() => void undo(pulled.path)}>
              undo
            </button>
          )}
        </div>
        {visit?.finding === 'catch' && (
          <p>
            <b>Gloves</b> for carcass, blood and scat. Report what must be reported; check with your agency.
          </p>
        )}
        <div style={{ height: 120 }} />
        <Link className="btn btn-primary next" to={next ? `/line/${line}/round/${next.set.id}` : `/line/${line}/round`}>
          {next
            ? `Next: set ${next.set.number}, ${view.spots.find((s) => s.id === next.set.spotId)?.name ?? ''}`
            : 'Done: every set is seen'}
        </Link>
        {!remade && !down && (
          <div className="foot">
            <button type="button" className="word" onClick={onAgain}>
              look again
            </button>
          </div>
        )}
      </div>
    </>
  );
}

interface CatchFormProps {
  view: LineNow;
  open: SetNow;
  onBack: () => void;
  onRecord: (caught: Catch) => Promise<boolean>;
}

const asked: { field: 'species' | 'sex' | 'foot' | 'hold'; says: string }[] = [
  { field: 'species', says: 'is missing: choose what the trap holds' },
  { field: 'sex', says: 'is missing: choose one, unknown where it cannot be told' },
  { field: 'foot', says: 'is missing: choose the foot that is held' },
  { field: 'hold', says: 'is missing: choose pad or toe' },
];

function CatchForm({ view, open, onBack, onRecord }: CatchFormProps) {
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [caught, set, clear] = useDraft<Catch>(`catch:${open.make.id}`, newCatch);
  const [more, setMore] = useState(false);
  const rigs = rigsOf(open.make.layout);
  const change = (part: Partial<Catch>) => set({ ...caught, ...part });
  const done = () => {
    // Of an animal that the line is not set for its kind is enough.
    const enough = caught.species !== '' && !targets.includes(caught.species);
    const missing = asked.filter(({ field }) => caught[field] === '' && !enough);
    setProblems(missing);
    if (missing.length > 0) return;
    clear();
    void onRecord({ ...caught, id: ulid() });
  };
  return (
    <WrongFields problems={problems}>
      <p>
        <b>Approach from the far side of its circle</b>, knowing the rig. Dispatch or release as the local code and your training teach.
        {pets.includes(caught.species) && <b className="ember"> A pet: keep clear of its teeth, and call its owner first.</b>}
      </p>
      <div className="answers settling" aria-label={`what set ${open.set.number} at ${view.line.name} holds`}>
        <Choice
          label="what it holds"
          path="species"
          value={caught.species}
          options={animals}
          name={word}
          onValue={(species) => change({ species })}
        />
        <Choice label="sex" path="sex" value={caught.sex} options={sexes} name={word} onValue={(sex) => change({ sex })} />
        <Choice label="which foot" path="foot" value={caught.foot} options={feet} name={word} onValue={(foot) => change({ foot })} />
        <Choice label="how it is held" path="hold" value={caught.hold} options={holds} name={word} onValue={(hold) => change({ hold })} />
        {rigs.length > 1 && (
          <div className="wide" role="group" aria-label="in which trap, or in which two">
            <div className="form-label">in which trap, or in which two</div>
            <div className="choice">
              {rigs.map(({ slot, name }) => (
                <button
                  key={slot}
                  type="button"
                  aria-pressed={caught.rigs.includes(slot)}
                  onClick={() =>
                    change({ rigs: caught.rigs.includes(slot) ? caught.rigs.filter((r) => r !== slot) : [...caught.rigs, slot] })
                  }
                >
                  {name}
                </button>
              ))}
            </div>
          </div>
        )}
      </div>
      {more ? (
        <div className="whose">
          <div className="wide" role="group" aria-label="how it was">
            <div className="form-label">how it was</div>
            <div className="choice">
              {conditions.map((key) => (
                <button
                  key={key}
                  type="button"
                  aria-pressed={caught.were.includes(key)}
                  onClick={() => change({ were: caught.were.includes(key) ? caught.were.filter((w) => w !== key) : [...caught.were, key] })}
                >
                  {word(key)}
                </button>
              ))}
            </div>
          </div>
          <Measure
            label="weight"
            path="weightG"
            kind="weight"
            value={caught.weightG}
            onValue={(weightG) => change({ weightG })}
            onBlank={() => change({ weightG: null })}
          />
          <Choice
            label="blood left at the set"
            path="blood"
            value={caught.blood === null ? '' : caught.blood ? 'yes' : 'no'}
            options={['yes', 'no']}
            name={(key) => key}
            onValue={(key) => change({ blood: key === 'yes' })}
          />
        </div>
      ) : (
        <div className="foot">
          <button type="button" className="word" onClick={() => setMore(true)}>
            its condition
          </button>
        </div>
      )}
      <Button className="next" onClick={done}>
        Record the catch
      </Button>
      <Back onBack={onBack} />
    </WrongFields>
  );
}
