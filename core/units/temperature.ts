import { type Parsed, read, unread } from './parsed.ts';

export type TemperatureUnit = 'C' | 'F';

/** Reads `1150`, `1150 C`, `2100 °F`. A number without a unit is in `bareUnit`. Value in °C. */
export function parseTemperature(text: string, bareUnit: TemperatureUnit): Parsed<number> {
  const match = text.trim().match(/^([-−]?\d+(?:[.,]\d+)?)\s*°?\s*([CF]?)$/i);
  if (!match) return unread(`“${text.trim()}” cannot be read as a temperature: write 1150 °C or 2100 °F`);
  const value = Number(match[1].replace(',', '.').replace('−', '-'));
  return read((match[2].toUpperCase() || bareUnit) === 'F' ? ((value - 32) * 5) / 9 : value);
}

/** A temperature to the whole degree: `1150 °C`, `2102 °F`. */
export const formatTemperature = (celsius: number, unit: TemperatureUnit): string =>
  unit === 'C' ? `${Math.round(celsius)} °C` : `${Math.round((celsius * 9) / 5 + 32)} °F`;

/** A difference of temperatures or a rate's numerator: `20 K`, `36 °F`. */
export const formatDegrees = (kelvin: number, unit: TemperatureUnit): string =>
  unit === 'C' ? `${Math.round(kelvin)} K` : `${Math.round((kelvin * 9) / 5)} °F`;

/** How fast a kiln goes, K/h, as the shop writes it. */
export const formatRate = (kPerH: number, unit: TemperatureUnit): string =>
  unit === 'C' ? `${Math.round(kPerH)} K/h` : `${Math.round(kPerH * 1.8)} °F/h`;

/** The text put into an entry field: exact, so that opening and closing the field changes nothing. */
export const editableTemperature = (celsius: number, unit: TemperatureUnit): string =>
  `${Number((unit === 'C' ? celsius : (celsius * 9) / 5 + 32).toFixed(9))} °${unit}`;
