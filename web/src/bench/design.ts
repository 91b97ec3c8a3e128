import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { call, get, Refused } from '../lib/api';
import { useLineID } from '../lib/queries';
import type { Design, FieldProblem } from '../lib/types.gen';
import { ulid } from '../lib/ulid';

export type Saving =
  { state: 'saved' | 'saving' | 'kept' } | { state: 'refused'; problems: FieldProblem[] } | { state: 'conflict'; theirs: Design };

interface Snapshot {
  design: Design | null;
  saving: Saving;
}

const pause = 400;
const retry = 4000;

/**
 * One design on the bench. Every change is kept in this browser at once and saved a moment later; it stays kept here until
 * the program has taken it, over a reload and a dead program too.
 */
class Desk {
  private now: Snapshot;
  private busy = false;
  /** A save whose answer has not come: it is sent again as it was, so that the program knows it for the same. */
  private unanswered: { design: Design; mutation: string } | null = null;
  private timer: number | undefined;
  private readonly listeners = new Set<() => void>();
  private readonly path: string;
  private readonly key: string;
  private readonly onSaved: () => void;

  constructor(line: string, id: string, onSaved: () => void) {
    this.path = `/lines/${line}/designs/${id}`;
    this.key = `draft:${id}`;
    this.onSaved = onSaved;
    const kept = localStorage.getItem(this.key);
    this.now = { design: kept === null ? null : (JSON.parse(kept) as Design), saving: { state: 'saved' } };
  }

  readonly snapshot = () => this.now;

  readonly subscribe = (listen: () => void) => {
    this.listeners.add(listen);
    return () => this.listeners.delete(listen);
  };

  private show(change: Partial<Snapshot>) {
    this.now = { ...this.now, ...change };
    this.listeners.forEach((listen) => listen());
  }

  private keep(design: Design) {
    localStorage.setItem(this.key, JSON.stringify(design));
    this.show({ design });
  }

  private later(after: number) {
    window.clearTimeout(this.timer);
    this.timer = window.setTimeout(() => void this.save(), after);
  }

  /** The design as the program has it; what is kept here from before goes over it. */
  readonly arrive = (design: Design) => {
    const here = this.now.design;
    if (here === null) {
      this.show({ design });
      return;
    }
    // Which set it became is the program's to say, whatever else is changed here.
    if (design.setId !== here.setId) this.show({ design: { ...here, setId: design.setId } });
    if (localStorage.getItem(this.key) !== null) this.later(0);
    else if (design.version > here.version) this.show({ design });
  };

  readonly edit = (change: (design: Design) => Design) => {
    if (this.now.design === null) return;
    this.keep(change(this.now.design));
    this.later(pause);
  };

  /** Settles a conflict: with what stands in the program, or with what is here over it. */
  readonly settle = (keep: 'mine' | 'theirs', theirs: Design) => {
    if (keep === 'theirs' || this.now.design === null) {
      localStorage.removeItem(this.key);
      this.show({ design: theirs, saving: { state: 'saved' } });
      return;
    }
    this.keep({ ...this.now.design, version: theirs.version });
    this.later(0);
  };

  private async save() {
    if (this.busy || this.now.design === null) return;
    this.busy = true;
    this.show({ saving: { state: 'saving' } });
    this.unanswered ??= { design: this.now.design, mutation: ulid() };
    const { design: sent, mutation } = this.unanswered;
    try {
      const { version } = await call<Design>('PUT', this.path, sent, mutation);
      this.unanswered = null;
      if (this.now.design === sent) {
        localStorage.removeItem(this.key);
        this.show({ design: { ...sent, version }, saving: { state: 'saved' } });
        this.onSaved();
      } else {
        this.keep({ ...this.now.design, version });
        this.later(0);
      }
    } catch (error) {
      if (error instanceof Refused) this.unanswered = null;
      if (!(error instanceof Refused)) {
        this.show({ saving: { state: 'kept' } });
        this.later(retry);
      } else if (error.problem.status === 409) {
        this.show({ saving: { state: 'conflict', theirs: error.problem.theirs as Design } });
      } else {
        this.show({ saving: { state: 'refused', problems: error.problem.fields ?? [] } });
      }
    }
    this.busy = false;
  }
}

/** A design by its id, with how its saving stands. */
export function useDesign(id: string) {
  const line = useLineID();
  const client = useQueryClient();
  const [desk] = useState(() => new Desk(line, id, () => void client.invalidateQueries({ queryKey: ['line', line], exact: true })));
  const { design, saving } = useSyncExternalStore(desk.subscribe, desk.snapshot);
  const stored = useQuery({
    queryKey: ['design', line, id],
    queryFn: () => get<Design>(`/lines/${line}/designs/${id}`),
    staleTime: Infinity,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  const arrived = stored.data;
  useEffect(() => {
    if (arrived !== undefined) desk.arrive(arrived);
  }, [arrived, desk]);
  return {
    design,
    saving,
    edit: desk.edit,
    settle: desk.settle,
    missing: stored.error instanceof Refused && design === null,
  };
}
