import { type Billet, sizeOf } from '../billet/billet.ts';
import { massKg } from '../materials/volumes.ts';
import type { Step } from '../plan/index.ts';
import type { Shop } from '../shop/shop.ts';
import { formatLength } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import type { Units } from '../units/quantityText.ts';
import type { NumberId } from './numbers.ts';

/** Bounds between which bars count as of one sort: mm of the least side, kg in the fire together. */
const SIDES_MM = [12, 30] as const;
const MASSES_KG = [1, 3] as const;

/** What a move is done to: its bars before it, in a shop. */
interface DoneTo {
  readonly step: Step;
  readonly before: readonly Billet[];
  readonly shop: Shop;
}

const bySection = ({ before }: DoneTo): string | null =>
  before.length === 0
    ? null
    : sorted(
        's',
        SIDES_MM,
        Math.min(
          ...before.map((bar) => {
            const { widthMm, heightMm } = sizeOf(bar);
            return Math.min(widthMm, heightMm);
          }),
        ),
      );

const byMass = ({ before, shop }: DoneTo): string | null =>
  before.length === 0
    ? null
    : sorted(
        'm',
        MASSES_KG,
        before.reduce((kg, bar) => kg + massKg(bar.volumes, shop.materials), 0),
      );

/** “s0”, “s1” …: which bounds a value lies between. */
const sorted = (kind: string, bounds: readonly number[], value: number): string =>
  `${kind}${bounds.filter((b) => value >= b).length}`;

/** What a number may differ by within one fire or kind of move: of each the sort that a move is. */
const SORTS: Partial<Record<NumberId, (to: DoneTo) => string | null>> = {
  scale: bySection,
  heats: byMass,
  minutes: byMass,
};

/** Of which sort a move is for a number; null where the number knows none. */
export const sortOf = (number: NumberId, to: DoneTo): string | null => SORTS[number]?.(to) ?? null;

const between = (
  i: number,
  [low, high]: readonly [number, number],
  said: (value: number) => string,
): string =>
  i === 0 ? `under ${said(low)}` : i === 1 ? `${said(low)} to ${said(high)}` : `from ${said(high)}`;

/** A sort in words: “under 12 mm thick”, “1 kg to 3 kg”. */
export function sortSaid(sort: string, { lengths, masses }: Units): string {
  const i = Number(sort.slice(1));
  return sort.startsWith('s')
    ? `${between(i, SIDES_MM, (mm) => formatLength(mm, lengths))} thick`
    : between(i, MASSES_KG, (kg) => (masses === 'kg' ? `${kg} kg` : formatMass(kg, masses)));
}
