import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { sizeOf } from '../../billet/billet.ts';
import { grindFace } from '../../billet/removal.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { formatLength } from '../../units/length.ts';
import { CAUTIONS, error, heated, needsSoundBar } from '../contract/common.ts';
import { MOST_SECTION_MM, heats, lengthMm } from '../../units/quantities.ts';
import { defineMove } from '../contract/move.ts';

/** Straighten flat, then grind both broad faces evenly to a thickness, mm. */
const parameters = z.strictObject({
  thicknessMm: lengthMm('To a thickness of', MOST_SECTION_MM, { fine: true }),
  heats,
});

export const flatten = defineMove({
  kind: 'flatten',
  title: 'Flatten and grind',
  short: 'Flatten',
  hint: 'straighten, then surface-grind both broad faces to a thickness',
  group: 'Surface',
  begins: false,
  bares: () => ['top', 'bottom'],
  parameters,
  begin: (before) => ({
    thicknessMm: before[0] ? Math.max(1, Math.floor((sizeOf(before[0]).heightMm - 0.8) * 10) / 10) : 5,
    heats: 1,
  }),
  check(before, p, shop) {
    const missing = needsSoundBar(before);
    if (missing.length > 0) return missing;
    const { heightMm } = sizeOf(heated(before, p.heats, shop).after[0]);
    const thinner = Math.floor(9.5 * heightMm) / 10;
    if (p.thicknessMm >= heightMm)
      return [
        error(
          'too thick',
          `After its heats the bar is ${formatLength(heightMm, shop.lengths)} thick: nothing is left to grind.`,
          {
            parameter: 'thicknessMm',
            remedy: {
              label: `Grind to ${formatLength(thinner, shop.lengths)}`,
              set: { thicknessMm: thinner },
            },
          },
        ),
      ];
    return [CAUTIONS.press(), CAUTIONS.grinder()];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    const off = (sizeOf(after[0]).heightMm - p.thicknessMm) / 2;
    const top = grindFace(after[0], 'top', off, shop);
    const bottom = grindFace(top.billet, 'bottom', off, shop);
    return {
      after: [bottom.billet],
      losses: [...losses, { cause: 'grinding' as const, volumes: addVolumes(top.lost, bottom.lost) }],
      added: {},
    };
  },
  does: (_before, p) => [
    { do: 'straighten', heats: p.heats },
    ...care('let cool'),
    { do: 'grind both', toMm: p.thicknessMm },
  ],
});
