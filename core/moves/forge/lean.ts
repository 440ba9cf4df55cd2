import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { leaning } from '../../geometry/maps/plain.ts';
import { MOST_LEAN_DEG, leaningBar } from '../../geometry/maps/usual.ts';
import { type Outline, isRectangle, leanOf, outlineSize } from '../../geometry/outline.ts';
import { shapeOf } from '../../geometry/shapes.ts';
import { SQUARE_TOLERANCE } from '../../geometry/tolerances.ts';
import { CAUTIONS, degrees, error, heated, needsWelded, note, radians } from '../contract/common.ts';
import { angleDeg, heats } from '../../units/quantities.ts';
import { reckoned, reckoning } from './usualOrFlow.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Lean the section to the right (seen on end B) by so many degrees; to the left where negative. */
const parameters = z.strictObject({ leanDeg: angleDeg('Lean to the right', -40, 40), heats, reckoned });

type P = z.infer<typeof parameters>;

/** Degrees. A section closer to upright than this is square to any eye. */
export const UPRIGHT_DEG = 0.05;

/** Lean of a bar now, in degrees; 0 for a rectangle. */
export const leanNow = (bar: Billet): number => (isRectangle(bar.outline) ? 0 : degrees(leanOf(bar.outline)));

/** The slide that takes the lean it has to the lean wanted, rad: tangents add. */
export const slideTo = (bar: Billet, leanDeg: number): number =>
  Math.atan(Math.tan(radians(leanDeg)) - Math.tan(radians(leanNow(bar))));

/** A bar whose section has slid so far, rad; evenly, or inside by another map that keeps its area. */
export function slid(bar: Billet, slideRad: number, map = leaning(slideRad)): Billet {
  const t = Math.tan(slideRad);
  return {
    ...bar,
    outline: bar.outline.map(([x, y]) => [x + t * y, y] as const),
    field: new MappedField(bar.field, map),
    jacket: null,
  };
}

/** The bar as it would stand with its section upright; itself where it does not lean. */
export const upright = (bar: Billet): Billet =>
  Math.abs(leanNow(bar)) < UPRIGHT_DEG ? bar : slid(bar, slideTo(bar, 0));

/** A square bar leans as such bars usually flow; any other, or one that leans already or much, slides evenly until its flow is worked out. */
function leaned(bar: Billet, p: P): Billet {
  const slide = slideTo(bar, leanNow(bar) + p.leanDeg);
  const { widthMm, heightMm } = outlineSize(bar.outline);
  const square = isRectangle(bar.outline) && Math.abs(widthMm / heightMm - 1) < SQUARE_TOLERANCE;
  return square && Math.abs(p.leanDeg) <= MOST_LEAN_DEG
    ? slid(bar, slide, leaningBar(p.leanDeg, widthMm / 2, heightMm / 2))
    : slid(bar, slide);
}

/** Pressing across the corners, and the flats after it. */
interface Across {
  /** To stand the two corners one above the other, counter-clockwise. */
  readonly turnDeg: number;
  readonly toMm: number;
  readonly flatsToMm: number;
}

/** Of the height: the flats lightly over again, for they bulged. */
const FLATS = 0.97;

/**
 * The share of its diagonal to which a section is pressed to lean so much. The first twentieth goes into the sharp corners. Fitted
 * to the flow of a square between flat dies from 2° to 22°, within 1° at friction factors from 0.5 to 0.8.
 */
const diagonalShare = (leanDeg: number): number => 0.95 - 0.041 * leanDeg ** 0.69;

/** How to press a section of four corners for a lean. */
export function acrossCorners(outline: Outline, leanDeg: number): Across {
  const side = leanDeg > 0 ? -1 : 1;
  const [x, y] = outline.reduce((best, at) => (at[1] + side * at[0] > best[1] + side * best[0] ? at : best));
  return {
    turnDeg: 90 - degrees(Math.atan2(y, x)),
    toMm: 2 * Math.hypot(x, y) * diagonalShare(Math.abs(leanDeg)),
    flatsToMm: FLATS * outlineSize(outline).heightMm,
  };
}

const byBoth = reckoning<P>({
  usual: leaned,
  passes({ outline }, { leanDeg }) {
    const { turnDeg, toMm, flatsToMm } = acrossCorners(outline, leanDeg);
    return [
      { turnDeg, toMm },
      { turnDeg: -turnDeg, toMm: flatsToMm },
    ];
  },
});

export const lean = defineMove({
  kind: 'lean',
  title: 'Lean',
  hint: 'press into a rhombus on purpose, or correct one that came by itself',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin: (before) => ({
    leanDeg: before[0] && shapeOf(before[0].outline) === 'leaning' ? -leanNow(before[0]) : 15,
    heats: 1,
    reckoned: 'where it shows' as const,
  }),
  check(before, p, shop, stage) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing;
    const shape = shapeOf(before[0].outline);
    if (shape !== 'rectangle' && shape !== 'leaning')
      return [
        error('shape', 'Only a square, flat or leaning bar can be leaned.', {
          remedy: { label: 'Draw it square first', insertBefore: 'draw' },
        }),
      ];
    const after = leanNow(before[0]) + p.leanDeg;
    if (Math.abs(after) > 60)
      return [
        error('too far', `It would lean ${Math.abs(after).toFixed(0)}°: no bar stands that.`, {
          parameter: 'leanDeg',
        }),
      ];
    const flow = byBoth.findings(before, p, shop, stage);
    if (flow.some((f) => f.severity === 'error')) return flow;
    return [
      ...flow,
      Math.abs(after) < UPRIGHT_DEG
        ? note('upright', 'The bar comes out upright again; the picture keeps no lean.')
        : note(
            'leans',
            `The section leans ${Math.abs(after).toFixed(1)}° to the ${after > 0 ? 'right' : 'left'} and must be corrected or ground before it is laid beside others. Every flat pass on it makes it worse.`,
          ),
      CAUTIONS.press(),
    ];
  },
  apply(before, p, shop, stage) {
    const { losses } = heated(before, p.heats, shop);
    return { after: byBoth.made(before, p, shop, stage), losses, added: {} };
  },
  presses([bar], { leanDeg }, shop) {
    // The flats are pressed last, and over their whole width.
    const { widthMm, heightMm } = outlineSize(bar.outline);
    return {
      widthMm,
      heightMm,
      toHeightMm: acrossCorners(bar.outline, leanDeg).flatsToMm,
      biteMm: shop.biteMm,
    };
  },
  flows: byBoth.flows,
  beside: byBoth.beside,
  does(before, p, shop) {
    return [
      ...eachPiece(heated(before, p.heats, shop).after, (bar) => {
        const to = leanNow(bar) + p.leanDeg;
        return [
          {
            do: 'lean',
            corners: p.leanDeg > 0 ? 'upper left and lower right' : 'upper right and lower left',
            firstToMm: acrossCorners(bar.outline, p.leanDeg).toMm,
            leansDeg: Math.abs(to) < UPRIGHT_DEG ? 0 : Math.abs(to),
            towards: to > 0 ? 'right' : 'left',
            heats: p.heats,
          },
        ];
      }),
      ...care('bevel gauge'),
    ];
  },
});
