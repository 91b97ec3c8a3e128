import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { MarkIcon } from '../draw/mark';
import { SmallPlan } from '../draw/smallplan';
import { ask, Refused } from '../lib/ask/api';
import { routes } from '../lib/ask/routes';
import { useChanges } from '../lib/ask/change';
import { write } from '../lib/kept/outbox';
import { setKinds } from '../lib/lists.gen';
import type { Design, Dropped, Layout, OwnPattern, PatternsView, Repatterned, SetKind } from '../lib/types.gen';
import { useSettings } from '../lib/settings';
import { duration, type System } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { setWord } from '../lib/words/called';
import { capital, listed, plural } from '../lib/words/words';
import { lacksWords, patternWords, poorWords } from '../lib/words/patterns';

/** What can be chosen: a pattern of the trade's, or one of the user's own. */
interface Choice {
  key: string;
  pattern: string;
  variant: string;
  ownId: string;
  own?: OwnPattern;
  title: string;
  layout: Layout;
  quiet: string;
}

function choices(found: PatternsView, target: string, system: System): Choice[] {
  const own = found.own.map((p) => ({
    key: p.id,
    pattern: p.layout.pattern,
    variant: '',
    ownId: p.id,
    own: p,
    title: p.name,
    layout: p.layout,
    quiet: `yours, after ${patternWords(p.layout)}; for ${plural(p.target)}`,
  }));
  const trade = found.patterns.map((p) => ({
    key: `${p.key} ${p.variant}`,
    pattern: p.key,
    variant: p.variant,
    ownId: '',
    title: patternWords(p.layout),
    layout: p.layout,
    quiet: [`about ${duration(p.minutes)}`, p.poor && poorWords(target), ...p.lacks.map((key) => lacksWords(key, p.withinM, system))]
      .filter(Boolean)
      .join('; '),
  }));
  return [...own, ...trade];
}

interface Props {
  design: Design;
  onEdit: (change: (design: Design) => Design) => void;
  onClose: () => void;
}

/** Every way of making a set, drawn small and said by its parts. What fits of the set that is there goes over into the chosen one. */
export function Patterns({ design, onEdit, onClose }: Props) {
  const { system } = useSettings();
  const [failed, setFailed] = useState('');
  const { lineId, spotId, target, layout } = design;
  const { data, error } = useQuery({
    ...routes.patterns(lineId, target, spotId),
  });
  const [dropped, setDropped] = useState<Dropped[] | null>(null);
  const { change, undo, last } = useChanges();
  const tellWhy = (e: unknown) => setFailed(e instanceof Refused ? e.problem.detail : 'The program does not answer; all is as it was.');
  // One answer is waited for at a time, and one that comes when the list was closed meanwhile changes nothing.
  const asking = useRef<'no' | 'yes' | 'closed'>('no');
  useEffect(() => {
    asking.current = 'no';
    return () => {
      asking.current = 'closed';
    };
  }, []);
  const choose = async ({ pattern, variant, ownId }: Choice) => {
    if (asking.current !== 'no') return;
    asking.current = 'yes';
    const closed = () => (asking.current as string) === 'closed';
    try {
      const found = await ask<Repatterned>(`/lines/${lineId}/repattern`, { layout, target, spotId, pattern, variant, ownId });
      if (closed()) return;
      asking.current = 'no';
      onEdit((d) => ({ ...d, layout: found.layout }));
      if (found.dropped.length === 0) onClose();
      else setDropped(found.dropped);
    } catch (e) {
      if (!closed()) asking.current = 'no';
      tellWhy(e);
    }
  };
  const takeOff = (own: OwnPattern) => void change('patterns', own, { ...own, deleted: true }, `${own.name} taken off`).catch(tellWhy);
  if (dropped) {
    return (
      <section className="patterns" aria-label="patterns">
        <h2>{capital(patternWords(layout))}</h2>
        <p>
          Trap, bed, cover and anchor went over where they fit. <b>Left out:</b> {listed(dropped.map(droppedWords))}. Undo brings them back.
        </p>
        <Button onClick={onClose}>Done</Button>
      </section>
    );
  }
  const all = data ? choices(data, target, system) : [];
  return (
    <section className="patterns" aria-label="patterns">
      <h2>How is it made?</h2>
      <p className="quiet">
        For {plural(target)}, as each begins. Trap, pan, bed, cover, anchor and lure of the set go over where they fit.{' '}
        <button type="button" className="word" onClick={onClose}>
          cancel
        </button>
      </p>
      {last !== undefined && (
        <p className="quiet">
          <button type="button" className="word" onClick={() => void undo().catch(tellWhy)}>
            undo: {last}
          </button>
        </p>
      )}
      {(failed !== '' || error) && <p className="wrong">{failed || 'The program does not answer. Try again in a moment.'}</p>}
      {setKinds.map((kind) => {
        const of = all.filter((c) => c.layout.kind === kind);
        if (of.length === 0) return null;
        return (
          <div key={kind}>
            <h3>
              <MarkIcon kind={kind} /> {capital(kindWords[kind] ?? setWord(kind))}
            </h3>
            <ul className="pattern-list">
              {of.map((c) => (
                <li key={c.key}>
                  <button type="button" onClick={() => void choose(c)}>
                    <SmallPlan layout={c.layout} />
                    <b>{capital(c.title)}</b>
                    <span className="quiet">{c.quiet}</span>
                  </button>
                  {c.own && (
                    <button type="button" className="word" onClick={() => c.own && takeOff(c.own)}>
                      take it off the list
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
}

const kindWords: Partial<Record<SetKind, string>> = { tree: 'in a tree', spring: 'in water', device: 'cable and snare' };

const droppedWords = (d: Dropped): string => {
  switch (d.what) {
    case 'trap':
      return d.name ? `the trap ${d.name}` : 'a trap';
    case 'anchor':
      return 'an anchor';
    case 'smell':
      return d.name ?? '';
  }
  return 'the guides, which lay about the other pattern';
};

/** Keeps the set's way of being made under the user's own name. */
export function KeepPattern({ design }: { design: Design }) {
  const [name, setName] = useState<string | null>(null);
  const [kept, setKept] = useState('');
  if (name === null) {
    return (
      <div className="wide quiet">
        {kept !== '' && <span>Kept as {kept}. </span>}
        <button type="button" className="word" onClick={() => setName('')}>
          keep this under a name of mine
        </button>
      </div>
    );
  }
  const keep = async () => {
    const { lineId, target, layout } = design;
    const rigs = layout.rigs.map((rig) => ({ ...rig, trapId: '', name: '' }));
    const body: OwnPattern = { id: ulid(), lineId, name: name.trim(), target, layout: { ...layout, rigs }, deleted: false, version: 0 };
    await write(`/lines/${lineId}/patterns/${body.id}`, body, `the pattern ${body.name}`);
    setKept(body.name);
    setName(null);
  };
  return (
    <form
      className="wide"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() !== '') void keep();
      }}
    >
      <Form.Label htmlFor="own-pattern">name of your own</Form.Label>
      <Form.Control id="own-pattern" value={name} maxLength={60} onChange={(e) => setName(e.target.value)} />
      <button type="submit" className="word">
        save
      </button>
    </form>
  );
}
