import { useEffect, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { ask, Refused } from '../ask/api';
import { lookInto } from './file';
import type { Fix } from '../types.gen';

/** A place as a person reads it. */
export const fixWords = (f: Fix): string =>
  `${Math.abs(f.latDeg).toFixed(4)}° ${f.latDeg < 0 ? 'S' : 'N'}, ${Math.abs(f.lonDeg).toFixed(4)}° ${f.lonDeg < 0 ? 'W' : 'E'}`;

/** A place as it was typed; else why it is none. */
export async function readPlace(typed: string): Promise<Fix | string> {
  try {
    return await ask<Fix>('/coordinates', { place: typed });
  } catch (error) {
    return error instanceof Refused ? error.problem.detail.replace(/^place: /, 'This ') : 'The program does not answer.';
  }
}

/** What was typed into the place of a form, for a form that is sent before that was read. */
export const typedPlace = (form: HTMLFormElement): string => form.querySelector<HTMLInputElement>('#place-field')?.value.trim() ?? '';

interface Props {
  label: string;
  value: Fix | null;
  onPlace: (fix: Fix) => void;
  wrong?: string | undefined;
  /** Whether a file of the ground can say where it is. */
  file?: boolean;
}

/** Waits until the hand rests. */
const restMs = 350;

/** A place as people have it: coordinates pasted in any usual form, or the middle of a file. */
export function PlaceField({ label, value, onPlace, wrong, file }: Props) {
  const [typed, setTyped] = useState('');
  const [says, setSays] = useState('');
  useEffect(() => {
    if (typed.trim() === '') return;
    const rest = window.setTimeout(() => {
      void readPlace(typed).then((read) => {
        setSays(typeof read === 'string' ? read : '');
        if (typeof read !== 'string') onPlace(read);
      });
    }, restMs);
    return () => window.clearTimeout(rest);
    // The newest way to say it is not asked anew when the page is drawn again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [typed]);
  const take = async (chosen: File) => {
    try {
      onPlace(await lookInto<Fix>('/middle', chosen));
      setSays('');
    } catch (error) {
      setSays(error instanceof Refused ? error.problem.detail : 'The program does not answer.');
    }
  };
  return (
    <div className="wide">
      <Form.Label htmlFor="place-field">{label}</Form.Label>
      <Form.Control
        id="place-field"
        autoComplete="off"
        placeholder="46.8, -105.3 or 46° 48' N, 105° 18' W"
        value={typed}
        isInvalid={wrong !== undefined && value === null}
        onChange={(e) => setTyped(e.target.value)}
      />
      {value && <div role="status">{fixWords(value)}</div>}
      {says && (
        <div className="wrong" role="alert">
          {says}
        </div>
      )}
      {wrong && value === null && !says && (
        <div className="wrong" role="alert">
          {wrong}
        </div>
      )}
      {file && (
        <label className="word">
          or the middle of a GPX or GeoJSON file
          <input
            type="file"
            accept=".gpx,.geojson,.json"
            className="visually-hidden"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              if (chosen) void take(chosen);
              e.target.value = '';
            }}
          />
        </label>
      )}
    </div>
  );
}
