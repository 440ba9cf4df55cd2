import {
  type Parsed,
  editableLength,
  formatFine,
  formatLength,
  formatTemperature,
  parseLength,
  parseTemperature,
} from '../../../core/units/index.ts';
import { useShop } from '../plan/useEvaluation.ts';
import { EntryField } from './EntryField.tsx';

interface NumberFieldProps {
  label: string;
  value: number;
  onChange(value: number): void;
  problem?: string | undefined;
  width?: number | string;
}

interface LengthFieldProps extends NumberFieldProps {
  /** Nothing (0) is a fair answer. */
  mayBeNone?: boolean | undefined;
  /** To either side of 0. */
  signed?: boolean | undefined;
  /** Finer than the shop's division: thin layers, kerfs, grinding. */
  fine?: boolean | undefined;
  mostMm?: number;
  hideLabel?: boolean;
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

/** A temperature in the shop's unit. Value in °C. */
export function TemperatureField({ value, ...rest }: NumberFieldProps) {
  const { temperatures } = useShop();
  const shown = formatTemperature(value, temperatures);
  const read = (text: string): Parsed<number> => {
    const parsed = parseTemperature(text, temperatures);
    if (parsed.ok && (parsed.value < 500 || parsed.value > 1400))
      return {
        ok: false,
        message: `${rest.label} must lie between ${formatTemperature(500, temperatures)} and ${formatTemperature(1400, temperatures)}`,
      };
    return parsed;
  };
  return <EntryField {...rest} value={value} shown={shown} editable={shown} read={read} />;
}

interface BoundedProps extends NumberFieldProps {
  least: number;
  most: number;
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

/** A plain number, whole or not. */
export function NumberField({ value, least, most, ...rest }: BoundedProps) {
  const read = (text: string): Parsed<number> => {
    const number = Number(text.trim().replace(',', '.').replace('−', '-'));
    if (text.trim() === '' || !Number.isFinite(number))
      return { ok: false, message: `${rest.label} must be a number` };
    if (number < least || number > most)
      return { ok: false, message: `${rest.label} must lie between ${least} and ${most}` };
    return { ok: true, value: number };
  };
  return <EntryField {...rest} value={value} shown={String(value)} editable={String(value)} read={read} />;
}
