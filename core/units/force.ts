import type { MassUnit } from './mass.ts';
import { type Parsed, read, unread } from './parsed.ts';

/** kN of one metric ton-force, and of one short (US) ton-force. */
const KN: Record<MassUnit, number> = { kg: 9.80665, lb: 8.896443230521 };

/** A press's force as shops write it: `25 t` (metric), `27.6 tons` (short) where masses are in pounds. */
export const formatForce = (kN: number, unit: MassUnit): string => {
  const tons = kN / KN[unit];
  return `${tons < 10 ? tons.toFixed(1) : Math.round(tons)} ${unit === 'kg' ? 't' : 'tons'}`;
};

/** Reads `25 t`, `30 tons`, `250 kN`, `25`. `t` is metric, `tons` short; a bare number is in the shop's. Value in kN. */
export function parseForce(text: string, bareUnit: MassUnit): Parsed<number> {
  const match = text.trim().match(/^(\d*[.,]?\d+)\s*(t|tons?|kN)?$/i);
  if (!match) return unread(`“${text.trim()}” is not a force: write 25 t, 30 tons or 250 kN`);
  const unit = (match[2] ?? '').toLowerCase();
  const each = unit === 'kn' ? 1 : unit === 't' ? KN.kg : unit.startsWith('ton') ? KN.lb : KN[bareUnit];
  return read(Number(match[1].replace(',', '.')) * each);
}

/** The text put into an entry field: exact. */
export const editableForce = (kN: number, unit: MassUnit): string =>
  `${Number((kN / KN[unit]).toFixed(6))} ${unit === 'kg' ? 't' : 'tons'}`;
