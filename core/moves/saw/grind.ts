import { z } from 'zod';
import { type Action, care } from '../../instruct/action.ts';
import { type Loss, eachAlike, sizeOf } from '../../billet/billet.ts';
import { type SideFace, grindFace } from '../../billet/removal.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { formatSizes } from '../../units/length.ts';
import { CAUTIONS, error, needsOneBar } from '../contract/common.ts';
import { MOST_SECTION_MM, lengthOrNoneMm } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/** Depth taken off each long face, mm. */
const parameters = z.strictObject({
  topMm: lengthOrNoneMm('Off the top', MOST_SECTION_MM, { fine: true }),
  bottomMm: lengthOrNoneMm('Off the bottom', MOST_SECTION_MM, { fine: true }),
  leftMm: lengthOrNoneMm('Off the left', MOST_SECTION_MM, { fine: true }),
  rightMm: lengthOrNoneMm('Off the right', MOST_SECTION_MM, { fine: true }),
});

type Depths = z.infer<typeof parameters>;

const depths = (p: Depths): [SideFace, number][] => [
  ['top', p.topMm],
  ['bottom', p.bottomMm],
  ['left', p.leftMm],
  ['right', p.rightMm],
];

export const grind = defineMove({
  kind: 'grind',
  title: 'Grind',
  hint: 'take steel off the long faces',
  group: 'Saw and grind',
  begins: false,
  bares: (p) => depths(p).flatMap(([side, mm]) => (mm > 0 ? [side] : [])),
  parameters,
  begin(before, { fayingMm }) {
    // Beads come off whole.
    const off = (side: SideFace) => Math.max(fayingMm, ...before.map((b) => b.beads?.[side] ?? 0));
    return { topMm: off('top'), bottomMm: off('bottom'), leftMm: off('left'), rightMm: off('right') };
  },
  check(before, p, shop) {
    if (before.length === 0) return needsOneBar(before);
    const { widthMm, heightMm } = sizeOf(before[0]);
    const findings: Finding[] = [];
    if (p.topMm + p.bottomMm >= heightMm || p.leftMm + p.rightMm >= widthMm)
      findings.push(
        error(
          'nothing left',
          `The bar is ${formatSizes([widthMm, heightMm], shop.lengths)}: this grinds it away.`,
          { parameter: p.topMm + p.bottomMm >= heightMm ? 'topMm' : 'leftMm' },
        ),
      );
    findings.push(CAUTIONS.grinder());
    return findings;
  },
  apply(before, p, shop) {
    const { after, lost } = eachAlike(before, (bar) => {
      let ground = bar;
      const taken = depths(p).map(([face, depthMm]) => {
        if (depthMm === 0) return {};
        const removal = grindFace(ground, face, depthMm, shop);
        ground = removal.billet;
        return removal.lost;
      });
      return { billet: ground, lost: addVolumes(...taken) };
    });
    const losses: Loss[] = [{ cause: 'grinding', volumes: lost }];
    return { after, losses, added: {} };
  },
  grinds: (p) => p,
  does(before, p) {
    const faces = depths(p).filter(([, mm]) => mm > 0);
    if (faces.length === 0) return care('nothing ground');
    return eachPiece(before, () => faces.map(([side, offMm]): Action => ({ do: 'grind off', side, offMm })));
  },
});
