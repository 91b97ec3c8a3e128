import { useMayUndo } from '../lib/ask/may';
import { keepLocal } from '../lib/kept/local';
import { animals, holdsTrack, signAges, signKinds } from '../lib/lists.gen';
import { useState } from 'react';
import { nowISO } from '../lib/kept/clock';
import { Refused } from '../lib/ask/api';
import { Choice, Measure, Pick, Several, Text } from '../lib/fields/fields';
import { clock, day, instant, localInput, noInstant } from '../lib/words/time';
import type { Ground, LineView, Sign, SignKind } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { ageWord, animalWord, signWord } from '../lib/words/called';
import { bearing, capital } from '../lib/words/words';
import type { Changes } from '../lib/ask/change';
import { KeepForm, useKeep } from '../lib/fields/keep';
import { keepPhoto, photoTrouble, Picture } from '../lib/fields/photo';
import { toGlobe, toPlane, type Point } from '../lib/plane';
import { HereButton } from './whereabouts';

export const newSign = (view: LineView, place: { latDeg: number; lonDeg: number }, spotID: string | null): Sign => ({
  id: ulid(),
  lineId: view.line.id,
  spotId: spotID,
  ...place,
  what: '',
  animal: localStorage.getItem('last-animal') ?? 'unsure',
  candidates: [],
  count: 1,
  directionDeg: null,
  age: '',
  youngerThan: null,
  holds: 'unknown',
  photoId: null,
  seenAt: nowISO(),
  note: '',
  deleted: false,
  version: 0,
});

/** Sign this near a spot belongs to it. */
const belongsM = 60;

export function nearestSpot(view: LineView, ground: Ground, p: Point): string | null {
  let found: string | null = null;
  let nearest = belongsM;
  for (const s of ground.spots) {
    const at = toPlane(view.plane, s.latDeg, s.lonDeg);
    const far = Math.hypot(at.x - p.x, at.y - p.y);
    if (far < nearest) [found, nearest] = [s.id, far];
  }
  return found;
}

interface AddProps {
  view: LineView;
  ground: Ground;
  place: Point | null;
  onPlace: (p: Point) => void;
  changes: Changes;
  onDone: (sign: Sign) => void;
}

/** Adding sign is two touches: where, on the ground, and what, here. Everything else can be said after it is kept. */
export function AddSign({ view, ground, place, onPlace, changes, onDone }: AddProps) {
  const [animal, setAnimal] = useState(() => localStorage.getItem('last-animal') ?? 'unsure');
  const [problem, setProblem] = useState('');
  const add = async (what: SignKind) => {
    if (!place) {
      setProblem('Where is it? Touch its place on the ground first, or choose a spot.');
      return;
    }
    keepLocal('last-animal', animal);
    const sign = {
      ...newSign(view, toGlobe(view.plane, place), nearestSpot(view, ground, place)),
      what,
      animal: what === 'none' ? 'unsure' : animal,
      count: what === 'none' ? 0 : 1,
    };
    try {
      await changes.change('signs', null, sign, `${signWord(what)}, ${animalWord(animal)}`);
      onDone(sign);
    } catch (error) {
      setProblem(error instanceof Refused ? error.problem.detail : 'The program does not answer.');
    }
  };
  return (
    <div>
      <h2>Add sign</h2>
      <p className={place ? 'quiet' : undefined}>{place ? 'Its place is marked. What is it?' : 'Touch where it lies on the ground.'}</p>
      <div className="form-grid">
        <Pick
          label="or at a spot"
          path="spotId"
          wide
          value=""
          blank="choose"
          options={ground.spots.map((s) => s.id)}
          name={(id) => ground.spots.find((s) => s.id === id)?.name ?? ''}
          onValue={(id) => {
            const s = ground.spots.find((one) => one.id === id);
            if (s) onPlace(toPlane(view.plane, s.latDeg, s.lonDeg));
          }}
        />
        <HereButton onPlace={(lat, lon) => onPlace(toPlane(view.plane, lat, lon))} />
        <Choice label="whose sign" path="animal" value={animal} options={['unsure', ...animals]} name={animalWord} onValue={setAnimal} />
        <Choice
          label="what (saved at a tap)"
          path="what"
          value=""
          options={signKinds}
          name={(k) => (k === 'none' ? 'no sign' : signWord(k))}
          onValue={(what) => void add(what)}
        />
      </div>
      {problem && (
        <div className="wrong" role="alert">
          {problem}
        </div>
      )}
    </div>
  );
}

const younger = 14 * 86_400_000;

