import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Refused } from '../lib/api';
import { FileButton, fileTrouble, lookInto, WrittenAs } from '../lib/file';
import { rowWords } from '../lib/inwords';
import { useOnce } from '../lib/once';
import { write } from '../lib/outbox';
import type { BroughtTraps, LineView, RackPreview, TrapsToBring } from '../lib/types.gen';
import { ulid } from '../lib/ulid';
import { count, listed, many } from '../lib/words';

/** Bringing in a rack from CSV: first what each row would do, then all of it or nothing. */
export function BringTraps({ view, onDone }: { view: LineView; onDone: () => void }) {
  const [preview, setPreview] = useState<RackPreview | null>(null);
  const [said, setSaid] = useState('');
  const [wrong, setWrong] = useState('');
  const [chosen, setChosen] = useState<File | null>(null);
  const read = async (file: File, encoding = '') => {
    setChosen(file);
    setPreview(null);
    setWrong('');
    setSaid('');
    try {
      setPreview(await lookInto<RackPreview>(`/lines/${view.line.id}/rack/preview?encoding=${encoding}`, file));
    } catch (error) {
      setWrong(fileTrouble(error, 'The file'));
    }
  };
  const bring = useOnce(async () => {
    if (!preview) return false;
    try {
      const body: TrapsToBring = { traps: preview.traps };
      const sent = await write<BroughtTraps>(`/lines/${view.line.id}/rack/${ulid()}`, body, `${preview.traps.length} traps of a file`);
      setSaid(
        sent.state === 'taken'
          ? `Brought in: ${many(sent.answer.traps, 'trap')}.`
          : 'Kept in this browser: it is sent as soon as the program answers.',
      );
      setPreview(null);
      return true;
    } catch (error) {
      setWrong(error instanceof Refused ? error.problem.detail : '');
      return false;
    }
  });
  const numbers = (of: number[]) => (of.length === 1 ? `trap ${of[0] ?? ''}` : `traps ${listed(of.map(String))}`);
  return (
    <section>
      <h2>Bring in a rack</h2>
      <p className="quiet">
        CSV, a row a trap. The first row names the columns: number and size; and where known type, jaw_form, offset, offset_mm, laminated,
        padded (yes or no), jaw_spread_mm, frame_length_mm, set_height_mm, pan_diameter_mm, weight_g, swivels, chain_mm, shock_spring, tag,
        meant_for, spares, away, note. A number that hangs here is changed in what the file names, and its story keeps what it was.
      </p>
      <FileButton id="rack-file" label="Choose a file" accept=".csv,text/csv" onFile={(file) => void read(file)} />
      {wrong && (
        <div className="wrong" role="alert">
          {wrong}. Nothing was changed.
        </div>
      )}
      {said && (
        <p role="status">
          <b>{said}</b>{' '}
          <button type="button" className="word" onClick={onDone}>
            see the rack
          </button>
        </p>
      )}
      {preview && (
        <div className="notice">
          {chosen && <WrittenAs written={preview.written} onEncoding={(encoding) => void read(chosen, encoding)} />}
          {preview.wrong.map((w) => (
            <div key={w.row} className="wrong">
              row {w.row}, {rowWords(w.says)}
            </div>
          ))}
          {preview.ignored.length > 0 && <p className="quiet">Columns not read: {preview.ignored.join(', ')}.</p>}
          {preview.adds.length > 0 && <p>New on the rack: {numbers(preview.adds)}.</p>}
          {preview.changes.length > 0 && <p>Changed: {numbers(preview.changes)}.</p>}
          {preview.same > 0 && <p className="quiet">As they are already: {count(preview.same)}.</p>}
          <Button onClick={() => void bring()} disabled={preview.traps.length === 0}>
            {preview.traps.length === 0 ? 'Nothing to take in' : `Take in ${many(preview.traps.length, 'trap')}`}
          </Button>
        </div>
      )}
    </section>
  );
}
