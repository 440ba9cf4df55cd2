import { materialById } from '../materials/material.ts';
import { type Evaluation, type StepResult, allSteps, heatsIn, steelPrices } from '../plan/index.ts';
import { isDone, ofTheBar } from '../records/record.ts';
import { secondsOf } from '../records/said.ts';
import type { Shop } from '../shop/shop.ts';
import { formatMass } from '../units/mass.ts';
import { type Pace, handsSeconds } from './tasks.ts';

/** One thing that a piece takes: how much of it, and what that costs. Money in the shop's own currency; null where a price is not known. */
export interface QuoteRow {
  readonly what: string;
  readonly amount: number;
  readonly unit: 'h' | 'kg';
  readonly price: number | null;
}

/** What a piece takes, for a maker to quote from: what was written down where a move is done, as reckoned where it is not. */
export interface Quote {
  readonly rows: readonly QuoteRow[];
  /** Of the rows that have a price. */
  readonly total: number;
  /** What has none, by name. */
  readonly unpriced: readonly string[];
}

/** “6.4 h”, “957 g”. */
export const amountSaid = ({ amount, unit }: QuoteRow, { masses }: Shop): string =>
  unit === 'h' ? `${amount.toFixed(1)} h` : formatMass(amount, masses);

/** “269.36 €”. */
export const moneySaid = (price: number, { currency }: Shop): string =>
  `${price.toFixed(2)} ${currency}`.trim();

/** h. Of a move that is done what was worked at it, else as it is reckoned. */
function hoursAt(result: StepResult, evaluation: Evaluation, pace?: Pace): number {
  if (!isDone(result.records)) return handsSeconds(result, evaluation, pace) / 3600;
  return ofTheBar(result.records).reduce((sum, r) => sum + (secondsOf(r) ?? 0), 0) / 3600;
}

const grinds = ({ step, losses }: StepResult): boolean =>
  heatsIn(step) === 0 && losses.some((l) => l.cause === 'grinding');

const priced = (amount: number, each: number): number | null => (each > 0 ? amount * each : null);

/** What a piece takes as it stands, in hours and kg, at the shop's own prices; `pace`: how long moves take this shop, against the plan. */
export function quoteOf(evaluation: Evaluation, pace?: Pace): Quote {
  const { shop } = evaluation;
  const hours = allSteps(evaluation).map((result) => ({ result, h: hoursAt(result, evaluation, pace) }));
  const sum = (of: (result: StepResult) => boolean): number =>
    hours.reduce((total, { result, h }) => total + (of(result) ? h : 0), 0);
  const work = sum(() => true);
  const gasKg = sum(({ step }) => heatsIn(step) > 0) * shop.forge.gasKgPerH;
  const grinding = sum(grinds);
  const rows: QuoteRow[] = [
    { what: 'Work', amount: work, unit: 'h', price: priced(work, shop.hourPrice) },
    ...steelPrices(evaluation).map(({ material, kg, price }): QuoteRow => ({
      what: materialById(shop.materials, material)?.name ?? material,
      amount: kg,
      unit: 'kg',
      price,
    })),
    { what: 'Gas', amount: gasKg, unit: 'kg', price: priced(gasKg, shop.forge.gasPricePerKg) },
    { what: 'Belts and discs', amount: grinding, unit: 'h', price: priced(grinding, shop.abrasivePrice) },
  ];
  const taken = rows.filter((r) => r.amount > 0);
  return {
    rows: taken,
    total: taken.reduce((total, r) => total + (r.price ?? 0), 0),
    unpriced: taken.filter((r) => r.price === null).map((r) => r.what),
  };
}
