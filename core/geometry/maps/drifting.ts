import { slideAlongSquare } from './biasResquare.ts';
import type { Coordinates, PointMap } from './pointMap.ts';

/** Half-sides to slide along a square for a mean turn: δ/360° of the perimeter, which is eight half-sides (handbook, geometry). */
const slideForTurn = (rad: number): number => (4 * rad) / Math.PI;

/**
 * A pattern that has turned against the faces of a rectangular bar, by `turnRad` at end A and `radPerMm` more along it: each
 * concentric rectangle of the section slides along itself, which keeps outline and area (handbook, geometry, "angle error").
 */
export function drifting(
  turnRad: number,
  radPerMm: number,
  halfWidthMm: number,
  halfHeightMm: number,
): PointMap {
  const slide = (sign: 1 | -1) => (points: Coordinates) => {
    const { x, y, z, count } = points;
    for (let i = 0; i < count; i++) {
      const turn = slideForTurn(turnRad + (radPerMm === 0 ? 0 : radPerMm * z[i]));
      const [u, v] = slideAlongSquare(x[i] / halfWidthMm, y[i] / halfHeightMm, sign * turn);
      x[i] = u * halfWidthMm;
      y[i] = v * halfHeightMm;
    }
  };
  return { usesZ: radPerMm !== 0, forward: slide(1), backward: slide(-1) };
}
