import { useEffect, useState, useSyncExternalStore } from 'react';
import { useNavigate } from 'react-router';
import { draftOf, type Entry } from './entry';
import { timeWords } from '../words/when';
import { keepLocal } from './local';
import { useProgram, useLine } from '../ask/queries';
import { useSettings } from '../settings';
import { refusalWords } from '../words/inwords';
import { store, type Kept } from './kept';
import { dropRead } from '../ask/reading';
import {
  drop,
  isFor,
  isWaiting,
  keptNow,
  leaveLost,
  letGoOfSent,
  lostNow,
  sendAgain,
  sendAllAgain,
  sendHere,
  sendLost,
  useFile,
  useKept,
} from './outbox';
import { isEdit } from './order';
import { roomAgain, useNoRoom } from './room';
import { olderNow, onStanding, settled } from './standing';
import { date, dayOf } from '../words/time';
import type { Visit } from '../types.gen';
import { capital, count, listed, many } from '../words/words';

/** One write that the program would not have: kept here, with the reason, until it is sent again or let go. */
export function NotAccepted({ write: w }: { write: Kept }) {
  const { system } = useSettings();
  return (
    <div className="ember" role="alert">
      Not recorded: {w.what}. {w.refused && refusalWords(w.refused, system)} <MendIt write={w} />
      <button type="button" className="word" onClick={() => void sendAgain(w.mutation)}>
        send again
      </button>{' '}
      ·{' '}
      <button type="button" className="word" onClick={() => void drop(w.mutation)}>
        throw away
      </button>
    </div>
  );
}

/** A look that was refused is mended where it would have been written: on the sheet of its day, as it was typed. */
function MendIt({ write: w }: { write: Kept }) {
  const navigate = useNavigate();
  const { data: view } = useLine();
  const look = w.body as Visit | null;
  if (!view || !w.path.includes('/visits/') || w.path.endsWith('/undo') || !look) return null;
  const { zone, id } = view.line;
  const day = date(look.at, zone);
  const mend = async () => {
    const entry: Entry = { time: timeWords(look, zone).replace('that morning', ''), look: { ...look, id: '' }, remade: false };
    // It stands on the sheet before it is no longer kept here.
    if (!keepLocal(`form:${draftOf(day, w.set)}`, JSON.stringify(entry))) return;
    await drop(w.mutation);
    void navigate(`/line/${id}/round?day=${day}`);
  };
  return (
    <>
      <button type="button" className="word" onClick={() => void mend()}>
        mend it
      </button>{' '}
      ·{' '}
    </>
  );
}

/** What the program would not have, and what was entered for another file: kept here until it is let go. */
export function SetAside() {
  const kept = useKept();
  const file = useFile();
  const refused = kept.filter((w) => isFor(w, file) && w.refused !== null);
  const elsewhere = kept.filter((w) => w.takenAt === null && !isFor(w, file));
  const program = useProgram();
  const lines = program.data?.lines ?? [];
  const here = elsewhere.filter((w) => lines.some((line) => `${w.path}/`.startsWith(`/lines/${line.id}/`)));
  const why = kept.find((w) => isFor(w, file) && isWaiting(w) && w.why !== null)?.why;
  return (
    <>
      {why && (
        <div className="ember" role="alert">
          {why}
        </div>
      )}
      {refused.map((w) => (
        <NotAccepted key={w.mutation} write={w} />
      ))}
      {refused.length > 1 && (
        <button type="button" className="word" onClick={() => void sendAllAgain()}>
          send all again
        </button>
      )}
      {elsewhere.length > 0 && (
        <div className="quiet" role="status">
          {count(elsewhere.length)} kept here for another data file, or for this one before it was restored{' '}
          {here.length > 0 && (
            <>
              <button type="button" className="word" onClick={() => void sendHere(here)}>
                {here.length < elsewhere.length
                  ? `send ${count(here.length)} of them here`
                  : here.length === 1
                    ? 'send it here'
                    : 'send them here'}
              </button>{' '}
              ·{' '}
            </>
          )}
          <button type="button" className="word" onClick={() => elsewhere.forEach((w) => void drop(w.mutation))}>
            {elsewhere.length === 1 ? 'throw it away' : 'throw them away'}
          </button>
        </div>
      )}
      <Older />
    </>
  );
}

