import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useNavigate } from 'react-router';
import { MarkIcon } from '../draw/mark';
import { Refused } from '../lib/api';
import { useDraft } from '../lib/draft';
import { Choice, WrongFields } from '../lib/fields';
import { useKept, write } from '../lib/outbox';
import { useAbout } from '../lib/queries';
import { useSettings } from '../lib/settings';
import { clock, dueWords } from '../lib/time';
import type { Catch, FieldProblem, LineView, Make, SetView, Visit } from '../lib/types.gen';
import { show, type System } from '../lib/units';
import { ulid } from '../lib/ulid';
import { animals, count, pets, word } from '../lib/words';
import { TrapSays } from '../shed/trapsays';
import { toSee } from '../today/today';

interface Answer {
  key: string;
  name: string;
  hint: string;
  /** What is asked next; a single finding is recorded at once. */
  findings: string[];
}

const answers: Answer[] = [
  { key: 'quiet', name: 'Quiet', hint: 'seen from here, nothing touched', findings: ['quiet'] },
  { key: 'came', name: 'Something came', hint: 'passed, looked, left sign', findings: ['passed', 'looked'] },
  {
    key: 'worked',
    name: 'It worked the set',
    hint: 'stepped, dug, robbed, sprung',
    findings: ['stood', 'stepped', 'dug', 'robbed', 'rolled', 'sprung', 'lost'],
  },
  { key: 'holding', name: 'Holding', hint: 'an animal is in the trap', findings: ['catch'] },
  {
    key: 'trouble',
    name: 'Trouble',
    hint: 'frozen, flooded, gone, driven over',
    findings: ['gone', 'locked', 'disturbed', 'unable', 'taken'],
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
  disturbed: 'stock, vehicle, farm work',
  unable: 'stock, vehicle, farm work',
  taken: 'talk to the landowner',
};

/** One set in the hand: how it is rigged, five answers, one more choice, done, next. */
export function Hand({ view, open }: { view: LineView; open: SetView }) {
  const { system } = useSettings();
  const about = useAbout();
  const kept = useKept();
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [recorded, setRecorded] = useState<Visit | null>(null);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [failed, setFailed] = useState('');
  const [visitID] = useState(() => ulid());
  const due = toSee(view);
  const place = due.findIndex((s) => s.set.id === open.set.id);
  const spot = view.spots.find((s) => s.id === open.set.spotId);
  const now = about.data?.now ?? view.now;
  const waiting = kept.filter((k) => !k.refused).length;

  const record = async (finding: string, catches: Catch[]) => {
    if (recorded) return;
    const visit: Visit = {
      id: visitID,
      lineId: view.line.id,
      makeId: open.make.id,
      at: now,
      finding,
      note: '',
      catches,
      flags: '',
      undoneAt: null,
    };
    setRecorded(visit);
    setProblems([]);
    setFailed('');
    try {
      await write(`/lines/${view.line.id}/visits/${visit.id}`, visit, `set ${open.set.number}: ${word(finding)}`);
    } catch (error) {
      setRecorded(null);
      if (error instanceof Refused) {
        setProblems((error.problem.fields ?? []).map((p) => ({ ...p, field: p.field.replace(/^catches\[0\]\./, '') })));
        setFailed(error.problem.detail);
      }
    }
  };

  return (
    <WrongFields problems={problems}>
      <div className="hand">
        <div className="top">
          <span>
            {place >= 0 ? `${place + 1} of ${due.length} · ` : ''}
            {clock(now, view.line.zone)}
          </span>
          <span>{waiting > 0 ? `${count(waiting)} not sent yet` : ''}</span>
        </div>
        <div className="who">
          <MarkIcon kind={open.make.layout.kind} height={50} />
          <div>
            <h1>Set {open.set.number}</h1>
            <div>
              {spot?.name}, {open.bead.nights} {open.bead.nights === 1 ? 'night' : 'nights'}
            </div>
            {open.bead.late && open.bead.due && <b className="ember">{dueWords(open.bead.due, now, view.line.zone)}</b>}
          </div>
        </div>
        <Rig make={open.make} system={system} />
        <TrapSays id={open.make.layout.trap.id} />
        {recorded ? (
          <Recorded visit={recorded} view={view} open={open} now={now} onUndone={() => setRecorded(null)} />
        ) : answer === null ? (
          <>
            <div className="answers">
              {answers.map((a) => (
                <button
                  key={a.key}
                  type="button"
                  className={a.key === 'quiet' ? 'answer first' : 'answer'}
                  onClick={() => (a.findings.length === 1 && a.key === 'quiet' ? void record('quiet', []) : setAnswer(a))}
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
            onRecord={(caught) => void record('catch', [caught])}
            onProblems={setProblems}
          />
        ) : (
          <>
            <h2>{answer.name}</h2>
            <div className="answers">
              {answer.findings.map((finding) => (
                <button key={finding} type="button" className="answer" onClick={() => void record(finding, [])}>
                  <b>{word(finding)}</b>
                  <span>{hints[finding]}</span>
                </button>
              ))}
            </div>
            <div className="foot">
              <button type="button" className="word" onClick={() => setAnswer(null)}>
                back
              </button>
            </div>
          </>
        )}
        {failed && (
          <div className="wrong" role="alert">
            Not recorded: see what is marked, put it right and record it again. Nothing is lost.
          </div>
        )}
      </div>
    </WrongFields>
  );
}

/** How the set is rigged, before anything else: what would be found if the trap is gone. */
function Rig({ make, system }: { make: Make; system: System }) {
  const { anchor } = make.layout;
  const chain = show(anchor.chainMm > 1000 ? 'ground' : 'length', anchor.chainMm, system);
  if (anchor.kind === 'drag') {
    return (
      <div className="rig">
        <b>On a drag.</b> {chain} of chain. If the trap is gone, follow the drag from here; do not walk past it.
      </div>
    );
  }
  return (
    <div className="rig">
      <b>Fixed.</b> {word(anchor.kind)}, {show('length', anchor.lengthMm, system)} down, on {chain} of chain.
    </div>
  );
}

function SkipLink({ view, open }: { view: LineView; open: SetView }) {
  const due = toSee(view);
  const next = due[due.findIndex((s) => s.set.id === open.set.id) + 1] ?? due.find((s) => s.set.id !== open.set.id);
  return next ? <Link to={`/line/${view.line.id}/round/${next.set.id}`}>skip for now</Link> : <span />;
}

/** What was recorded, with undo; and, in another place on the screen, what comes next. */
function Recorded({
  visit,
  view,
  open,
  now,
  onUndone,
}: {
  visit: Visit;
  view: LineView;
  open: SetView;
  now: string;
  onUndone: () => void;
}) {
  const navigate = useNavigate();
  const line = view.line.id;
  const [after, setAfter] = useState<'' | 'remade' | 'pulled'>('');
  const [remakeID] = useState(() => ulid());
  const kept = useKept().some((k) => k.path.endsWith(`/visits/${visit.id}`));
  const next = toSee(view).find((s) => s.set.id !== open.set.id);
  const caught = visit.catches[0];

  const undo = async () => {
    await write(`/lines/${line}/visits/${visit.id}/undo`, { at: now }, `undo of set ${open.set.number}`);
    void navigate(`/line/${line}/round/${open.set.id}`, { replace: true });
    onUndone();
  };
  const remake = async () => {
    setAfter('remade');
    const make: Make = { ...open.make, id: remakeID, follows: null, builtAt: now, pulledAt: null, flags: '' };
    await write(`/lines/${line}/makes/${remakeID}`, make, `set ${open.set.number} remade`);
  };
  const pull = async () => {
    setAfter('pulled');
    await write(`/lines/${line}/makes/${visit.makeId}/pull`, { at: now }, `set ${open.set.number} pulled`);
  };
  return (
    <>
      <div className="recorded" role="status">
        <b>{word(visit.finding)}</b>
        {caught && `: ${word(caught.species)}, ${word(caught.foot)}, ${word(caught.hold)}`}, {clock(visit.at, view.line.zone)}
        {kept ? <span className="ember"> · kept on this device, not sent yet</span> : ' · recorded'}
        {after !== '' && <div>{after === 'remade' ? 'Remade as it was; its nights begin anew.' : 'Pulled; it is down.'}</div>}
      </div>
      <div className="settling">
        {after === '' && (
          <div className="foot" style={{ marginTop: 0 }}>
            <button type="button" className="word" onClick={() => void undo()}>
              undo
            </button>
            <button type="button" className="word" onClick={() => void remake()}>
              remade as it was
            </button>
            <button type="button" className="word" onClick={() => void pull()}>
              pulled
            </button>
          </div>
        )}
        {visit.finding === 'catch' && (
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
      </div>
    </>
  );
}

interface CatchFormProps {
  view: LineView;
  open: SetView;
  onBack: () => void;
  onRecord: (caught: Catch) => void;
  onProblems: (problems: FieldProblem[]) => void;
}

const asked: { field: 'species' | 'sex' | 'foot' | 'hold'; says: string }[] = [
  { field: 'species', says: 'is missing: choose what the trap holds' },
  { field: 'sex', says: 'is missing: choose one, unknown where it cannot be told' },
  { field: 'foot', says: 'is missing: choose the foot that is held' },
  { field: 'hold', says: 'is missing: choose pad or toe' },
];

function CatchForm({ view, open, onBack, onRecord, onProblems }: CatchFormProps) {
  const [caught, set, clear] = useDraft<Catch>(`catch:${open.make.id}`, () => ({
    id: ulid(),
    visitId: '',
    species: '',
    sex: '',
    foot: '',
    hold: '',
  }));
  const change = (part: Partial<Catch>) => set({ ...caught, ...part });
  const done = () => {
    const missing = asked.filter(({ field }) => caught[field] === '');
    onProblems(missing);
    if (missing.length > 0) return;
    clear();
    onRecord(caught);
  };
  return (
    <>
      <p>
        <b>Approach from the far side of its circle</b>, knowing the rig. Dispatch or release as the local code and your training teach.
        {pets.includes(caught.species) && <b className="ember"> A pet: keep clear of its teeth, and call its owner first.</b>}
      </p>
      <div className="answers" aria-label={`what set ${open.set.number} at ${view.line.name} holds`}>
        <Choice
          label="what it holds"
          path="species"
          value={caught.species}
          options={animals}
          name={word}
          onValue={(species) => change({ species })}
        />
        <Choice
          label="sex"
          path="sex"
          value={caught.sex}
          options={['male', 'female', 'unknown']}
          name={word}
          onValue={(sex) => change({ sex })}
        />
        <Choice
          label="which foot"
          path="foot"
          value={caught.foot}
          options={['left_fore', 'right_fore', 'left_hind', 'right_hind']}
          name={word}
          onValue={(foot) => change({ foot })}
        />
        <Choice
          label="how it is held"
          path="hold"
          value={caught.hold}
          options={['pad', 'toe']}
          name={word}
          onValue={(hold) => change({ hold })}
        />
      </div>
      <Button className="next" onClick={done}>
        Record the catch
      </Button>
      <div className="foot">
        <button type="button" className="word" onClick={onBack}>
          back
        </button>
      </div>
    </>
  );
}
