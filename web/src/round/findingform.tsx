import {
  animals,
  bedsFelt,
  evidence,
  foundCame,
  foundHolding,
  foundQuiet,
  foundTrouble,
  foundWorked,
  locks,
  sides,
  targets,
} from '../lib/lists.gen';
import { useState } from 'react';
import { SetPlan } from '../draw/setplan';
import { Choice, Text } from '../lib/fields/fields';
import { PhotoField } from '../lib/fields/photo';
import type { BedFelt, Finding, Found, Make, Print, Visit } from '../lib/types.gen';
import { animalWord, bedFeltWord, evidenceWord, findingWord, sideWord } from '../lib/words/called';
import { MoreOfLook } from './lookfields';
import { newLook } from './looks';

import { Back, EachTrap } from './eachtrap';
import { GoneForm } from './searchform';

/** One of the five answers, with what was found under it. */
export interface Answer {
  key: string;
  name: string;
  hint: string;
  /** What is asked next; a single finding is recorded at once. */
  findings: readonly Finding[];
}

/** The five answers, as the hand has them. */
export const answers: Answer[] = [
  { key: 'quiet', name: 'Quiet', hint: 'seen from here, nothing touched', findings: foundQuiet },
  { key: 'came', name: 'Something came', hint: 'passed, looked, left sign', findings: foundCame },
  {
    key: 'worked',
    name: 'It worked the set',
    hint: 'stepped, dug, robbed, sprung',
    findings: foundWorked,
  },
  { key: 'holding', name: 'Caught', hint: 'an animal is in the trap', findings: foundHolding },
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
  stood: 'stood there, no print on the pan',
  stepped: 'print on the pan',
  dug: 'unsprung, felt or smelt',
  robbed: 'bait gone',
  rolled: 'hair, trap dragged out',
  sprung: 'fired, foot missed or slipped',
  lost: 'hair, toe, torn circle; trap there',
  gone: 'trap and anchor or drag',
  disturbed: 'stock, vehicle, dirt or litter on it',
  unable: 'stock, vehicle, dirt or litter on it',
  taken: 'talk to the landowner',
};

interface FindingProps {
  answer: Answer;
  make: Make;
  /** Prints of its target that were marked here before. */
  before: Print[];
  onBack: () => void;
  onFound: (finding: Finding, told: Visit) => void;
}

/** One more choice: what was found. What else is known is said before it, or not at all. */
export function FindingForm({ answer, make, before, onBack, onFound }: FindingProps) {
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
        {answer.findings.map((finding) =>
          finding === 'locked' ? (
            <Locked key={finding} onLocked={(bed) => onFound(finding, { ...told, bed })} />
          ) : (
            <button
              key={finding}
              type="button"
              className="answer"
              onClick={() => (finding === 'gone' ? setSeeks(true) : onFound(finding, told))}
            >
              <b>{findingWord(finding)}</b>
              <span>{hints[finding]}</span>
            </button>
          ),
        )}
      </div>
      <MoreToSay make={make} before={before} told={told} onTold={tell} />
      <Back onBack={onBack} />
    </>
  );
}

/** A trap that could not have fired, and by what: one touch says both. */
function Locked({ onLocked }: { onLocked: (bed: BedFelt) => void }) {
  return (
    <div className="answer locked" role="group" aria-label="locked, by what">
      <b>locked</b>
      <span>could not have fired, since it is</span>
      <div className="choice">
        {locks.map((bed) => (
          <button key={bed} type="button" onClick={() => onLocked(bed)}>
            {bedFeltWord(bed)}
          </button>
        ))}
      </div>
    </div>
  );
}

interface ToldProps {
  make: Make;
  before: Print[];
  told: Visit;
  onTold: (change: Partial<Visit>) => void;
}

/** What a look can say beside its finding, for whoever wants to: it is said before the finding is touched. */
function MoreToSay({ make, before, told, onTold }: ToldProps) {
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
  const chosen = <K extends string>(now: K, key: K) => (now === key ? '' : key);
  return (
    <div className="whose">
      <Choice
        label="it came from"
        path="side"
        value={told.side}
        options={sides}
        name={sideWord}
        onValue={(side) => onTold({ side: chosen(told.side, side) })}
      />
      <Choice
        label="the bed felt"
        path="bed"
        value={told.bed}
        options={bedsFelt}
        name={bedFeltWord}
        onValue={(bed) => onTold({ bed: chosen(told.bed, bed) })}
      />
      <SetPlan
        layout={make.layout}
        prints={told.prints}
        before={before}
        onPrint={(print) => onTold({ prints: [...told.prints, print].slice(-6) })}
      />
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
        name={(key) => (key === '' ? 'cannot tell' : key === 'another' ? key : animalWord(key))}
        onValue={(animal) => (animal === 'another' ? setOthers(true) : onTold({ animal, by: animal === '' ? '' : told.by || 'track' }))}
      />
      <div className={told.animal === '' ? 'told-by unsaid' : 'told-by'}>
        <Choice
          hide
          label="what says so"
          path="by"
          value={told.by}
          options={evidence}
          name={(key) => (key === 'seen' ? 'saw it' : `its ${evidenceWord(key)}`)}
          onValue={(by) => onTold({ by })}
        />
      </div>
    </div>
  );
}
