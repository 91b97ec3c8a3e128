import { WindStrip } from '../draw/windstrip';
import { date } from '../lib/words/time';
import type { Ground, Kind, LineView, Property, WeatherView } from '../lib/types.gen';
import { featureWord } from '../lib/words/called';
import type { Changes } from '../lib/ask/change';
import { PropertyPanel } from './featureform';
import type { Chosen } from './mapprops';

/** The wind of the nights on record, and of the coming one. */
export function NightWind({ weather }: { weather: WeatherView | undefined }) {
  if (!weather) return null;
  if (!weather.known) return <div className="quiet">Night wind is not known: no weather is entered.</div>;
  return (
    <div>
      <div className="quiet">
        night wind, last {weather.nights} nights; <span className="ember">tonight</span>
      </div>
      <WindStrip record={weather.nightWind} tonight={weather.tonightWind} />
    </div>
  );
}

export function DrawMenu({ kinds, onKind }: { kinds: Kind[]; onKind: (key: string) => void }) {
  const groups = [
    ['land', 'the land'],
    ['gathers', 'what gathers travel'],
    ['hazards', 'hazards'],
    ['watchers', 'who would see'],
  ] as const;
  return (
    <select className="form-select draw-menu" aria-label="draw" value="" onChange={(e) => onKind(e.target.value)}>
      <option value="">Draw</option>
      {groups.map(([key, name]) => (
        <optgroup key={key} label={name}>
          {kinds
            .filter((k) => k.group === key)
            .map((k) => (
              <option key={k.key} value={k.key}>
                {featureWord(k.key)}
              </option>
            ))}
        </optgroup>
      ))}
    </select>
  );
}

export function PropertyList({
  view,
  ground,
  chosen,
  changes,
  open,
  onOpen,
  onChoose,
}: {
  open: string | null;
  onOpen: (id: string | null) => void;
  view: LineView;
  ground: Ground;
  chosen: Chosen;
  changes: Changes;
  onChoose: (c: Chosen) => void;
}) {
  const now = date(view.now, view.line.zone);
  return (
    <div className="places">
      {ground.properties.map((p) => {
        const over = p.until !== '' && p.until < now;
        const spots = ground.spots.filter((s) => s.propertyId === p.id);
        return (
          <section key={p.id}>
            <h3>
              <button
                type="button"
                className="word plain"
                aria-expanded={open === p.id}
                onClick={() => onOpen(open === p.id ? null : p.id)}
              >
                {p.name}
              </button>
            </h3>
            <div className={over ? 'wrong' : 'quiet'}>{permissionWords(p, over)}</div>
            {open === p.id && <PropertyInPlace property={p} changes={changes} />}
            <div>
              {spots.map((s) => (
                <button
                  key={s.id}
                  type="button"
                  className="word place"
                  aria-current={chosen?.id === s.id}
                  onClick={() => onChoose({ what: 'spot', id: s.id })}
                >
                  {s.name}
                </button>
              ))}
            </div>
          </section>
        );
      })}
    </div>
  );
}

function PropertyInPlace({ property, changes }: { property: Property; changes: Changes }) {
  return <PropertyPanel key={property.version} property={property} changes={changes} onGone={() => undefined} />;
}

function permissionWords(p: Property, over: boolean): string {
  const date = (d: string) => new Date(d).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' });
  const parts = [
    p.until !== ''
      ? over
        ? `permission ended ${date(p.until)}, ask again`
        : `permission to ${date(p.until)}`
      : p.asked !== ''
        ? 'permission, no end said'
        : 'no permission noted',
    p.asked !== '' ? `asked ${date(p.asked)}` : '',
    p.permission,
  ];
  return parts.filter(Boolean).join('; ');
}
