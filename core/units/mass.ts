import { type Parsed, read, unread } from './parsed.ts';

export type MassUnit = 'kg' | 'lb';

const KG_PER_POUND = 0.45359237;

const UNIT_KG: Record<string, number> = {
  kg: 1,
  g: 0.001,
  lb: KG_PER_POUND,
  lbs: KG_PER_POUND,
  oz: KG_PER_POUND / 16,
};

/** Reads `1.2 kg`, `350 g`, `2 lb 3 oz`, `5`. A number without a unit is in `bareUnit`. Value in kg. */
export function parseMass(text: string, bareUnit: MassUnit): Parsed<number> {
  const parts = [...text.trim().matchAll(/(\d+(?:[.,]\d*)?|[.,]\d+)\s*([a-z]*)\s*/gi)];
  const whole = parts.map((part) => part[0]).join('');
  if (parts.length === 0 || whole.trim() !== text.trim())
    return unread(`“${text.trim()}” cannot be read as a weight: write 1.2 kg, 350 g or 2 lb 3 oz`);
  let kg = 0;
  for (const [, number, unit] of parts) {
    const factor = UNIT_KG[(unit || bareUnit).toLowerCase()];
    if (factor === undefined) return unread(`“${unit}” is not a weight: write kg, g, lb or oz`);
    kg += Number(number.replace(',', '.')) * factor;
  }
  return read(kg);
}

/** A mass to a tenth of its unit, for an axis: `1.2 kg`, `8.8 lb`. */
export const roughMass = (kg: number, unit: MassUnit): string =>
  unit === 'kg' ? `${Number(kg.toFixed(1))} kg` : `${Number((kg / KG_PER_POUND).toFixed(1))} lb`;

/** A mass as the shop writes it: `2.81 kg`, `140 g`, `6 lb 3.1 oz`. */
export function formatMass(kg: number, unit: MassUnit): string {
  if (unit === 'kg') return Math.abs(kg) < 0.9995 ? `${Math.round(kg * 1000)} g` : `${kg.toFixed(2)} kg`;
  const ounces = Math.round((kg / KG_PER_POUND) * 160) / 10;
  const pounds = Math.trunc(ounces / 16);
  const rest = Math.abs(ounces - pounds * 16);
  return pounds === 0 ? `${ounces.toFixed(1)} oz` : `${pounds} lb ${rest.toFixed(1)} oz`;
}
