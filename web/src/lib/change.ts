import { useCallback, useRef, useState } from 'react';
import { Refused } from './api';
import { write } from './outbox';
import { useLineID } from './queries';
import type { FieldProblem } from './types.gen';

/** What can be changed and taken back, by the name of its route. */
export type Kind = 'properties' | 'spots' | 'signs' | 'features' | 'falls' | 'traps' | 'lures' | 'bottles' | 'recipes';

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
 * Changes, each of which can be taken back: the newest first, back to when the page was opened. Throws Refused when the program
 * will not have one.
 */
export function useChanges() {
  const line = useLineID();
  const [steps, setSteps] = useState<Step[]>([]);
  const versions = useRef(new Map<string, number>());

  const put = useCallback(
    async (kind: Kind, x: Editable, what: string) => {
      const version = Math.max(x.version, versions.current.get(x.id) ?? 0);
      const sent = await write<Editable>(`/lines/${line}/${kind}/${x.id}`, { ...x, version }, what).catch((error: unknown) => {
        // Seen now, what stands there may be changed after all: by keeping again.
        if (stale(error)) versions.current.set(x.id, (error.problem.theirs as Editable).version);
        throw error;
      });
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

const stale = (error: unknown): error is Refused => error instanceof Refused && error.problem.status === 409;

/** The fields that a failed change objects to. */
export const objections = (error: unknown): FieldProblem[] =>
  stale(error)
    ? [{ field: 'version', says: 'was changed elsewhere since you opened it. Keep again to put yours over that' }]
    : error instanceof Refused
      ? (error.problem.fields ?? [])
      : [];
