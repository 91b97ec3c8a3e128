import { useEffect, useRef, type ReactNode } from 'react';
import { NavLink } from 'react-router';
import { useLineID } from '../lib/ask/queries';

const benches: [path: string, name: string][] = [
  ['', 'Rack'],
  ['/gauge', 'Gauge'],
  ['/mixes', 'Mixes'],
  ['/kit', 'Kit'],
];

/** The head of every page of the shed: what else lies in it, what this page says first, and what can be done on it. */
export function ShedHead({ children, actions }: { children?: ReactNode; actions?: ReactNode }) {
  const line = useLineID();
  return (
    <div className="shed-head">
      <nav aria-label="in the shed">
        {benches.map(([path, name]) => (
          <NavLink key={path} to={`/line/${line}/shed${path}`} end={path === ''}>
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="quiet says">{children}</div>
      {actions !== undefined && <div className="words">{actions}</div>}
    </div>
  );
}

/** What stands beside a drawing. Where it stands below, as in the hand, it comes into sight when it shows another thing. */
export function Beside({ shows, children }: { shows: string; children: ReactNode }) {
  const box = useRef<HTMLElement>(null);
  const shown = useRef(shows);
  useEffect(() => {
    if (shown.current !== shows) box.current?.scrollIntoView({ block: 'nearest' });
    shown.current = shows;
  }, [shows]);
  return <aside ref={box}>{children}</aside>;
}
