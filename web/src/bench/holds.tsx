import type { ReactNode } from 'react';
import { useSettings } from '../lib/settings';
import type { Answer, Bears, Held, PetPull, Stronger, Surety, When } from '../lib/types.gen';
import { chance, duration, not, showAbout, showDistance, type System } from '../lib/words/units';
import { animalWord, landWord } from '../lib/words/called';
import { strongerWords } from '../lib/words/remedies';

const thawUnsaid = 'Whether it holds at the thaw is not known, when the frost bears nothing. Say the soil of the spot and how wet it is.';
const unsaid: Record<string, string> = {
  soil: 'Whether it holds is not known. Say the soil of the spot and how wet it is, or how hard you pulled at it.',
  cover: 'How far it runs, and whether it holds, hangs on the cover. Say what it can hang in.',
  ends: 'Whether it holds is not known. Say what holds its two ends.',
};

/** What lies in reach of an anchor, and what an animal could do to itself there. */
const reach: Record<string, [is: string, harms?: string]> = {
  fence: ['the fence', 'which it could hang itself on'],
  culvert: ['the culvert'],
  bank: ['the bank', 'which it could go over'],
  tree: ['the tree', 'which it winds itself round'],
  water: ['water'],
  log: ['the log'],
};

/** What is wrong with how a set is held, in few words; a set can be built so all the same. */
export const concernsOf = (answer: Answer | undefined): string[] => [
  ...new Set(
    (answer?.anchors ?? []).flatMap((held) => [
      ...(failsWords(held) ?? failsHeavier(answer, held.slot)),
      ...(held.circle?.near ?? []).map((n) => `${reach[n.kind]?.[0] ?? landWord(n.kind)} is in reach`),
    ]),
  ),
];

/** When the anchor may fail, by the worst of the times; nothing where it holds or is in doubt. */
const failsWords = (held: Held): string[] | undefined => {
  const fails = held.times.filter((t) => t.word === 'fails');
  const worst = fails.reduce<Bears | undefined>((a, t) => (a === undefined || t.chance < a.chance ? t : a), undefined);
  return worst && [`the anchor may fail ${whens[worst.when].toLowerCase()}, ${surely(not(worst.chance))}`];
};

/** An animal that is heavier than the target, and how the anchor holds it. */
export interface Heavier {
  species: string;
  held: Held;
}

/** How an anchor holds the heaviest animal likely about, where that is not the target. */
export const heavierOf = (answer: Answer | undefined, slot: number): Heavier | undefined => {
  const held = answer?.heaviest?.anchors.find((h) => h.slot === slot);
  return answer?.heaviest && held && { species: answer.heaviest.species, held };
};

/** Whether an anchor that holds the target fails the heaviest animal about. */
const failsHeavier = (answer: Answer | undefined, slot: number): string[] => {
  const heavier = heavierOf(answer, slot);
  return heavier?.held.worst?.word === 'fails' ? [`the anchor fails a ${animalWord(heavier.species)}`] : [];
};

interface Props {
  /** For whom the set is made. */
  target: string;
  held: Held | undefined;
  heavier: Heavier | undefined;
  /** Not while something has to be put right: then the answer is of before. */
  current: boolean;
}

/** How an anchor holds at the worst of the times, and what lies in its reach, in a line each. */
export function Holds({ target, held, heavier, current }: Props) {
  const { system } = useSettings();
  if (!held || !current) return null;
  const worst = held.times.reduce<Bears | undefined>((a, t) => (a === undefined || t.chance < a.chance ? t : a), undefined);
  return (
    <div className="objection">
      {held.unsaid && <div className="dun">{held.times.length > 0 ? thawUnsaid : unsaid[held.unsaid]}</div>}
      {worst && worst.word !== 'holds' && <div className={tones[worst.word]}>{bearsWords(worst, held, animalWord(target), system)}</div>}
      {heavier && <HoldsHeavier {...heavier} system={system} quietly={false} />}
      {!held.reaches && <div className="dun">It ends in the frost that is there or comes: nothing of it holds at the thaw.</div>}
      {held.circle?.near.map((n) => (
        <div key={n.kind} className="ember">
          In reach: {(reach[n.kind] ?? [landWord(n.kind)]).join(', ')}, {showAbout('length', n.mm, system)} off. Move the anchor, or shorten
          the chain.
        </div>
      ))}
    </div>
  );
}

