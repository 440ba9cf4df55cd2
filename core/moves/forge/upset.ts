import { z } from 'zod';
import { type Billet, sizeOf, stretched } from '../../billet/billet.ts';
import { GridField } from '../../billet/fields/grid.ts';
import { LaidDownField } from '../../billet/fields/laid.ts';
import { turnedBar } from '../../billet/turned.ts';
import { ROLLED_TOP_BOTTOM, orientationNamed } from '../../geometry/orientation.ts';
import { outlineSize, rectangle } from '../../geometry/outline.ts';
import { turnsTo } from '../../instruct/action.ts';
import { formatLength } from '../../units/length.ts';
import { CAUTIONS, error, heated, needsSoundBar, note, warning } from '../contract/common.ts';
import { MOST_SECTION_MM, choice, heats, lengthMm } from '../../units/quantities.ts';
import { defineMove } from '../contract/move.ts';

/** Stand the bar on its end and press it down to this height, then lay one end up (the other shows its mirror image), its old height along the new bar, or its width. mm. */
const parameters = z.strictObject({
  toHeightMm: lengthMm('Pressed down to', MOST_SECTION_MM),
  up: choice('Then laid with', { B: 'End B up', A: 'End A up, mirrored' }).default('B'),
  along: choice('Along the new bar runs', {
    height: 'its old height',
    width: 'its old width',
  }).optional(),
  heats,
});

type P = z.infer<typeof parameters>;

/** Free length over diameter that upsets without buckling (first rule of upset forging, Metals Handbook vol. 14; from memory). */
export const MOST_SLENDER = 3;

function pressedDown(bar: Billet, p: P): Billet {
  const scale = Math.sqrt(bar.lengthMm / p.toHeightMm);
  return stretched(bar, scale, scale);
}

/** Rolled end for end, top to bottom, where end A comes up. */
function rolled({ field, lengthMm, outline }: Billet, { up }: P): Billet['field'] {
  if (up === 'B') return field;
  const { widthMm: w, heightMm: h } = outlineSize(outline);
  return GridField.of(
    [-w / 2, w / 2],
    [-h / 2, h / 2],
    [{ field, orientation: ROLLED_TOP_BOTTOM, lengthMm }],
  );
}

function upsetBar(bar: Billet, p: P): Billet {
  const pressed = pressedDown(p.along === 'width' ? turnedBar(bar, QUARTER) : bar, p);
  const { widthMm, heightMm } = sizeOf(pressed);
  return {
    ...pressed,
    outline: rectangle(widthMm, pressed.lengthMm),
    lengthMm: heightMm,
    field: new LaidDownField(rolled(pressed, p), pressed.lengthMm, heightMm),
    jacket: null,
    distorted: undefined,
  };
}

/** Its width upright, as its height was. */
const QUARTER = orientationNamed('turned 90°');

export const upset = defineMove({
  kind: 'upset',
  title: 'Upset on end',
  short: 'Upset',
  hint: 'press a short length down on its end: the end grain becomes the broad face',
  group: 'Heat and press',
  begins: false,
  toTheSide: true,
  parameters,
  begin: (before) => ({
    toHeightMm: before[0] ? Math.max(5, Math.round(before[0].lengthMm / 3)) : 20,
    up: 'B' as const,
    heats: 3,
  }),
  check(before, p, shop) {
    const missing = needsSoundBar(before);
    if (missing.length > 0) return missing;
    const [bar] = before;
    const { widthMm, heightMm } = sizeOf(bar);
    if (p.toHeightMm >= bar.lengthMm)
      return [
        error(
          'not lower',
          `The bar is ${formatLength(bar.lengthMm, shop.lengths)} long: press it lower than that.`,
          {
            parameter: 'toHeightMm',
          },
        ),
      ];
    const thinnest = Math.min(widthMm, heightMm);
    const slender = bar.lengthMm / thinnest;
    return [
      ...(slender > MOST_SLENDER
        ? [
            warning(
              'slender',
              `The bar is ${slender.toFixed(1)} times as long as it is thick and will buckle; at most about ${MOST_SLENDER} times upsets straight. Use ${formatLength(MOST_SLENDER * thinnest, shop.lengths)} of it.`,
              {
                remedy: {
                  label: 'Crop it first',
                  insertBefore: 'crop',
                  parameters: { endAMm: 0, endBMm: bar.lengthMm - MOST_SLENDER * thinnest },
                },
              },
            ),
          ]
        : []),
      note('seams', 'Every earlier seam is pulled open by this, and little length results.'),
      CAUTIONS.press(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    return { after: after.map((bar) => upsetBar(bar, p)), losses, added: {} };
  },
  presses([bar], p) {
    const { widthMm, heightMm } = sizeOf(pressedDown(bar, p));
    return { widthMm, heightMm: bar.lengthMm, toHeightMm: p.toHeightMm, biteMm: heightMm };
  },
  does(_before, p) {
    const lies =
      p.up === 'B' ? ({ up: 'B', topTowards: 'A' } as const) : ({ up: 'A', topTowards: 'B' } as const);
    return [
      ...(p.along === 'width'
        ? [...turnsTo(undefined, 'turned 90°'), { do: 'mark as it lies', otherEnds: false } as const]
        : []),
      { do: 'press on end', toMm: p.toHeightMm, heats: p.heats },
      { do: 'lay down', pieces: ['1'], what: 'block', ...lies },
    ];
  },
});
