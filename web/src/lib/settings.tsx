import { keepLocal } from './kept/local';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import type { System } from './words/units';

/** When the round is worked. */
export type RoundTime = 'morning' | 'evening' | 'both';

interface Settings {
  system: System;
  lamp: boolean;
  round: RoundTime;
  setSystem: (system: System) => void;
  setLamp: (lamp: boolean) => void;
  setRound: (round: RoundTime) => void;
}

const Context = createContext<Settings | null>(null);

/** Units, theme and when the round is worked, the same for every page, kept in this browser. */
export function SettingsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<System>(() => (localStorage.getItem('units') === 'metric' ? 'metric' : 'us'));
  const [lamp, setLamp] = useState(() => localStorage.getItem('theme') === 'lamp');
  const [round, setRound] = useState<RoundTime>(
    () => (['evening', 'both'] as const).find((r) => r === localStorage.getItem('round')) ?? 'morning',
  );
  useEffect(() => void keepLocal('units', system), [system]);
  useEffect(() => void keepLocal('round', round), [round]);
  useEffect(() => {
    keepLocal('theme', lamp ? 'lamp' : 'day');
    document.documentElement.dataset.theme = lamp ? 'lamp' : 'day';
  }, [lamp]);
  return <Context value={{ system, lamp, round, setSystem, setLamp, setRound }}>{children}</Context>;
}

export function useSettings(): Settings {
  const settings = useContext(Context);
  if (!settings) throw new Error('no settings about this page');
  return settings;
}
