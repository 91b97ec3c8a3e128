import { Refused } from './api';
import type { Problem } from './types.gen';

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

/** Sends a file to be looked at and gives what is in it. Throws Refused, or another error when the program does not answer. */
export async function lookInto<T>(path: string, file: File): Promise<T> {
  const response = await fetch('/api' + path, { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' } });
  if (response.ok) return (await response.json()) as T;
  throw new Refused((await response.json()) as Problem);
}

/** Why a file cannot be taken, as the beginning of a sentence. */
export const fileTrouble = (error: unknown, what: string) =>
  error instanceof Refused
    ? error.problem.detail.replace(/^file: /, `${what} `)
    : `The program does not answer. Choose ${what.toLowerCase()} again when it does`;
