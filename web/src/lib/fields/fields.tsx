import { createContext, useContext, useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import Form from 'react-bootstrap/Form';
import { useSettings } from '../settings';
import type { FieldProblem } from '../types.gen';
import { saysWords } from '../words/inwords';
import { parse, show, type Kind } from '../words/units';

/** What the program found wrong with the form that stands about a field. */
const Wrong = createContext<FieldProblem[]>([]);

/** Hands the program's objections to the fields inside, each to its own path. */
export function WrongFields({ problems, children }: { problems: FieldProblem[]; children: ReactNode }) {
  return <Wrong value={problems}>{children}</Wrong>;
}

function useWrong(path: string): string | undefined {
  const { system } = useSettings();
  const found = useContext(Wrong).find((p) => p.field === path);
  return found && saysWords(found, system);
}

interface FieldProps {
  label: string;
  path: string;
  wide?: boolean;
}

function Labelled({
  label,
  wide,
  wrong,
  id,
  children,
}: {
  label: string;
  wide?: boolean | undefined;
  wrong: string | undefined;
  id: string;
  children: ReactNode;
}) {
  return (
    <div className={wide ? 'wide' : undefined}>
      <Form.Label htmlFor={id}>{label}</Form.Label>
      {children}
      {wrong && (
        <div className="wrong" id={`${id}-wrong`} role="alert">
          {wrong}
        </div>
      )}
    </div>
  );
}

/**
 * A measure that takes what people write. The value follows every keystroke that can be read; what cannot be read stays in
 * the field, with the reason under it, and changes nothing.
 */
export function Measure({
  label,
  path,
  wide,
  kind,
  value,
  onValue,
  onBlank,
}: FieldProps & {
  kind: Kind;
  /** Null is not known. */
  value: number | null;
  onValue: (value: number) => void;
  /** What can be left not known. */
  onBlank?: () => void;
}) {
  const { system } = useSettings();
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [left, setLeft] = useState(false);
  const blank = onBlank !== undefined && typed?.trim() === '';
  const parsed = typed === null || blank ? null : parse(kind, typed, system);
  const misread = parsed && 'error' in parsed ? parsed.error : undefined;
  const outside = useWrong(path);
  const wrong = misread !== undefined && left ? misread : outside;
  return (
    <Labelled label={label} wide={wide} wrong={wrong} id={id}>
      <Form.Control
        id={id}
        data-field={path}
        value={typed ?? (value === null ? '' : show(kind, value, system))}
        isInvalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : `${id}-wrong`}
        autoComplete="off"
        onChange={(e) => {
          const text = e.target.value;
          setTyped(text);
          const read = parse(kind, text, system);
          if ('value' in read) onValue(read.value);
          else if (text.trim() === '') onBlank?.();
        }}
        onBlur={() => {
          if (misread === undefined) setTyped(null);
          setLeft(true);
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setTyped(null);
        }}
      />
    </Labelled>
  );
}

/** A line of text. */
export function Text({
  label,
  path,
  wide,
  value,
  onValue,
  list,
  type = 'text',
  ...rest
}: FieldProps & {
  value: string;
  onValue: (value: string) => void;
  list?: string[];
  type?: string;
  placeholder?: string;
  autoFocus?: boolean;
}) {
  const id = useId();
  const wrong = useWrong(path);
  return (
    <Labelled label={label} wide={wide} wrong={wrong} id={id}>
      <Form.Control
        id={id}
        data-field={path}
        type={type}
        value={value}
        isInvalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : `${id}-wrong`}
        autoComplete="off"
        list={list ? `${id}-list` : undefined}
        onChange={(e) => onValue(e.target.value)}
        {...rest}
      />
      {list && (
        <datalist id={`${id}-list`}>
          {list.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </Labelled>
  );
}

/** One of a longer list of words. */
export function Pick<K extends string>({
  label,
  path,
  wide,
  value,
  options,
  name,
  onValue,
  blank,
}: FieldProps & {
  value: string;
  options: readonly K[];
  name: (option: NoInfer<K>) => string;
  /** Blank only where the blank has a word. */
  onValue: (value: NoInfer<K>) => void;
  blank?: string;
}) {
  const id = useId();
  const wrong = useWrong(path);
  return (
    <Labelled label={label} wide={wide} wrong={wrong} id={id}>
      <Form.Select
        id={id}
        data-field={path}
        value={value}
        isInvalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : `${id}-wrong`}
        onChange={(e) => onValue(e.target.value as K)}
      >
        {blank !== undefined && <option value="">{blank}</option>}
        {options.map((option) => (
          <option key={option} value={option}>
            {name(option)}
          </option>
        ))}
      </Form.Select>
    </Labelled>
  );
}

/** Among the words of a choice the arrows go, and a Tab goes on to the next field. */
function walk(e: KeyboardEvent<HTMLElement>) {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
  if (by === undefined) return;
  const words = [...e.currentTarget.querySelectorAll('button')];
  const next = words[words.findIndex((b) => b === document.activeElement) + by];
  e.preventDefault();
  next?.focus();
}

/** One of a few words, all in sight. */
export function Choice<K extends string>({
  label,
  path,
  value,
  options,
  name,
  onValue,
  hide,
}: FieldProps & {
  value: string;
  options: readonly K[];
  name: (option: NoInfer<K>) => string;
  onValue: (value: NoInfer<K>) => void;
  hide?: boolean;
}) {
  const id = useId();
  const wrong = useWrong(path);
  return (
    <div className="wide" role="group" aria-labelledby={id} data-field={path}>
      <div className={hide ? 'visually-hidden' : 'form-label'} id={id}>
        {label}
      </div>
      <div className="choice" onKeyDown={walk}>
        {options.map((option, i) => (
          <button
            key={option}
            type="button"
            aria-pressed={option === value}
            tabIndex={
              i ===
              Math.max(
                0,
                options.findIndex((option) => option === value),
              )
                ? 0
                : -1
            }
            onClick={() => onValue(option)}
          >
            {name(option)}
          </button>
        ))}
      </div>
      {wrong && (
        <div className="wrong" role="alert">
          {wrong}
        </div>
      )}
    </div>
  );
}

/** Whether something is so. */
export function Tick({ label, path, value, onValue }: FieldProps & { value: boolean | undefined; onValue: (value: boolean) => void }) {
  return (
    <Form.Check
      className="wide"
      id={useId()}
      data-field={path}
      label={label}
      checked={value === true}
      onChange={(e) => onValue(e.target.checked)}
    />
  );
}

/** Any number of some things, each a touch. */
export function Several<T extends string | number>({
  label,
  of,
  name,
  chosen,
  onChosen,
}: {
  label: string;
  of: readonly T[];
  name: (one: T) => string;
  chosen: T[];
  onChosen: (chosen: T[]) => void;
}) {
  const id = useId();
  return (
    <div className="wide" role="group" aria-labelledby={id}>
      <div className="form-label" id={id}>
        {label}
      </div>
      <div className="choice">
        {of.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={chosen.includes(one)}
            onClick={() => onChosen(chosen.includes(one) ? chosen.filter((c) => c !== one) : [...chosen, one])}
          >
            {name(one)}
          </button>
        ))}
      </div>
    </div>
  );
}
