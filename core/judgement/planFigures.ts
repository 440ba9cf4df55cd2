import { figured } from '../words/figures.ts';
import { leastBandMm } from '../geometry/acuity.ts';
import { cutCount } from '../geometry/cutting.ts';
import {
  type Evaluation,
  type RoundsAnswer,
  type Sawing,
  type SectionCuts,
  type Start,
  steelIn,
} from '../plan/index.ts';
import type { Shop } from '../shop/shop.ts';
import { bareLength, divisionMm, formatFine, formatLength, formatSizes } from '../units/length.ts';
import { BY_GEOMETRY, COMMON_PRACTICE, type Figure } from '../units/figure.ts';
import { massFigure } from './sizes.ts';

const FORWARD = 'the plan, run forward move by move';

/** The finished bar beside what was wanted; null while there is none. */
export function finishedFigure({ goal, shop, goalLane }: Evaluation): Figure | null {
  const { sizes, spare } = goal;
  if (!sizes || !spare) return null;
  const { lengthMm, widthMm: wide, thicknessMm } = goal.goal;
  const signed = (mm: number) => `${mm < 0 ? '−' : '+'}${formatFine(Math.abs(mm), shop.lengths)}`;
  return {
    ...figured('finished bar', sizes.lengthMm),
    value: formatSizes([sizes.lengthMm, sizes.widthMm, sizes.heightMm], shop.lengths),
    formula: 'every move in turn, volume kept less what is lost; to spare = comes to − wanted',
    inputs: [
      ['moves of its lane', String(goalLane.steps.length)],
      ['wanted', formatSizes([lengthMm, wide, thicknessMm], shop.lengths)],
      ['length', signed(spare.lengthMm)],
      ['width', signed(spare.widthMm)],
      ['thickness', signed(spare.thicknessMm)],
    ],
    source: FORWARD,
  };
}

/** A starting number found by working backward; `value` as it is written, `reachesMm` what the plan then comes to. */
export const startFigure = (
  evaluation: Evaluation,
  start: Start,
  value: string,
  reachesMm: number,
): Figure => ({
  ...figured('start', start.value, `Start: ${start.label}`),
  value,
  formula: start.whole
    ? 'the least whole number with which the plan reaches the goal'
    : 'the least length, in whole divisions, with which the plan reaches the goal',
  inputs: [
    ['finished length wanted', formatLength(evaluation.plan.goal.lengthMm, evaluation.shop.lengths)],
    ['with it the plan comes to', formatFine(reachesMm, evaluation.shop.lengths)],
    [
      'division',
      start.whole ? '1' : formatFine(divisionMm(evaluation.shop.lengths), evaluation.shop.lengths),
    ],
  ],
  source: `a search over starts; each is ${FORWARD}`,
});

/** How long each piece of a cut is. */
export function pieceFigure({ cutting, pieceMm, largestDifferenceMm }: Sawing, { lengths }: Shop): Figure {
  return {
    ...figured('each piece', pieceMm),
    value: formatLength(pieceMm, lengths),
    formula: 'ℓ = (bar − crop A − crop B − cuts × kerf) / pieces',
    inputs: [
      ['bar', formatFine(cutting.lengthMm, lengths)],
      ['crops', `${bareLength(cutting.cropAMm, lengths)} and ${formatLength(cutting.cropBMm, lengths)}`],
      ['cuts × kerf', `${cutCount(cutting)} × ${formatFine(cutting.kerfMm, lengths)}`],
      ['pieces', String(cutting.pieces)],
      ['exactly', formatFine(pieceMm, lengths)],
      ['rounded marks leave', formatFine(largestDifferenceMm, lengths)],
    ],
    source: BY_GEOMETRY,
  };
}

/** The bars that one section is cut from. */
export function barsFigure({ cutting, rows }: SectionCuts, { lengths, kerfMm }: Shop): Figure {
  const pieces = rows.reduce((n, r) => n + r.count, 0);
  const rest = cutting.bars.reduce((mm, b) => mm + b.restMm, 0);
  return {
    ...figured('bars', cutting.bars.length),
    value: String(cutting.bars.length),
    formula:
      'pieces + kerfs in each bar; of all ways the one of least price, or of least length where prices are not known',
    inputs: [
      ['pieces', String(pieces)],
      ['kerf', formatFine(kerfMm, lengths)],
      ['left over in all', formatLength(rest, lengths)],
      [
        'least possible',
        cutting.proven ? 'yes, no better way exists' : 'not proven; never worse than longest first',
      ],
    ],
    source: 'cutting-stock problem: branch and bound, begun from first-fit decreasing',
  };
}

/** What so many more four-way rounds come to. */
export const roundsFigure = (
  { rounds, lengthMm, bandMm }: RoundsAnswer,
  { plan, shop }: Evaluation,
): Figure => ({
  ...figured(
    'rounds',
    lengthMm,
    rounds === 0 ? 'As planned' : `${rounds} more ${rounds === 1 ? 'round' : 'rounds'}`,
  ),
  value: lengthMm > 0 ? formatLength(lengthMm, shop.lengths) : 'nothing',
  formula: 'a round: saw in four, grind the faces, lay mirrored, weld, draw back to the size it had',
  inputs: [
    ['wanted', formatLength(plan.goal.lengthMm, shop.lengths)],
    ['thinnest band', formatFine(bandMm, shop.lengths)],
    ['the eye tells bands from', formatFine(leastBandMm(shop.viewingMm), shop.lengths)],
  ],
  source: `${FORWARD}; ${COMMON_PRACTICE}`,
});

/** All steel that comes in. */
export const steelFigure = (evaluation: Evaluation): Figure =>
  massFigure('steel in', steelIn(evaluation), evaluation.shop);
