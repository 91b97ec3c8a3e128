import type { Answer, Chances, Circumstances, Range } from '../lib/types.gen';
import { chance, trim } from '../lib/units';
import { capital, listed, plural } from '../lib/words';
import type { Night } from './circumstances';
import { sightWords } from './sightwords';

const unknown: Record<string, string> = {
  sign: 'how fresh the sign is: look for tracks within fifty yards, and say also where there are none',
  ways_meet: 'how many ways meet at the spot',
  coverage: 'over how much of the night its scent lies across the way: draw the way, and say which way it faces',
  firm: 'whether the bed is firm',
  hold: 'whether the anchor holds: the soil of the spot, or a pull with a scale',
};

const terms: Record<string, string> = {
  bed_loose: 'the bed gives',
  loose_soil: 'loose soil at the pan',
  tall_fence: 'guides over six inches',
  tree_hole: 'a hole in a tree',
  back_open_snow: 'its back is open in snow',
  shy_open_hole: 'an open hole at a shy place',
  shy_punch_holes: 'a shy place',
  lure_new: 'a lure that is new here',
  lure_met: 'a lure that it has met often',
  in_season: 'a smell in its season',
  out_of_season: 'smells out of season',
  bare_hands: 'bare hands',
};

/** Which link what is not known leaves open. */
const opens: Record<string, string[]> = { passes: ['sign', 'ways_meet'], notices: ['coverage'], commits: ['firm'], held: ['hold'] };

const signs: Record<string, string> = {
  today: 'tracks of today',
  days_3: 'sign of the last three days',
  days_7: 'sign of the last week',
  older: 'older sign',
  none: 'no sign, on ground that would hold it',
};

interface LinkProps {
  link: string;
  answer: Answer;
  around: Circumstances | undefined;
  target: string;
}

/** What a link hangs on, in words, and what it would take to know it better. */
export function LinkOpened({ link, answer, around, target }: LinkProps) {
  const whole = answer.whole;
  const found = whole?.links.find((l) => l.key === link);
  const missing = (whole?.unknown ?? []).filter((key) => opens[link]?.includes(key));
  return (
    <div className="quiet link-opened" role="status">
      {capital(linkWords(link, answer, around, target))}
      {found && found.high - found.low > 0.005 && ` Between ${chance(found.low)} and ${chance(found.high)}.`}
      {found && found.par > 0 && ` A set as it begins gives ${chance(found.par)}.`}
      {missing.map((key) => (
        <div key={key} className="dun">
          Not known: {unknown[key]}.
        </div>
      ))}
    </div>
  );
}

function linkWords(link: string, answer: Answer, around: Circumstances | undefined, target: string): string {
  const said = (answer.whole?.terms ?? []).map((key) => terms[key] ?? key);
  switch (link) {
    case 'passes': {
      const sign = around?.sign ? signs[around.sign] : 'no sign looked for';
      const ways = around && around.waysMeet > 1 ? `, times what ${around.waysMeet} ways that meet bring` : '';
      return `nights in which a ${target === 'red_fox' || target === 'grey_fox' ? 'fox' : target} passes, by the best sign near: ${sign ?? ''}${ways}. A judgement: your own looks do not correct it yet.`;
    }
    case 'notices': {
      if (answer.sight.word === 'trail') return 'it lies in the way: an animal that passes need not notice it.';
      const scent = around?.coverage == null ? '' : `the scent lies across the way in ${chance(around.coverage)} night hours, and `;
      return `${scent}it shows: ${sightWords(answer.sight)}. One of both is enough. The wind is computed, the sight a judgement.`;
    }
    case 'commits': {
      const night = around ? ` It is night ${around.night} of its make.` : '';
      const speaks = said.length > 0 ? ` What counts: ${listed(said)}.` : ' Nothing speaks for or against it.';
      return `how readily ${plural(target)} work a set that they have noticed.${speaks}${target === 'coyote' ? ` Coyotes take three nights to settle to a set that has not caught.${night}` : ''} Judgements.`;
    }
    case 'steps':
      return `of ${answer.visits.toLocaleString('en')} simulated visits, those in which a foot comes onto a pan in a firm bed.`;
    case 'fires':
      return 'of those that step, by their weight on the foot against the pan and its cover.';
    case 'held':
      return `each trap by its own anchor, until the coldest morning to come, times the share held by the pad and six tenths of those held by a toe.`;
  }
  return '';
}

interface ExpectedProps {
  whole: Chances;
  /** Of all that the line is set for, the target among them. */
  all: Range | null;
  weakest: string;
  night: Night;
  onNight: (night: Night) => void;
}

/** How far a number is open; where all is known it still hangs on what the trade goes by. */
const openWords = ({ low, high }: Range): string =>
  trim(low, 1) === trim(high, 1) ? "by the trade's figures" : `likely between ${trim(low, 1)} and ${trim(high, 1)}`;

/** What the chain comes to: catches in a hundred set-nights, with how far that is open. */
export function Expected({ whole, all, weakest, night, onNight }: ExpectedProps) {
  const { mid } = whole.per100;
  const nights: [Night, string][] = [
    ['usual', 'an average night'],
    ['tonight', 'tonight'],
  ];
  return (
    <div className="quiet">
      <div>
        <b className="figure">About {trim(mid, 1)} caught in 100 set-nights</b>, {openWords(whole.per100)}.
        {weakest === '' && ' No weak link.'}
      </div>
      {all && all.mid > mid && (
        <div>
          Of all that you set for about {trim(all.mid, 1)}, {openWords(all)}.
        </div>
      )}
      <div role="group" aria-label="by which wind">
        By the wind of{' '}
        {nights.map(([key, name], i) => (
          <span key={key}>
            {i > 0 && ' · '}
            <button
              type="button"
              className={key === night ? 'word chosen' : 'word'}
              aria-pressed={key === night}
              onClick={() => onNight(key)}
            >
              {name}
            </button>
          </span>
        ))}
      </div>
    </div>
  );
}
