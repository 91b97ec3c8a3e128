import { useState } from 'react';
import { Link } from 'react-router';
import { useRack, useRemake, useWeather } from '../lib/ask/queries';
import { Felt } from '../lib/fields/felt';
import { Choice, Measure, Pick, Text, Tick } from '../lib/fields/fields';
import { remadeOtherwise, type Remade } from '../lib/kept/built';
import type { SetNow } from '../lib/kept/overlay';
import { withPress, withRig, withTrap } from '../lib/kept/withtrap';
import { useSettings } from '../lib/settings';
import { forms, renewals } from '../lib/lists.gen';
import { formWord, renewalWord } from '../lib/words/called';
import { facingOf, rigsOf, trapRigs } from '../lib/words/parts';
import { trapName } from '../lib/words/traps';
import { mendWords } from '../lib/words/advice';
import { partsWords } from '../lib/words/apart';
import { capital } from '../lib/words/words';
import type { AnchorOut, Layout, Make, OptionTold, Renewal } from '../lib/types.gen';
import { duration, show } from '../lib/words/units';
import { Back } from './eachtrap';

interface Props {
  open: SetNow;
  line: string;
  /** The trap that another is wanted for, by its slot; null where all can stay. */
  swap: number | null;
  /** What is to be made otherwise; null where that is for whoever makes it to say. */
  mend: OptionTold | null;
  onBack: () => void;
  onRemade: (remade: (id: string, at: string) => Make, oldAnchor: AnchorOut | null) => void;
}

const none: Remade = { form: 'same_bed', points: [], renewed: [], note: '' };

