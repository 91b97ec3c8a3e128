interface Props<K extends string> {
  label: string;
  of: readonly K[];
  chosen: K | undefined;
  name: (key: K) => string;
  onChoose: (key: K) => void;
}

/** A choice in words, one of which is chosen. */
export function OneOf<K extends string>({ label, of, chosen, name, onChoose }: Props<K>) {
  return (
    <nav className="seasons" aria-label={label}>
      {of.map((key) => (
        <button key={key} type="button" className="word" aria-current={key === chosen} onClick={() => onChoose(key)}>
          {name(key)}
        </button>
      ))}
    </nav>
  );
}
