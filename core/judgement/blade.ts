import { CHOPS, bladeFit, isForChopping } from '../blade/index.ts';
import { warning } from '../moves/contract/common.ts';
import type { Finding } from '../moves/index.ts';
import { COMMON_PRACTICE } from '../units/figure.ts';
import { formatFine, formatLength } from '../units/length.ts';
import { figured } from '../words/figures.ts';
import { type Case, type Judge, NOTHING_TO_SAY } from './judgement.ts';

/** What the blade needs of the bar, and whether there is enough for the tang. */
function tangFinding({ finished, result, shop }: Case): Finding[] {
  const blade = finished?.blade;
  if (!blade) return [];
  const [bar] = result.after;
  const need = blade.lengthMm + blade.tangLengthMm;
  const fit = bladeFit(bar, blade, shop);
  const short = Math.max(need - bar.lengthMm, -fit.behindTangMm, -fit.pastTipMm);
  if (short <= 0) return [];
  const say = (mm: number) => formatLength(mm, shop.lengths);
  return [
    warning(
      'tang short',
      `Blade and tang want ${say(need)} of bar and there ${bar.lengthMm < need ? `are ${say(bar.lengthMm)}` : `is not enough where they lie`}: ${say(short)} short.`,
      {
        why: {
          ...figured('bar for blade', need),
          value: say(need),
          formula: 'blade + tang',
          inputs: [
            ['blade', say(blade.lengthMm)],
            ['tang', say(blade.tangLengthMm)],
            ['bar', say(bar.lengthMm)],
          ],
          source: COMMON_PRACTICE,
        },
      },
    ),
  ];
}

/** An edge that rolls or chips when it hits a board or wood. */
function thinFinding({ finished, shop }: Case): Finding[] {
  const blade = finished?.blade;
  if (!blade || !isForChopping(blade)) return [];
  if (blade.edgeMm >= CHOPS.edgeMm) return [];
  const fine = (mm: number) => formatFine(mm, shop.lengths);
  return [
    warning(
      'thin for chopping',
      `Ground to ${fine(blade.edgeMm)} at the edge, a blade as high as this one is too thin to chop with: leave ${fine(CHOPS.edgeMm)} at least.`,
      {
        why: {
          ...figured('edge thickness', blade.edgeMm),
          value: fine(blade.edgeMm),
          formula: 'as the blade says; high for its length: made to chop',
          inputs: [
            ['height', formatLength(blade.heightMm, shop.lengths)],
            ['length', formatLength(blade.lengthMm, shop.lengths)],
            ['wanted at least', fine(CHOPS.edgeMm)],
          ],
          source: COMMON_PRACTICE,
        },
      },
    ),
  ];
}

/** The finished bar as the blade that lies on it wants it. */
export const judgeBlade: Judge = (subject) =>
  subject.result.after[0]
    ? { figures: [], findings: [...tangFinding(subject), ...thinFinding(subject)] }
    : NOTHING_TO_SAY;
