import { z } from 'zod';
import { craft } from '../../instruct/action.ts';
import { type Billet } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { twisting } from '../../geometry/maps/plain.ts';
import { outlineArea, shapeOf } from '../../geometry/outline.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatLength } from '../../units/length.ts';
import {
  CAUTIONS,
  caution,
  degrees,
  error,
  heated,
  needsWelded,
  plural,
  reshaped,
  warning,
} from '../contract/common.ts';
import { heats, plainNumber } from '../../units/quantities.ts';
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
    const most = (TEARING_SHEAR * before[0].lengthMm) / (2 * Math.PI * radius(before[0]));
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
  does([bar], p: P, shop: Shop) {
    const pitch = bar.lengthMm / Math.max(1e-9, Math.abs(p.turns));
    return craft(
      `Even heat over the whole length; twist ${Math.abs(p.turns)} turns ${p.turns < 0 ? 'clockwise' : 'counter-clockwise'}, seen on end B, in ${plural(p.heats, 'heat')}: a full turn every ${formatLength(pitch, shop.lengths)}.`,
      'Cool with water where it runs ahead. Square the bar again before it is laid beside others.',
    );
  },
});
