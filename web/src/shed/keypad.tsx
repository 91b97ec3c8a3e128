import { useEffect, useState } from 'react';

interface Props {
  /** Takes what was typed; gives why it cannot be taken. */
  onPress: (typed: string) => string | undefined;
  onTakeBack: () => void;
  onDone: () => void;
  reads: boolean;
}

const keys = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '.', '0', '⌫'];

/** Large keys for dirty fingers; the same keys on a keyboard do the same. */
export function Keypad({ onPress, onTakeBack, onDone, reads }: Props) {
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState('');
  const hit = (key: string) => {
    setWrong('');
    if (key === '⌫') {
      if (typed === '') onTakeBack();
      else setTyped(typed.slice(0, -1));
    } else if (typed.length < 8) setTyped(typed + key);
  };
  const enter = () => {
    if (typed === '') return;
    const why = onPress(typed);
    if (why === undefined) setTyped('');
    setWrong(why ?? '');
  };
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const on = (what: string) => e.target instanceof HTMLElement && e.target.closest(what) !== null;
      if (on('input, select') || e.ctrlKey || e.metaKey || e.altKey) return;
      if (/^[0-9.,]$/.test(e.key)) hit(e.key === ',' ? '.' : e.key);
      else if (e.key === 'Backspace') hit('⌫');
      else if (e.key === 'Enter' && !on('button, a, summary')) enter();
      else if (e.key === 'd') onDone();
      else if (e.key === 'r') document.getElementById('read-gauge')?.click();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
  return (
    <div className="keypad" role="group" aria-label="type a press">
      <output aria-label="typed">{typed === '' ? ' ' : typed}</output>
      {keys.map((key) => (
        <button key={key} type="button" className="key" aria-label={key === '⌫' ? 'erase' : key} onClick={() => hit(key)}>
          {key}
        </button>
      ))}
      <button type="button" className="key wide-key" onClick={enter}>
        add the press
      </button>
      {wrong && (
        <div className="wrong" role="alert">
          {wrong}
        </div>
      )}
      <div className="quiet keys-help">On a keyboard: figures, Enter adds, Backspace erases, {reads ? 'r reads, ' : ''}d is done.</div>
    </div>
  );
}
