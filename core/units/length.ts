import { type Parsed, read, unread } from './parsed.ts';

/** How a shop writes lengths: the unit and its finest division (inches: denominator of the fraction; mm: the step). */
export type LengthDisplay = { unit: 'in'; division: 16 | 32 | 64 } | { unit: 'mm'; division: 0.1 | 0.5 | 1 };

const MM_PER_INCH = 25.4;

const UNIT_MM: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  inches: MM_PER_INCH,
  '"': MM_PER_INCH,
  '″': MM_PER_INCH,
  ft: 12 * MM_PER_INCH,
};

class EntryError extends Error {}

/** Ounces to the square foot of sheet steel by its gauge: the Manufacturers' Standard Gauge, 41.82 lb to the square foot an inch thick. Values from memory. */
const SHEET_OUNCES = [
  160, 150, 140, 130, 120, 110, 100, 90, 80, 70, 60, 50, 45, 40, 36, 32, 28, 24, 22, 20, 18, 16, 14, 12, 11,
  10, 9, 8, 7, 6.5, 6, 5.5, 5, 4.5, 4.25, 4,
];
const FIRST_SHEET = 3;
const OUNCES_AN_INCH = 16 * 41.82;
/** Steel wire by its gauge, inches: the Steel Wire Gauge (Washburn & Moen), 0 to 20. Values from memory. */
const WIRE_INCHES = [
  0.3065, 0.283, 0.2625, 0.2437, 0.2253, 0.207, 0.192, 0.177, 0.162, 0.1483, 0.135, 0.1205, 0.1055, 0.0915,
  0.08, 0.072, 0.0625, 0.054, 0.0475, 0.041, 0.0348,
];

/** `20 ga` is sheet steel, `9 ga wire` steel wire, `10 awg` drawn wire of other metals (ASTM B258: 0.005 in · 92^((36 − n)/39)). mm */
function gaugeMm(number: number, kind: 'sheet' | 'wire' | 'awg'): number {
  if (kind === 'awg' && number <= 40) return MM_PER_INCH * 0.005 * 92 ** ((36 - number) / 39);
  const inches =
    kind === 'wire' ? WIRE_INCHES[number] : (SHEET_OUNCES[number - FIRST_SHEET] ?? NaN) / OUNCES_AN_INCH;
  if (kind === 'awg' || !(inches > 0))
    throw new EntryError(
      `there is no ${number} gauge ${kind === 'sheet' ? 'of sheet: 3 to 38' : kind === 'wire' ? 'of steel wire: 0 to 20' : 'of wire: 0 to 40'}`,
    );
  return MM_PER_INCH * inches;
}

type Token =
  | { kind: 'length'; mm: number; text: string }
  | { kind: 'number'; value: number; text: string }
  | { kind: 'unit'; mm: number; text: string }
  | { kind: 'sign'; text: string };

/** A value on the way: a plain number, or a length in mm once a unit has been named. */
type Quantity = { value: number; isLength: boolean };

const NUMBER_FORMS: [RegExp, (m: RegExpMatchArray) => number][] = [
  [/^(\d+)(?:\s+|-)(\d+)\/(\d+)(?![\d.])/, (m) => Number(m[1]) + ratio(m[2], m[3])],
  [/^(\d+)\/(\d+)(?![\d.])/, (m) => ratio(m[1], m[2])],
  [/^(?:\d+(?:[.,]\d*)?|[.,]\d+)/, (m) => Number(m[0].replace(',', '.'))],
];

function ratio(top: string, bottom: string): number {
  if (Number(bottom) === 0) throw new EntryError(`${top}/${bottom} divides by nothing`);
  return Number(top) / Number(bottom);
}

function tokenize(text: string): Token[] {
  const tokens: Token[] = [];
  let rest = text.trim();
  while (rest !== '') {
    const token = nextToken(rest);
    tokens.push(token);
    rest = rest.slice(token.text.length).trimStart();
  }
  return tokens;
}

