import { useState, type ReactNode } from 'react';

/** A word that opens what stands behind it. */
export function Opens({ word, children }: { word: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <div>
        <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
          {word}
        </button>
      </div>
      {open && children}
    </>
  );
}
