import { useCallback, useState } from 'react';
import { Refused } from './api';
import { seen, write } from '../kept/outbox';
import { useLineID } from './queries';
import type { FieldProblem } from '../types.gen';

/** What can be changed and taken back, by the name of its route. */
export type Kind = 'properties' | 'spots' | 'signs' | 'features' | 'falls' | 'traps' | 'lures' | 'bottles' | 'recipes' | 'patterns';

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
 * Keeps a change to something editable; gives whether the program has it already. Throws Refused when it will not have it. What
 * another has changed meanwhile is seen then, and may be changed after all by keeping again.
 */
export async function keepOver(path: string, x: { version: number }, what: string): Promise<boolean> {
  try {
    return (await write(path, x, what)).state === 'taken';
  } catch (error) {
    if (stale(error)) await seen(path, (error.problem.theirs as { version: number }).version);
    throw error;
  }
}

/**
 * Changes, each of which can be taken back: the newest first, back to when the page was opened. Throws Refused when the program
 * will not have one.
 */
export function useChanges() {
  const line = useLineID();
  const [steps, setSteps] = useState<Step[]>([]);

  const put = useCallback((kind: Kind, x: Editable, what: string) => keepOver(`/lines/${line}/${kind}/${x.id}`, x, what), [line]);

  /** Keeps after; before is what stood there, or null for something new. Gives whether the program has it already. */
  const change = useCallback(
    async <T extends Editable>(kind: Kind, before: T | null, after: T, what: string): Promise<boolean> => {
      const taken = await put(kind, after, what);
      setSteps((all) => [...all, { kind, restore: before ?? { ...after, deleted: true }, what }]);
      return taken;
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

const stale = (error: unknown): error is Refused => error instanceof Refused && Boolean(error.problem.theirs);

/** The fields that a failed change objects to. */
export const objections = (error: unknown): FieldProblem[] =>
  stale(error)
    ? [{ field: 'version', says: 'was changed elsewhere since you opened it. Save again to put yours over that' }]
    : error instanceof Refused
      ? (error.problem.fields ?? [{ field: 'version', says: `was not kept. ${error.problem.detail}` }])
      : [];
