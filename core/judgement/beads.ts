import { SIDES } from '../instruct/action.ts';
import { warning } from '../moves/contract/common.ts';
import { type Finding, moveOf } from '../moves/index.ts';
import { formatFine } from '../units/length.ts';
import { heatsIn } from '../plan/index.ts';
import { type Judge } from './judgement.ts';
import { type Beads } from '../billet/billet.ts';

const ENDS = ['endA', 'endB'] as const;
const WORDS: Record<keyof Beads, string> = {
  top: 'the top',
  bottom: 'the bottom',
  left: 'the left',
  right: 'the right',
  endA: 'end A',
  endB: 'end B',
};

/** Weld beads are ground off before anything is pressed or laid on: what is pressed in stays in the steel. */
export const judgeBeads: Judge = ({ result: { step, before }, shop }) => {
  const move = moveOf(step.kind);
  const inTheWay = (heatsIn(step) > 0 && !move.welds) || move.meets !== undefined;
  const bar = before.find((b) => b.beads);
  if (!inTheWay || !bar?.beads) return { figures: [], findings: [] };
  const { beads } = bar;
  const where = Object.keys(beads) as (keyof Beads)[];
  const deepest = Math.max(...where.map((w) => beads[w]!));
  const faces = SIDES.filter((side) => beads[side] !== undefined);
  const remedy: Finding['remedy'] =
    faces.length > 0
      ? {
          label: 'Grind them off first',
          insertBefore: 'grind',
          parameters: {
            topMm: beads.top ?? 0,
            bottomMm: beads.bottom ?? 0,
            leftMm: beads.left ?? 0,
            rightMm: beads.right ?? 0,
          },
        }
      : {
          label: 'Crop them off first',
          insertBefore: 'crop',
          parameters: { endAMm: beads.endA ?? 0, endBMm: beads.endB ?? 0 },
        };
  const ends = faces.length > 0 && ENDS.some((e) => beads[e] !== undefined) ? ' The ends are cropped.' : '';
  return {
    figures: [],
    findings: [
      warning(
        'beads pressed in',
        `Weld beads stand on ${where.map((w) => WORDS[w]).join(', ')}, ${formatFine(deepest, shop.lengths)} deep: pressed in they stay in the steel${bar.tiled ? ', and bumps over the joints of tiles stay until they are ground' : ''}.${ends}`,
        { remedy },
      ),
    ],
  };
};
