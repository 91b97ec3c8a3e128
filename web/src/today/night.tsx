import { Fragment } from 'react';
import { Link } from 'react-router';
import { NightDrawing } from '../draw/night';
import { useWeather } from '../lib/queries';
import { useReach } from '../lib/reach';
import { useSettings } from '../lib/settings';
import { clock, day } from '../lib/time';
import type { LineView, WeatherView } from '../lib/types.gen';
import { show } from '../lib/units';
import { bearing, capital, count } from '../lib/words';

const locks: Record<string, string> = {
  frozen: 'is bedded under damp cover: it may be frozen',
  crusted: 'took rain and then frost: its cover may be crusted',
  snowed_under: 'may be snowed under',
};

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
  const frozenIn = weather.sets.filter((s) => s.frozenIn);
  const sky = [
    night.snowCm > 0 ? `Snow, ${show('length', night.snowCm * 10, system)}: tracks on it are younger` : '',
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
          `How deep the frost is at ${unknown === weather.spots.length ? 'the spots' : count(unknown) + ' spots'} is not known: the weather of too many days is missing. A probe tells. `}
        {wind}
        {told.length > 0 &&
          `, so the scent lay across the travel way at ${count(told.length - off.length)} of ${count(told.length)} sets`}.{' '}
        {locked.map((s) => (
          <Fragment key={s.setId}>
            <b className="dun">Set {number.get(s.setId)}</b> {locks[s.locked] ?? 'may be locked'}.{' '}
          </Fragment>
        ))}
        {off.length > 0 && (
          <>
            <b className="dun">
              {off.length === 1 ? 'Set' : 'Sets'} {off.map((s) => number.get(s.setId)).join(', ')}
            </b>{' '}
            {off.length === 1 ? 'stands' : 'stand'} on the wrong side for this wind.{' '}
          </>
        )}
        {frozenIn.length > 0 &&
          `${capital(count(frozenIn.length))} ${frozenIn.length === 1 ? 'anchor is' : 'anchors are'} frozen in until thaw.`}
      </p>
      <Source weather={weather} view={view} />
    </>
  );
}

/** Where the weather is known from, and how old it is. */
export function Source({ weather, view }: { weather: WeatherView; view: LineView }) {
  const { zone, id } = view.line;
  const at = weather.fetchedAt;
  return (
    <div className={weather.stale || weather.trouble || weather.unknown.length > 0 ? 'wrong' : 'quiet'}>
      {weather.standIn && 'Made-up weather, from the stand-in service. '}
      {at
        ? `${weather.stale ? 'Stale: read' : 'Read'} ${clock(at, zone)} on ${day(at, zone)}. `
        : weather.connected
          ? 'The service has not answered yet. '
          : 'Entered by hand. '}
      {weather.unknown.length > 0 &&
        `The service also says ${weather.unknown.join(', ')}, which mean nothing here: rain or snow may be missing. `}
      {weather.trouble && `${weather.trouble}. What stands here is from before. `}
      <Link to={`/line/${id}/weather`}>weather, by hand</Link>
    </div>
  );
}
