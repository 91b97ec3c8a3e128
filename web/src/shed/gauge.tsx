import { laidCovers } from '../lib/words/covers';
import { targets } from '../lib/lists.gen';
import { Unread } from '../lib/ask/unread';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate, useParams } from 'react-router';
import { TradeOff } from '../draw/tradeoff';
import { nowISO } from '../lib/kept/clock';
import { objections } from '../lib/ask/change';
import { useDraft } from '../lib/fields/draft';
import { Choice, Measure, Pick, Text, WrongFields } from '../lib/fields/fields';
import { coverWord, animalWord } from '../lib/words/called';
import { problemWords } from '../lib/words/inwords';
import { useOnce } from '../lib/fields/once';
import { write } from '../lib/kept/outbox';
import { useLine, useRack } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import type { Hung, Rack } from '../lib/ask/hung';
import type { FieldProblem, Layer, LineView, Measurement } from '../lib/types.gen';
import { instant, localInput, noInstant } from '../lib/words/time';
import { parse, show } from '../lib/words/units';
import { ulid } from '../lib/ulid';
import { many } from '../lib/words/words';
import { Calibrate } from './calibrate';
import { Keypad } from './keypad';
import { useJudge, type AtGauge } from './judge';
import { ReadGauge } from './reading';
import { gaugeWords, placeShort, readingTrouble, sizeWords, trapName } from '../lib/words/traps';
import { ShedHead } from './shed';
import { Spares } from './trapform';
import { Verdict } from './verdict';

export function GaugePage() {
  const { trap } = useParams();
  const { data: view } = useLine();
  const { data: rack } = useRack();
  if (!view || !rack) return <Unread />;
  const h = rack.traps.find((one) => one.trap.id === trap);
  if (h?.wanted) return <AtTheGauge key={h.trap.id} h={h} view={view} rack={rack} />;
  return <WhichTrap view={view} rack={rack} missing={trap !== undefined} />;
}

/** Which pan to measure next: those at home first that have no reading, or none that counts. */
function waiting(rack: Rack): Hung[] {
  const rank = (h: Hung) => (h.place.kind !== 'home' ? 3 : h.tension === null ? 0 : h.tension.old !== '' || h.verdict !== 'inside' ? 1 : 2);
  return rack.traps.filter((h) => h.wanted !== null).sort((a, b) => rank(a) - rank(b) || a.trap.number - b.trap.number);
}

function WhichTrap({ view, rack, missing }: { view: LineView; rack: Rack; missing: boolean }) {
  const { system } = useSettings();
  const all = waiting(rack);
  return (
    <main className="page shed-page whole">
      <ShedHead>Which trap’s pan will be measured?</ShedHead>
      <section>
        {missing && <p className="ember">No trap with a pan stands under this address.</p>}
        {all.length === 0 && (
          <p>
            No trap with a pan hangs on the rack. <Link to={`/line/${view.line.id}/shed`}>Hang one there first.</Link>
          </p>
        )}
        <ul className="rows two-columns">
          {all.map((h) => {
            const trouble = readingTrouble(h, system);
            return (
              <li key={h.trap.id}>
                <Link to={`/line/${view.line.id}/shed/gauge/${h.trap.id}`}>
                  <b>Trap {h.trap.number}</b>
                </Link>{' '}
                {sizeWords(h.trap.size)} <span className="quiet">{placeShort(h.place)}</span>{' '}
                <span className={trouble?.tone ?? 'quiet'}>
                  {trouble?.says ?? (h.tension ? `${show('force', h.tension.meanN, system)}, in its window` : '')}
                </span>
              </li>
            );
          })}
        </ul>
      </section>
    </main>
  );
}

interface Props {
  h: Hung;
  view: LineView;
  rack: Rack;
}

function begin(h: Hung): AtGauge {
  const w = h.wanted;
  return {
    id: ulid(),
    presses: [],
    read: [],
    turned: 0,
    target: w?.targets[0] ?? h.trap.meantFor,
    spares: w?.spares ?? h.trap.spares,
    cover: w?.cover ?? [{ material: 'waxed_soil', thicknessMm: 6.35 }],
    footing: w?.footing ?? false,
  };
}

