import { FILLINGS, type Filling } from '../canister/can.ts';
import { materialById } from '../materials/material.ts';
import { MOVE_KINDS, moveOf } from '../moves/index.ts';
import type { Shop } from '../shop/shop.ts';
import { formatFine, formatLength } from '../units/length.ts';
import type { Units } from '../units/quantityText.ts';
import type { Prior } from './estimate.ts';
import { type NumberId, numberOf, partsOf } from './numbers.ts';

/** Shares from here on are written to a tenth of a per cent, smaller ones to a hundredth. */
const COARSE = 0.1;
const M_PER_FT = 0.3048;

/** A value of a number as the shop writes it. */
export function valueSaid(id: NumberId, value: number, { lengths }: Units): string {
  const { written } = numberOf(id);
  const signed = (text: string) => (value < 0 ? `−${text}` : text);
  const size = Math.abs(value);
  if (written === 'fine') return signed(formatFine(size, lengths));
  if (written === 'length') return signed(formatLength(size, lengths));
  if (written === 'percent') return signed(`${(100 * size).toFixed(size < COARSE ? 2 : 1)} %`);
  if (written === 'degrees') return signed(`${size.toFixed(1)}°`);
  if (written === 'times') return `${value.toFixed(2)} ×`;
  return lengths.unit === 'in'
    ? signed(`${(size * M_PER_FT).toFixed(1)}°/ft`)
    : signed(`${size.toFixed(1)}°/m`);
}

/** “1.20 mm, give or take 0.05 mm”. */
export const sureSaid = (id: NumberId, { value, sure }: Prior, units: Units): string =>
  `${valueSaid(id, value, units)}, give or take ${valueSaid(id, sure, units)}`;

/** Of which set-up, handle, powder or move a number is, and by which tool or way, as they are called. */
export function subjectSaid(id: NumberId, subject: string, { materials }: Pick<Shop, 'materials'>): string {
  const { per } = numberOf(id);
  const { of, by } = partsOf(subject);
  const kind = MOVE_KINDS.find((k) => k === of);
  const called = {
    powder: materialById(materials, of)?.name ?? of,
    move: kind ? moveOf(kind).title : of,
    'set-up': of,
    handle: of,
  }[per];
  return by === undefined ? called : `${called}, ${by in FILLINGS ? FILLINGS[by as Filling] : by}`;
}
