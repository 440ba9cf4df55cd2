import { editableForce, formatForce, parseForce } from './force.ts';
import { type LengthDisplay, editableLength, formatFine, formatLength, parseLength } from './length.ts';
import { type MassUnit, formatMass, parseMass } from './mass.ts';
import { type Parsed, read, unread } from './parsed.ts';
import {
  type TemperatureUnit,
  editableTemperature,
  formatDegrees,
  formatTemperature,
  parseTemperature,
} from './temperature.ts';

import type { Quantity } from './quantities.ts';

/** The units a shop writes in. */
export interface Units {
  readonly lengths: LengthDisplay;
  readonly masses: MassUnit;
  readonly temperatures: TemperatureUnit;
}

/** Degrees of the shop's scale to one kelvin. */
const perK = ({ temperatures }: Units): number => (temperatures === 'C' ? 1 : 1.8);
/** Metres to the length that an angle along a bar is said of: a foot in inch shops. */
const alongM = ({ lengths }: Units): number => (lengths.unit === 'in' ? 0.3048 : 1);
const twistUnit = ({ lengths }: Units): string => (lengths.unit === 'in' ? '°/ft' : '°/m');
const trimmed = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** A value as the shop writes it. */
export function showQuantity(q: Quantity, value: number, units: Units): string {
  switch (q.kind) {
    case 'length':
      return q.fine ? formatFine(value, units.lengths) : formatLength(value, units.lengths);
    case 'angle':
      return `${Math.round(value * 100) / 100}°`;
    case 'twist':
      return `${trimmed(value * alongM(units), 2)} ${twistUnit(units)}`;
    case 'share':
      return `${trimmed(100 * value, 6)} %`;
    case 'temperature':
      return formatTemperature(value, units.temperatures);
    case 'temperature difference':
      return formatDegrees(value, units.temperatures);
    case 'mass':
      return formatMass(value, units.masses);
    case 'force':
      return formatForce(value, units.masses);
    case 'rate':
      return `${trimmed(value * perK(units), 6)} ${units.temperatures === 'C' ? 'K/h' : '°F/h'}`;
    case 'number':
      return q.unit ? `${value} ${q.unit}` : String(value);
  }
}

/** The text put into a field to be edited: exact, so that opening and closing the field changes nothing. */
export function editableQuantity(q: Quantity, value: number, units: Units): string {
  switch (q.kind) {
    case 'length':
      return editableLength(value, units.lengths);
    case 'angle':
      return trimmed(value, 6);
    case 'twist':
      return `${trimmed(value * alongM(units), 6)} ${twistUnit(units)}`;
    case 'temperature':
      return editableTemperature(value, units.temperatures);
    case 'temperature difference':
      return `${trimmed(value * perK(units), 6)} ${units.temperatures === 'C' ? 'K' : '°F'}`;
    case 'force':
      return editableForce(value, units.masses);
    default:
      return showQuantity(q, value, units);
  }
}

/** A bare number, a unit after it taken as said; as in “12”, “12 s”, “−3,5 °”. */
function readNumber(q: Quantity, text: string, units: readonly string[], example: string): Parsed<number> {
  const match = text.trim().match(/^([-−+]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(.*)$/);
  const unit = match?.[2].trim() ?? '';
  if (!match || (unit !== '' && !units.includes(unit)))
    return unread(`“${text.trim()}” is no ${q.kind === 'angle' ? 'angle' : 'number'}: write ${example}`);
  return read(Number(match[1].replace(',', '.').replace('−', '-')));
}

function readAs(q: Quantity, text: string, units: Units): Parsed<number> {
  switch (q.kind) {
    case 'length':
      return parseLength(text, units.lengths.unit);
    case 'angle':
      return readNumber(q, text, ['°'], 'degrees, such as 45');
    case 'twist':
      return scaled(readNumber(q, text, [twistUnit(units), '°'], 'degrees, such as 12'), 1 / alongM(units));
    case 'temperature':
      return parseTemperature(text, units.temperatures);
    case 'mass':
      return parseMass(text, units.masses);
    case 'force':
      return parseForce(text, units.masses);
    case 'share':
      return scaled(readNumber(q, text, ['%'], 'per cent, such as 12'), 0.01);
    case 'temperature difference':
      return scaled(readNumber(q, text, ['K', '°F', '°C', 'F', 'C'], 'degrees, such as 20'), 1 / perK(units));
    case 'rate':
      return scaled(
        readNumber(q, text, ['K/h', '°F/h', 'F/h', 'C/h', '°C/h'], 'degrees an hour'),
        1 / perK(units),
      );
    case 'number':
      return readNumber(q, text, q.unit ? [q.unit] : [], q.whole ? 'a whole number' : 'a number');
  }
}

const scaled = (parsed: Parsed<number>, by: number): Parsed<number> =>
  parsed.ok ? read(parsed.value * by) : parsed;

/** What keeps a value out, in the shop's units; null where it is within. */
function outside(q: Quantity, value: number, units: Units): string | null {
  if (q.whole && !Number.isInteger(value)) return `${q.label} must be a whole number`;
  // What is typed in other units comes back with the error of a last binary digit.
  const slack = 1e-9 * Math.max(1, Math.abs(value));
  const [low, high] = [showQuantity(q, q.least, units), showQuantity(q, q.most, units)];
  if (q.above ? value <= q.least : value < q.least - slack)
    return q.above ? `${q.label} must be more than ${q.least}` : `${q.label} must be at least ${low}`;
  return value > q.most + slack ? `${q.label} may be at most ${high}` : null;
}

/** Reads what is typed, in the shop's own way; refused in its words where the schema would refuse it. */
export function readQuantity(q: Quantity, text: string, units: Units): Parsed<number> {
  if (text.trim() === '')
    return unread(`${q.label} is empty: write ${showQuantity(q, typical(q), units)}, say`);
  const parsed = readAs(q, text, units);
  if (!parsed.ok) return parsed;
  const refused = outside(q, parsed.value, units);
  return refused ? unread(refused) : read(Math.min(q.most, Math.max(q.least, parsed.value)));
}

/** A value that is certainly allowed, to name as an example. */
const typical = (q: Quantity): number => {
  const middle = Math.min(q.most, Math.max(q.least, q.least < 0 ? 0 : (q.least + q.most) / 2));
  return q.whole ? Math.round(middle) : middle;
};
