import { Source } from '../lib/source';
import { Link } from 'react-router';
import { NightDrawing } from '../draw/night';
import { bedOf, bedSays, bedsSay } from '../lib/words/beds';
import { useWeather } from '../lib/ask/queries';
import { useReach } from '../lib/ask/reach';
import { useSettings } from '../lib/settings';
import type { LineView, WeatherView } from '../lib/types.gen';
import { show } from '../lib/words/units';
import { bearing, capital, count, many } from '../lib/words/words';

/** What a night did to a set's cover, of one and of several. */
const locks: Record<string, [one: string, many: string]> = {
  frozen: ['is bedded under damp cover and may be frozen', 'are bedded under damp cover and may be frozen'],
  crusted: ['took rain and then frost, its cover may be crusted', 'took rain and then frost, their covers may be crusted'],
  snowed_under: ['may be snowed under', 'may be snowed under'],
  froze: ['had water standing in its bed and may be frozen', 'had water standing in their beds and may be frozen'],
};

/** A sentence of one set or several. */
function Of({ sets, number, tone, says }: { sets: { setId: string }[]; number: Map<string, number>; tone: string; says: string }) {
  return (
    <>
      <b className={tone}>
        {sets.length === 1 ? 'Set' : 'Sets'} {sets.map((s) => number.get(s.setId)).join(', ')}
      </b>{' '}
      {says}.{' '}
    </>
  );
}

/** What the night did to the sets: drawn, and said in sentences, with where it is known from. */
export function WhatTheNightDid({ view }: { view: LineView }) {
  const { data: weather } = useWeather();
  const reached = useReach();
  const line = `/line/${view.line.id}`;
  return (
    <div className="night-room">
      <h2>What the night did</h2>
      {!weather ? (
        !reached && <p>The weather was not read in this browser before, and the program does not answer.</p>
      ) : weather.lastNight ? (
        <Told view={view} weather={weather} />
      ) : (
        <p>
          No weather is known for last night, so what frost, rain and wind did to the sets is not known. Look at covers yourself, or{' '}
          <Link to={`${line}/weather`}>enter the weather</Link>.
        </p>
      )}
    </div>
  );
}

function Told({ view, weather }: { view: LineView; weather: WeatherView }) {
  const { system } = useSettings();
  const night = weather.lastNight;
  if (!night) return null;
  const number = new Map(view.sets.map((s) => [s.set.id, s.set.number]));
  const locked = weather.sets.filter((s) => s.locked !== '');
  const told = weather.sets.filter((s) => s.way && !s.swirls);
  const off = told.filter((s) => s.wrongSide);
  const unknown = weather.spots.filter((s) => !s.known).length;
  const deepest = weather.spots.reduce((a, b) => (b.depthMm > a ? b.depthMm : a), 0);
  const next = weather.spots.reduce((a, b) => Math.max(a, b.mornings[0]?.depthMm ?? 0), 0);
  const wet = weather.sets.flatMap(({ setId }) => {
    const bed = bedOf(weather, setId);
    const says = bedSays(bed, system);
    return bed === undefined || says === '' ? [] : [{ setId, says, together: bedsSay(bed) }];
  });
  const frozenIn = weather.sets.filter((s) => s.frozenIn);
  const sky = [
    night.snowCm > 0 ? `Snow, ${show('length', night.snowCm * 10, system)}; tracks on it are younger` : '',
    night.rainMm > 0 ? `Rain, ${show('length', night.rainMm, system)}` : '',
    night.snowCm + night.rainMm === 0 ? 'Dry' : '',
  ]
    .filter(Boolean)
    .join('. ');
  const wind =
    night.windSteady < 0.4
      ? 'Wind from every side'
      : `Wind ${bearing(night.windFromDeg)} ${night.windSteady > 0.8 ? 'all night' : 'most of the night'}`;
  return (
    <>
      <NightDrawing night={night} zone={view.line.zone} system={system} />
      <p className="told">
        {sky}, to {show('temperature', night.coldestC, system)}.{' '}
        {deepest > 5 ? (
          <>
            Frost is down to about <b>{show('length', deepest, system)}</b> where it goes deepest, by tomorrow about{' '}
            {show('length', next, system)}.{' '}
          </>
        ) : unknown < weather.spots.length ? (
          `No frost in the ground${unknown > 0 ? ' where it is known' : ''}. `
        ) : (
          ''
        )}
        {unknown > 0 &&
          `How deep the frost is at ${unknown === weather.spots.length ? 'the spots' : many(unknown, 'spot')} is not known, since the weather of too many days is missing. A probe tells. `}
        {wind}
        {told.length > 0 &&
          `, so the scent lay across the travel way at ${count(told.length - off.length)} of ${count(told.length)} sets`}.{' '}
        {Object.entries(locks).map(([why, [one, several]]) => {
          // Of a set that will lock again the one sentence is enough that says what to do.
          const sets = locked.filter((s) => s.locked === why && wet.every((w) => w.setId !== s.setId));
          return sets.length === 0 ? null : (
            <Of key={why} sets={sets} number={number} tone="dun" says={sets.length === 1 ? one : several} />
          );
        })}
        {[...new Set(wet.map((s) => s.together))].map((together) => {
          const sets = wet.filter((s) => s.together === together);
          return together === '' || sets.length === 1 ? (
            sets.map((s) => <Of key={s.setId} sets={[s]} number={number} tone="ember" says={s.says} />)
          ) : (
            <Of key={together} sets={sets} number={number} tone="ember" says={together} />
          );
        })}
        {off.length > 0 && (
          <>
            <b className="dun">
              {off.length === 1 ? 'Set' : 'Sets'} {off.map((s) => number.get(s.setId)).join(', ')}
            </b>{' '}
            {off.length === 1 ? 'stands' : 'stand'} on the wrong side for this wind.{' '}
          </>
        )}
        {frozenIn.length > 0 && `${capital(many(frozenIn.length, 'anchor'))} ${frozenIn.length === 1 ? 'is' : 'are'} frozen in until thaw.`}
      </p>
      <Source weather={weather} view={view} />
    </>
  );
}
