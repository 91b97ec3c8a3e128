import Form from 'react-bootstrap/Form';

interface CellProps<K extends string> {
  label: string;
  value: string;
  options: readonly K[];
  /** What an empty one says. */
  blank: string;
  name: (key: NoInfer<K>) => string;
  wrong?: boolean;
  onValue: (value: NoInfer<K> | '') => void;
}

/** One of some words, by one key: small enough for a row of a sheet. */
export function Cell<K extends string>({ label, value, options, blank, name, wrong = false, onValue }: CellProps<K>) {
  return (
    <Form.Select
      aria-label={label}
      value={value}
      isInvalid={wrong}
      className={value === '' ? 'empty' : undefined}
      onChange={(e) => onValue(e.target.value as K | '')}
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
