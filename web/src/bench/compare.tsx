import { skipToken, useQuery, type SkipToken } from '@tanstack/react-query';
import { useState } from 'react';
import { OddsChain } from '../draw/chain';
import { SmallPlan } from '../draw/smallplan';
import { Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import type { Answer, Design, Difference, Layout, Question } from '../lib/types.gen';
import { trim } from '../lib/words/units';
import { listed } from '../lib/words/words';
import { useCircumstances, type Night } from '../lib/ask/circumstances';
import { patternWords } from '../lib/words/patterns';
import { isBlind } from '../lib/words/sight';

/** A design that is pinned beside the one on the bench, kept in this window over a reload. */
export function usePinned(id: string): [Layout | null, (layout: Layout | null) => void] {
  const key = `pinned ${id}`;
  const [pinned, setPinned] = useState<Layout | null>(() => {
    try {
      return JSON.parse(sessionStorage.getItem(key) ?? 'null') as Layout | null;
    } catch {
      return null;
    }
  });
  return [
    pinned,
    (layout) => {
      setPinned(layout);
      try {
        sessionStorage.setItem(key, JSON.stringify(layout));
      } catch {
        // A full store keeps it for as long as the page is open.
      }
    },
  ];
}

/** Where there is nothing to ask yet. */
const unasked: { queryKey: unknown[]; queryFn: SkipToken } = { queryKey: ['unasked'], queryFn: skipToken };

interface Props {
  design: Design;
  pinned: Layout;
  /** What the design on the bench was asked by, and its answer. */
  question: Question | undefined;
  answer: Answer | undefined;
  night: Night;
  onTake: () => void;
  onUnpin: () => void;
}

/** The pinned design and the one on the bench side by side, and by how much they differ on the same feet. */
export function Compare({ design, pinned, question, answer, night, onTake, onUnpin }: Props) {
  const around = useCircumstances({ ...design, layout: pinned })?.[night];
  const beside: Question | undefined = question &&
    around && {
      ...question,
      layout: pinned,
      circumstances: question.circumstances?.record ? around : { ...around, record: undefined },
      map: false,
    };
  const options = {
    staleTime: Infinity,
    gcTime: 60_000,
    retry: (n: number, e: Error) => !(e instanceof Refused) && n < 100,
    retryDelay: 2000,
  };
  const was = useQuery({
    ...(beside ? routes.bench(beside) : unasked),
    placeholderData: (before) => before,
    ...options,
  });
  const compared = useQuery({
    ...(beside && question ? routes.compare({ first: beside, second: { ...question, map: false } }) : unasked),
    placeholderData: (before) => before,
    ...options,
  });
  const differ = differIn(pinned, design.layout);
  return (
    <section className="compare" aria-label="two designs compared">
      <p role="status">
        {compared.error instanceof Refused
          ? (compared.error.problem.fields?.[0]?.says ?? compared.error.problem.detail)
          : differWords(compared.isPlaceholderData ? undefined : compared.data)}{' '}
        <button type="button" className="word" onClick={onTake}>
          take the one from before
        </button>{' '}
        ·{' '}
        <button type="button" className="word" onClick={onUnpin}>
          stop comparing
        </button>
      </p>
      {differ.length > 0 && <p className="quiet">They differ in {listed(differ)}.</p>}
      <div className="sides">
        <Side name="Before" layout={pinned} answer={was.data} />
        <Side name="On the bench" layout={design.layout} answer={answer} />
      </div>
    </section>
  );
}

/** Parts of a set, by what a trapper calls them. */
const parts: [says: string, of: (l: Layout) => unknown][] = [
  ['pattern', (l) => l.pattern],
  ['trap', (l) => l.rigs.map((r) => [r.trapId, r.jaws, r.loop, r.device])],
  ['place of the pan', (l) => l.rigs.map((r) => [r.pan?.xMm, r.pan?.yMm])],
  ['pan tension', (l) => l.rigs.map((r) => r.pan?.gaugeN)],
  ['bed and cover', (l) => l.rigs.map((r) => [r.bed, r.cover, r.over, r.under])],
  ['anchor', (l) => [l.anchors, l.rigs.map((r) => [r.chainMm, r.chainLies, r.swivels, r.spring])]],
  ['hole, object or post', (l) => l.attractors.map((a) => ({ ...a, smells: undefined }))],
  ['what it smells of', (l) => [l.attractors.map((a) => a.smells), l.aside ?? []]],
  ['guides', (l) => [l.guides, l.rigs.map((r) => r.guard)]],
  ['travel way', (l) => [l.way, l.trench]],
  ['backing', (l) => l.backing],
  ['dug out or subtle', (l) => [l.show, l.spoil]],
  ['which way it faces', (l) => [l.facingDeg, l.at]],
  ['hands', (l) => l.hands],
];

/** In which parts two designs differ. */
export const differIn = (a: Layout, b: Layout): string[] =>
  parts.filter(([, of]) => JSON.stringify(of(a)) !== JSON.stringify(of(b))).map(([says]) => says);

export function differWords(d: Difference | undefined, first = 'from before', second = 'on the bench'): string {
  if (!d) return 'Both are tried on the same visits…';
  const by = `${trim(Math.abs(d.more), 2)} in 100 nights, give or take ${trim(2 * d.error, 2)}`;
  if (d.more === 0 && d.error === 0) return 'They are worth the same.';
  if (!d.sure) return `They cannot be told apart, ${by}.`;
  return `The one ${d.more > 0 ? second : first} catches more, by ${by}.`;
}

function Side({ name, layout, answer }: { name: string; layout: Layout; answer: Answer | undefined }) {
  return (
    <div>
      <h3>{name}</h3>
      <div className="quiet">{patternWords(layout)}</div>
      <SmallPlan layout={layout} />
      {answer?.whole && <div>About {trim(answer.whole.per100.mid, 1)} in 100 set-nights</div>}
      {answer && (
        <OddsChain label={`the odds, ${name.toLowerCase()}`} links={answer.chain} weakest={answer.weakest} blind={isBlind(answer)} />
      )}
    </div>
  );
}
