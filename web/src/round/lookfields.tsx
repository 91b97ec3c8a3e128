import Form from 'react-bootstrap/Form';
import { animals, bedsFelt, canHold, evidence, findings, foundCame, foundSearch, foundWorked, locks, sides } from '../lib/lists.gen';
import { Measure } from '../lib/fields/fields';
import type { FieldProblem, Finding, Found, Make, RigState, Visit } from '../lib/types.gen';
import { rigsOf } from '../lib/words/parts';
import { Animals, WhichTrap } from './animal';
import { Cell } from './cell';
import { findingWord, sideWord, bedFeltWord, animalWord, evidenceWord } from '../lib/words/called';
import { among } from '../lib/words/words';
import { newCatch, nothingFound } from './looks';

/** What a look can find beside the first that it found. */
const further = findings.filter((f) => f !== 'quiet' && f !== 'catch' && !among(foundSearch, f));

/** How one trap of several was found, where a finding speaks of one trap. */
const ofOneTrap: Partial<Record<Finding, RigState>> = { sprung: 'fired', lost: 'fired', gone: 'gone', locked: 'locked' };

interface Props {
  look: Visit;
  /** What stood then, as far as it is known here. */
  make: Make | undefined;
  problems: FieldProblem[];
  onLook: (change: Partial<Visit>) => void;
}

/** Whether an animal was there of which more can be said. */
const saysWho = (finding: Finding): boolean => among(foundCame, finding) || among(foundWorked, finding);

/** What a finding makes of what was said before: whose it was is what was caught. */
export function withFinding(look: Visit, finding: Finding): Partial<Visit> {
  const first = { ...newCatch(), species: look.animal };
  return {
    finding,
    rigs: [],
    catches: finding === 'catch' && look.catches.length === 0 ? [first] : among(canHold, finding) ? look.catches : [],
  };
}

/** The cells of a look, in the order of the story: what was found, what goes with it, how the bed felt, a note. */
export function LookCells({ look, make, problems, onLook, stands }: Props & { stands?: string }) {
  const locked = look.finding === 'locked';
  // On the sheet the columns are headed once; what stands alone says by itself what it is.
  const blank = (name: string) => (stands === undefined ? name : '—');
  return (
    <>
      <Cell
        label="what was found"
        value={look.finding}
        options={findings}
        name={findingWord}
        blank={blank('found')}
        wrong={problems.some((p) => p.field === 'finding')}
        onValue={(finding) => onLook(withFinding(look, finding))}
      />
      <div className={locked ? 'story locked' : 'story'}>
        {saysWho(look.finding) && (
          <>
            <Whose found={look} path="" problems={problems} onFound={onLook} />
            <Cell
              label="from which side it came"
              value={look.side}
              options={sides}
              name={sideWord}
              blank={blank('from')}
              onValue={(side) => onLook({ side })}
            />
          </>
        )}
        {locked && (
          <Cell
            label="locked by what"
            value={look.bed}
            options={locks}
            name={bedFeltWord}
            blank="by what"
            onValue={(bed) => onLook({ bed })}
          />
        )}
        {make && <Which look={look} make={make} onLook={onLook} />}
        {look.catches.length > 0 && (
          <Animals make={make} caught={look.catches} problems={problems} onCaught={(catches) => onLook({ catches })} />
        )}
        {stands !== undefined && !saysWho(look.finding) && !locked && look.catches.length === 0 && (
          <span className="stands quiet">{stands}</span>
        )}
      </div>
      {!locked && (
        <Cell
          label="how the bed felt"
          value={look.bed}
          options={bedsFelt}
          name={bedFeltWord}
          blank={blank('bed')}
          onValue={(bed) => onLook({ bed })}
        />
      )}
      <Form.Control
        aria-label="note"
        placeholder="note"
        autoComplete="off"
        value={look.note}
        onChange={(e) => onLook({ note: e.target.value })}
      />
    </>
  );
}

/** Which trap of several a finding speaks of; the others stand as they were set. */
function Which({ look, make, onLook }: { look: Visit; make: Make; onLook: (change: Partial<Visit>) => void }) {
  const state = ofOneTrap[look.finding];
  if (state === undefined) return null;
  return (
    <WhichTrap
      make={make}
      label="which trap"
      slots={look.rigs.filter((r) => r.state === state).map((r) => r.slot)}
      onSlots={(slots) =>
        onLook({
          rigs: slots.length === 0 ? [] : rigsOf(make.layout).map(({ slot }) => ({ slot, state: slots.includes(slot) ? state : 'set' })),
        })
      }
    />
  );
}

interface WhoseProps {
  found: Found;
  path: string;
  problems: FieldProblem[];
  onFound: (change: Partial<Found>) => void;
}

function Whose({ found, path, problems, onFound }: WhoseProps) {
  return (
    <>
      <Cell
        label="whose it was"
        value={found.animal}
        options={animals}
        name={animalWord}
        blank="cannot tell"
        wrong={problems.some((p) => p.field === `${path}animal`)}
        onValue={(animal) => onFound({ animal, by: animal === '' ? '' : found.by })}
      />
      <Cell
        label="what says so"
        value={found.by}
        options={evidence}
        name={evidenceWord}
        blank="told by"
        onValue={(by) => onFound({ by })}
      />
    </>
  );
}

/** What goes beside the cells: what else was seen there, and what was done to the bed. */
export function MoreOfLook({ look, problems = [], onLook }: Omit<Props, 'make' | 'problems'> & { problems?: FieldProblem[] }) {
  const also = (i: number, change: Partial<Found>) => onLook({ also: look.also.map((f, k) => (k === i ? { ...f, ...change } : f)) });
  return (
    <>
      {look.also.map((f, i) => (
        <div className="more" key={i}>
          <span>also</span>
          <Cell
            label="what else was found"
            value={f.finding}
            options={further}
            name={findingWord}
            blank="what"
            wrong={problems.some((p) => p.field === `also[${i}].finding`)}
            onValue={(finding) => also(i, { finding })}
          />
          <Whose found={f} path={`also[${i}].`} problems={problems} onFound={(change) => also(i, change)} />
          <button type="button" className="word" onClick={() => onLook({ also: look.also.filter((_, k) => k !== i) })}>
            remove
          </button>
        </div>
      ))}
      <div className="more">
        <Form.Check
          id={`bailed-${look.id || look.makeId}`}
          label="bailed"
          checked={look.bailed === true}
          onChange={(e) => onLook({ bailed: e.target.checked })}
        />
        <Measure
          label="put in against freezing"
          path="agentG"
          kind="weight"
          value={look.agentG ?? null}
          onValue={(agentG) => onLook({ agentG })}
          onBlank={() => onLook({ agentG: undefined })}
        />
        <button type="button" className="word" onClick={() => onLook({ also: [...look.also, nothingFound] })}>
          also seen
        </button>
        {among(canHold, look.finding) && look.catches.length === 0 && (
          <button type="button" className="word" onClick={() => onLook({ catches: [newCatch()] })}>
            an animal in it
          </button>
        )}
      </div>
    </>
  );
}
