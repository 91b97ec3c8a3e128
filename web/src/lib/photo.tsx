import { useEffect, useMemo, useState } from 'react';
import { Refused } from './api';
import { useKept, write } from './outbox';
import type { Photo } from './types.gen';
import { ulid } from './ulid';

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
      await write<Photo>(`/lines/${line}/photos/${id}`, file, `a photo of ${what}`);
      setWrong('');
      onPhoto(id);
    } catch (error) {
      setWrong(error instanceof Refused ? error.problem.detail : 'The photo could not be kept in this browser.');
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