function nextToken(rest: string): Token {
  const gauge = rest.match(/^(\d{1,2})\s*(?:(awg)|(?:ga|gauge)\.?(?:\s*(wire|sheet))?)(?![a-z])/i);
  if (gauge) {
    const kind = gauge[2] ? 'awg' : gauge[3]?.toLowerCase() === 'wire' ? 'wire' : 'sheet';
    return { kind: 'length', mm: gaugeMm(Number(gauge[1]), kind), text: gauge[0] };
  }
  for (const [form, valueOf] of NUMBER_FORMS) {
    const match = rest.match(form);
    if (match) return { kind: 'number', value: valueOf(match), text: match[0] };
  }
  const unit = rest.match(/^(?:["″]|[a-z]+)/i)?.[0];
  if (unit !== undefined) {
    const mm = UNIT_MM[unit.toLowerCase()];
    if (mm === undefined)
      throw new EntryError(`“${unit}” is not a length unit: write in, ", mm, cm, m or ft`);
    return { kind: 'unit', mm, text: unit };
  }
  const sign = rest.match(/^[-+*×/÷()−]/)?.[0];
  if (sign === undefined) throw new EntryError(`“${rest[0]}” cannot stand in a length`);
  return { kind: 'sign', text: sign };
}

/** Recursive descent over sums, products and brackets. */
class Entry {
  private at = 0;
  private readonly tokens: Token[];
  private readonly bareMm: number;
  constructor(tokens: Token[], bareMm: number) {
    this.tokens = tokens;
    this.bareMm = bareMm;
  }

  lengthMm(): number {
    const total = this.asLength(this.sum());
    const left = this.tokens[this.at];
    if (left) throw new EntryError(`“${left.text}” is one thing too many`);
    return total;
  }

  private asLength(q: Quantity): number {
    return q.isLength ? q.value : q.value * this.bareMm;
  }

  private takeSign(...signs: string[]): string | null {
    const token = this.tokens[this.at];
    if (token?.kind !== 'sign' || !signs.includes(token.text)) return null;
    this.at++;
    return token.text;
  }

  private sum(): Quantity {
    let total = this.product();
    for (;;) {
      const sign = this.takeSign('+', '-', '−');
      if (sign === null) return total;
      const next = this.product();
      const factor = sign === '+' ? 1 : -1;
      total =
        total.isLength || next.isLength
          ? { value: this.asLength(total) + factor * this.asLength(next), isLength: true }
          : { value: total.value + factor * next.value, isLength: false };
    }
  }

  private product(): Quantity {
    let left = this.factor();
    for (;;) {
      const sign = this.takeSign('*', '×', '/', '÷');
      if (sign === null) return left;
      left = sign === '*' || sign === '×' ? times(left, this.factor()) : over(left, this.factor());
    }
  }

  private factor(): Quantity {
    const minus = this.takeSign('-', '−', '+');
    if (minus !== null) {
      const inner = this.factor();
      return minus === '+' ? inner : { ...inner, value: -inner.value };
    }
    if (this.takeSign('(') !== null) {
      const inner = this.sum();
      if (this.takeSign(')') === null) throw new EntryError('a bracket is not closed');
      return this.withUnit(inner);
    }
    const token = this.tokens[this.at++];
    if (!token) throw new EntryError(`the entry stops short after “${this.tokens[this.at - 2]?.text ?? ''}”`);
    if (token.kind === 'length') return this.withUnit({ value: token.mm, isLength: true });
    if (token.kind !== 'number') throw new EntryError(`a number is missing before “${token.text}”`);
    return this.withUnit({ value: token.value, isLength: false });
  }

  private withUnit(q: Quantity): Quantity {
    const token = this.tokens[this.at];
    if (token?.kind !== 'unit') return q;
    if (q.isLength) throw new EntryError(`“${token.text}” is a second unit on one number`);
    this.at++;
    return { value: q.value * token.mm, isLength: true };
  }
}

function times(a: Quantity, b: Quantity): Quantity {
  if (a.isLength && b.isLength) throw new EntryError('a length times a length is an area');
  return { value: a.value * b.value, isLength: a.isLength || b.isLength };
}

function over(a: Quantity, b: Quantity): Quantity {
  if (b.value === 0) throw new EntryError('it divides by nothing');
  if (b.isLength) throw new EntryError('a length can only be divided by a plain number');
  return { value: a.value / b.value, isLength: a.isLength };
}

/**
 * Reads a length as a shop writes it: `1 7/16`, `1-7/16"`, `36.5 mm`, `.125`, `2 7/16 / 2`, `3 * 1/4 + 1/8`.
 * A number without a unit is in `bareUnit`, or in the unit that stands at the very end of the entry. Value in mm.
 */
export function parseLength(text: string, bareUnit: 'in' | 'mm'): Parsed<number> {
  if (text.trim() === '')
    return unread(`Write a length, such as ${bareUnit === 'in' ? '1 7/16"' : '36.5 mm'}`);
  try {
    const unfinished = text.trim().match(/[-+*×/÷(−]$/);
    if (unfinished) throw new EntryError(`it stops after “${unfinished[0]}”, write it out, as in 1 7/16`);
    const tokens = tokenize(text);
    const last = tokens.at(-1);
    const value = new Entry(tokens, last?.kind === 'unit' ? last.mm : UNIT_MM[bareUnit]).lengthMm();
    return Number.isFinite(value) ? read(value) : unread(`“${text.trim()}” is not a length`);
  } catch (error) {
    if (!(error instanceof EntryError)) throw error;
    return unread(`“${text.trim()}” cannot be read as a length: ${error.message}`);
  }
}

/** The step in mm of a shop's finest division. */
export const divisionMm = (display: LengthDisplay): number =>
  display.unit === 'in' ? MM_PER_INCH / display.division : display.division;

/** What a press is stopped at: a tenth of a millimetre, or in an inch shop a sixty-fourth. mm */
export const stopDivisionMm = ({ unit }: LengthDisplay): number => (unit === 'in' ? MM_PER_INCH / 64 : 0.1);

/** In whole divisions, without what these leave in the last digits. mm */
export const wholeMm = (mm: number, divisionMm: number): number =>
  Math.round(1e4 * divisionMm * Math.round(mm / divisionMm)) / 1e4;

/** `mm` rounded to the shop's finest division, still in mm. For showing and for saw marks, never for storing. */
export const toDivisionMm = (mm: number, display: LengthDisplay): number =>
  Math.round(mm / divisionMm(display)) * divisionMm(display);

/** A length as the shop writes it, rounded to its finest division: `1 7/16"`, `36.5 mm`. */
export function formatLength(mm: number, display: LengthDisplay): string {
  return display.unit === 'in' ? `${inchText(mm, display.division)}"` : `${mmText(mm, display.division)} mm`;
}

/** Like formatLength, without the unit: for `30 × 16 mm`. */
export const bareLength = (mm: number, display: LengthDisplay): string =>
  display.unit === 'in' ? inchText(mm, display.division) : mmText(mm, display.division);

/** Two or three lengths with one unit: `30 × 16 mm`, `1 3/16 × 5/8"`. */
export const formatSizes = (sizesMm: number[], display: LengthDisplay): string =>
  sizesMm.map((mm) => bareLength(mm, display)).join(' × ') + (display.unit === 'in' ? '"' : ' mm');

/** A length finer than the shop's division (a band, a kerf, a grinding allowance): hundredths of a mm or thousandths of an inch. */
export function formatFine(mm: number, display: LengthDisplay): string {
  return display.unit === 'in'
    ? `${trimZeros((mm / MM_PER_INCH).toFixed(3))}"`
    : `${trimZeros(mm.toFixed(2))} mm`;
}

/** Two or three such with one unit: `45 × 4.5 mm`, `1.5 × 0.177"`. */
/** A small area, as a void is: `0.16 mm²`, `0.0002 sq in`. */
export const formatFineArea = (mm2: number, { unit }: LengthDisplay): string =>
  unit === 'in' ? `${(mm2 / MM_PER_INCH ** 2).toFixed(4)} sq in` : `${mm2.toFixed(2)} mm²`;

export const formatFineSizes = (sizesMm: readonly number[], display: LengthDisplay): string =>
  sizesMm
    .map((mm) => (display.unit === 'in' ? (mm / MM_PER_INCH).toFixed(3) : mm.toFixed(2)))
    .map(trimZeros)
    .join(' × ') + (display.unit === 'in' ? '"' : ' mm');

/** mm. Nearer than this to a division a length lies on it. */
const ON_DIVISION_MM = 0.01;

const liesOn = (mm: number, display: LengthDisplay): boolean =>
  Math.abs(mm - toDivisionMm(mm, display)) < ON_DIVISION_MM;

/** A length that is worked to: on the shop's divisions where it lies on one, finer where it lies between. */
export const exactLength = (mm: number, display: LengthDisplay): string =>
  liesOn(mm, display) ? formatLength(mm, display) : formatFine(mm, display);

/** Several such with one unit. */
export const exactSizes = (sizesMm: readonly number[], display: LengthDisplay): string =>
  sizesMm.every((mm) => liesOn(mm, display))
    ? formatSizes([...sizesMm], display)
    : formatFineSizes(sizesMm, display);

/** mm. A size this near to a fraction, and a share this near to a gauge, is that. */
const FRACTION_MM = 0.06;
const GAUGE_SHARE = 0.015;

/** A thickness or width of stock as a dealer names it, without the unit: fractions, gauges of sheet, thousandths; hundredths of a mm. */
function stockText(mm: number, display: LengthDisplay): string {
  if (display.unit === 'mm') return trimZeros(mm.toFixed(2));
  const sixtyFourths = Math.round((mm / MM_PER_INCH) * 64);
  if (sixtyFourths >= 4 && Math.abs(mm - (sixtyFourths * MM_PER_INCH) / 64) < FRACTION_MM)
    return inchText(mm, 64);
  const thousandths = trimZeros((mm / MM_PER_INCH).toFixed(3));
  const gauge = SHEET_OUNCES.findIndex(
    (ounces) => Math.abs(mm / ((MM_PER_INCH * ounces) / OUNCES_AN_INCH) - 1) < GAUGE_SHARE,
  );
  return gauge < 0 ? thousandths : `${FIRST_SHEET + gauge} ga = ${thousandths}`;
}

/** Width and thickness of stock with one unit: `1 1/2 × 1/8"`, `2 × 16 ga = 0.06"`, `38 × 3.2 mm`. */
export const formatStockSizes = (sizesMm: readonly number[], display: LengthDisplay): string =>
  sizesMm.map((mm) => stockText(mm, display)).join(' × ') + (display.unit === 'in' ? '"' : ' mm');

/** The text put into an entry field: exact, so that opening and closing the field changes nothing. */
export function editableLength(mm: number, display: LengthDisplay): string {
  if (display.unit === 'mm') return `${trimZeros(mm.toFixed(6))} mm`;
  const sixtyFourths = (mm / MM_PER_INCH) * 64;
  if (Math.abs(sixtyFourths - Math.round(sixtyFourths)) < 1e-6) return `${inchText(mm, 64)}"`;
  return `${trimZeros((mm / MM_PER_INCH).toFixed(8))}"`;
}

function mmText(mm: number, division: number): string {
  const text = trimZeros((Math.round(mm / division) * division).toFixed(division < 1 ? 1 : 0));
  return text === '-0' ? '0' : text;
}

function inchText(mm: number, division: number): string {
  const count = Math.round((mm / MM_PER_INCH) * division);
  const sign = count < 0 ? '-' : '';
  const whole = Math.floor(Math.abs(count) / division);
  let top = Math.abs(count) % division;
  let bottom = division;
  while (top > 0 && top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  if (top === 0) return `${sign}${whole}`;
  return whole === 0 ? `${sign}${top}/${bottom}` : `${sign}${whole} ${top}/${bottom}`;
}

const trimZeros = (text: string): string => (text.includes('.') ? text.replace(/\.?0+$/, '') : text);
