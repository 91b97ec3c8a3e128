import { across, isFar, type View } from './view';
import type { System } from '../lib/words/units';

/** The ruler that plan and cut share: setback from the attractor, or the way from the middle of it. */
export function Ruler({ view, y, system }: { view: View; y: number; system: System }) {
  // Far off, in feet or half metres.
  const far = isFar(view);
  const unit = (system === 'us' ? 25.4 : 10) * (far ? (system === 'us' ? 12 : 10) : 1);
  const labelled = far ? (system === 'us' ? 1 : 5) : system === 'us' ? 3 : 10;
  const from = Math.ceil((-view.x0 / view.scale + 30) / unit);
  const to = Math.floor((view.width - view.x0 - 8) / view.scale / unit);
  const marks = Array.from({ length: to - from + 1 }, (_, i) => from + i).filter((n) => system === 'us' || n % 2 === 0);
  return (
    <g aria-hidden="true">
      <path
        d={`M${across(view, from * unit)} ${y}H${across(view, to * unit)}${marks
          .map((n) => `M${across(view, n * unit).toFixed(1)} ${y}v${n % labelled === 0 ? -7 : -4}`)
          .join('')}`}
        stroke="var(--ink)"
        strokeWidth={1.1}
        fill="none"
      />
      {marks
        .filter((n) => n % labelled === 0 && (n >= 0 || view.turned))
        .map((n) => (
          <text key={n} className="quiet-text" x={across(view, n * unit)} y={y + 15} textAnchor="middle">
            {Math.abs(n) * (far && system === 'metric' ? 10 : 1)}
            {n === 0 ? (system === 'us' ? (far ? ' ft' : ' in') : ' cm') : ''}
          </text>
        ))}
    </g>
  );
}
