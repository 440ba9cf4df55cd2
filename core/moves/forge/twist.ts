import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { twisting } from '../../geometry/maps/plain.ts';
import { outlineArea } from '../../geometry/outline.ts';
import { shapeOf } from '../../geometry/shapes.ts';
import type { Shop } from '../../shop/shop.ts';
import {
  CAUTIONS,
  caution,
  degrees,
  error,
  heated,
  needsWelded,
  reshaped,
  warning,
} from '../contract/common.ts';
import { heats, plainNumber } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Whole turns over the length of the bar; counter-clockwise seen on end B where positive. */
const parameters = z.strictObject({
  turns: plainNumber('Whole turns', -60, 60, undefined, 'More than 0: counter-clockwise, seen on end B'),
  heats,
});

type P = z.infer<typeof parameters>;

/** Shear at the rim beyond which bars are known to tear along their seams (common practice, no source). */
const TEARING_SHEAR = 1.5;

const radius = (bar: Billet): number => Math.sqrt(outlineArea(bar.outline) / Math.PI);
const rate = (bar: Billet, p: P): number => (2 * Math.PI * p.turns) / bar.lengthMm;

/** How often a bar can be turned before its skin tears. */
export const mostTurns = (bar: Billet): number =>
  (TEARING_SHEAR * bar.lengthMm) / (2 * Math.PI * radius(bar));

export const twist = defineMove({
  kind: 'twist',
  title: 'Twist',
  hint: 'turn one end against the other: layers become spirals',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin: () => ({ turns: 3, heats: 1 }),
  check(before, p) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing;
    if (shapeOf(before[0].outline) !== 'round')
      return [
        error('not round', 'Corners shear first and tear: round the bar before twisting.', {
          remedy: { label: 'Round it first', insertBefore: 'corners' },
        }),
      ];
    const shear = Math.abs(rate(before[0], p)) * radius(before[0]);
    const most = mostTurns(before[0]);
    const helix = degrees(Math.atan(shear));
    return [
      ...(shear > TEARING_SHEAR
        ? [
            warning(
              'shear',
              `The skin shears by ${shear.toFixed(2)} (${helix.toFixed(0)}° helix); beyond ${TEARING_SHEAR} seams tear. Fewer turns, or a thinner bar.`,
              {
                parameter: 'turns',
                remedy: {
                  label: `${Math.floor(most * 10) / 10} turns`,
                  set: { turns: Math.sign(p.turns) * (Math.floor(most * 10) / 10) },
                },
              },
            ),
          ]
        : []),
      caution('twisting', 'Bars tear and jigs throw: stand beside the bar, not in line with it.'),
      CAUTIONS.fire(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    const twisted = (bar: Billet): Billet => ({
      ...bar,
      field: new MappedField(bar.field, twisting(rate(bar, p))),
      jacket: null,
    });
    return { after: reshaped(after, twisted), losses, added: {} };
  },
  // Half a turn on, layers lie as before.
  repeatMm: ({ lengthMm }, p) => lengthMm / (2 * Math.max(1e-9, Math.abs(p.turns))),
  does(before, p: P, shop: Shop) {
    return [
      ...eachPiece(heated(before, p.heats, shop).after, ({ lengthMm }) => [
        {
          do: 'twist',
          turns: Math.abs(p.turns),
          way: p.turns < 0 ? 'clockwise' : 'counter-clockwise',
          everyMm: lengthMm / Math.max(1e-9, Math.abs(p.turns)),
          heats: p.heats,
        },
      ]),
      ...care('cooled ahead'),
    ];
  },
});
