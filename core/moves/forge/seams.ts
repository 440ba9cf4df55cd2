import { z } from 'zod';
import type { Billet } from '../../billet/billet.ts';
import { piecesOf } from '../../billet/laidPieces.ts';
import { exponentOf, frictionFactor, strengthsOf } from '../../billet/sectionFlow.ts';
import { outlineSize } from '../../geometry/outline.ts';
import { MOST_PIECES, type SeamQuestion } from '../../loose/question.ts';
import { MOST_SLENDER } from './upset.ts';
import type { Shop } from '../../shop/shop.ts';
import { stopDivisionMm, wholeMm } from '../../units/length.ts';
import { MOST_LENGTH_MM, count, lengthMm, lengthOrNoneMm } from '../../units/quantities.ts';

/** Gaps and corners larger than this are no preparation. mm */
const MOST_GAP_MM = 3;
const MOST_CORNER_MM = 10;
const MOST_PRESSES = 20;

/** What is asked about the seams of loose pieces: how the faces were got ready, and how they are pressed. mm */
export const seamsAsked = z.strictObject({
  gapMm: lengthOrNoneMm('Ends open by', MOST_GAP_MM, {
    fine: true,
    hint: 'by feeler gauge, touching in the middle',
  }),
  cornerMm: lengthOrNoneMm('Corners broken by', MOST_CORNER_MM, {
    fine: true,
    hint: 'the radius; 0 where they are sharp',
  }),
  larger: z
    .strictObject({
      piece: count('The piece that is larger', 1, MOST_PIECES),
      byMm: lengthMm('Larger by', MOST_GAP_MM, { fine: true }),
    })
    .optional(),
  presses: z
    .array(
      z.strictObject({ turned: z.boolean(), toMm: lengthMm('Press to', MOST_LENGTH_MM, { fine: true }) }),
    )
    .min(1, 'At least one press')
    .max(MOST_PRESSES, `At most ${MOST_PRESSES} presses`),
});

export type SeamsAsked = z.infer<typeof seamsAsked>;

/** Nothing goes along the bar where the section is seen from its side: across it the bar is held by its own width. */
const FROM_THE_SIDE = 'held';

/** How usual faces are got ready: a hand-ground crown, edges just broken. mm */
const USUAL = { gapMm: 0.2, cornerMm: 0.5 };
/** Of the height: light presses all round, and then harder ones. */
const LIGHT = 0.015;
const HARDER = 0.04;

/** Width and height of all that lies there, mm. */
const sizeOfAll = (bar: Billet): readonly [wide: number, high: number] => {
  const { widthMm, heightMm } = outlineSize(piecesOf(bar)!.each.flatMap((p) => p.outline));
  return [widthMm, heightMm];
};

/** What is first asked about a bar's seams: light ones all round, then harder; what is too slender is not stood on end. */
export function usualSeams(bar: Billet, shop: Shop): SeamsAsked {
  const [wide, high] = sizeOfAll(bar);
  const to = (mm: number, share: number) => wholeMm(mm * (1 - share), stopDivisionMm(shop.lengths));
  const upright = (share: number) =>
    wide > MOST_SLENDER * high ? [] : [{ turned: true, toMm: to(wide, share) }];
  const back = wide <= MOST_SLENDER * high;
  return {
    ...USUAL,
    presses: [
      { turned: false, toMm: to(high, LIGHT) },
      ...upright(LIGHT),
      { turned: back, toMm: to(high, HARDER) },
      ...upright(HARDER),
    ],
  };
}

/** The first press that stands what lies there so tall and thin that it buckles, which is not reckoned; 0 where none does. */
export function bucklesIn(bar: Billet, { presses }: SeamsAsked): number {
  let [wide, high] = sizeOfAll(bar);
  for (const [i, { turned, toMm }] of presses.entries()) {
    if (turned) [wide, high] = [high, wide];
    if (high > MOST_SLENDER * wide && toMm < high) return i + 1;
  }
  return 0;
}

/** Why nothing can be asked about the seams of a bar; nothing where it can. */
export function whyNoSeams(bar: Billet | undefined): string | null {
  const laid = bar && piecesOf(bar);
  if (!laid) return 'The pieces do not lie in one section.';
  if (laid.each.length < 2) return 'One piece has no seams.';
  return laid.each.length > MOST_PIECES
    ? `${laid.each.length} pieces lie here; up to ${MOST_PIECES} can be worked out together.`
    : null;
}

/** All that decides how the seams of a bar's loose pieces close. */
export function seamQuestion(bar: Billet, { larger, ...asked }: SeamsAsked, shop: Shop): SeamQuestion {
  const { seen, each } = piecesOf(bar)!;
  const across = seen === 'from the end';
  return {
    ...asked,
    pieces: each,
    strengths: across
      ? strengthsOf(
          bar,
          each.map((p) => p.outline),
          shop,
        )
      : each.map(() => 1),
    exponent: exponentOf(bar, shop),
    friction: frictionFactor(shop),
    biteMm: across ? shop.biteMm : FROM_THE_SIDE,
    larger: larger && larger.piece <= each.length ? { piece: larger.piece - 1, byMm: larger.byMm } : null,
    welds: true,
  };
}
