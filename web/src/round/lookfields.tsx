import Form from 'react-bootstrap/Form';
import {
  animals,
  bedsFelt,
  evidence,
  feet,
  foundCame,
  foundQuiet,
  foundSearch,
  foundTrouble,
  foundWorked,
  holds,
  sexes,
  sides,
} from '../lib/lists.gen';
import type { Catch, Found, Visit } from '../lib/types.gen';
import { Measure } from '../lib/fields';
import { word } from '../lib/words';
import { holding, newCatch, nothingFound } from './looks';

/** What a look can find, as the round asks for it. */
const findings = [...foundQuiet, ...foundCame, ...foundWorked, 'catch', ...foundTrouble, ...foundSearch];
const further = findings.filter((f) => !['quiet', 'catch', ...foundSearch].includes(f));

interface SelectProps {
  label: string;
  value: string;
  options: string[];
  blank: string;
  name?: (key: string) => string;
  onValue: (value: string) => void;
}

/** One of some words, by one key: small enough for a row of a sheet. */
function Select({ label, value, options, blank, name = word, onValue }: SelectProps) {
  return (
    <Form.Select aria-label={label} value={value} onChange={(e) => onValue(e.target.value)}>
      <option value="">{blank}</option>
      {options.map((key) => (
        <option key={key} value={key}>
          {name(key)}
        </option>
      ))}
    </Form.Select>
  );
}

interface Props {
  look: Visit;
  onLook: (change: Partial<Visit>) => void;
}

/** Whether an animal was there of which more can be said. */
const saysWho = (finding: string): boolean => finding === 'catch' || foundCame.includes(finding) || foundWorked.includes(finding);

/** The cells of a look: what was found, whose it was and what says so, from which side, how the bed felt, a note. */
export function LookCells({ look, onLook, stands }: Props & { stands?: string }) {
  const find = (finding: string) => {
    const held = holding.includes(finding);
    onLook({
      finding,
      catches: held ? look.catches : [],
      ...(finding === 'catch' && look.catches.length === 0 && { catches: [newCatch()] }),
    });
  };
  return (
    <>
      <Select label="what was found" value={look.finding} options={findings} blank="found" onValue={find} />
      {stands === undefined || saysWho(look.finding) ? (
        <>
          <Whose found={look} onFound={onLook} />
          <Select label="from which side it came" value={look.side} options={sides} blank="from" onValue={(side) => onLook({ side })} />
        </>
      ) : (
        <span className="stands quiet">{stands}</span>
      )}
      <Select label="how the bed felt" value={look.bed} options={bedsFelt} blank="bed" onValue={(bed) => onLook({ bed })} />
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

function Whose({ found, onFound }: { found: Found; onFound: (change: Partial<Found>) => void }) {
  return (
    <>
      <Select
        label="whose it was"
        value={found.animal}
        options={animals}
        blank="cannot tell"
        onValue={(animal) => onFound({ animal, by: animal === '' ? '' : found.by })}
      />
      <Select label="what says so" value={found.by} options={evidence} blank="told by" onValue={(by) => onFound({ by })} />
    </>
  );
}

/** What goes beside the cells: what else was seen there, and what a trap holds. */
export function MoreOfLook({ look, onLook }: Props) {
  const also = (i: number, change: Partial<Found>) => onLook({ also: look.also.map((f, k) => (k === i ? { ...f, ...change } : f)) });
  const caught = (i: number, change: Partial<Catch>) =>
    onLook({ catches: look.catches.map((c, k) => (k === i ? { ...c, ...change } : c)) });
  return (
    <>
      {look.catches.map((c, i) => (
        <div className="more" key={i}>
          <span>holds</span>
          <Select label="what it holds" value={c.species} options={animals} blank="what" onValue={(species) => caught(i, { species })} />
          <Select label="sex" value={c.sex} options={sexes} blank="sex" onValue={(sex) => caught(i, { sex })} />
          <Select label="which foot" value={c.foot} options={feet} blank="foot" onValue={(foot) => caught(i, { foot })} />
          <Select label="how it is held" value={c.hold} options={holds} blank="how" onValue={(hold) => caught(i, { hold })} />
          <button type="button" className="word" onClick={() => onLook({ catches: look.catches.filter((_, k) => k !== i) })}>
            not this one
          </button>
        </div>
      ))}
      {look.also.map((f, i) => (
        <div className="more" key={i}>
          <span>also</span>
          <Select
            label="what else was found"
            value={f.finding}
            options={further}
            blank="what"
            onValue={(finding) => also(i, { finding })}
          />
          <Whose found={f} onFound={(change) => also(i, change)} />
          <button type="button" className="word" onClick={() => onLook({ also: look.also.filter((_, k) => k !== i) })}>
            not this
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
      </div>
      <div className="more">
        <button type="button" className="word" onClick={() => onLook({ also: [...look.also, nothingFound] })}>
          also seen
        </button>
        {holding.includes(look.finding) && (
          <button type="button" className="word" onClick={() => onLook({ catches: [...look.catches, newCatch()] })}>
            {look.catches.length === 0 ? 'an animal in it' : 'another animal'}
          </button>
        )}
      </div>
    </>
  );
}
