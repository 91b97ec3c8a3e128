/** The one place where lengths, forces, amounts and angles are read as people write them and shown as they like them. */

export type System = 'us' | 'metric';
export type Kind = 'length' | 'ground' | 'force' | 'angle' | 'degrees' | 'volume' | 'weight' | 'bulk' | 'temperature' | 'number';
export type Parsed = { value: number } | { error: string };

interface Unit {
  names: string[];
  /** How much of the stored unit (mm, N, ml, g, °C, degrees) one of it is. */
  is: number;
  /** What it reads where the stored unit reads nothing. */
  zero?: number;
}

const inch: Unit = { names: ['in', 'inch', 'inches', '"', '″', '”'], is: 25.4 };
const foot: Unit = { names: ['ft', 'foot', 'feet', "'", '′', '’'], is: 304.8 };
const lengths: Unit[] = [
  inch,
  foot,
  { names: ['yd', 'yard', 'yards'], is: 914.4 },
  { names: ['mm'], is: 1 },
  { names: ['cm'], is: 10 },
  { names: ['m'], is: 1000 },
];
const centimetre = lengths[4] ?? inch;
const pound: Unit = { names: ['lb', 'lbs', 'pound', 'pounds', '#'], is: 4.4482216 };
const newton: Unit = { names: ['n', 'newton', 'newtons'], is: 1 };
const kilogram: Unit = { names: ['kg'], is: 9.80665 };
const forces: Unit[] = [pound, { names: ['oz'], is: 4.4482216 / 16 }, newton, kilogram, { names: ['g'], is: 0.00980665 }];
const fluidOunce: Unit = { names: ['oz', 'fl', 'floz', 'ounce', 'ounces'], is: 29.5735 };
const millilitre: Unit = { names: ['ml', 'cc'], is: 1 };
const quart: Unit = { names: ['qt', 'quart', 'quarts'], is: 946.353 };
const litre: Unit = { names: ['l', 'litre', 'litres', 'liter', 'liters'], is: 1000 };
const volumes: Unit[] = [
  fluidOunce,
  millilitre,
  quart,
  litre,
  { names: ['drop', 'drops'], is: 0.05 },
  { names: ['tsp'], is: 4.9289 },
  { names: ['tbsp'], is: 14.787 },
  { names: ['cup', 'cups'], is: 236.588 },
  { names: ['pt', 'pint', 'pints'], is: 473.176 },
  { names: ['gal', 'gallon', 'gallons'], is: 3785.41 },
];
const ounce: Unit = { names: ['oz', 'ounce', 'ounces'], is: 28.3495 };
const gram: Unit = { names: ['g', 'gram', 'grams'], is: 1 };
const weights: Unit[] = [ounce, gram, { names: ['lb', 'lbs', 'pound', 'pounds', '#'], is: 453.592 }, { names: ['kg'], is: 1000 }];
const celsius: Unit = { names: ['°c', 'c'], is: 1 };
const fahrenheit: Unit = { names: ['°f', 'f'], is: 5 / 9, zero: 32 };
const one: Unit = { names: [], is: 1 };
const degree: Unit = { names: ['°', 'deg', 'degrees', 'degree'], is: 1 };

const kinds: Record<Kind, { units: Unit[]; us: Unit; metric: Unit; like: string; what: string }> = {
  length: { units: lengths, us: inch, metric: centimetre, like: '9 1/4, 9.25 in or 23 cm', what: 'a length' },
  ground: { units: lengths, us: foot, metric: lengths[5] ?? inch, like: '2 ft, 30 in or 60 cm', what: 'a length' },
  force: { units: forces, us: pound, metric: kilogram, like: '4 1/2, 4.5 lb or 2 kg', what: 'a tension' },
  angle: { units: [degree], us: degree, metric: degree, like: '60', what: 'an angle' },
  volume: { units: volumes, us: fluidOunce, metric: millilitre, like: '4 oz, 1/2 cup or 120 ml', what: 'an amount' },
  weight: { units: weights, us: ounce, metric: gram, like: '4 oz, 1 1/2 lb or 120 g', what: 'a weight' },
  bulk: { units: volumes, us: quart, metric: litre, like: '2 qt, 1 gal or 2 l', what: 'an amount' },
  temperature: { units: [celsius, fahrenheit], us: fahrenheit, metric: celsius, like: '-13 F or -25 C', what: 'a temperature' },
  number: { units: [one], us: one, metric: one, like: '3 or 1/2', what: 'a number' },
  degrees: { units: [degree], us: degree, metric: degree, like: '46.81', what: 'degrees' },
};

