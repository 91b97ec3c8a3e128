import { guideKinds } from '../../lib/lists.gen';
import { useState } from 'react';
import { Measure, Pick } from '../../lib/fields/fields';
import { useSettings } from '../../lib/settings';
import type { Guide, Layout } from '../../lib/types.gen';
import { show } from '../../lib/words/units';
import { guideWord } from '../../lib/words/called';
import { partWords } from '../../lib/words/patterns';
import { capital } from '../../lib/words/words';
import { side } from '../sheet';

/** What steers the feet, in a line. */
export function guideWords(layout: Layout): string {
  const counted = guideKinds.map((kind) => [kind, layout.guides.filter((g) => g.kind === kind).length] as const).filter(([, n]) => n > 0);
  if (counted.length === 0) return `none: ${partWords(layout).steers}`;
  return capital(counted.map(([kind, n]) => (n === 1 ? `one ${shortGuide(kind)}` : `${n} ${shortGuide(kind)}s`)).join(' and '));
}

const shortGuide = (kind: string) => (kind === 'landing' ? 'landing stone' : kind);

/** Guides one by one: what each is, and where it lies. */
export function GuideFields({ guides, onGuides }: { guides: Guide[]; onGuides: (guides: Guide[]) => void }) {
  const { system } = useSettings();
  const [chosen, setChosen] = useState(0);
  const guide = guides[chosen];
  const set = (change: Partial<Guide>) => onGuides(guides.map((g, i) => (i === chosen ? { ...g, ...change } : g)));
  const at = `guides[${chosen}]`;
  return (
    <>
      <div className="wide choice" role="group" aria-label="guides">
        {guides.map((g, i) => (
          <button key={i} type="button" aria-pressed={i === chosen} onClick={() => setChosen(i)}>
            {shortGuide(g.kind)} {show('length', g.yMm, system)} back
          </button>
        ))}
      </div>
      {guide && (
        <>
          <Measure key={`y${chosen}`} label="setback" path={`${at}.yMm`} kind="length" value={guide.yMm} onValue={(yMm) => set({ yMm })} />
          <Measure
            key={`x${chosen}`}
            label={`offset, now ${side(guide.xMm, system)}`}
            path={`${at}.xMm`}
            kind="length"
            value={guide.xMm}
            onValue={(xMm) => set({ xMm })}
          />
          <Measure
            key={`r${chosen}`}
            label="half its width"
            path={`${at}.rMm`}
            kind="length"
            value={guide.rMm}
            onValue={(rMm) => set({ rMm })}
          />
          <Measure
            key={`l${chosen}`}
            label="drawn out to"
            path={`${at}.lengthMm`}
            kind="length"
            value={guide.lengthMm ?? null}
            onValue={(lengthMm) => set({ lengthMm })}
            onBlank={() => set({ lengthMm: undefined })}
          />
          <Measure
            key={`t${chosen}`}
            label="and turned, degrees"
            path={`${at}.turnDeg`}
            kind="angle"
            value={guide.turnDeg ?? 0}
            onValue={(turnDeg) => set({ turnDeg })}
          />
          <Measure
            key={`h${chosen}`}
            label="how high"
            path={`${at}.heightMm`}
            kind="length"
            value={guide.heightMm ?? null}
            onValue={(heightMm) => set({ heightMm })}
            onBlank={() => set({ heightMm: undefined })}
          />
          <Pick
            label="made of"
            path={`${at}.kind`}
            value={guide.kind}
            options={guideKinds}
            name={guideWord}
            onValue={(kind) => set({ kind })}
          />
        </>
      )}
      <div className="wide">
        <button
          type="button"
          className="word"
          onClick={() => {
            onGuides([...guides, { kind: 'stone', xMm: 0, yMm: 400, rMm: 32 }]);
            setChosen(guides.length);
          }}
        >
          add a stone
        </button>
        {guide && (
          <>
            {' · '}
            <button
              type="button"
              className="word"
              onClick={() => {
                onGuides(guides.filter((_, i) => i !== chosen));
                setChosen(Math.max(0, chosen - 1));
              }}
            >
              take this one away
            </button>
          </>
        )}
      </div>
    </>
  );
}
