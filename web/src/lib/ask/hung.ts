import type { Bar, CheckItem, LineTrap, OnNail, Place, Pressed, Rack as RackTold, Turning, Wanted } from '../types.gen';

/** A trap as it hangs on the rack: what it is, where it is, and how its pan stands. */
export interface Hung extends Pick<OnNail, 'checked' | 'verdict'> {
  trap: LineTrap;
  place: Place;
  checks: CheckItem[];
  faults: CheckItem[];
  tension: Pressed | null;
  wanted: Wanted | null;
  /** Tighter or looser; blank where it need not be turned. */
  turn: Turning;
  turnN: number;
  bars: Bar;
}

/** The rack with every trap whole. */
export type Rack = Omit<RackTold, 'traps'> & { traps: Hung[] };

/** Each trap with what many have alike, which the program tells once. */
export const hung = (rack: RackTold): Rack => ({ ...rack, traps: rack.traps.map((n) => whole(n, rack)) });

function whole(n: OnNail, rack: RackTold): Hung {
  const { id, number, version, tag = '', note = '' } = n;
  return {
    trap: { ...told(rack.alike, n.alike), id, number, version, tag, note },
    place: told(rack.places, n.place),
    checked: n.checked,
    checks: told(rack.checks, n.checks),
    faults: told(rack.checks, n.faults),
    tension: n.tension,
    wanted: n.window === null ? null : told(rack.windows, n.window),
    verdict: n.verdict,
    turn: n.turn ?? '',
    turnN: n.turnN ?? 0,
    bars: n.bars ?? '',
  };
}

function told<T>(list: T[], at: number): T {
  const found = list[at];
  if (found === undefined) throw new Error(`the rack does not tell number ${at}`);
  return found;
}
