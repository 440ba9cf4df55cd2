import {
  type Parsed,
  editableForce,
  editableLength,
  editableTemperature,
  formatForce,
  formatFine,
  formatLength,
  formatMass,
  formatTemperature,
  parseForce,
  parseLength,
  parseMass,
  parseTemperature,
} from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { EntryField } from './EntryField.tsx';

interface NumberFieldProps {
  label: string;
  value: number;
  onChange(value: number): void;
  problem?: string | undefined;
  width?: number | string;
  hideLabel?: boolean;
}

interface LengthFieldProps extends NumberFieldProps {
  /** Nothing (0) is a fair answer. */
  mayBeNone?: boolean | undefined;
  /** To either side of 0. */
  signed?: boolean | undefined;
  /** Finer than the shop's division: thin layers, kerfs, grinding. */
  fine?: boolean | undefined;
  mostMm?: number;
}

/** A length in the shop's unit; takes fractions, sums, and either unit. Value in mm. */
export function LengthField({ value, mayBeNone, signed, fine, mostMm = 10_000, ...rest }: LengthFieldProps) {
  const { lengths } = useShop();
  const read = (text: string): Parsed<number> => {
    const parsed = parseLength(text, lengths.unit);
    if (!parsed.ok) return parsed;
    if (!signed && (parsed.value < 0 || (parsed.value === 0 && !mayBeNone)))
      return { ok: false, message: `${rest.label} must be ${mayBeNone ? '0 or more' : 'more than 0'}` };
    if (Math.abs(parsed.value) > mostMm)
      return { ok: false, message: `${rest.label} may be at most ${formatLength(mostMm, lengths)}` };
    return parsed;
  };
  const format = fine ? formatFine : formatLength;
  return (
    <EntryField
      {...rest}
      value={value}
      shown={format(value, lengths)}
      editable={editableLength(value, lengths)}
      read={read}
    />
  );
}

interface TemperatureFieldProps extends NumberFieldProps {
  /** °C. */
  least?: number;
  most?: number;
}

/** A temperature in the shop's unit. Value in °C. */
export function TemperatureField({ value, least = 500, most = 1400, ...rest }: TemperatureFieldProps) {
  const { temperatures } = useShop();
  const read = (text: string): Parsed<number> => {
    const parsed = parseTemperature(text, temperatures);
    if (parsed.ok && (parsed.value < least || parsed.value > most))
      return {
        ok: false,
        message: `${rest.label} must lie between ${formatTemperature(least, temperatures)} and ${formatTemperature(most, temperatures)}`,
      };
    return parsed;
  };
  return (
    <EntryField
      {...rest}
      value={value}
      shown={formatTemperature(value, temperatures)}
      editable={editableTemperature(value, temperatures)}
      read={read}
    />
  );
}

/** A press's force in the shop's tons. Value in kN. */
export function ForceField({ value, least, most, ...rest }: BoundedProps) {
  const { masses } = useShop();
  const read = (text: string): Parsed<number> => {
    const parsed = parseForce(text, masses);
    if (parsed.ok && (parsed.value < least || parsed.value > most))
      return {
        ok: false,
        message: `${rest.label} must lie between ${formatForce(least, masses)} and ${formatForce(most, masses)}`,
      };
    return parsed;
  };
  return (
    <EntryField
      {...rest}
      value={value}
      shown={formatForce(value, masses)}
      editable={editableForce(value, masses)}
      read={read}
    />
  );
}

interface BoundedProps extends NumberFieldProps {
  least: number;
  most: number;
}

/** A weight in the shop's unit. Value in kg. */
export function MassField({ value, least, most, ...rest }: BoundedProps) {
  const { masses } = useShop();
  const read = (text: string): Parsed<number> => {
    const parsed = parseMass(text, masses);
    if (parsed.ok && (parsed.value < least || parsed.value > most))
      return {
        ok: false,
        message: `${rest.label} must lie between ${formatMass(least, masses)} and ${formatMass(most, masses)}`,
      };
    return parsed;
  };
  const written = formatMass(value, masses);
  return <EntryField {...rest} value={value} shown={written} editable={written} read={read} />;
}

/** A whole number. */
export function CountField({ value, least, most, ...rest }: BoundedProps) {
  const read = (text: string): Parsed<number> => {
    const number = Number(text.trim());
    if (text.trim() === '' || !Number.isInteger(number))
      return { ok: false, message: `${rest.label} must be a whole number` };
    if (number < least || number > most)
      return { ok: false, message: `${rest.label} must lie between ${least} and ${most}` };
    return { ok: true, value: number };
  };
  return <EntryField {...rest} value={value} shown={String(value)} editable={String(value)} read={read} />;
}

/** An angle in degrees. */
export function AngleField({ value, least, most, ...rest }: BoundedProps) {
  const read = (text: string): Parsed<number> => {
    const match = text.trim().match(/^([-−+]?\d*[.,]?\d+)\s*°?$/);
    if (!match) return { ok: false, message: `“${text.trim()}” is not an angle: write degrees, such as 45` };
    const number = Number(match[1].replace(',', '.').replace('−', '-'));
    if (number < least || number > most)
      return { ok: false, message: `${rest.label} must lie between ${least}° and ${most}°` };
    return { ok: true, value: number };
  };
  return (
    <EntryField
      {...rest}
      value={value}
      shown={`${Math.round(value * 100) / 100}°`}
      editable={String(Math.round(value * 1e6) / 1e6)}
      read={read}
    />
  );
}

/** A share, written as per cent. Value 0…1. */
export function ShareField({ value, least, most, ...rest }: BoundedProps) {
  const read = (text: string): Parsed<number> => {
    const number = Number(text.replace('%', '').trim().replace(',', '.')) / 100;
    if (text.trim() === '' || !Number.isFinite(number) || number < least || number > most)
      return { ok: false, message: `${rest.label} must lie between ${100 * least} and ${100 * most} %` };
    return { ok: true, value: number };
  };
  const written = `${Number((100 * value).toFixed(6))} %`;
  return <EntryField {...rest} value={value} shown={written} editable={written} read={read} />;
}

interface PlainNumberProps extends BoundedProps {
  unit?: string | undefined;
}

/** A plain number, whole or not, with its unit where it has one. */
export function NumberField({ value, least, most, unit, ...rest }: PlainNumberProps) {
  const read = (text: string): Parsed<number> => {
    const bare = unit ? text.replace(unit, '') : text;
    const number = Number(bare.trim().replace(',', '.').replace('−', '-'));
    if (bare.trim() === '' || !Number.isFinite(number))
      return { ok: false, message: `${rest.label} must be a number` };
    if (number < least || number > most)
      return { ok: false, message: `${rest.label} must lie between ${least} and ${most}` };
    return { ok: true, value: number };
  };
  const written = unit ? `${value} ${unit}` : String(value);
  return <EntryField {...rest} value={value} shown={written} editable={written} read={read} />;
}

/** How fast a kiln goes, in the shop's degrees an hour. Value in K/h. */
export function RateField({ value, least, most, ...rest }: BoundedProps) {
  const { temperatures } = useShop();
  const each = temperatures === 'C' ? 1 : 1.8;
  const unit = temperatures === 'C' ? 'K/h' : '°F/h';
  return (
    <NumberField
      {...rest}
      unit={unit}
      value={Number((value * each).toFixed(6))}
      least={Math.round(least * each)}
      most={Math.round(most * each)}
      onChange={(shown) => rest.onChange(shown / each)}
    />
  );
}
