import { useEffect, useMemo, useState } from 'react';
import { Refused } from '../ask/api';
import { useKept, write } from '../kept/outbox';
import { NoPicture, shrunk } from './picture';
import type { Photo } from '../types.gen';
import { ulid } from '../ulid';

/** A photo as the program has it, or as it waits here to be sent. */
export function Picture({ line, id, what }: { line: string; id: string; what: string }) {
  const path = `/lines/${line}/photos/${id}`;
  const body = useKept().find((w) => w.path === path)?.body;
  const here = useMemo(() => (body instanceof Blob ? URL.createObjectURL(body) : null), [body]);
  useEffect(
    () => () => {
      if (here !== null) URL.revokeObjectURL(here);
    },
    [here],
  );
  return <img className="photo" src={here ?? `/api${path}`} alt={`${what}, as photographed`} />;
}

/** Makes a photo small, keeps it in this browser, and sends it when it can be. Throws what photoTrouble tells of. */
export const keepPhoto = async (line: string, id: string, file: File, what: string) =>
  write<Photo>(`/lines/${line}/photos/${id}`, await shrunk(file), `a photo of ${what}`);

/** Why a photo was not kept. */
export const photoTrouble = (error: unknown): string =>
  error instanceof Refused
    ? error.problem.detail.replace(/^photo: /, 'It ')
    : error instanceof NoPicture
      ? error.message
      : 'The photo could not be kept in this browser.';

interface Props {
  line: string;
  photoId: string | null;
  what: string;
  onPhoto: (id: string) => void;
}

/** Takes a photo along: it is kept in this browser at once, and sent when it can be. */
export function PhotoField({ line, photoId, what, onPhoto }: Props) {
  const [wrong, setWrong] = useState('');
  const take = async (file: File) => {
    const id = ulid();
    try {
      await keepPhoto(line, id, file, what);
      setWrong('');
      onPhoto(id);
    } catch (error) {
      setWrong(photoTrouble(error));
    }
  };
  return (
    <div>
      {photoId && <Picture line={line} id={photoId} what={what} />}
      <label className="word">
        {photoId ? 'another photo' : 'a photo'}
        <input
          type="file"
          accept="image/*"
          className="visually-hidden"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void take(file);
            e.target.value = '';
          }}
        />
      </label>
      {wrong && (
        <div className="wrong" role="alert">
          {wrong}
        </div>
      )}
    </div>
  );
}
