import { useEffect, useState } from 'react';
import { keepLocal, local } from './local';

/**
 * The program's time as this device knows it: its own clock, and by how much the program's was ahead of it when the program last
 * said its own. A demo's clock can be told to stand; then it stands here too.
 */
export interface Known {
  /** The program's clock less this device's, ms; null while the program never said. */
  offsetMs: number | null;
  /** The time, ms, at which the program's clock stands. */
  stillMs: number | null;
}

const key = 'clock';
const nothing: Known = { offsetMs: null, stillMs: null };

let known = local<Known>(key, nothing);

/** The program's time, ms, when this device's clock shows a time. */
export const programTime = (deviceMs: number, k: Known): number => k.stillMs ?? deviceMs + (k.offsetMs ?? 0);

/** What is known once the program has said its time: it was asked and it answered at these times of this device. */
export function learn(now: string, still: boolean, askedMs: number, answeredMs: number): Known {
  const said = Date.parse(now);
  return { offsetMs: Math.round(said - (askedMs + answeredMs) / 2), stillMs: still ? said : null };
}

/** Takes what the program said of its clock. */
export function heard(now: string, still: boolean, askedMs: number): void {
  known = learn(now, still, askedMs, Date.now());
  keepLocal(key, JSON.stringify(known));
  listeners.forEach((listen) => listen());
}

/** The time now by the program's clock. */
export const nowISO = (): string => new Date(programTime(Date.now(), known)).toISOString();

/** What this device's clock shows, and the program's lead over it as last heard. */
export const deviceClock = (): { deviceAt: string; offsetMs: number | null } => ({
  deviceAt: new Date().toISOString(),
  offsetMs: known.offsetMs,
});

/** By how much the program's clock and this device's differ, ms, when that is worth saying; null while it is not known, or stands. */
export function clocksApart(): number | null {
  const { offsetMs, stillMs } = known;
  return offsetMs === null || stillMs !== null || Math.abs(offsetMs) <= apartMs ? null : offsetMs;
}

const apartMs = 120_000;

const listeners = new Set<() => void>();

/** The time now, to be shown: it goes on by itself. */
export function useNow(): string {
  const [now, setNow] = useState(nowISO);
  useEffect(() => {
    const tick = () => setNow(nowISO());
    const timer = window.setInterval(tick, 5000);
    listeners.add(tick);
    return () => {
      window.clearInterval(timer);
      listeners.delete(tick);
    };
  }, []);
  return now;
}
