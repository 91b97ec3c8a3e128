import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { groundPath } from '../draw/rough';
import { ask, Refused, reason } from '../lib/ask/api';
import { objections } from '../lib/ask/change';
import { Text, WrongFields } from '../lib/fields/fields';
import { useOnce } from '../lib/fields/once';
import { isWaiting, useKept } from '../lib/kept/outbox';
import type { SignedIn } from '../lib/types.gen';
import { capital, many } from '../lib/words/words';
import './door.scss';

/** How this device calls itself in the owner's list. */
const device = (): string => (/Android|iPhone|iPad|Mobile/.exec(navigator.userAgent)?.[0] ?? navigator.platform) || 'a browser';

/** The way in from another machine: by a code from the table page, which may stand in the address, or by the passphrase. */
export function DoorPage() {
  const [code, setCode] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [problem, setProblem] = useState<Error | null>(null);
  const waits = useKept().filter(isWaiting).length;
  const comeIn = useOnce(async (path: string, body: object) => {
    try {
      await ask<SignedIn>(path, { ...body, device: device() });
      window.location.replace('/');
      return true;
    } catch (error) {
      setProblem(error as Error);
      return false;
    }
  });
  useEffect(() => {
    const scan = () => {
      const scanned = decodeURIComponent(window.location.hash.slice(1));
      if (scanned === '') return;
      // A code is good once: it does not stay in the address or among the pages that were visited.
      window.history.replaceState(null, '', window.location.pathname);
      setCode(scanned);
      void comeIn('/code', { code: scanned });
    };
    scan();
    // Another may be scanned while this page is open.
    window.addEventListener('hashchange', scan);
    return () => window.removeEventListener('hashchange', scan);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page opens
  }, []);
  const problems = problem instanceof Refused ? objections(problem) : [];
  const field = problems.filter((p) => p.field === 'code' || p.field === 'passphrase');
  const other = problem === null || field.length > 0 ? '' : reason(problem, 'Is this phone on the same network as the machine?');
  return (
    <main className="page door">
      <h1>Old Burrow</h1>
      <svg className="ground-line across" viewBox="0 0 416 8" preserveAspectRatio="none" aria-hidden="true">
        <path d={groundPath(0, 416, 4, 3, 7, 22)} fill="none" stroke="var(--ink)" strokeWidth={2.2} vectorEffect="non-scaling-stroke" />
      </svg>
      <p>The sets of a line, their looks and catches stand here, for whoever walks it.</p>
      {waits > 0 && (
        <p className="ember">
          {capital(many(waits, 'answer'))} kept on this device. Sign in to send {waits === 1 ? 'it' : 'them'}.
        </p>
      )}
      {other && (
        <p className="ember" role="alert">
          {other}
        </p>
      )}
      <WrongFields problems={field}>
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void comeIn('/code', { code });
          }}
        >
          <Text label="code, from the table page" path="code" value={code} onValue={setCode} />
          <Button type="submit" disabled={code === ''}>
            Come in with the code
          </Button>
        </form>
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void comeIn('/sign-in', { passphrase });
          }}
        >
          <Text label="or the passphrase" path="passphrase" type="password" value={passphrase} onValue={setPassphrase} />
          <Button type="submit" variant="outline-primary" disabled={passphrase === ''}>
            Come in as the owner
          </Button>
        </form>
      </WrongFields>
      <p className="quiet">
        A code stands on the machine itself, under <em>on the phone</em>. It is good once, for ten minutes.
      </p>
    </main>
  );
}
