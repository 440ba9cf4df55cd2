import { materialById } from '../materials/material.ts';
import { massKg } from '../materials/volumes.ts';
import { boughtVolume, isSawn } from '../moves/index.ts';
import { ofTheBar } from '../records/record.ts';
import { secondsOf } from '../records/said.ts';
import { cutList, fits } from './cutList.ts';
import { type Evaluation, allSteps } from './evaluate.ts';
import { heatsIn } from './plan.ts';

/** What a piece took so far. Money in the shop's own currency; null where a price is not known. */
export interface Spent {
  /** While moves with heats were being done: the fire burnt. h */
  readonly fireHours: number;
  readonly gasKg: number;
  readonly gasPrice: number | null;
  /** Of what was cut from bars, by length; what is left of a bar is not counted. */
  readonly steelPrice: number | null;
  /** Steels and powders without a price, by name. */
  readonly unpriced: readonly string[];
}

/** What the steel of a plan costs, cut from bars as they are sold, by length; null of a steel without a price. */
export function steelPrices(
  evaluation: Evaluation,
): { readonly material: string; readonly kg: number; readonly price: number | null }[] {
  const { shop } = evaluation;
  const by = new Map<string, { material: string; kg: number; price: number | null }>();
  for (const row of cutList(evaluation)) {
    const material = materialById(shop.materials, row.material);
    const perMm = (isSawn(row) ? (material?.packages ?? []) : [])
      .filter((p) => p.price !== undefined && fits(p, row))
      .map((p) => p.price! / p.lengthMm);
    const own = by.get(row.material) ?? { material: row.material, kg: 0, price: 0 };
    own.kg += massKg({ [row.material]: boughtVolume(row) * row.count }, shop.materials);
    own.price =
      own.price === null || perMm.length === 0
        ? null
        : own.price + Math.min(...perMm) * row.lengthMm * row.count;
    by.set(row.material, own);
  }
  return [...by.values()];
}

/** What the moves that were written of took in gas, and the whole plan in steel as it stands. */
export function spentOn(stands: Evaluation): Spent {
  const { shop } = stands;
  const { gasKgPerH, gasPricePerKg } = shop.forge;
  const fireHours = allSteps(stands)
    .flatMap(({ step, records }) =>
      ofTheBar(records)
        .filter((r) => (r.heats ?? heatsIn(step)) > 0)
        .map((r) => (secondsOf(r) ?? 0) / 3600),
    )
    .reduce((sum, h) => sum + h, 0);
  const gasKg = fireHours * gasKgPerH;
  const steels = steelPrices(stands);
  const unpriced = steels
    .filter((s) => s.price === null)
    .map((s) => materialById(shop.materials, s.material)?.name ?? s.material);
  return {
    fireHours,
    gasKg,
    gasPrice: gasPricePerKg > 0 ? gasKg * gasPricePerKg : null,
    steelPrice: unpriced.length > 0 ? null : steels.reduce((sum, s) => sum + (s.price ?? 0), 0),
    unpriced,
  };
}
