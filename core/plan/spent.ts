import { materialById } from '../materials/material.ts';
import { isSawn } from '../moves/index.ts';
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
  const unpriced = new Set<string>();
  let steel = 0;
  for (const row of cutList(stands)) {
    const material = materialById(shop.materials, row.material);
    const perMm = (isSawn(row) ? (material?.packages ?? []) : [])
      .filter((p) => p.price !== undefined && fits(p, row))
      .map((p) => p.price! / p.lengthMm);
    if (perMm.length === 0) unpriced.add(material?.name ?? row.material);
    else steel += Math.min(...perMm) * row.lengthMm * row.count;
  }
  return {
    fireHours,
    gasKg,
    gasPrice: gasPricePerKg > 0 ? gasKg * gasPricePerKg : null,
    steelPrice: unpriced.size > 0 ? null : steel,
    unpriced: [...unpriced],
  };
}