/** A set made again: in which bed, with which trap, what was pressed, felt and renewed. */
export function RemakeForm({ open, line, swap, mend, onBack, onRemade }: Props) {
  const { make } = open;
  const { system } = useSettings();
  const { data: rack } = useRack();
  const { data: weather } = useWeather();
  const [chosen, setChosen] = useState<(typeof forms)[number] | null>(null);
  const [bearing, setBearing] = useState<number | null>(facingOf(make.layout));
  const [anchor, setAnchor] = useState<AnchorOut | ''>('');
  const [swapped, setSwapped] = useState<Record<number, string>>({});
  const [pressed, setPressed] = useState<Record<number, number>>({});
  const [said, setSaid] = useState<Remade>({ ...none, renewed: mend?.renews ?? [] });
  const { data: can, isPending, isPlaceholderData: older } = useRemake(make.id, bearing === null ? '' : String(bearing));
  const first = mend?.form || (swap === null ? can?.forms[0]?.form : 'same_bed');
  const made = mend?.layout ?? make.layout;
  const form = chosen ?? first ?? 'same_bed';
  const minutes = (of: string) => can?.forms.find((f) => f.form === of)?.minutes;
  // Where the rim lies on another bearing is not where it lies on this one.
  const rim = form === 'rim' && !older ? can?.rim : undefined;
  const traps = trapRigs(make.layout);
  const frozen = weather?.spots.find((s) => s.spotId === open.set.spotId)?.underfoot.frozen === true;

  const stands = (l: Layout): Layout =>
    traps.reduce((now, { slot }) => {
      const h = rack?.traps.find((one) => one.trap.id === swapped[slot]);
      const put = h ? withRig(now, slot, (rig) => withTrap(rig, h)) : now;
      const gaugeN = pressed[slot];
      return gaugeN === undefined ? put : withPress(put, slot, gaugeN);
    }, l);
  const save = () =>
    onRemade(
      (id, at) =>
        remadeOtherwise(make, id, at, stands(rim ? { ...made, at: rim.at, facingDeg: rim.facingDeg } : made), { ...said, form, frozen }),
      form === 'rim' && anchor !== '' ? anchor : null,
    );
  const tick = (one: Renewal, is: boolean) =>
    setSaid({ ...said, renewed: is ? [...said.renewed, one] : said.renewed.filter((x) => x !== one) });
  // What it offers first stands there before anything can be touched.
  if (isPending) {
    return (
      <>
        <h2>Remade</h2>
        <Back onBack={onBack} />
      </>
    );
  }
  return (
    <>
      <h2>Remade</h2>
      <div className="whose">
        <Choice
          label="how"
          path="asBuilt.form"
          value={form}
          options={can?.forms.map((f) => f.form).filter((f) => f !== '') ?? forms}
          name={(f) => {
            const takes = minutes(f);
            return takes === undefined ? formWord(f) : `${formWord(f)}, ${duration(takes)}`;
          }}
          onValue={setChosen}
        />
        {mend && (
          <p>
            <b>{capital(mendWords(mend.mend))}.</b>
            {mend.parts.length > 0 && ` It stands as before but for this, ${partsWords(mend.parts)}.`}
          </p>
        )}
        {form === 'rim' && (
          <>
            <Measure
              label="which way from the old anchor"
              path="bearing"
              kind="degrees"
              value={bearing}
              onValue={setBearing}
              onBlank={() => setBearing(null)}
            />
            {can && (
              <p>
                What it comes to lies <b>{show('length', can.wearMm, system)}</b> from the old anchor, on the rim of its circle, and faces
                outward.
              </p>
            )}
            <Choice
              label="the old anchor"
              path="oldAnchor"
              value={anchor}
              options={['out', 'left'] as const}
              name={(k) => (k === 'out' ? 'out' : 'left in')}
              onValue={setAnchor}
            />
          </>
        )}
        {form === 'new_bed' && !mend && (
          <p>
            It stands as before in another bed. <Link to={`/line/${line}/bench/${make.designId}`}>Draw it anew on the bench</Link> where
            more is otherwise.
          </p>
        )}
        {traps.map(({ slot, name }, i) => {
          const fits = can?.fits.find((f) => f.slot === slot)?.traps ?? [];
          const verdict = (id: string) => (fits.find((f) => f.trapId === id)?.verdict === 'inside' ? 'in its window' : 'not measured');
          return (
            <div key={slot} className="wide fields">
              <Pick
                label={traps.length > 1 ? `${name}, another in its place` : 'another trap in its place'}
                path={`layout.rigs[${i}].trapId`}
                value={swapped[slot] ?? ''}
                blank={fits.length === 0 ? 'none on the rack fits' : `${name} stays`}
                options={fits.map((f) => f.trapId)}
                name={(id) => {
                  const h = rack?.traps.find((one) => one.trap.id === id);
                  return h ? `${trapName(h)}, ${verdict(id)}` : '';
                }}
                onValue={(id) => setSwapped({ ...swapped, [slot]: id })}
              />
              <Measure
                label={`${rigsOf(make.layout).length > 1 ? `${name}, ` : ''}pan, pressed on the set trap`}
                path={`layout.rigs[${i}].pan.gaugeN`}
                kind="force"
                value={pressed[slot] ?? null}
                onValue={(n) => setPressed({ ...pressed, [slot]: n })}
                onBlank={() => setPressed(Object.fromEntries(Object.entries(pressed).filter(([k]) => k !== String(slot))))}
              />
            </div>
          );
        })}
        <Felt layout={make.layout} points={said.points} onPoints={(points) => setSaid({ ...said, points })} />
        <div className="ticks">
          {renewals.map((one) => (
            <Tick
              key={one}
              label={renewalWord(one)}
              path={`asBuilt.renewed.${one}`}
              value={said.renewed.includes(one)}
              onValue={(is) => tick(one, is)}
            />
          ))}
        </div>
        <Text label="note" path="asBuilt.note" value={said.note} onValue={(note) => setSaid({ ...said, note })} />
      </div>
      <button type="button" className="btn btn-primary next" disabled={form === 'rim' && !rim} onClick={save}>
        It is remade
      </button>
      <Back onBack={onBack} />
    </>
  );
}
