import { PLANE_GROUPS } from '../core/likeness/symmetry.ts';
import type { Evaluation } from '../core/plan/index.ts';
import { type Offer, looksOf, recipeOf } from '../core/recipes/index.ts';

export const round = (value: number, digits = 3): number => Number(value.toFixed(digits));

/** What is said of a plan that is offered. */
export type Said = ReturnType<typeof said>;

export function said({ spec, element, ...offer }: Offer, evaluation: Evaluation) {
  const { group } = looksOf(evaluation, element) ?? { group: null };
  return {
    recipe: spec.recipe,
    name: recipeOf(spec.recipe).name,
    numbers: spec.numbers,
    side: spec.side,
    columns: spec.columns,
    rows: spec.rows,
    layout: spec.layout,
    around: spec.around,
    element: element && { alongMm: round(element.alongMm), acrossMm: round(element.acrossMm) },
    face: group && { group, words: PLANE_GROUPS[group] },
    steelKg: round(offer.steelKg),
    fourWays: offer.fourWays,
    heats: offer.heats,
    hours: round(offer.hours, 1),
    thinnestBandMm: round(offer.bandMm),
    toldApart: offer.isToldApart,
    remaining: offer.remaining.map(({ code, text }) => ({ code, text })),
  };
}
