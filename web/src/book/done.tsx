import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import Button from 'react-bootstrap/Button';
import { patternWords } from '../lib/words/patterns';
import { Pick, Text } from '../lib/fields/fields';
import { routes } from '../lib/ask/routes';
import { useLine } from '../lib/ask/queries';
import { clock, day, dayYear } from '../lib/words/time';
import type { DoneLook, DoneMake, DoneView } from '../lib/types.gen';
import type { LineNow } from '../lib/kept/overlay';
import { Unread } from '../lib/ask/unread';
import { trim } from '../lib/words/units';
import { caughtDetails, foundWords, whoseWords } from '../lib/words/looks';
import { timeWords } from '../lib/words/when';
import { animalWord, wordIn } from '../lib/words/called';
import { capital, many } from '../lib/words/words';
import { whys } from '../lib/words/uncounted';

/** What was done, by property and dates: to print, and as CSV. */
export function DonePage() {
  const { data: view } = useLine();
  if (!view) return <Unread />;
  return <Done view={view} />;
}

function Done({ view }: { view: LineNow }) {
  const [params, setParams] = useSearchParams();
  const asked = { property: params.get('property') ?? '', from: params.get('from') ?? '', to: params.get('to') ?? '' };
  const set = (change: Partial<typeof asked>) =>
    setParams(Object.fromEntries(Object.entries({ ...asked, ...change }).filter(([, value]) => value !== '')), { replace: true });
  const query = new URLSearchParams(asked).toString();
  const { data, error } = useQuery({
    ...routes.done(view.line.id, query),
  });
  const property = view.properties.find((p) => p.id === asked.property);
  const csv = (list: string) => `/api/lines/${view.line.id}/export/${list}?${query}`;
  return (
    <main className="page done-page">
      <h2>
        What was done, {property?.name ?? view.line.name}
        {asked.from && `, from ${dayYear(`${asked.from}T12:00:00Z`, 'UTC')}`}
        {asked.to && ` to ${dayYear(`${asked.to}T12:00:00Z`, 'UTC')}`}
      </h2>
      <div className="form-grid three no-print">
        <Pick
          label="property"
          path="property"
          value={asked.property}
          blank="all"
          options={view.properties.map((p) => p.id)}
          name={(id) => view.properties.find((p) => p.id === id)?.name ?? ''}
          onValue={(id) => set({ property: id })}
        />
        <Text label="from" path="from" type="date" value={asked.from} onValue={(from) => set({ from })} />
        <Text label="to" path="to" type="date" value={asked.to} onValue={(to) => set({ to })} />
      </div>
      <div className="build no-print">
        <Button onClick={() => window.print()}>Print</Button>
        <span>
          as CSV <a href={csv('looks')}>looks</a> · <a href={csv('catches')}>catches</a> · <a href={csv('makes')}>makes</a>
        </span>
      </div>
      {error && <p className="ember">The program does not answer. It asks again by itself.</p>}
      {data && <Lists data={data} view={view} />}
    </main>
  );
}

function Lists({ data, view }: { data: DoneView; view: LineNow }) {
  const { zone } = view.line;
  const place = (setId: string) => {
    const set = data.sets.find((s) => s.id === setId);
    return `set ${set?.number ?? ''}, ${view.spots.find((s) => s.id === set?.spotId)?.name ?? ''}`;
  };
  const caught = data.looks.filter((l) => l.odd === '' && l.visit.catches.length > 0);
  return (
    <>
      <h3>
        {capital(
          many(
            caught.reduce((sum, l) => sum + l.visit.catches.length, 0),
            'animal',
          ),
        )}{' '}
        caught
      </h3>
      <Table
        head={['day', 'where', 'caught', 'more']}
        rows={caught.map((l) => [
          `${dayYear(l.visit.at, zone)} ${timeWords(l.visit, zone)}`,
          place(l.make.setId),
          foundWords(l.visit).replace(/^.*: /, ''),
          l.visit.catches
            .map((c) => caughtDetails(c, l.make.layout))
            .filter(Boolean)
            .join('; '),
        ])}
      />
      <h3>{capital(many(data.looks.length, 'look'))}</h3>
      <Table head={['day', 'where', 'found', 'note']} rows={data.looks.map((l) => lookRow(l, zone, place))} />
      <h3>{capital(many(data.makes.length, 'set'))} built or remade</h3>
      <Table head={['day', 'where', 'made as', 'trap-nights']} rows={data.makes.map((m) => makeRow(m, zone, place))} />
    </>
  );
}

const lookRow = (l: DoneLook, zone: string, place: (setId: string) => string): string[] => [
  `${dayYear(l.visit.at, zone)} ${timeWords(l.visit, zone)}`,
  place(l.make.setId),
  `${foundWords(l.visit)}${l.visit.catches.length === 0 ? whoseWords(l.visit) : ''}`,
  [l.odd && `not counted, ${wordIn(whys, l.odd)}`, l.visit.note].filter(Boolean).join('; '),
];

const makeRow = ({ make: m, trapNights }: DoneMake, zone: string, place: (setId: string) => string): string[] => [
  `${dayYear(m.builtAt, zone)} ${clock(m.builtAt, zone)}`,
  place(m.setId),
  `${m.follows === null ? 'built' : 'remade'}, ${patternWords(m.layout)}, for ${animalWord(m.target)}${m.pulledAt ? `, until ${day(m.pulledAt, zone)}` : ''}`,
  trim(trapNights, 1),
];

function Table({ head, rows }: { head: string[]; rows: string[][] }) {
  if (rows.length === 0) return <p className="quiet">None in these days.</p>;
  return (
    <table className="done">
      <thead>
        <tr>
          {head.map((one) => (
            <th key={one}>{one}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i}>
            {row.map((cell, k) => (
              <td key={k}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