/** The file is an older copy of itself: what was taken since is not in it, and is kept here. */
function Older() {
  const older = useSyncExternalStore(onStanding, olderNow);
  const kept = useKept();
  const [lost, setLost] = useState<Kept[] | null>(null);
  useEffect(() => {
    if (older !== null) void lostNow().then(setLost);
  }, [older, kept]);
  if (older === null || lost === null) return null;
  const acts = lost.filter((w) => !isEdit(w));
  const edits = [...new Set(lost.filter(isEdit).map((w) => w.what))];
  const leave = async () => {
    await leaveLost();
    settled();
  };
  const since = (acts[0]?.deviceAt ?? '').slice(0, 10);
  return (
    <div className="ember" role="alert">
      This file is older than what was sent from here.{' '}
      {lost.length === 0
        ? 'What is not in it any more is not kept here.'
        : acts.length > 0
          ? `${capital(many(acts.length, 'act'))} since ${dayOf(since)} ${acts.length === 1 ? 'is' : 'are'} not in it.`
          : 'What was done since has been sent again.'}{' '}
      {edits.length > 0 && `Changed since, and to be changed again by hand: ${listed(edits)}. `}
      {acts.length > 0 && (
        <button type="button" className="word" onClick={() => void sendLost(acts).then(() => edits.length === 0 && settled())}>
          {acts.length === 1 ? 'send it again' : 'send them again'}
        </button>
      )}
      {acts.length > 0 && ' · '}
      <button type="button" className="word" onClick={() => void leave()}>
        {acts.length > 0 ? 'do without' : 'done'}
      </button>
    </div>
  );
}

/** This browser has no room left, or refuses: what was just tapped is not kept, and what can be let go. */
export function NoRoom() {
  const what = useNoRoom();
  const [done, setDone] = useState('');
  if (what === null) return null;
  const letGo = async (of: () => Promise<void>, said: string) => {
    await of();
    setDone(said);
  };
  return (
    <div className="no-room" role="alert">
      <b>Not kept: {what}.</b> This browser has no room left for it, or does not let this page keep anything. Nothing that was kept before
      is lost, and the screen stays as it is: make room, and tap once more.
      <div className="ways">
        <button type="button" className="word" onClick={() => void letGo(dropRead, 'The pages that were read are thrown away.')}>
          throw away the pages that were read
        </button>
        <button type="button" className="word" onClick={() => void letGo(letGoOfSent, 'What the file has already is thrown away.')}>
          throw away what the file has already
        </button>
        <button type="button" className="word" onClick={() => void saveUnsent()}>
          save what is not sent
        </button>
        <button type="button" className="word" onClick={roomAgain}>
          close
        </button>
      </div>
      {done && <div role="status">{done}</div>}
    </div>
  );
}

const asText = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(typeof reader.result === 'string' ? reader.result : '');
    reader.onerror = () => reject(new Error('a photo cannot be read'));
    reader.readAsDataURL(blob);
  });

/** What is kept here and no file has, as it would be sent; photos as text. */
export async function unsent(): Promise<string> {
  const rows = (await store.writes.orderBy('seq').toArray()).filter((w) => w.takenAt === null);
  const acts = await Promise.all(
    rows.map(async ({ path, what, file, mutation, deviceAt, offsetMs, refused, body }) => ({
      what,
      path,
      deviceAt,
      offsetMs,
      file,
      mutation,
      refused: refused?.detail ?? null,
      body: body instanceof Blob ? await asText(body) : body,
    })),
  );
  return JSON.stringify({ notSent: acts, at: new Date().toISOString() }, null, 1);
}

/** Saves what is not sent to a file of its own. */
export async function saveUnsent(): Promise<void> {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([await unsent()], { type: 'application/json' }));
  link.download = `not-sent-${new Date().toISOString().slice(0, 10)}.json`;
  link.click();
  window.setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** How much is not sent, in words. */
export const unsentWords = (): string => {
  const n = keptNow().filter((w) => w.takenAt === null).length;
  return n === 0
    ? 'Everything that you entered has been sent'
    : `${capital(count(n))} of what you entered ${n === 1 ? 'is' : 'are'} not sent yet, and kept here`;
};