/** One layer of the cover under which the pan will lie; the first lies on it. */
function CoverFields(p: { layer: Layer; path: string; below: boolean; onValue: (change: Partial<Layer>) => void }) {
  const over = p.below ? 'over that' : 'cover';
  return (
    <>
      <Pick
        label={`${over}, as it will be`}
        path={`${p.path}.material`}
        value={p.layer.material}
        options={laidCovers(p.layer.material)}
        name={coverWord}
        onValue={(material) => p.onValue({ material })}
      />
      <Measure
        label={`${over}, thick`}
        path={`${p.path}.thicknessMm`}
        kind="length"
        value={p.layer.thicknessMm}
        onValue={(thicknessMm) => p.onValue({ thicknessMm })}
      />
    </>
  );
}

function AtTheGauge({ h, view, rack }: Props) {
  const { system } = useSettings();
  const [at, setAt, clear] = useDraft<AtGauge>(`gauge:${h.trap.id}`, () => begin(h));
  const [gauge, setGauge] = useDraft<string>('gauge', () => rack.gauges[0]?.name ?? 'my gauge');
  const factor = rack.gauges.find((g) => g.name === gauge)?.factor ?? 1;
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  /** When it was measured, where that was not now. */
  const [when, setWhen] = useState<string | null>(null);
  const [recorded, setRecorded] = useState<{ m: Measurement; meanN: number | undefined } | null>(null);
  const judged = useJudge(at, factor, h.trap.panDiameterMm, h.tension?.perQuarterN ?? 0);
  const set = (change: Partial<AtGauge>) => {
    setAt({ ...at, ...change });
    setRecorded(null);
    setProblems([]);
  };
  const read = at.presses.map((_, i) => at.read?.[i] ?? false);
  const add = (n: number, byGauge: boolean) => set({ presses: [...at.presses, n], read: [...read, byGauge] });
  const without = (i: number) => set({ presses: at.presses.filter((_, k) => k !== i), read: read.filter((_, k) => k !== i) });
  // What was typed is typed: only where every press came from the made-up gauge is it that gauge's measurement.
  const standIn = rack.standIn && read.length > 0 && read.every(Boolean);
  const typedAt = when === null ? NaN : instant(when, view.line.zone);
  const odd =
    when === null
      ? ''
      : Number.isNaN(typedAt)
        ? `This ${noInstant(when)}`
        : typedAt > Date.parse(nowISO()) + 60_000
          ? 'This lies in the future'
          : '';
  const record = useOnce(async () => {
    if (odd !== '') return false;
    const m: Measurement = {
      id: at.id,
      lineId: view.line.id,
      trapId: h.trap.id,
      at: when === null ? nowISO() : new Date(typedAt).toISOString(),
      gauge: standIn ? 'made-up gauge' : gauge.trim() || 'my gauge',
      standIn,
      factor,
      presses: at.presses,
      turned: at.turned,
      covered: at.covered ?? false,
      undoneAt: null,
    };
    try {
      await write(`/lines/${view.line.id}/measurements/${m.id}`, m, `the pan of trap ${h.trap.number}`);
      clear();
      setAt({ ...at, id: ulid(), presses: [], read: [], turned: 0, covered: false });
      setWhen(null);
      setRecorded({ m, meanN: judged.meanN });
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  return (
    <WrongFields problems={problems}>
      <main className="page shed-page gauge-page">
        <ShedHead>
          Latch it as it will stand; press at the pan’s middle until it gives. Keep fingers clear: setters, and safety in while adjusting.
        </ShedHead>
        <section className="presses">
          <h2>{trapName(h)}</h2>
          <Presses at={at} system={system} onStrike={without} />
          <Keypad
            onPress={(typed) => {
              const read = parse('force', typed, system);
              if ('value' in read) add(read.value, false);
              return 'error' in read ? read.error : undefined;
            }}
            onTakeBack={() => without(at.presses.length - 1)}
            onDone={() => void record()}
            reads={rack.reads}
          />
          <ReadGauge rack={rack} h={h} onRead={(n) => add(n, true)} />
          <div className="form-grid">
            <Text label="gauge" path="gauge" value={gauge} list={rack.gauges.map((g) => g.name)} onValue={setGauge} />
            <Form.Check
              className="wide"
              id="covered"
              label="pressed in the ground, covered"
              checked={at.covered ?? false}
              onChange={(e) => set({ covered: e.target.checked })}
            />
            <Measure
              label="quarter turns of the pan bolt since the last reading"
              wide
              path="turned"
              kind="number"
              value={at.turned}
              onValue={(turned) => set({ turned })}
            />
          </div>
          <Calibrate view={view} rack={rack} gauge={gauge} />
        </section>
        <section>
          {judged.answer && <TradeOff answer={judged.answer} presses={at.presses.map((n) => n * factor)} system={system} />}
          <div className="form-grid three">
            <Choice
              label="meant for"
              path="target"
              value={at.target}
              options={targets}
              name={animalWord}
              onValue={(target) => set({ target, spares: at.spares.filter((s) => s !== target) })}
            />
            {at.cover.map((layer, i) => (
              <CoverFields
                key={i}
                layer={layer}
                path={`cover[${i}]`}
                below={i > 0}
                onValue={(change) => set({ cover: at.cover.map((one, k) => (k === i ? { ...one, ...change } : one)) })}
              />
            ))}
            <Spares value={at.spares} target={at.target} onValue={(spares) => set({ spares })} />
          </div>
        </section>
        <aside>
          <Verdict h={h} at={at} judged={judged} />
          {recorded ? (
            <Recorded {...recorded} view={view} rack={rack} h={h} onUndone={() => setRecorded(null)} />
          ) : (
            <div className="build">
              <Button onClick={() => void record()} disabled={at.presses.length === 0 || odd !== ''}>
                Record it
              </Button>
              {when === null ? (
                <button type="button" className="word" onClick={() => setWhen(localInput(nowISO(), view.line.zone))}>
                  measured at another time
                </button>
              ) : (
                <Text label="measured at" path="at" type="datetime-local" value={when} onValue={setWhen} />
              )}
              {odd !== '' && (
                <div className="wrong" role="alert">
                  {odd}.
                </div>
              )}
              {at.presses.length > 0 && at.presses.length < advised && (
                <span className="quiet">
                  {at.presses.length === 1 ? 'one press is taken as one' : 'two presses are taken as two'}; three are the advice
                </span>
              )}
            </div>
          )}
          {problems
            .filter((p) => p.field.startsWith('presses') || p.field === 'factor')
            .map((p) => (
              <div key={p.field} className="wrong" role="alert">
                Not recorded. {problemWords(p, system)}. Nothing is lost.
              </div>
            ))}
        </aside>
      </main>
    </WrongFields>
  );
}

const advised = 3;

/** The presses as they came, each of which can be struck out. */
function Presses({ at, system, onStrike }: { at: AtGauge; system: 'us' | 'metric'; onStrike: (i: number) => void }) {
  return (
    <ol className="pressed" aria-label="presses so far">
      {at.presses.map((n, i) => (
        <li key={i}>
          <button
            type="button"
            className="plain word"
            title="strike it out"
            aria-label={`press ${i + 1}, ${show('force', n, system)}, strike it out`}
            onClick={() => onStrike(i)}
          >
            {show('force', n, system)}
          </button>
        </li>
      ))}
      {at.presses.length === 0 && <li className="quiet">no press yet</li>}
    </ol>
  );
}

function Recorded({ m, meanN, view, rack, h, onUndone }: Props & { m: Measurement; meanN: number | undefined; onUndone: () => void }) {
  const { system } = useSettings();
  const navigate = useNavigate();
  const next = waiting(rack).find((one) => one.trap.id !== h.trap.id && one.place.kind === 'home');
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: 'nearest' }); // a promise in newer browsers, and no clean-up
  }, []);
  return (
    <div ref={box} className="notice" role="status">
      <p>
        <b>{meanN === undefined ? 'Recorded' : `Recorded: ${show('force', meanN, system)}`}</b>, {many(m.presses.length, 'press')} of{' '}
        {gaugeWords(m.gauge)}.{' '}
        <button
          type="button"
          className="word"
          onClick={() => {
            onUndone();
            void write(`/lines/${view.line.id}/measurements/${m.id}/undo`, { at: nowISO() }, `undo of the pan of trap ${h.trap.number}`);
          }}
        >
          undo
        </button>
      </p>
      <div className="build above-44">
        {next && (
          <Button onClick={() => void navigate(`/line/${view.line.id}/shed/gauge/${next.trap.id}`)}>Next: trap {next.trap.number}</Button>
        )}
        <Link to={`/line/${view.line.id}/shed?trap=${h.trap.id}`}>back to the rack</Link>
      </div>
    </div>
  );
}
