import type { FieldProblem } from '../types.gen';
import { show, type Kind, type System } from './units';
import { anyWord } from './called';
import { capital } from './words';

const measures: Record<string, Kind> = { mm: 'length', N: 'force', '°C': 'temperature', g: 'weight', ml: 'volume' };

/** Rewrites the program's millimetres, newtons, degrees, grams and millilitres into what the user reads. */
export function say(text: string, system: System): string {
  return text.replace(/(-?\d+(?:\.\d+)?(?:e\+?\d+)?) (mm|N|°C|g|ml)(?![a-z])/g, (_, amount: string, unit: string) =>
    show(measures[unit] ?? 'number', Number(amount), system),
  );
}

/** What a field is called, and what is asked where it is missing; by the last part of its path. */
const fields: Record<string, [name: string, ask: string]> = {
  name: ['name', 'Give it a name'],
  gauge: ['gauge', 'Give the gauge a name, so that its readings can be compared'],
  size: ['size', 'Say its size, as you call it'],
  reason: ['reason', 'Say why, so that it can be followed later'],
  finding: ['found', 'Choose what was found'],
  species: ['caught', 'Choose what was caught'],
  sex: ['sex', 'Choose its sex, or unknown'],
  foot: ['foot', 'Choose the foot, or not looked at'],
  hold: ['hold', 'Choose pad or toe, or not looked at'],
  by: ['told by', 'Choose what says so'],
  animal: ['animal', 'Choose whose it was'],
  at: ['time', 'Write the time'],
  seenAt: ['seen at', 'Write when it was seen'],
  builtAt: ['built at', 'Write when it was built'],
  propertyId: ['property', 'Choose the property'],
  spotId: ['spot', 'Choose the spot'],
  target: ['target', 'Choose the animal'],
  zone: ['time zone', 'Choose the time zone'],
  latDeg: ['latitude', 'Say where it lies'],
  lonDeg: ['longitude', 'Say where it lies'],
  deleted: ['it', 'It'],
  version: ['it', 'It'],
  file: ['file', 'Choose a file'],
};

const lastPart = (path: string) =>
  path
    .split('.')
    .at(-1)
    ?.replace(/\[\d+\]/g, '') ?? path;

/** A field's name as a person says it. */
export const nameOf = (path: string): string =>
  fields[lastPart(path)]?.[0] ??
  lastPart(path)
    .replace(/(Mm|Deg|Ms|Id|Ml|Kg|G|N)$/, '')
    .replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

/** The keys of records in a sentence, as words. */
const worded = (text: string) => text.replace(/\b[a-z]+(?:_[a-z]+)+\b/g, (key) => anyWord(key));

/** A text of the program with one colon in each sentence at the most. */
export const oneColon = (text: string): string =>
  text
    .split(/(?<=[.!?])\s/)
    .map((sentence) => {
      const [first = '', second, ...rest] = sentence.split(/:\s/);
      return second === undefined ? first : `${first}: ${[second, ...rest].join(', ')}`;
    })
    .join(' ');

/** What is wrong with a row of a file. */
export const rowWords = (says: string): string => oneColon(says.replace(/: write something here/g, '').replace(/^(?=[a-z])/, 'column '));

/** What the program says of a field, as it stands beside that field. */
export function saysWords({ field, says }: FieldProblem, system: System): string {
  if (/^is missing: write something here/.test(says)) return fields[lastPart(field)]?.[1] ?? 'Write something here';
  if (/^is missing: choose one of/.test(says)) return fields[lastPart(field)]?.[1] ?? `Choose one of ${worded(says.slice(26))}`;
  return oneColon(say(worded(says), system));
}

/** The same where no field stands beside it: with the field's name. */
export function problemWords(problem: FieldProblem, system: System): string {
  const says = saysWords(problem, system);
  if (/^[A-Z]/.test(says)) return says;
  return oneColon(capital(`${nameOf(problem.field)} ${says}`));
}

/** Why the program would not have something, in words. */
export const refusalWords = (problem: { detail: string; fields?: FieldProblem[] }, system: System): string =>
  problem.fields && problem.fields.length > 0
    ? problem.fields.map((p) => problemWords(p, system)).join('. ')
    : oneColon(say(worded(problem.detail), system));
