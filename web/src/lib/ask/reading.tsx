import { QueryClient } from '@tanstack/react-query';
import { PersistQueryClientProvider, type Persister } from '@tanstack/react-query-persist-client';
import type { ReactNode } from 'react';
import { Refused } from './api';
import { store } from '../kept/kept';
import { putAway } from '../kept/outbox';
import { keepReadMs } from './pace';
import { onDoor, outNow } from './signedin';

const client = new QueryClient({
  defaultOptions: {
    queries: { retry: (n, error) => !(error instanceof Refused) && n < 3, retryDelay: keepReadMs, networkMode: 'always' },
  },
});

/** What is kept of what was read: the pages of a line, not what was computed for the bench. */
const kinds = ['about', 'line', 'kinds', 'design'];
const place = 'client';
/** A page that was not opened for this long is not worth keeping for what was entered since. */
const week = 7 * 86_400_000;

let pending: Parameters<Persister['persistClient']>[0] | null = null;
let timer: number | undefined;

async function keep() {
  timer = undefined;
  const next = pending;
  pending = null;
  // Whoever was signed out keeps nothing more.
  if (!next || outNow() === 'ended') return;
  try {
    await store.read.put({ key: place, client: next });
  } catch (error) {
    console.error(error); // no room for it: what was read is read again
    return;
  }
  // What was taken before the oldest of these readings was asked for is in them.
  const asked = next.clientState.queries.flatMap((q) => {
    const data = q.state.data as { askedMs?: number } | undefined;
    return data?.askedMs === undefined ? [] : [data.askedMs];
  });
  if (asked.length > 0) await putAway(Math.max(Math.min(...asked), Date.now() - week));
}

const persister: Persister = {
  persistClient: (next) => {
    pending = next;
    timer ??= window.setTimeout(() => void keep(), keepReadMs);
  },
  restoreClient: async () => (await store.read.get(place))?.client,
  removeClient: () => store.read.delete(place),
};

/** Drops everything that was read, and nothing that was entered. */
export async function dropRead(): Promise<void> {
  window.clearTimeout(timer);
  timer = undefined;
  pending = null;
  client.clear();
  await store.read.delete(place);
  await store.taken.clear();
}

/** Whoever was signed out keeps nothing of what was read here; what was entered and not sent stays. */
onDoor(() => {
  if (outNow() !== 'ended') return;
  void dropRead().then(() => {
    // What waits here is tried again also at the door: whoever stands there is let be.
    if (!window.location.pathname.startsWith('/door')) window.location.replace('/door/');
  });
});

/** How long it is shown what was read, when the program does not answer. */
const month = 30 * 86_400_000;

/** Reads from the program, and keeps in this browser what was read last. */
export function Reading({ children }: { children: ReactNode }) {
  return (
    <PersistQueryClientProvider
      client={client}
      persistOptions={{
        persister,
        maxAge: month,
        buster: __TYPES__,
        dehydrateOptions: {
          shouldDehydrateQuery: (query) => query.state.data !== undefined && kinds.includes(String(query.queryKey[0])),
        },
      }}
    >
      {children}
    </PersistQueryClientProvider>
  );
}
