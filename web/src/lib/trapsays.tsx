import { useRack } from './ask/queries';
import { useSettings } from './settings';
import { capital } from './words/words';
import { readingTrouble } from './words/traps';

/** What is to be said of a trap's reading, wherever the trap appears; nothing for one that is new and in its window. */
export function TrapSays({ id }: { id: string | undefined }) {
  const { data: rack } = useRack();
  const { system } = useSettings();
  const h = rack?.traps.find((one) => one.trap.id === id);
  const trouble = h && readingTrouble(h, system);
  if (!trouble) return null;
  return (
    <div className={trouble.tone}>
      {capital(`trap ${h.trap.number}`)}: {trouble.says}.
    </div>
  );
}
