import type { OpenProps } from './stands';
import { standsIn } from '../lib/ask/circumstances';
import { Unread } from '../lib/ask/unread';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { WrongFields } from '../lib/fields/fields';
import { tapMs } from '../lib/fields/once';
import { useLine, useRack, useWeather } from '../lib/ask/queries';
import { endedWords } from '../lib/words/permission';
import { day } from '../lib/words/time';
import type { LineNow } from '../lib/kept/overlay';
import type { Layout } from '../lib/types.gen';
import { nights } from '../lib/words/units';
import { useAnswer } from './answer';
import { asBuilt } from '../lib/kept/asbuilt';
import { Build } from './build';
import { Dogs } from './dogs';
import { useCircumstances, type Night } from '../lib/ask/circumstances';
import { Compare, usePinned } from './compare';
import { alike, useDesign } from './design';
import { Drawing } from './drawing';
import { useFollowing } from './following';
import type { Tried } from './helps';
import { concernsOf } from './holds';
import { sparesOf, trapProblems } from './fromshed';
import { AsNumbers } from './numbers';
import { Odds } from './odds';
import { Patterns } from './patterns';
import { useReachOf } from './reach';
import { Recipe } from './recipe';
import { Choose } from './choose';
import { Conflict, Head, Minutes, SavingWords, soilWords, Stands } from './stands';

export function BenchPage() {
  const { design } = useParams();
  const line = useLine();
  if (!line.data) return <Unread />;
  return design ? <Bench key={design} id={design} view={line.data} /> : <Choose view={line.data} />;
}

function Bench({ id, view }: { id: string; view: LineNow }) {
  const { design, saving, edit, step, can, settle, missing } = useDesign(id, view);
  if (missing) {
    return (
      <div className="page">
        <h2>This design is not in the file</h2>
        <p>
          The address names a design that does not exist. <Link to="..">See what is designed.</Link>
        </p>
      </div>
    );
  }
  if (!design) return <Unread />;
  return <Open design={design} view={view} saving={saving} can={can} onEdit={edit} onStep={step} onSettle={settle} />;
}

/** Undo and redo by the keys of every other program, where no text is being written. */
function useStepKeys(onStep: OpenProps['onStep']) {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const key = e.key.toLowerCase();
      if (!(e.ctrlKey || e.metaKey) || (key !== 'z' && key !== 'y')) return;
      if (e.target instanceof HTMLElement && e.target.matches('input, textarea, select')) return;
      e.preventDefault();
      onStep(key === 'y' || e.shiftKey ? 'on' : 'back');
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onStep]);
}

/** What was tried of what is offered. It can be put back for as long as nothing else was changed. */
function useTrying(layout: Layout, lay: (layout: Layout) => void) {
  const [attempt, setAttempt] = useState<Tried | null>(null);
  const tried = attempt && alike(attempt.after, layout) ? attempt : null;
  const triedAt = useRef(0);
  const onTry = (next: Tried | null) => {
    // What is offered moves when one of it is tried: the second tap of two quick ones was meant for nothing else.
    if (next && performance.now() - triedAt.current < tapMs) return;
    if (next) {
      triedAt.current = performance.now();
      lay(next.after);
    } else if (tried) lay(tried.before);
    setAttempt(next);
  };
  return { tried, onTry };
}

/** What is being moved on the drawing: the design has it when the hand rests. */
function useMoving(lay: (layout: Layout) => void) {
  const [moving, setMoving] = useState<Layout | null>(null);
  const moved = useRef<Layout | null>(null);
  const onMove = (layout: Layout) => {
    moved.current = layout;
    setMoving(layout);
  };
  const onRest = () => {
    const next = moved.current;
    moved.current = null;
    if (next) lay(next);
    setMoving(null);
  };
  return { moving, onMove, onRest };
}

/** A layout that another page gave along is laid once: undo takes it back. */
function useGiven(lay: (next: Layout) => void) {
  const location = useLocation();
  const navigate = useNavigate();
  const given = (location.state as { lay?: Layout } | null)?.lay;
  const laid = useRef(false);
  useEffect(() => {
    if (!given || laid.current) return;
    laid.current = true;
    lay(given);
    void navigate(location.pathname, { replace: true });
  }, [given, lay, location.pathname, navigate]);
}