const fractions: Record<string, string> = {
  '¼': '1/4',
  '½': '1/2',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
  '⅓': '1/3',
  '⅔': '2/3',
};
const number = /^(?:(\d+)\/(\d+)|(\d+(?:[.,]\d+)?)(?:[\s-]+(\d+)\/(\d+))?)/;

/** Reads what was typed. Bare numbers are in the unit of the system; "1 ft 3 in" adds up; a range is refused. */
export function parse(kind: Kind, typed: string, system: System): Parsed {
  const { units, like, what, ...own } = kinds[kind];
  const wrong = (why: string): Parsed => ({ error: `${why}: write ${what} such as ${like}` });
  let rest = typed.trim().toLowerCase();
  for (const [sign, plain] of Object.entries(fractions)) rest = rest.replaceAll(sign, ' ' + plain);
  rest = rest.replace(/[−–—]/g, '-').replace(/\s+/g, ' ').trim();
  if (rest === '') return wrong('Nothing is written here');
  if (/\d\s*(?:-|to|\.\.)\s*\d/.test(rest) && !/^\d+-\d+\/\d+/.test(rest)) return wrong('That is a range');
  const sign = rest.startsWith('-') ? -1 : 1;
  rest = rest.replace(/^[+-]\s*/, '');
  let total = 0;
  let last: Unit | undefined;
  for (let first = true; rest !== ''; first = false) {
    const found = number.exec(rest);
    if (!found) return wrong(first ? 'That is no number' : `“${rest}” is not understood`);
    const [all, aloneOver, aloneUnder, whole, over, under] = found;
    const part = over ?? aloneOver;
    const of = under ?? aloneUnder;
    if (of !== undefined && Number(of) === 0) return wrong('That is no fraction');
    const amount = Number((whole ?? '0').replace(',', '.')) + (part ? Number(part) / Number(of) : 0);
    rest = rest.slice(all.length).trim();
    const name = /^[^\d\s]+/.exec(rest)?.[0] ?? '';
    // "1 ft 2": what follows feet is inches.
    const bare = !first && last === foot ? inch : own[system];
    const unit = name === '' ? bare : units.find((u) => u.names.includes(name.replace(/\.$/, '')));
    if (!unit) return wrong(`“${name}” is no unit for ${what}`);
    rest = rest.slice(name.length).trim();
    if (name === '' && ((!first && last !== foot) || rest !== '')) return wrong('It is not clear what belongs together');
    last = unit;
    if (unit.zero !== undefined) return rest === '' ? { value: (sign * amount - unit.zero) * unit.is } : wrong('That is more than one');
    total += amount * unit.is;
  }
  return { value: sign * total };
}

const eighths = ['', '⅛', '¼', '⅜', '½', '⅝', '¾', '⅞'];

/** A length that was computed: to the quarter inch where it is over an inch, since nobody digs finer; to the half centimetre over two. */
export function showAbout(kind: 'length' | 'ground', mm: number, system: System): string {
  const step = system === 'us' ? 25.4 / 4 : 5;
  return show(kind, Math.abs(mm) > 25.4 ? Math.round(mm / step) * step : mm, system);
}

