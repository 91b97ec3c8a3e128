import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import type { System } from './units';

interface Settings {
  system: System;
  lamp: boolean;
  setSystem: (system: System) => void;
  setLamp: (lamp: boolean) => void;
}

const Context = createContext<Settings | null>(null);

/** Units and theme, the same for every page, kept in this browser. */
export function SettingsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<System>(() => (localStorage.getItem('units') === 'metric' ? 'metric' : 'us'));
  const [lamp, setLamp] = useState(() => localStorage.getItem('theme') === 'lamp');
  useEffect(() => localStorage.setItem('units', system), [system]);
  useEffect(() => {
    localStorage.setItem('theme', lamp ? 'lamp' : 'day');
    document.documentElement.dataset.theme = lamp ? 'lamp' : 'day';
  }, [lamp]);
  return <Context value={{ system, lamp, setSystem, setLamp }}>{children}</Context>;
}

export function useSettings(): Settings {
  const settings = useContext(Context);
  if (!settings) throw new Error('no settings about this page');
  return settings;
}
