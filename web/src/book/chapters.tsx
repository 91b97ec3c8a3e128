import { Link } from 'react-router';
import { useLeads } from './leads';

const chapters = [
  ['', 'how it goes'],
  ['caught', 'what was caught'],
  ['apart', 'what catches'],
  ['came', 'promised and came'],
  ['mended', 'what mended'],
] as const;
export type Chapter = (typeof chapters)[number][0] | 'set';

/** The chapters of the book, in words; the season that is chosen goes along. */
export function Chapters({ open }: { open: Chapter }) {
  const leads = useLeads();
  return (
    <nav className="seasons" aria-label="chapters">
      {chapters.map(([key, name]) => (
        <Link key={key} to={leads(key)} aria-current={key === open ? 'page' : undefined}>
          {name}
        </Link>
      ))}
    </nav>
  );
}
