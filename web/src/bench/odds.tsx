import { useQuery } from '@tanstack/react-query';
import { routes } from '../lib/ask/routes';
import { useState } from 'react';
import { OddsChain } from '../draw/chain';
import { Opens } from '../lib/opens';
import { useSettings } from '../lib/settings';
import type { Answer, Circumstances, Feet, Layout } from '../lib/types.gen';
import { chance, in100, show, trim, type System } from '../lib/words/units';
import { animalWord, backingWord } from '../lib/words/called';
import { capital, count, plural } from '../lib/words/words';
import { Ahead } from '../draw/ahead';
import type { BenchAnswer } from './answer';
import type { Night } from '../lib/ask/circumstances';
import type { Follows } from './following';
import { WhatHelps, WhoElse, type Tried } from './helps';
import { Expected, LinkOpened } from './link';
import { poorWords } from '../lib/words/patterns';
import { FindBest } from './search';
import { Prints } from './prints';
import { Recorded } from './told';
import { isBlind, sightWords } from '../lib/words/sight';

interface Props {
  found: BenchAnswer;
  layout: Layout;
  target: string;
  /** What the whole chain was computed under; undefined where it is not known yet. */
  around: Circumstances | undefined;
  night: Night;
  onNight: (night: Night) => void;
  /** Whether the numbers are told by the line's record. */
  by: boolean;
  onBy: (by: boolean) => void;
  anew: boolean;
  follows: Follows & { busy: boolean };
  tried: Tried | null;
  onTry: (tried: Tried | null) => void;
}

/** What the set is worth: the chain of odds, who else would fire it, rules and cautions. */
export function Odds({ found, layout, target, around, night, onNight, by, onBy, anew, follows, tried, onTry }: Props) {
  const [open, setOpen] = useState('');
  const { answer, problems, unanswered } = found;
  return (
    <div>
      <h2>The odds</h2>
      {unanswered && <p className="ember">The program does not answer. What you see is from before; it asks again by itself.</p>}
      {answer?.poor && <p className="dun">{capital(poorWords(target))}.</p>}
      {problems.length > 0 && (
        <p className="ember">
          {problems.length === 1 ? 'One thing has' : `${capital(count(problems.length))} things have`} to be corrected, marked on the left.
          {answer !== undefined && ' What stands here is from before.'}
        </p>
      )}
      <div className="odds-room">
        {answer && (
          <>
            <Worked target={target} feet={answer.feet} />
            <OddsChain links={answer.chain} weakest={answer.weakest} blind={isBlind(answer)} open={open} onOpen={setOpen} />
            <Legend />
            {open !== '' && <LinkOpened link={open} answer={answer} around={around} target={target} />}
            {answer.whole && (
              <Expected whole={answer.whole} weakest={answer.weakest} night={night} onNight={onNight}>
                <Recorded told={answer.whole.told} target={target} kind={layout.kind} by={by} onBy={onBy} anew={anew}>
                  <Prints key={target} question={found.rests} onTry={onTry} />
                </Recorded>
              </Expected>
            )}
            {answer.whole && answer.feet && (
              <WhatHelps follows={follows} around={around} layout={layout} target={target} tried={tried} onTry={onTry} />
            )}
            {answer.whole && answer.feet && <FindBest question={found.rests} onTry={onTry} />}
            {answer.whole && answer.feet && <Ahead question={found.rests} before={tried?.before} />}
            {layout.kind === 'trail' && layout.way && answer.feet && <Lessons target={target} />}
            {answer.feet && <ComputedFrom answer={answer} feet={answer.feet} layout={layout} target={target} />}
          </>
        )}
      </div>
      {answer?.feet && follows.company && (
        <WhoElse others={follows.company.others} all={follows.company.targets} around={around} sight={answer.sight} />
      )}
      {layout.kind === 'device' && (
        <div className="notice">
          <b className="ember">Cables and snares</b> are regulated very differently from place to place, and can hold stock, deer and dogs.
          Ask your agency before you hang one.
        </div>
      )}
      <div className="notice">
        <b>Hands:</b> lift a set trap from below, never by the jaws; safety in while adjusting.
      </div>
      <div className="notice">
        <b>No rule card yet:</b> check with your agency.
      </div>
    </div>
  );
}

