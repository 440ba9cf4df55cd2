import { z } from 'zod';
import { type Billet } from '../billet/billet.ts';
import { MappedField } from '../billet/fields/mapped.ts';
import { leaning } from '../geometry/maps/plain.ts';
import { isRectangle, leanOf, shapeOf } from '../geometry/outline.ts';
import { CAUTIONS, degrees, error, heated, needsWelded, note, plural, radians, reshaped } from './common.ts';
import { angleDeg, heats } from './fields.ts';
import { defineMove } from './step.ts';

/** Lean the section to the right (seen on end B) by so many degrees; to the left where negative. */
const parameters = z.strictObject({ leanDeg: angleDeg('Lean', -40, 40), heats });

type P = z.infer<typeof parameters>;

/** Degrees. A section closer to upright than this is square to any eye. */
const UPRIGHT_DEG = 0.05;

/** Lean of a bar now, in degrees; 0 for a rectangle. */
const leanNow = (bar: Billet): number => (isRectangle(bar.outline) ? 0 : degrees(leanOf(bar.outline)));

/** The slide that takes the lean it has to the lean wanted: tangents add. */
function slideRad(bar: Billet, p: P): number {
  return Math.atan(Math.tan(radians(leanNow(bar) + p.leanDeg)) - Math.tan(radians(leanNow(bar))));
}

function leaned(bar: Billet, p: P): Billet {
  const slide = slideRad(bar, p);
  const t = Math.tan(slide);
  return {
    ...bar,
    outline: bar.outline.map(([x, y]) => [x + t * y, y] as const),
    field: new MappedField(bar.field, leaning(slide)),
    jacket: null,
  };
}

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
  }),
  check(before, p) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing;
    const shape = shapeOf(before[0].outline);
    if (shape !== 'rectangle' && shape !== 'leaning')
      return [error('shape', 'Only a square, flat or leaning bar can be leaned.')];
    const after = leanNow(before[0]) + p.leanDeg;
    if (Math.abs(after) > 60)
      return [
        error('too far', `It would lean ${Math.abs(after).toFixed(0)}°: no bar stands that.`, {
          parameter: 'leanDeg',
        }),
      ];
    return [
      Math.abs(after) < UPRIGHT_DEG
        ? note('upright', 'The bar comes out upright again; the picture keeps no lean.')
        : note(
            'leans',
            `The section leans ${after.toFixed(1)}° and must be corrected or ground before it is laid beside others. Every flat pass on it makes it worse.`,
          ),
      CAUTIONS.press(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    return { after: reshaped(after, (bar) => leaned(bar, p)), losses, added: {} };
  },
  say([bar], p) {
    const to = leanNow(bar) + p.leanDeg;
    return [
      `Press on the ${p.leanDeg > 0 ? 'upper left and lower right' : 'upper right and lower left'} edges, seen on end B, until the section leans ${Math.abs(to).toFixed(1)}°, in ${plural(p.heats, 'heat')}.`,
      'Work end to end in even bites; check with a bevel gauge at both ends.',
    ];
  },
});
