import { useState } from 'react';
import { get, Refused } from '../lib/ask/api';
import { useProgram } from '../lib/ask/queries';
import { useSettings } from '../lib/settings';
import type { PlaceRead } from '../lib/types.gen';
import { showDistance } from '../lib/words/units';

type State = { state: 'no' } | { state: 'reading' } | { state: 'read'; says: string } | { state: 'failed'; says: string };

const seconds = 4;

/** Reads where one stands: from the connected receiver, averaged over some seconds, or from this device. */
export function HereButton({ onPlace }: { onPlace: (latDeg: number, lonDeg: number) => void }) {
  const program = useProgram();
  const { system } = useSettings();
  const [now, setNow] = useState<State>({ state: 'no' });

  const receiver = async () => {
    setNow({ state: 'reading' });
    try {
      const p = await get<PlaceRead>(`/place?seconds=${seconds}`);
      onPlace(p.latDeg, p.lonDeg);
      setNow({
        state: 'read',
        says: `${p.standIn ? 'A made-up receiver, ' : ''}${p.used} of ${p.fixes} fixes, spread ${showDistance(p.spreadM, system)}${p.damaged > 0 ? `, ${p.damaged} damaged` : ''}${p.noFix > 0 ? `, ${p.noFix} without a fix` : ''}`,
      });
    } catch (error) {
      setNow({
        state: 'failed',
        says: error instanceof Refused ? error.problem.detail : 'The program does not answer.',
      });
    }
  };
  const device = () => {
    setNow({ state: 'reading' });
    navigator.geolocation.getCurrentPosition(
      (p) => {
        onPlace(p.coords.latitude, p.coords.longitude);
        setNow({ state: 'read', says: `This device, within about ${showDistance(p.coords.accuracy, system)}` });
      },
      (error) =>
        setNow({
          state: 'failed',
          says: `This device does not say where it is (${error.message || 'no fix'}). Touch the map instead.`,
        }),
      { enableHighAccuracy: true, timeout: 15_000, maximumAge: 0 },
    );
  };
  const hasDevice = window.isSecureContext && 'geolocation' in navigator;
  if (!program.data?.gps && !hasDevice) return null;
  return (
    <div className="wide">
      {now.state === 'reading' ? (
        <span role="status">Reading; stand still for {seconds} seconds.</span>
      ) : (
        <>
          {program.data?.gps && (
            <button type="button" className="word" onClick={() => void receiver()}>
              where the receiver stands
            </button>
          )}
          {program.data?.gps && hasDevice && ' · '}
          {hasDevice && (
            <button type="button" className="word" onClick={device}>
              where this device is
            </button>
          )}
        </>
      )}
      {now.state === 'read' && (
        <div className="quiet" role="status">
          {now.says}.
        </div>
      )}
      {now.state === 'failed' && (
        <div className="wrong" role="alert">
          {now.says}
        </div>
      )}
    </div>
  );
}
