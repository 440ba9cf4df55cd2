import { z } from 'zod';
import { CROP_REASONS, type CropReason, care, endCrop } from '../../instruct/action.ts';
import { eachAlike } from '../../billet/billet.ts';
import { keepLength } from '../../billet/removal.ts';
import { formatLength } from '../../units/length.ts';
import { CAUTIONS, error, needsOneBar } from '../contract/common.ts';
import { MOST_SECTION_MM, choice, lengthOrNoneMm } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Length cut off each end, kerf included, mm, and why. */
const parameters = z.strictObject({
  endAMm: lengthOrNoneMm('Off end A', 4 * MOST_SECTION_MM),
  endBMm: lengthOrNoneMm('Off end B', 4 * MOST_SECTION_MM),
  whyA: choice('Why, end A', CROP_REASONS).optional(),
  whyB: choice('Why, end B', CROP_REASONS).optional(),
});

const reason = (why: keyof typeof CROP_REASONS | undefined): CropReason | undefined =>
  why === 'usual' ? undefined : why;

export const crop = defineMove({
  kind: 'crop',
  title: 'Crop the ends',
  short: 'Crop',
  hint: 'cut unsound or distorted ends off',
  group: 'Saw and grind',
  begins: false,
  parameters,
  begin: (): z.infer<typeof parameters> => ({ endAMm: 10, endBMm: 10 }),
  check(before, p, shop) {
    if (before.length === 0) return needsOneBar(before);
    const shortest = Math.min(...before.map((b) => b.lengthMm));
    if (p.endAMm + p.endBMm >= shortest)
      return [
        error(
          'nothing left',
          `The bar is ${formatLength(shortest, shop.lengths)} long: this crops it away.`,
          {
            parameter: 'endAMm',
          },
        ),
      ];
    return [CAUTIONS.saw()];
  },
  apply(before, p, shop) {
    const { after, lost } = eachAlike(before, (bar) =>
      keepLength(bar, p.endAMm, bar.lengthMm - p.endBMm, shop),
    );
    return { after, losses: [{ cause: 'crop' as const, volumes: lost }], added: {} };
  },
  does: (before, p) => [
    ...eachPiece(before, ({ lengthMm }) => [
      ...endCrop('A', p.endAMm, lengthMm - p.endAMm, undefined, reason(p.whyA)),
      ...endCrop('B', p.endBMm, lengthMm - p.endAMm - p.endBMm, undefined, reason(p.whyB)),
    ]),
    ...care('fresh ends etched'),
  ],
});