/** What is known of a sign; changes are kept when they are said to be right. */
export function SignPanel({
  view,
  ground,
  sign,
  changes,
  onGone,
}: {
  view: LineView;
  ground: Ground;
  sign: Sign;
  changes: Changes;
  onGone: () => void;
}) {
  const { zone } = view.line;
  const mayUndo = useMayUndo();
  const form = useKeep(changes, 'signs', sign);
  const { x, set, problems, setProblems } = form;
  const [seen, setSeen] = useState(() => localInput(sign.seenAt, zone));

  const keep = async (next: Sign, what: string) => {
    const at = instant(seen, zone);
    if (Number.isNaN(at)) {
      setProblems([{ field: 'seenAt', says: `${noInstant(seen)}. Choose when it was seen` }]);
      return false;
    }
    return form.keep({ ...next, seenAt: new Date(at).toISOString() }, what);
  };
  return (
    <KeepForm
      entered={mayUndo(sign.who)}
      said={form.said}
      problems={problems}
      onDelete={() => void keep({ ...x, deleted: true }, `${signWord(x.what)} removed`).then((ok) => ok && onGone())}
      onKeep={() => void keep(x, `${signWord(x.what)} changed`)}
    >
      <h2>{x.what === 'none' ? 'No sign' : `${capital(signWord(x.what))}, ${animalWord(x.animal)}`}</h2>
      <div className="quiet">
        seen {day(sign.seenAt, zone)} {clock(sign.seenAt, zone)}
        {x.directionDeg !== null && `, going ${bearing(x.directionDeg)}`}
        {x.youngerThan && `, younger than the ${fallWords(ground, x.youngerThan, zone)}`}
      </div>
      {x.photoId && <Picture line={view.line.id} id={x.photoId} what={signWord(x.what)} />}
      <div className="form-grid">
        <AboutSign ground={ground} x={x} set={set} zone={zone} />
        <Text
          label="seen at"
          path="seenAt"
          type="datetime-local"
          wide
          value={seen}
          onValue={(v) => {
            setSeen(v);
            form.unsay();
          }}
        />
        <Text label="note" path="note" wide value={x.note} onValue={(note) => set({ note })} />
        <SignPhoto view={view} form={form} />
      </div>
    </KeepForm>
  );
}

/** What a sign is, whose, how old, and what the ground tells of it. */
function AboutSign({ ground, x, set, zone }: { ground: Ground; x: Sign; set: (change: Partial<Sign>) => void; zone: string }) {
  const falls = ground.falls.filter(
    (f) => Date.parse(f.ended) < Date.parse(x.seenAt) && Date.parse(x.seenAt) - Date.parse(f.ended) < younger,
  );
  return (
    <>
      <Pick
        label="what"
        path="what"
        value={x.what}
        options={signKinds}
        name={(k) => (k === 'none' ? 'no sign' : signWord(k))}
        onValue={(what) => set({ what })}
      />
      <Pick
        label={x.what === 'kill' ? 'killed by' : 'whose sign'}
        path="animal"
        value={x.animal}
        options={['unsure', ...animals]}
        name={animalWord}
        onValue={(animal) => set({ animal })}
      />
      {x.animal === 'unsure' && x.what !== 'none' && (
        <Several label="it could be" of={animals} name={animalWord} chosen={x.candidates} onChosen={(candidates) => set({ candidates })} />
      )}
      <Pick label="how old" path="age" value={x.age} options={signAges} name={ageWord} blank="not said" onValue={(age) => set({ age })} />
      <Text label="how many" path="count" type="number" value={String(x.count)} onValue={(n) => set({ count: Math.round(Number(n)) })} />
      {falls.map((f) => (
        <label key={f.id} className="wide">
          <input
            type="checkbox"
            className="form-check-input"
            checked={x.youngerThan === f.id}
            onChange={(e) => set({ youngerThan: e.target.checked ? f.id : null })}
          />{' '}
          younger than the {fallWords(ground, f.id, zone)}
        </label>
      ))}
      {x.what === 'tracks' && (
        <Measure
          label="going (degrees from north)"
          path="directionDeg"
          kind="angle"
          value={x.directionDeg}
          onValue={(directionDeg) => set({ directionDeg })}
          onBlank={() => set({ directionDeg: null })}
        />
      )}
      {(x.what === 'tracks' || x.what === 'none') && (
        <Pick
          label="the ground holds a track"
          path="holds"
          value={x.holds}
          options={holdsTrack}
          name={(k) => (k === 'not' ? 'not at all' : k)}
          onValue={(holds) => set({ holds })}
        />
      )}
    </>
  );
}

/** A photo of a sign, which may say where it was taken. */
function SignPhoto({ view, form }: { view: LineView; form: ReturnType<typeof useKeep<Sign>> }) {
  const { x, set, problems, setProblems } = form;
  const picture = async (file: File) => {
    form.unsay();
    const id = ulid();
    try {
      const sent = await keepPhoto(view.line.id, id, file, signWord(x.what));
      setProblems([]);
      set({ photoId: id });
      if (sent.state !== 'taken') return;
      const { latDeg, lonDeg } = sent.answer;
      if (latDeg !== null && lonDeg !== null) setOffered({ latDeg, lonDeg });
    } catch (error) {
      setProblems([{ field: 'photo', says: photoTrouble(error) }]);
    }
  };
  const [offered, setOffered] = useState<{ latDeg: number; lonDeg: number } | null>(null);
  const photoWrong = problems.find((p) => p.field === 'photo');
  return (
    <div className="wide">
      <label className="word" htmlFor={`photo-${x.id}`}>
        {x.photoId ? 'another photo' : 'a photo'}
      </label>
      <input
        id={`photo-${x.id}`}
        className="visually-hidden"
        type="file"
        accept="image/*"
        onChange={(e) => {
          const f = e.target.files?.[0];
          if (f) void picture(f);
        }}
      />
      {photoWrong && (
        <div className="wrong" role="alert">
          {photoWrong.says}
        </div>
      )}
      {offered && (
        <div className="quiet">
          The photo says where it was taken.{' '}
          <button
            type="button"
            className="word"
            onClick={() => {
              set(offered);
              setOffered(null);
            }}
          >
            put the sign there
          </button>
        </div>
      )}
    </div>
  );
}

export function fallWords(ground: Ground, id: string, zone: string): string {
  const f = ground.falls.find((one) => one.id === id);
  return f ? `${f.kind} of ${day(f.ended, zone)}` : 'fall';
}