/** How an anchor holds the heaviest animal likely about; quietly all of it is told, else only what is wrong. */
function HoldsHeavier({ species, held, system, quietly }: Heavier & { system: System; quietly: boolean }) {
  const { worst } = held;
  if (!worst || (!quietly && worst.word === 'holds')) return null;
  const says = worst.word === 'fails' ? `fails ${chance(not(worst.chance))}` : `holds in ${surely(worst.chance)}`;
  return (
    <div className={quietly ? 'quiet' : tones[worst.word]}>
      A {animalWord(species)} pulls {pull(held.demandN, system)} here, {says}.
    </div>
  );
}

const tones: Record<Surety, string> = { fails: 'ember', doubtful: 'dun', holds: 'quiet' };

/** All that is computed of an anchor, and which changes would make it hold better. */
export function HoldsMore({
  target,
  held,
  heavier,
  pets,
  current,
  onStronger,
  children,
}: Props & { pets: PetPull[]; onStronger: (to: Stronger) => void; children: ReactNode }) {
  const { system } = useSettings();
  if (!held || !current) return null;
  // Frost that goes deeper tonight changes nothing of what it bears while it lasts.
  const times = held.times.filter((t, i) => i === 0 || t.capacityN !== held.times[i - 1]?.capacityN);
  // What holds the heaviest about holds the target too.
  const stronger = heavier && heavier.held.stronger.length > 0 ? heavier.held.stronger : held.stronger;
  return (
    <div className="wide">
      {stronger.length > 0 && (
        <ul className="stronger" aria-label="what would hold better">
          {stronger.slice(0, 4).map((s) => (
            <li key={s.key}>
              <button type="button" className="word" onClick={() => onStronger(s)}>
                {strongerWords(s, system)}
              </button>{' '}
              <span className="quiet">
                {surely(s.chance)} · {duration(s.minutes)} more{s.out > 0 && `, ${duration(s.out)} to get out`}
              </span>
            </li>
          ))}
        </ul>
      )}
      {times.map((t) => (
        <div key={t.when} className="quiet">
          {bearsWords(t, held, animalWord(target), system)}
        </div>
      ))}
      {heavier && <HoldsHeavier {...heavier} system={system} quietly />}
      {pets.map(({ species, demandN }) => (
        <div key={species} className="quiet">
          A {animalWord(species)} was noted near: it pulls {pull(demandN, system)}, and may leave with the trap.
        </div>
      ))}
      {held.run && (
        <div className="quiet">
          Runs about {showDistance(held.run.medianM, system)}, seldom over {showDistance(held.run.farM, system)}. Is there room, and cover
          on the far side from road and boundary?
        </div>
      )}
      {held.circle && (
        <div className="quiet">
          A held animal reaches {showAbout('ground', held.circle.reachMm, system)} and {circleWords(held.circle.patternShare)}.
        </div>
      )}
      {children}
      {held.noFrost && <div className="dun">How deep it is frozen, or will be, is not known here: frost is left out.</div>}
      <div className="quiet">Judgements and soil mechanics, not a test: pull at it by hand, up to what it has to hold.</div>
    </div>
  );
}

/** A pull in round numbers: it is known no better. */
const pull = (newtons: number, system: System): string =>
  system === 'us' ? `${5 * Math.round(newtons / 4.448 / 5)} lb` : `${2 * Math.round(newtons / 9.81 / 2)} kg`;

/** A chance, never said to be certain. */
export const surely = (share: number): string => (share > 0.99 ? 'over 99 in 100' : share < 0.01 ? 'under 1 in 100' : chance(share));

const whens: Record<When, string> = { now: 'Now', morning: 'On the coldest morning to come', thaw: 'At the thaw' };

function bearsWords(t: Bears, held: Held, target: string, system: System): string {
  const when = whens[t.when];
  if (t.capacityN === undefined) return `Holds in about ${chance(t.chance)}, by the habit of drags in such cover.`;
  const bears = `bears about ${pull(t.capacityN, system)}${held.proved && t.when !== 'thaw' ? ', by your pull' : ''}`;
  const asked = `a heavy ${target} pulls ${pull(held.demandN, system)}`;
  const says = {
    holds: `holds in ${surely(t.chance)}`,
    doubtful: `is doubtful, it holds in ${surely(t.chance)}`,
    fails: `may fail, ${surely(not(t.chance))}`,
  }[t.word];
  return `${when} it ${says}; it ${bears}, ${asked}.`;
}

const circleWords = (share: number): string =>
  share > 0.95 ? 'tears up the whole set' : share < 0.05 ? 'leaves the set whole' : `tears up ${chance(share)} parts of the set`;
