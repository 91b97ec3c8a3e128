import { call, Refused } from '../ask/api';
import { useRef, useState } from 'react';
import { write } from '../kept/outbox';
import { ulid } from '../ulid';
import { oneColon, rowWords } from '../words/inwords';
import { useOnce } from './once';
import { encodings } from '../lists.gen';
import type {
  Bring,
  Brought,
  BroughtHours,
  BroughtTraps,
  Log,
  LogPreview,
  RackPreview,
  Report,
  TrapsToBring,
  WrongRow,
  Written,
} from '../types.gen';

/** A button that lets a file be chosen; choosing the same file again counts anew. */
export function FileButton({ id, label, accept, onFile }: { id: string; label: string; accept: string; onFile: (file: File) => void }) {
  return (
    <>
      <label className="btn btn-outline-primary" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        className="visually-hidden"
        type="file"
        accept={accept}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = '';
        }}
      />
    </>
  );
}

/** Sends a file to be looked at, whatever its kind, and gives what is in it. Throws Refused, or another error when the program does not answer. */
export const lookInto = <T,>(path: string, file: File): Promise<T> =>
  call<T>('POST', path, new Blob([file], { type: 'application/octet-stream' }));

/** The files that are taken in on a line, by their route: what is seen of one before, what is sent of it, and what is answered. */
interface Files {
  import: { preview: Report; body: Bring; answer: Brought };
  rack: { preview: RackPreview; body: TrapsToBring; answer: BroughtTraps };
  weather: { preview: LogPreview; body: Log; answer: BroughtHours };
}

/** What became of what was chosen of a file: it was taken in, and how much of it, or it is kept here until the program answers. */
type TakenIn<A> = { state: 'taken'; answer: A; what: string } | { state: 'kept'; what: string };

/**
 * A file is chosen, looked into, and what is chosen of it is taken in: each of these once, and the file itself is not sent again. What is the
 * name of such a file in a sentence that begins with it.
 */
export function useTakeIn<K extends keyof Files>(line: string, kind: K, what: string) {
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<Files[K]['preview'] | null>(null);
  const [wrong, setWrong] = useState('');
  const [taken, setTaken] = useState<TakenIn<Files[K]['answer']> | null>(null);
  const [reading, setReading] = useState(false);
  const newest = useRef(0);
  const look = async (chosen: File, encoding = '') => {
    // What was chosen last stands, also where the answer to another comes after it.
    const nth = ++newest.current;
    setFile(chosen);
    setPreview(null);
    setWrong('');
    setTaken(null);
    setReading(true);
    try {
      const path = `/lines/${line}/${kind}/preview${encoding && `?encoding=${encoding}`}`;
      const found = await lookInto<Files[K]['preview']>(path, chosen);
      if (nth === newest.current) setPreview(found);
    } catch (error) {
      if (nth === newest.current) setWrong(fileTrouble(error, what));
    } finally {
      if (nth === newest.current) setReading(false);
    }
  };
  const take = useOnce(async (body: Files[K]['body'], of: string) => {
    try {
      const sent = await write<Files[K]['answer']>(`/lines/${line}/${kind}/${ulid()}`, body, of);
      setTaken(sent.state === 'taken' ? { ...sent, what: of } : { state: 'kept', what: of });
      setPreview(null);
      return true;
    } catch (error) {
      setWrong(error instanceof Refused ? oneColon(error.problem.detail) : '');
      return false;
    }
  });
  return {
    preview,
    setPreview,
    wrong,
    taken,
    reading,
    name: file?.name ?? '',
    look: (chosen: File) => void look(chosen),
    /** Looks into the same file again, as one that is written otherwise. */
    lookAs: (encoding: string) => file && void look(file, encoding),
    take: (body: Files[K]['body'], of: string) => void take(body, of),
  };
}

/** Why a file was not taken, or that it waits; what was taken in is for its page to say. */
export function HowItWent({ wrong, taken }: { wrong: string; taken: TakenIn<unknown> | null }) {
  return (
    <>
      {wrong && (
        <div className="wrong" role="alert">
          {wrong}. Nothing was changed.
        </div>
      )}
      {taken?.state === 'kept' && (
        <p className="ember" role="status">
          Kept in this browser until the program answers: {taken.what}.
        </p>
      )}
    </>
  );
}

/** The rows of a file that cannot be taken. */
export const WrongRows = ({ rows }: { rows: WrongRow[] }) =>
  rows.map((w) => (
    <div key={w.row} className="wrong">
      row {w.row}, {rowWords(w.says)}
    </div>
  ));

/** Why a file cannot be taken, as the beginning of a sentence. */
export const fileTrouble = (error: unknown, what: string) =>
  error instanceof Refused
    ? oneColon(error.problem.detail.replace(/^file: /, `${what} `))
    : `The program does not answer. Choose ${what.toLowerCase()} again when it does`;

const between: Record<string, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs' };

/** How a file of rows was taken to be written; its encoding can be put right, and it is read anew. */
export function WrittenAs({ written: w, onEncoding }: { written: Written; onEncoding: (encoding: string) => void }) {
  return (
    <p className="quiet">
      Read as{' '}
      <select className="form-select within" aria-label="how it is written" value={w.encoding} onChange={(e) => onEncoding(e.target.value)}>
        {encodings.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      , with {between[w.between] ?? w.between} between{w.decimalComma && ' and decimal commas'}. Choose another where letters look wrong.
    </p>
  );
}
