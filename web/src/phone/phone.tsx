import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { ask, Refused, reason } from '../lib/ask/api';
import { objections } from '../lib/ask/change';
import { useLine } from '../lib/ask/queries';
import { routes } from '../lib/ask/routes';
import { Unread } from '../lib/ask/unread';
import { Pick, Text, WrongFields } from '../lib/fields/fields';
import { useOnce } from '../lib/fields/once';
import { write } from '../lib/kept/outbox';
import { givenRoles } from '../lib/lists.gen';
import type { CodeMade, DoorView, FieldProblem, Person } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { roleHint, roleWord } from '../lib/words/called';
import { ago } from '../lib/words/time';
import { Scan } from './scan';
import './phone.scss';

/** How a phone comes to the line, who helps on it, and which devices are let in. */
export function PhonePage() {
  const { data: view } = useLine();
  const { data: door, error } = useQuery({ ...routes.door(), refetchOnWindowFocus: true });
  if (error instanceof Refused)
    return (
      <main className="page">
        <h2>On the phone</h2>
        <p>{error.problem.detail}</p>
      </main>
    );
  if (!view || !door) return <Unread />;
  return (
    <main className="page two phone">
      <section>
        <h2>On the phone</h2>
        {door.open ? <Open door={door} /> : <Shut passphrase={door.passphrase} />}
      </section>
      <section>
        <People door={door} />
        <Devices door={door} />
        <Passphrase chosen={door.passphrase} />
      </section>
    </main>
  );
}

/** Nothing but this machine reaches the program: what it takes that a phone does. */
function Shut({ passphrase }: { passphrase: boolean }) {
  return (
    <>
      <p>Only this machine reaches the program now. So that a phone on the same network does too:</p>
      <ol className="steps">
        {!passphrase && <li>choose a passphrase here, by which you come in from elsewhere</li>}
        <li>
          stop the program, and start it so that others reach it: <code>oldburrow serve --data FILE --listen 0.0.0.0:8417</code>
        </li>
        <li>open this page again: a code stands here then, to be scanned</li>
      </ol>
      <p className="quiet">The line stays on this machine. Nothing of it goes to anybody else.</p>
    </>
  );
}

/** How long a code can be used. */
const codeLastsMs = 600_000;

/** A code to be scanned, and how a phone is told whom to trust. */
function Open({ door }: { door: DoorView }) {
  const [address, setAddress] = useState(door.addresses[0] ?? '');
  const [who, setWho] = useState('');
  const [made, setMade] = useState<CodeMade | null>(null);
  const [trouble, setTrouble] = useState('');
  const [over, setOver] = useState(false);
  const people = door.people.filter((p) => !p.deleted);
  const make = useOnce(async () => {
    try {
      setMade(await ask<CodeMade>('/codes', { who, address }));
      setOver(false);
      setTrouble('');
      return true;
    } catch (e) {
      setTrouble(reason(e, 'No code was made.'));
      return false;
    }
  });
  useEffect(() => {
    const timer = window.setTimeout(() => setOver(true), codeLastsMs);
    return () => window.clearTimeout(timer);
  }, [made]);
  const names = Object.fromEntries(people.map((p) => [p.id, p.name]));
  return (
    <>
      <div className="form-grid">
        <Pick
          label="for"
          path="who"
          value={who}
          options={['', ...people.map((p) => p.id)]}
          name={(id) => (id === '' ? 'me, the owner' : (names[id] ?? id))}
          onValue={(id) => {
            setWho(id);
            setMade(null);
          }}
        />
        <Pick
          label="at"
          path="address"
          value={address}
          options={door.addresses}
          name={(a) => a}
          onValue={(a) => {
            setAddress(a);
            setMade(null);
          }}
        />
      </div>
      {made && !over ? (
        <>
          <Scan rows={made.rows} says={`the way in, as a code: ${made.link}`} />
          <p>
            Scan it with the phone. Or open <b>https://{address}/door/</b> there, and type <b className="figure">{made.code}</b>. It is good
            once, for ten minutes.
          </p>
        </>
      ) : (
        <div className="build">
          <Button onClick={() => void make()}>{over ? 'That code is over: make another' : 'Make a code'}</Button>
        </div>
      )}
      {trouble && (
        <p className="ember" role="alert">
          {trouble}
        </p>
      )}
      {door.fingerprint !== '' && (
        <>
          <h3 className="above-24">The first time on a phone</h3>
          <p>
            Open <b>http://{address}/certificate</b> there. It tells in four steps how the phone learns to know this machine. Both have to
            show the same letters.
          </p>
          <p className="print">{door.fingerprint}</p>
        </>
      )}
    </>
  );
}

