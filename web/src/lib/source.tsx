import { Link } from 'react-router';
import { clock, day } from './words/time';
import type { LineView, WeatherView } from './types.gen';

/** Where the weather is known from, and how old it is. */
export function Source({ weather, view }: { weather: WeatherView; view: LineView }) {
  const { zone, id } = view.line;
  const at = weather.fetchedAt;
  return (
    <div className={weather.stale || weather.trouble || weather.unknown.length > 0 ? 'wrong' : 'quiet'}>
      {weather.standIn && 'Made-up weather, from the stand-in service. '}
      {at
        ? `${weather.stale ? 'Stale, read' : 'Read'} ${clock(at, zone)} on ${day(at, zone)}. `
        : weather.connected
          ? 'The service has not answered yet. '
          : 'Entered by hand. '}
      {weather.unknown.length > 0 &&
        `The service also says ${weather.unknown.join(', ')}, which mean nothing here, so rain or snow may be missing. `}
      {weather.trouble && `${weather.trouble}. What stands here is from before. `}
      <Link to={`/line/${id}/weather`}>weather, by hand</Link>
    </div>
  );
}
