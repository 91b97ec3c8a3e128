import Form from 'react-bootstrap/Form';
import { word } from '../lib/words';

interface CellProps {
  label: string;
  value: string;
  options: string[];
  /** What an empty one says. */
  blank: string;
  name?: (key: string) => string;
  wrong?: boolean;
  onValue: (value: string) => void;
}

/** One of some words, by one key: small enough for a row of a sheet. */
export function Cell({ label, value, options, blank, name = word, wrong = false, onValue }: CellProps) {
  return (
    <Form.Select
      aria-label={label}
      value={value}
      isInvalid={wrong}
      className={value === '' ? 'empty' : undefined}
      onChange={(e) => onValue(e.target.value)}
    >
      <option value="">{blank}</option>
      {options.map((key) => (
        <option key={key} value={key}>
          {name(key)}
        </option>
      ))}
    </Form.Select>
  );
}
