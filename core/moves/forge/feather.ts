import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, pieceName, sizeOf } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { dragging } from '../../geometry/maps/plain.ts';
import { inTurn } from '../../geometry/maps/pointMap.ts';
import { shaping } from '../../geometry/maps/squaring.ts';
import { type Outline, rectangle } from '../../geometry/outline.ts';
import { laidAt } from '../../loose/pieces.ts';
import { formatFine, formatLength } from '../../units/length.ts';
import { CAUTIONS, error, heated, needsSoundBars, note, reshaped } from '../contract/common.ts';
import { MOST_SECTION_MM, heats, lengthMm } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/**
 * A wedge driven down through the middle line of the top, the two halves closed again: how far the layers are dragged down at
 * the cut, and over what distance from it that falls to a third. mm.
 */
const parameters = z.strictObject({
  dragMm: lengthMm('Dragged at the cut', MOST_SECTION_MM),
  fadesMm: lengthMm('Falls to a third over', MOST_SECTION_MM, {
    hint: 'from the cut to either side: a blunter wedge drags further out',
  }),
  heats,
});

type P = z.infer<typeof parameters>;

/** Share of the height by which layers can be dragged before the wedge only tears. */
const MOST_DRAG = 0.4;

const most = (bar: Billet): number => MOST_DRAG * sizeOf(bar).heightMm;

/** Corners of the dragged outline over half the width, closer together near the cut. */
const CORNERS = 24;

function draggedOutline(widthMm: number, heightMm: number, { dragMm, fadesMm }: P): Outline {
  const across = Array.from({ length: 2 * CORNERS + 1 }, (_, i) => {
    const share = i / CORNERS - 1;
    return (Math.sign(share) * share * share * widthMm) / 2;
  });
  const mean = ((2 * fadesMm) / widthMm) * dragMm * (1 - Math.exp(-widthMm / 2 / fadesMm));
  const at = (x: number, y: number) => [x, y + mean - dragMm * Math.exp(-Math.abs(x) / fadesMm)] as const;
  return [...across.map((x) => at(x, -heightMm / 2)), ...across.toReversed().map((x) => at(x, heightMm / 2))];
}

function feathered(bar: Billet, p: P): Billet {
  const { widthMm, heightMm } = sizeOf(bar);
  const target = rectangle(widthMm, heightMm);
  const map = inTurn([
    dragging(p.dragMm, p.fadesMm, widthMm),
    shaping(draggedOutline(widthMm, heightMm, p), target),
  ]);
  const half = (n: 0 | 1) =>
    laidAt(
      `${bar.piece ? `${pieceName(bar)} ` : ''}${n ? 'right' : 'left'}`,
      [n ? 0 : -widthMm / 2, -heightMm / 2],
      [widthMm / 2, heightMm],
    );
  return {
    ...bar,
    outline: target,
    field: new MappedField(bar.field, map),
    loose: true,
    laid: { seen: 'from the end', each: [half(0), half(1)] },
    jacket: null,
  };
}

export const feather = defineMove({
  kind: 'feather',
  title: 'Split and close (feather)',
  short: 'Feather',
  hint: 'a wedge driven through the middle drags the layers down; the halves are closed again',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin(before): P {
    const { widthMm, heightMm } = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    return { dragMm: Math.round(0.3 * heightMm), fadesMm: Math.round(widthMm / 6), heats: 2 };
  },
  check(before, p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const least = Math.min(...before.map(most));
    if (p.dragMm > least)
      return [
        error(
          'drag',
          `Dragged by ${formatFine(p.dragMm, shop.lengths)} the layers tear: at most about ${formatLength(least, shop.lengths)} of this height.`,
          {
            parameter: 'dragMm',
            remedy: {
              label: `Drag ${formatLength(Math.floor(least), shop.lengths)}`,
              set: { dragMm: Math.floor(least) },
            },
          },
        ),
      ];
    return [
      note(
        'dragged',
        'A first-order picture: layers slide down by what is said at the cut and less beside it, then the worn top and the full bottom are pressed square. Measure the drag on the first bar that you etch.',
      ),
      CAUTIONS.press(),
      CAUTIONS.fire(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    return { after: reshaped(after, (bar) => feathered(bar, p)), losses, added: {} };
  },
  presses([bar], _p, shop) {
    const { widthMm, heightMm } = sizeOf(bar);
    return { widthMm, heightMm, toHeightMm: 0.97 * heightMm, biteMm: shop.biteMm };
  },
  does: (before, p, shop) => [
    ...care('top marked'),
    ...eachPiece(heated(before, p.heats, shop).after, (bar) => {
      const { widthMm, heightMm } = sizeOf(bar);
      return [{ do: 'split', ...p, toMm: [widthMm, heightMm] }];
    }),
  ],
});
