import type { Billet } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { turning } from '../../geometry/maps/plain.ts';
import { type KnockShape, cornersFilled } from '../../geometry/maps/usual.ts';
import { outlineArea, rectangle, shapeOf } from '../../geometry/outline.ts';
import { needsRectangle, note } from '../contract/common.ts';
import type { Finding } from '../contract/move.ts';

/** An octagon or a round: what a square is with its corners knocked down. */
export function knockedShape(bar: Billet): KnockShape | null {
  const shape = shapeOf(bar.outline);
  return shape === 'octagon' || shape === 'round' ? shape : null;
}

/** Square or flat all of them, or octagon or round. */
export const needsRectangleOrKnocked = (before: readonly Billet[]): Finding[] =>
  needsRectangle(before.filter((bar) => !knockedShape(bar)));

/** That corners of an octagon or round fill as they went is a first-order picture. */
export const cornersNote = (before: readonly Billet[]): Finding[] =>
  before.some(knockedShape)
    ? [
        note(
          'corners',
          'Pressed square from an octagon or round, the corners are taken to fill as they went: a first-order picture.',
        ),
      ]
    : [];

/** An octagon or round pressed square, after it was turned so far counter-clockwise; any other bar as it is. Radians. */
export function cornersBack(bar: Billet, turnedRad = 0): Billet {
  const shape = knockedShape(bar);
  if (!shape) return bar;
  const side = Math.sqrt(outlineArea(bar.outline));
  const field = turnedRad === 0 ? bar.field : new MappedField(bar.field, turning(turnedRad));
  return {
    ...bar,
    outline: rectangle(side, side),
    field: new MappedField(field, cornersFilled(shape, side / 2)),
  };
}