/** Who helps on the lines of this file, and what each may do. */
function People({ door }: { door: DoorView }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [role, setRole] = useState<Person['role']>('helper');
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [removed, setRemoved] = useState('');
  const put = useOnce(async (p: Person, what: string) => {
    try {
      await write(`/people/${p.id}`, p, what);
      await client.invalidateQueries({ queryKey: ['door'] });
      setProblems([]);
      return true;
    } catch (error) {
      setProblems(objections(error));
      return false;
    }
  });
  const add = async () => {
    if (await put({ id: ulid(), name, role, deleted: false, version: 0 }, `${name} helps`)) setName('');
  };
  const people = door.people.filter((p) => !p.deleted);
  const gone = door.people.find((p) => p.deleted && p.id === removed);
  return (
    <>
      <h2>Who helps</h2>
      {people.length === 0 && <p>Nobody but you.</p>}
      <ul className="rows">
        {people.map((p) => (
          <li key={p.id}>
            <b>{p.name}</b>, {roleWord(p.role)} <span className="quiet">{roleHint(p.role)}</span>{' '}
            <button
              type="button"
              className="word"
              onClick={() => void put({ ...p, role: p.role === 'helper' ? 'partner' : 'helper' }, `${p.name} may do otherwise`)}
            >
              make {p.role === 'helper' ? 'a partner' : 'a helper'}
            </button>{' '}
            ·{' '}
            <button
              type="button"
              className="word"
              onClick={() => void put({ ...p, deleted: true }, `${p.name} removed`).then((done) => done && setRemoved(p.id))}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
      {gone && (
        <p role="status">
          {gone.name} is let in no more. What {gone.name} did stays under that name.{' '}
          <button type="button" className="word" onClick={() => void put({ ...gone, deleted: false }, `${gone.name} helps again`)}>
            undo
          </button>
        </p>
      )}
      <WrongFields problems={problems}>
        <form
          className="form-grid"
          onSubmit={(e) => {
            e.preventDefault();
            void add();
          }}
        >
          <Text label="name" path="name" value={name} onValue={setName} />
          <Pick label="may do as" path="role" value={role} options={givenRoles} name={roleWord} onValue={setRole} />
          <Button type="submit" variant="outline-primary" disabled={name.trim() === ''}>
            Add
          </Button>
        </form>
      </WrongFields>
    </>
  );
}

const all = 'all';

/** The devices that are let in, each until it is ended, or was not used for ninety days. */
function Devices({ door }: { door: DoorView }) {
  const client = useQueryClient();
  const [trouble, setTrouble] = useState('');
  const [ending, setEnding] = useState(''); // the key of one, or all
  const end = useOnce(async () => {
    try {
      await ask(ending === all ? '/devices/end' : `/devices/${ending}/end`, {});
      setTrouble('');
      setEnding('');
    } catch (e) {
      setTrouble(reason(e, 'Nothing was ended.'));
    }
    await client.invalidateQueries({ queryKey: ['door'] });
    return true;
  });
  const names = Object.fromEntries(door.people.map((p) => [p.id, p.name]));
  const others = door.devices.filter((d) => !d.asks);
  if (door.devices.length === 0) return null;
  return (
    <>
      <h2 className="above-24">Devices that are let in</h2>
      <ul className="rows">
        {door.devices.map((d) => (
          <li key={d.key}>
            <b>{d.device || 'a device'}</b>, {d.who ? (names[d.who] ?? 'somebody') : 'yours'}{' '}
            <span className="quiet">used {ago(d.seen, door.now)}</span>{' '}
            {d.asks ? (
              <span className="quiet">this one</span>
            ) : ending === d.key ? (
              <Ending onEnd={() => void end()} onLeave={() => setEnding('')} />
            ) : (
              <button type="button" className="word" onClick={() => setEnding(d.key)}>
                end
              </button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 &&
        (ending === all ? (
          <Ending onEnd={() => void end()} onLeave={() => setEnding('')} />
        ) : (
          <button type="button" className="word" onClick={() => setEnding(all)}>
            end all {others.length}
          </button>
        ))}
      {trouble && (
        <p className="ember" role="alert">
          {trouble}
        </p>
      )}
    </>
  );
}

/** Whoever is ended while he walks his round stands there without the line: it is asked back. */
function Ending({ onEnd, onLeave }: { onEnd: () => void; onLeave: () => void }) {
  return (
    <span role="status">
      It comes in again only with a new code.{' '}
      <button type="button" className="word" onClick={onEnd}>
        end it
      </button>{' '}
      ·{' '}
      <button type="button" className="word" onClick={onLeave}>
        leave it
      </button>
    </span>
  );
}

/** The passphrase by which the owner comes in from elsewhere. */
function Passphrase({ chosen }: { chosen: boolean }) {
  const client = useQueryClient();
  const [passphrase, setPassphrase] = useState('');
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [said, setSaid] = useState('');
  const choose = useOnce(async () => {
    try {
      await ask('/passphrase', { passphrase });
      setPassphrase('');
      setProblems([]);
      setSaid('It is chosen. Every other device has to come in anew.');
    } catch (e) {
      setProblems(objections(e));
      setSaid(e instanceof Refused ? '' : reason(e, 'The passphrase is as it was.'));
    }
    await client.invalidateQueries({ queryKey: ['door'] });
    return true;
  });
  return (
    <>
      <h2 className="above-24">Your passphrase</h2>
      <WrongFields problems={problems}>
        <form
          className="form-grid"
          onSubmit={(e) => {
            e.preventDefault();
            void choose();
          }}
        >
          <Text
            label={chosen ? 'another passphrase' : 'a passphrase'}
            path="passphrase"
            type="password"
            wide
            value={passphrase}
            onValue={(typed) => {
              setPassphrase(typed);
              setSaid('');
            }}
          />
          <Button type="submit" variant="outline-primary" disabled={passphrase === ''}>
            Choose it
          </Button>
        </form>
      </WrongFields>
      <p className="quiet" role="status">
        {said || 'It is written down nowhere. On this machine nothing is asked; keep it where only you find it.'}
      </p>
    </>
  );
}
