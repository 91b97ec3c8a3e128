import { call, Refused } from './api';
import { oneColon } from './inwords';
import { encodings } from './lists.gen';
import type { Written } from './types.gen';

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
