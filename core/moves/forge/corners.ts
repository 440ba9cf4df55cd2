import { z } from 'zod';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { turnedBack } from '../../billet/sectionFlow.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { knocking } from '../../geometry/maps/usual.ts';
import { outlineArea, regularPolygon } from '../../geometry/outline.ts';
import { ROUND_SIDES, SQUARE_TOLERANCE } from '../../geometry/tolerances.ts';
import { formatSizes } from '../../units/length.ts';
import { tilesOnBias, CAUTIONS, heated, needsSoundBars, warning } from '../contract/common.ts';
import { choice, heats } from '../../units/quantities.ts';
import { reckoned, reckoning } from './usualOrFlow.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Knock the corners of a square bar down to an octagon, or on to a round. */
const parameters = z.strictObject({
  shape: choice('Down to', { octagon: 'An octagon', round: 'A round bar' }),
  heats,
  reckoned,
});

type P = z.infer<typeof parameters>;

function knocked(bar: Billet, { shape }: P): Billet {
  const area = outlineArea(bar.outline);
  return {
    ...bar,
    outline: regularPolygon(shape === 'octagon' ? 8 : ROUND_SIDES, area),
    field: new MappedField(squared(bar), knocking(shape, Math.sqrt(area) / 2)),
    jacket: null,
  };
}

/** The field of a nearly square bar as if it were quite square. */
function squared(bar: Billet): Billet['field'] {
  const { widthMm, heightMm } = sizeOf(bar);
  const side = Math.sqrt(widthMm * heightMm);
  return bar.field.through({ kx: widthMm / side, ky: heightMm / side, kz: 1, tx: 0, ty: 0, tz: 0 });
}

const across = (area: number, shape: P['shape']): number =>
  shape === 'octagon' ? 2 * Math.sqrt(area / (8 * Math.tan(Math.PI / 8))) : 2 * Math.sqrt(area / Math.PI);

const byBoth = reckoning<P>({
  usual: knocked,
  passes(bar, { shape }) {
    const area = outlineArea(bar.outline);
    const flats = across(area, 'octagon');
    // Both diagonals twice, for what spreads under one pass is pressed by the next; for a round its eight corners in turn.
    const octagon = [45, 90, -90, 90].map((turnDeg) => ({ turnDeg, toMm: flats }));
    if (shape === 'octagon') return [...octagon, turnedBack(-135)];
    const round = [22.5, 45, 45, 45].map((turnDeg) => ({ turnDeg, toMm: across(area, 'round') }));
    return [...octagon, ...round, turnedBack(-135 - 157.5)];
  },
});

export const corners = defineMove({
  kind: 'corners',
  title: 'Knock the corners',
  short: 'Corners',
  hint: 'square to octagon, or on to round, as before twisting',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin: () => ({ shape: 'round' as const, heats: 1 }),
  check(before, p, shop, stage) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const flow = byBoth.findings(before, p, shop, stage);
    if (flow.some((f) => f.severity === 'error')) return flow;
    const { widthMm, heightMm } = sizeOf(before[0]);
    const uneven = Math.abs(widthMm / heightMm - 1) > SQUARE_TOLERANCE;
    return [
      ...flow,
      ...tilesOnBias(before),
      ...(uneven
        ? [
            warning(
              'not square',
              `The bar is ${formatSizes([widthMm, heightMm], shop.lengths)}: draw it square first, or it comes out oval.`,
              { remedy: { label: 'Draw square first', insertBefore: 'draw' } },
            ),
          ]
        : []),
      CAUTIONS.press(),
    ];
  },
  apply(before, p, shop, stage) {
    const { losses } = heated(before, p.heats, shop);
    return { after: byBoth.made(before, p, shop, stage), losses, added: {} };
  },
  flows: byBoth.flows,
  beside: byBoth.beside,
  presses([bar], _p, shop) {
    const { widthMm, heightMm } = sizeOf(bar);
    // An octagon's flats are the widest that any blow meets.
    const flats = across(outlineArea(bar.outline), 'octagon');
    return {
      widthMm: flats * Math.tan(Math.PI / 8),
      heightMm: Math.hypot(widthMm, heightMm),
      toHeightMm: flats,
      biteMm: shop.biteMm,
    };
  },
  does: (before, p, shop) =>
    eachPiece(heated(before, p.heats, shop).after, ({ outline }) => {
      const area = outlineArea(outline);
      return [
        { do: 'turn', about: 'length', deg: 45, way: 'counter-clockwise' },
        {
          do: 'knock corners',
          octagonMm: across(area, 'octagon'),
          ...(p.shape === 'round' && { roundMm: across(area, 'round') }),
          heats: p.heats,
        },
        { do: 'arrow up' },
      ];
    }),
});
