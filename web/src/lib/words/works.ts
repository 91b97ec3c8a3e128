import { terms } from './chain';
import type { WorksView } from '../types.gen';
import { figure } from './learnt';
import { sightReasons } from './sight';
import { show, showDistance, type System } from './units';
import { bearing, count, listed, plural } from './words';

const others: Record<string, string> = {
  through: 'how many of those that pass take this very way',
  coverage: 'how much of the night its scent lies over the way',
};

/** What moves a way of making a set at a place from what it is elsewhere. */
export const reasonWords = (key: string): string =>
  others[key] ?? (terms as Partial<Record<string, string>>)[key] ?? (sightReasons as Partial<Record<string, string>>)[key] ?? key;

/** What is said of the place itself: what stands near it, the better side of its way, the nights to come, and what a second set adds. */
export function placeWords(v: WorksView, target: string, system: System): string[] {
  const named = v.near.filter((t) => t.name !== '').map((t) => `${t.name}, ${showDistance(t.m, system)}`);
  const [best, other] = v.sides;
  const said: string[] = [];
  if (named.length > 0) said.push(`Near it ${named.length === 1 ? 'lies' : 'lie'} ${listed(named.slice(0, 4))}`);
  if (best && other) {
    said.push(
      `The ${bearing(best.compassDeg)} side of the way is the better one, its scent lies over the way ${share(best.record)} of 100 night hours, from the other side ${share(other.record)}`,
    );
  }
  if (v.ahead) {
    const { nights, rain, rainMm, snow, snowCm, frost } = v.ahead;
    const ahead = [
      rain > 0 && `rain on ${count(rain)}, ${show('length', rainMm, system)}`,
      snow > 0 && `snow on ${count(snow)}, ${show('length', snowCm * 10, system)}`,
      frost > 0 && `frost on ${frost === nights ? 'all' : count(frost)}`,
    ].filter((x) => x !== false);
    said.push(
      `In the ${nights === 1 ? 'coming night' : `${count(nights)} nights to come`} ${ahead.length === 0 ? 'neither rain nor frost' : listed(ahead)}`,
    );
  }
  if (v.second) {
    said.push(`A second set of another kind beside what stands would add about ${figure(v.second.mid)} ${plural(target)} in 100 nights`);
  }
  return said;
}

const share = (of1: number) => String(Math.round(100 * of1));
