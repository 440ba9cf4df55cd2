import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { wedging } from '../../geometry/maps/plain.ts';
import type { Outline } from '../../geometry/outline.ts';
import { CAUTIONS, heated, needsSoundBars, note, reshaped } from '../contract/common.ts';
import { angleDeg, heats } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Press a bar to a wedge, apex down, with this angle at the apex. Four of 90° make a square. */
const parameters = z.strictObject({ apexDeg: angleDeg('Angle at the point', 20, 120), heats });

type P = z.infer<typeof parameters>;

/** Base and height of the triangle that holds the same area: b·h/2 = A, b = 2h·tan(apex/2). */
function triangle(areaMm2: number, apexDeg: number): { baseMm: number; heightMm: number } {
  const t = Math.tan((apexDeg * Math.PI) / 360);
  const heightMm = Math.sqrt(areaMm2 / t);
  return { baseMm: 2 * heightMm * t, heightMm };
}

function wedged(bar: Billet, p: P): Billet {
  const { widthMm, heightMm } = sizeOf(bar);
  const to = triangle(widthMm * heightMm, p.apexDeg);
  const outline: Outline = [
    [0, -to.heightMm / 2],
    [to.baseMm / 2, to.heightMm / 2],
    [-to.baseMm / 2, to.heightMm / 2],
  ];
  return {
    ...bar,
    outline,
    field: new MappedField(bar.field, wedging(widthMm, heightMm, to.baseMm, to.heightMm)),
    jacket: null,
  };
}

export const wedge = defineMove({
  kind: 'wedge',
  title: 'Press a wedge',
  short: 'Wedge',
  hint: 'gather upright layers into a fan; four wedges make a sunburst',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin: () => ({ apexDeg: 90, heats: 2 }),
  check(before, p) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    return [
      ...(Math.abs(p.apexDeg - 90) > 1e-9
        ? [note('apex', 'Four wedges close to a square only with an apex of 90°.')]
        : []),
      note(
        'first order',
        'A first-order picture: the layers gather evenly into the apex. Friction in real V dies holds the outer ones back.',
      ),
      CAUTIONS.press(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    return { after: reshaped(after, (bar) => wedged(bar, p)), losses, added: {} };
  },
  presses([bar], p, shop) {
    const { widthMm, heightMm } = sizeOf(bar);
    // At the end the dies bear on the whole of the wedge.
    const to = triangle(widthMm * heightMm, p.apexDeg);
    return {
      widthMm: to.baseMm,
      heightMm: Math.max(heightMm, to.heightMm),
      toHeightMm: to.heightMm,
      biteMm: shop.biteMm,
    };
  },
  does(before, p, shop) {
    return [
      ...care('top marked'),
      ...eachPiece(heated(before, p.heats, shop).after, (bar) => {
        const { widthMm, heightMm } = sizeOf(bar);
        const to = triangle(widthMm * heightMm, p.apexDeg);
        return [
          { do: 'press wedge', apexDeg: p.apexDeg, acrossMm: to.baseMm, deepMm: to.heightMm, heats: p.heats },
        ];
      }),
    ];
  },
});
