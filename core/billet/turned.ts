import { type Orientation, faceAfter, planeMatrix, swapsSides } from '../geometry/orientation.ts';
import { type Outline, boundingBox } from '../geometry/outline.ts';
import type { Beads, Billet } from './billet.ts';
import { GridField } from './fields/grid.ts';

function turnedOutline(outline: Outline, o: Orientation): Outline {
  const [a, b, c, d] = planeMatrix(o);
  const turned = outline.map(([x, y]) => [a * x + b * y, c * x + d * y] as const);
  // Seen in the mirror its corners run the other way round.
  return o.rolled ? turned.reverse() : turned;
}

const LONG_FACES = ['top', 'bottom', 'left', 'right'] as const;

function turnedBeads(beads: Beads, o: Orientation): Beads {
  const faces = LONG_FACES.flatMap((side) =>
    beads[side] === undefined ? [] : [[faceAfter(o, side), beads[side]] as const],
  );
  const [a, b] = o.rolled ? [beads.endB, beads.endA] : [beads.endA, beads.endB];
  return { ...Object.fromEntries(faces), ...(a && { endA: a }), ...(b && { endB: b }) };
}

/** A bar that lies another way: the same steel, other faces up and in front. */
export function turnedBar(bar: Billet, o: Orientation): Billet {
  const { lengthMm, field, jacket, can, distorted, beads } = bar;
  const outline = turnedOutline(bar.outline, o);
  // As wide as the bar: what lies in it is laid flat into this one cell, and no further than to its edges.
  const { minX, maxX, minY, maxY } = boundingBox(outline);
  const [w, h] = [Math.max(maxX, -minX), Math.max(maxY, -minY)];
  return {
    ...bar,
    outline,
    field: GridField.of([-w, w], [-h, h], [{ field, orientation: o, lengthMm }]),
    jacket: jacket && swapsSides(o) ? { ...jacket, sideMm: jacket.topMm, topMm: jacket.sideMm } : jacket,
    can: can && o.rolled ? { ...can, capAMm: can.capBMm, capBMm: can.capAMm } : can,
    ...(beads && { beads: turnedBeads(beads, o) }),
    distorted: distorted && o.rolled ? { endA: distorted.endB, endB: distorted.endA } : distorted,
  };
}
