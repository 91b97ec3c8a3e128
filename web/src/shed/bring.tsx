import Button from 'react-bootstrap/Button';
import { FileButton, HowItWent, useTakeIn, WrittenAs, WrongRows } from '../lib/fields/file';
import type { LineView } from '../lib/types.gen';
import { count, listed, many } from '../lib/words/words';

/** Bringing in a rack from CSV: first what each row would do, then all of it or nothing. */
export function BringTraps({ view, onDone }: { view: LineView; onDone: () => void }) {
  const { preview, wrong, taken, look, lookAs, take } = useTakeIn(view.line.id, 'rack', 'The file');
  const numbers = (of: number[]) => (of.length === 1 ? `trap ${of[0] ?? ''}` : `traps ${listed(of.map(String))}`);
  return (
    <section>
      <h2>Bring in a rack</h2>
      <p className="quiet">
        CSV, a row a trap. The first row names the columns: number and size; and where known type, jaw_form, offset, offset_mm, laminated,
        padded (yes or no), jaw_spread_mm, frame_length_mm, set_height_mm, pan_diameter_mm, weight_g, swivels, chain_mm, shock_spring, tag,
        meant_for, spares, away, note. A number that hangs here is changed in what the file names, and its story keeps what it was.
      </p>
      <FileButton id="rack-file" label="Choose a file" accept=".csv,text/csv" onFile={look} />
      <HowItWent wrong={wrong} taken={taken} />
      {taken?.state === 'taken' && (
        <p role="status">
          <b>Brought in: {many(taken.answer.traps, 'trap')}.</b>{' '}
          <button type="button" className="word" onClick={onDone}>
            see the rack
          </button>
        </p>
      )}
      {preview && (
        <div className="notice">
          <WrittenAs written={preview.written} onEncoding={lookAs} />
          <WrongRows rows={preview.wrong} />
          {preview.ignored.length > 0 && <p className="quiet">Columns not read: {preview.ignored.join(', ')}.</p>}
          {preview.adds.length > 0 && <p>New on the rack: {numbers(preview.adds)}.</p>}
          {preview.changes.length > 0 && <p>Changed: {numbers(preview.changes)}.</p>}
          {preview.same > 0 && <p className="quiet">As they are already: {count(preview.same)}.</p>}
          <Button
            onClick={() => take({ traps: preview.traps }, `${many(preview.traps.length, 'trap')} of a file`)}
            disabled={preview.traps.length === 0}
          >
            {preview.traps.length === 0 ? 'Nothing to take in' : `Take in ${many(preview.traps.length, 'trap')}`}
          </Button>
        </div>
      )}
    </section>
  );
}
