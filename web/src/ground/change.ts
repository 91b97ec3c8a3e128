import { useCallback, useRef, useState } from 'react';
import { Refused } from '../lib/api';
import { write } from '../lib/outbox';
import { useLineID } from '../lib/queries';

/** What can be changed on the ground, by the name of its route. */
export type Kind = 'properties' | 'spots' | 'signs' | 'features' | 'falls';

export interface Editable {
  id: string;
  version: number;
  deleted: boolean;
}

interface Step {
  kind: Kind;
  restore: Editable;
  what: string;
}

/**
 * Changes to the ground, each of which can be taken back: the newest first, back to when the page was opened. Throws Refused
 * when the program will not have one.
 */
export function useChanges() {
  const line = useLineID();
  const [steps, setSteps] = useState<Step[]>([]);
  const versions = useRef(new Map<string, number>());

  const put = useCallback(
    async (kind: Kind, x: Editable, what: string) => {
      const version = Math.max(x.version, versions.current.get(x.id) ?? 0);
      const sent = await write<Editable>(`/lines/${line}/${kind}/${x.id}`, { ...x, version }, what);
      versions.current.set(x.id, sent.sent ? sent.answer.version : version + 1);
      return sent.sent;
    },
    [line],
  );

  /** Keeps after; before is what stood there, or null for something new. */
  const change = useCallback(
    async <T extends Editable>(kind: Kind, before: T | null, after: T, what: string): Promise<boolean> => {
      const sent = await put(kind, after, what);
      setSteps((all) => [...all, { kind, restore: before ?? { ...after, deleted: true }, what }]);
      return sent;
    },
    [put],
  );

  const undo = useCallback(async () => {
    const last = steps.at(-1);
    if (!last) return;
    setSteps(steps.slice(0, -1));
    await put(last.kind, last.restore, `undo: ${last.what}`);
  }, [put, steps]);

  return { change, undo, last: steps.at(-1)?.what };
}

export type Changes = ReturnType<typeof useChanges>;

/** The fields that a failed change objects to. */
export const objections = (error: unknown) => (error instanceof Refused ? (error.problem.fields ?? []) : []);