function Open({ design, view, saving, can, onEdit, onStep, onSettle }: OpenProps) {
  useStepKeys(onStep);
  const [choosing, setChoosing] = useState(false);
  const [rigging, setRigging] = useState(false);
  const lay = (next: Layout) => onEdit((d) => ({ ...d, layout: next }));
  useGiven(lay);
  const { moving, onMove, onRest } = useMoving(lay);
  const layout = moving ?? design.layout;
  const { data: rack } = useRack();
  const spares = useMemo(() => sparesOf(layout, design.target, rack), [layout, design.target, rack]);
  const spot = view.spots.find((s) => s.id === design.spotId);
  const { data: weather } = useWeather();
  const frost = weather?.spots.find((w) => w.spotId === design.spotId);
  const frozen = frost?.underfoot.frozen === true;
  const around = useCircumstances(design);
  const { data: land } = useReachOf(design, rigging);
  const [night, setNight] = useState<Night>('usual');
  const [by, setBy] = useState(true);
  const under = useMemo(() => (by ? around?.[night] : around && { ...around[night], record: undefined }), [around, night, by]);
  const found = useAnswer(layout, design.target, spares, moving !== null, {
    underfoot: frost?.underfoot,
    stands: standsIn(spot, frost),
    circumstances: under,
  });
  const follows = useFollowing(found.rests);
  const [pinned, pin] = usePinned(design.id);
  const { tried, onTry } = useTrying(design.layout, lay);
  const set = view.sets.find((s) => s.set.id === design.setId && s.bead.state !== 'down');
  const differs = set !== undefined && !asBuilt(design, set.make);
  const [stoodAsked, setStood] = useState(false);
  const stood = stoodAsked && differs;
  const ended = endedWords(view, set?.set.id, spot);
  const problems = [...found.problems, ...(saving.state === 'refused' ? saving.problems : []), ...trapProblems(design, rack)];
  return (
    <WrongFields problems={problems}>
      <div className="page bench">
        <div className="making">
          <div>
            <Head layout={layout} set={set} differs={differs} spot={spot} ended={ended} />
            <div className="quiet">
              {set ? (differs ? 'changed' : `stands ${nights(set.bead.nights)}`) : 'not built yet'} · <SavingWords saving={saving} /> ·{' '}
              <button type="button" className="word" disabled={!can.back} onClick={() => onStep('back')}>
                undo
              </button>{' '}
              <button type="button" className="word" disabled={!can.on} onClick={() => onStep('on')}>
                redo
              </button>{' '}
              ·{' '}
              <button type="button" className="word" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
                another pattern
              </button>
            </div>
            {saving.state === 'conflict' && <Conflict theirs={saving.theirs} onSettle={onSettle} />}
            <Recipe
              design={{ ...design, layout }}
              view={view}
              spot={spot}
              answer={found.answer}
              problems={problems}
              onEdit={onEdit}
              onChoose={() => setChoosing(true)}
              onRigging={setRigging}
            />
          </div>
          <div className="doing">
            <Dogs around={around?.[night]} follows={follows} target={design.target} layout={layout} rack={rack} onTry={onTry} />
            <Build
              design={design}
              view={view}
              rack={rack}
              ready={problems.length === 0}
              concerns={concernsOf(found.answer)}
              frozen={frozen}
              along={found.answer?.along ?? []}
              question={found.rests}
              onLayout={lay}
            />
            {found.answer && (
              <Minutes minutes={found.answer.minutes} layout={layout} frozen={frozen} snow={frost?.underfoot.snow === true} />
            )}
          </div>
        </div>
        {choosing && <Patterns design={design} onEdit={onEdit} onClose={() => setChoosing(false)} />}
        <div className="drawing" hidden={choosing}>
          {set && differs && (
            <div className="stands-or-drawn">
              <b>{stood ? `stands since ${day(set.make.builtAt, view.line.zone)}` : 'drawn, not built'}</b>{' '}
              <button type="button" className="word" aria-pressed={stood} onClick={() => setStood(!stood)}>
                {stood ? 'back to what is drawn' : 'see what stands'}
              </button>
            </div>
          )}
          {set && stood && <Stands make={set.make} spot={spot} spares={spares} frost={frost} />}
          {!stood && (
            <Drawing
              layout={layout}
              target={design.target}
              soil={soilWords(spot)}
              answer={found.answer}
              rigging={rigging}
              land={land?.land ?? []}
              snowMm={weather?.snowCm == null ? undefined : weather.snowCm * 10}
              wet={spot?.wetness === 'wet'}
              frostMm={frost?.known ? (frost.mornings[0]?.depthMm ?? frost.depthMm) : undefined}
              onMove={onMove}
              onRest={onRest}
            />
          )}
          <AsNumbers layout={layout} onLayout={lay}>
            {!pinned && (
              <button type="button" className="word" onClick={() => pin(design.layout)}>
                compare with…
              </button>
            )}
          </AsNumbers>
          {pinned && (
            <Compare
              design={design}
              pinned={pinned}
              question={found.rests}
              answer={found.answer}
              night={night}
              onTake={() => lay(pinned)}
              onUnpin={() => pin(null)}
            />
          )}
        </div>
        {!choosing && (
          <Odds
            found={found}
            layout={layout}
            target={design.target}
            around={under}
            night={night}
            onNight={setNight}
            by={by}
            onBy={setBy}
            anew={around?.anew ?? false}
            follows={follows}
            tried={tried}
            onTry={onTry}
          />
        )}
      </div>
    </WrongFields>
  );
}