/** Shows a stored value, with its unit unless bare. Inches go to the eighth, centimetres to the millimetre. */
export function show(kind: Kind, value: number, system: System, bare = false): string {
  const unit = (text: string, name: string) => (bare ? text : `${text} ${name}`);
  switch (kind) {
    case 'length':
      return system === 'us' ? unit(inEighths(value / 25.4), 'in') : unit(trim(value / 10, 1), 'cm');
    case 'ground':
      if (system === 'metric') return unit(trim(value / 1000, 2), 'm');
      return value < 1219 ? `${inEighths(value / 25.4)} in` : unit(trim(value / 304.8, 1), 'ft');
    case 'force':
      return system === 'us' ? unit(trim(value / pound.is, 1), 'lb') : unit(trim(value / kilogram.is, 2), 'kg');
    case 'volume':
      if (system === 'metric') return value >= 1000 ? `${trim(value / 1000, 2)} l` : unit(trim(value, value < 10 ? 1 : 0), 'ml');
      return unit(trim(value / fluidOunce.is, value < 148 ? 2 : 1), 'oz');
    case 'weight':
      if (system === 'metric') return value >= 1000 ? `${trim(value / 1000, 2)} kg` : unit(trim(value, value < 10 ? 1 : 0), 'g');
      return value >= 907 ? `${trim(value / 453.592, 1)} lb` : unit(trim(value / ounce.is, value < 142 ? 2 : 1), 'oz');
    case 'bulk':
      return system === 'us' ? unit(trim(value / quart.is, 1), 'qt') : unit(trim(value / 1000, 1), 'l');
    case 'temperature':
      return (system === 'us' ? `${Math.round(value * 1.8 + 32)}°F` : `${Math.round(value)}°C`).replace('-', '−');
    case 'number':
      return trim(value, 3);
    case 'angle':
      return `${trim(value, 1)}°`;
    case 'degrees':
      return trim(value, 5);
  }
}

function inEighths(inches: number): string {
  const all = Math.round(Math.abs(inches) * 8);
  const whole = Math.floor(all / 8);
  const text = [whole > 0 || all === 0 ? String(whole) : '', eighths[all % 8]].filter(Boolean).join(' ');
  return inches < 0 && all > 0 ? '−' + text : text;
}

/** The width of a way as people say it: to the half foot or the tenth of a metre. */
export const roughly = (mm: number, system: System): string =>
  system === 'us' ? `${trim(Math.round(mm / 152.4) / 2, 1)} ft` : `${trim(mm / 1000, 1)} m`;

/** Rounds to a number of places and drops zeros at the end. */
export function trim(value: number, places: number): string {
  return String(Number(value.toFixed(places))).replace('-', '−');
}

/** Distances over ground, from metres. */
export function showDistance(metres: number, system: System): string {
  if (system === 'us') return metres < 1600 ? `${trim(metres / 0.9144, 0)} yd` : `${trim(metres / 1609.34, 1)} mi`;
  return metres < 1000 ? `${trim(metres, 0)} m` : `${trim(metres / 1000, 1)} km`;
}

/** What traps earned, with its unit. */
export const trapNights = (n: number): string => `${trim(n, 1)} ${n === 1 ? 'trap-night' : 'trap-nights'}`;

/** So many nights, in words. */
export const nights = (n: number): string => (n === 0 ? 'no night yet' : n === 1 ? '1 night' : `${n} nights`);

/** A chance as a person says it: 40 in 100. */
export const chance = (value: number): string => `${in100(value)} in 100`;

/** A share of one as how many of a hundred. */
export const in100 = (share: number): string => String(Math.round(share * 100));

/** The chance that something does not come to pass. */
export const not = (share: number): number => 1 - share;

/** How long something takes, to five minutes. */
export function duration(minutes: number): string {
  const fives = Math.max(5, Math.round(minutes / 5) * 5);
  const [h, min] = [Math.floor(fives / 60), fives % 60];
  return [h > 0 && `${h} h`, min > 0 && `${min} min`].filter(Boolean).join(' ');
}