/** What the first links are. */
function Legend() {
  return (
    <Opens word="what the links are">
      <p className="quiet">
        <b>Passes by</b>, it comes within sight or smell of the place in a night. <b>Notices</b>, it sees or smells the set. <b>Commits</b>,
        it comes up to it.
      </p>
    </Opens>
  );
}

/** Of the animals that come so far, how many fire it. */
function Worked({ target, feet }: { target: string; feet: Feet | null }) {
  if (!feet) return <div className="quiet">No footfall is claimed of a loop: it closes on what goes through it.</div>;
  return (
    <div className="quiet">
      of 100 {plural(target)} that work it, about <b className="figure">{in100(feet.fire)}</b> fire it
      {feet.spooked > 0 && <span className="ember">; {in100(feet.spooked)} feel the bed give and leave</span>}
    </div>
  );
}

const lessons: Record<string, (n: string) => string> = {
  open: (n) => `one pan in an open two-foot way meets a foot in ${n} passes`,
  stick: (n) => `with a stick to step over, in ${n}`,
  narrow: (n) => `with the way narrowed too, in ${n}`,
  pair: (n) => `with a second trap beyond the stick, in ${n}`,
};

/** What every trail set teaches: a foot falls every step, not everywhere. */
function Lessons({ target }: { target: string }) {
  const { data } = useQuery({
    ...routes.lessons(target),
    staleTime: Infinity,
  });
  if (!data) return null;
  return (
    <div className="quiet lessons">
      Of {plural(target)}:
      {data.map((l) => (
        <div key={l.key}>{lessons[l.key]?.(chance(l.step))}</div>
      ))}
    </div>
  );
}

/** What each pan was taken to meet, and how firm its bed. */
function rigWords(layout: Layout, answer: Answer, system: System): string {
  const many = layout.rigs.length > 1;
  return answer.rigs
    .map((a) => {
      const rig = layout.rigs.find((r) => r.slot === a.slot);
      const pan = many ? `The pan of ${rig?.name || `trap ${a.slot + 1}`}` : 'The pan';
      const meets = `${show('force', rig?.pan?.gaugeN ?? 0, system)} by the gauge and ${show('force', a.coverAddsN, system)} from the cover`;
      const firm =
        rig?.bed.firm === undefined
          ? 'Whether the bed is firm is not known; it is taken as one that gives.'
          : rig.bed.firm
            ? 'The bed is firm.'
            : 'The bed gives.';
      const place = a.ofBest == null ? '' : ` It stands where ${chance(a.ofBest)} of the feet fall that do at the best place.`;
      return `${pan} meets ${show('force', a.effectiveN, system)}, ${meets}. ${firm}${place}`;
    })
    .join(' ');
}

/** What the numbers were computed from, on request. */
function ComputedFrom({ answer, feet, layout, target }: { answer: Answer; feet: Feet; layout: Layout; target: string }) {
  const { system } = useSettings();
  const [open, setOpen] = useState(false);
  return (
    <div className="quiet">
      <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        computed from
      </button>
      {open && (
        <p>
          {answer.visits.toLocaleString('en')} visits of a {animalWord(target)}. Its way in spreads {trim(feet.spreadDeg, 0)}° to either
          side with {layout.backing === 'none' ? 'nothing' : `a ${backingWord(layout.backing)}`} behind; it sets a forefoot anew{' '}
          {trim(feet.work, 1)} times for what keeps it there. {rigWords(layout, answer, system)} Of those that fire it,{' '}
          {chance(feet.padShare)} stand on it with the pad. {capital(sightWords(answer.sight))}. Judgements of the trade, not measurements.
        </p>
      )}
    </div>
  );
}
