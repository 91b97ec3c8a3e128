import type { ReactNode } from 'react';
import type { Answer, Chances, Circumstances, Range } from '../lib/types.gen';
import { chance, trim } from '../lib/words/units';
import { animalWord, throughWord, wordIn } from '../lib/words/called';
import { leakKeys, leakWords } from '../lib/words/learnt';
import { among, capital, listed, many, plural } from '../lib/words/words';
import { useSettings } from '../lib/settings';
import { surely } from './holds';
import { lacksWords } from '../lib/words/patterns';
import { signs, terms, unknown } from '../lib/words/chain';
import type { Night } from '../lib/ask/circumstances';
import { isBlind, sightWords } from '../lib/words/sight';

/** Which link what is not known leaves open. */
const opens: Record<string, string[]> = {
  passes: ['sign', 'sign_age', 'ways_meet', 'about'],
  notices: ['coverage', 'through'],
  commits: ['firm'],
  held: ['hold'],
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
      {found && chance(found.high) !== chance(found.low) && ` Between ${chance(found.low)} and ${chance(found.high)}.`}
      {found && found.par > 0 && ` A set as it begins gives ${chance(found.par)}.`}
      {found && recordWords(link, answer, around, target)}
      {missing.map((key) => (
        <div key={key} className="dun">
          Not known yet is {wordIn(unknown, key)}.
        </div>
      ))}
    </div>
  );
}

/** What the line's findings say of a link. */
function recordWords(link: string, answer: Answer, around: Circumstances | undefined, target: string): string {
  const links = around?.record?.animals[target]?.links;
  const told = answer.whole?.leaks;
  if (link === 'passes' && (answer.whole?.told.length ?? 0) > 0)
    return ' Told as this line’s record has it: passing is never seen whole, and takes what the other links leave over.';
  if (!links || !told || !among(leakKeys, link) || links[link].reached === 0) return '';
  return ` On this line, ${leakWords(link, links[link])}${told.apart.includes(link) ? '' : ': too few to tell yet'}.`;
}

function linkWords(link: string, answer: Answer, around: Circumstances | undefined, target: string): string {
  const said = (answer.whole?.terms ?? []).map((key) => wordIn(terms, key));
  switch (link) {
    case 'passes': {
      const sign = around?.sign ? wordIn(signs, around.sign) : 'nobody looked for sign';
      const ways = around && around.waysMeet > 1 ? `, times what ${around.waysMeet} ways that meet bring` : '';
      const number = around && around.signs > 0 ? `, ${many(around.signs, 'sign')} in thirty days` : '';
      return `nights in which a ${target === 'red_fox' || target === 'grey_fox' ? 'fox' : target} passes, by the best sign near: ${sign}${number}${ways}. A judgement.`;
    }
    case 'notices': {
      if (isBlind(answer))
        return `of those that pass, these take the very way it lies in, ${throughWords(answer.whole?.throughBy, around)}. A judgement.`;
      const scent = around?.coverage == null ? '' : `the scent lies across the way in ${chance(around.coverage)} night hours, and `;
      return `${scent}it ${sightWords(answer.sight)}. The wind is computed, the sight a judgement.`;
    }
    case 'commits': {
      if (isBlind(answer)) return 'it lies blind in their way, and nothing is asked of them but to walk on.';
      const night = around ? ` It is night ${around.night} of its make.` : '';
      const speaks = said.length > 0 ? ` What counts: ${listed(said)}.` : ' Nothing speaks for or against it.';
      return `how readily ${plural(target)} work a set that they have noticed.${speaks}${target === 'coyote' ? ` Coyotes take three nights to settle to a set that has not caught.${night}` : ''} Judgements.`;
    }
    case 'steps':
      return `of ${answer.visits.toLocaleString('en')} simulated visits, those in which a foot comes onto a pan in a firm bed.`;
    case 'fires':
      return 'of those that step, by their weight on the foot against the pan and its cover.';
    case 'held':
      return `each trap by its own anchor, until the coldest morning to come, times the share held by the pad and six tenths of those held by a toe.${heavierWords(answer)}`;
  }
  return '';
}

/** How the anchors hold the heaviest animal about, where that is not the target. */
function heavierWords({ heaviest }: Answer): string {
  const chances = (heaviest?.anchors ?? []).flatMap((h) => h.worst?.chance ?? []);
  if (!heaviest || chances.length === 0) return '';
  return ` A ${animalWord(heaviest.species)} is likely about too, and the anchor holds it in ${surely(Math.min(...chances))}.`;
}

interface ExpectedProps {
  whole: Chances;
  weakest: string;
  night: Night;
  onNight: (night: Night) => void;
  children: ReactNode;
}

/** From where the share that takes a way is known. */
function throughWords(by: string | undefined, around: Circumstances | undefined): string {
  switch (by) {
    case 'said':
      return `by your word, ${throughWord(around?.site.through ?? '')}`;
    case 'pinch':
      return 'as the pinch gathers them';
    case 'width':
      return 'by how wide it lies open';
  }
  return 'whose width is not known';
}

/** How far a number is open: six judged links multiplied, and what the line's record leaves of their doubt. */
export const openWords = ({ low, high }: Range): string => `four times in five between ${few(low)} and ${few(high)}`;

export const few = (n: number): string => trim(n, n < 0.95 ? 2 : 1);

/** What the chain comes to: catches in a hundred set-nights, with how far that is open. */
export function Expected({ whole, weakest, night, onNight, children }: ExpectedProps) {
  const { system } = useSettings();
  const { mid } = whole.per100;
  const nights: [Night, string][] = [
    ['usual', 'an average night'],
    ['tonight', 'tonight'],
  ];
  return (
    <div className="quiet">
      <div>
        <b className="figure">About {few(mid)} caught in 100 set-nights</b>, {openWords(whole.per100)}.{weakest === '' && ' No weak link.'}
      </div>
      {children}
      {whole.suit.lacks.map((key) => (
        <div key={key} className="dun">
          {capital(lacksWords(key, whole.withinM, system))}.
        </div>
      ))}
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
