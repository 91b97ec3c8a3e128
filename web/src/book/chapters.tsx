import { Link, useSearchParams } from 'react-router';
import { useLineID } from '../lib/ask/queries';

const chapters = [
  ['', 'how it goes'],
  ['caught', 'what was caught'],
  ['apart', 'what catches'],
  ['came', 'promised and came'],
] as const;
export type Chapter = (typeof chapters)[number][0] | 'set';

/** The chapters of the book, in words; the season that is chosen goes along. */
export function Chapters({ open }: { open: Chapter }) {
  const line = useLineID();
  const [params] = useSearchParams();
  const season = params.get('season');
  return (
    <nav className="seasons" aria-label="chapters">
      {chapters.map(([key, name]) => (
        <Link
          key={key}
          to={`/line/${line}/book${key && `/${key}`}${season ? `?season=${season}` : ''}`}
          aria-current={key === open ? 'page' : undefined}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
