import type { Billet } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { turning } from '../../geometry/maps/plain.ts';
import { type KnockShape, cornersFilled } from '../../geometry/maps/usual.ts';
import { squaredUp } from '../../billet/sectionFlow.ts';
import { isConvex, isRectangle, outlineArea, rectangle, seenWhole } from '../../geometry/outline.ts';
import { shapeOf } from '../../geometry/shapes.ts';
import { needsRectangle, note, warning } from '../contract/common.ts';
import type { Finding } from '../contract/move.ts';

/** An octagon or a round: what a square is with its corners knocked down. */
export function knockedShape(bar: Billet): KnockShape | null {
  const shape = shapeOf(bar.outline);
  return shape === 'octagon' || shape === 'round' ? shape : null;
}

/** Whether pressing from two sides brings it to a square or flat bar; one that leans would lean more with every pass. */
const canBeSquared = ({ outline }: Billet): boolean =>
  shapeOf(outline) !== 'leaning' && seenWhole(outline) !== null;

/** Any section that pressing brings to a square or flat bar. */
export const needsSquarable = (before: readonly Billet[]): Finding[] =>
  needsRectangle(before.filter((bar) => !canBeSquared(bar)));

/** Square or flat all of them, or octagon or round. */
export const needsRectangleOrKnocked = (before: readonly Billet[]): Finding[] =>
  needsRectangle(before.filter((bar) => !knockedShape(bar)));

/** How what fills its corners is shown is a first-order picture. */
export function cornersNote(before: readonly Billet[]): Finding[] {
  const odd = before.filter(({ outline }) => !isRectangle(outline));
  if (odd.length === 0) return [];
  const text = odd.every(knockedShape)
    ? 'Pressed square from an octagon or round, the corners are taken to fill as they went: a first-order picture.'
    : 'Pressed square from such a section, its sides are taken to fill evenly out to the corners: a first-order picture.';
  const hollow = odd.some(({ outline }) => !isConvex(outline));
  return [
    note('corners', text),
    ...(hollow
      ? [
          warning(
            'lap',
            'A hollow side can fold over on itself and leave a lap: open it with a round die first, or grind scale out of it and press it at welding heat.',
          ),
        ]
      : []),
  ];
}

const known = new WeakMap<Billet, Billet>();

/** Asked for many times in one evaluation. */
function filled(bar: Billet): Billet {
  const square = known.get(bar) ?? squaredUp(bar);
  known.set(bar, square);
  return square;
}

/** Any section pressed square or flat, an octagon or round after it was turned so far counter-clockwise; a bar that is so already as it is. Radians. */
export function cornersBack(bar: Billet, turnedRad = 0): Billet {
  if (isRectangle(bar.outline)) return bar;
  const shape = knockedShape(bar);
  if (!shape) return filled(bar);
  const side = Math.sqrt(outlineArea(bar.outline));
  const field = turnedRad === 0 ? bar.field : new MappedField(bar.field, turning(turnedRad));
  return {
    ...bar,
    outline: rectangle(side, side),
    field: new MappedField(field, cornersFilled(shape, side / 2)),
  };
}
