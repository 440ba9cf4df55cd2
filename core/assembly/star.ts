import type { Billet } from '../billet/billet.ts';
import { type Corner, type CornerLine, type Part, cornerLine } from '../billet/cornerLine.ts';
import { isRectangle } from '../geometry/outline.ts';
import { type Orientation, compose, orientationName, orientationNamed } from '../geometry/orientation.ts';
import type { Placed } from '../moves/contract/move.ts';
import { type AssembleParameters, laidPieces } from '../moves/lay/assemble/laid.ts';
import { partsOf } from './parts.ts';

/** How the lines of four pieces come together where their corners meet. */
export interface StarPoints {
  /** All four have a line to a corner, but to one beside that which meets the others: the layers bow there. */
  readonly bowed: boolean;
  /** Corners at the middle to which no line runs, of so many; none of them is judged by `worst`. */
  readonly without: number;
  readonly of: number;
  /** The line that misses the point farthest, at either end; null where no piece has a line to its corner. */
  readonly worst: CornerLine | null;
}

export const QUARTER: Orientation = { turns: 1, rolled: false };

/** The places with every piece turned a quarter before it is laid as it was: another corner of each comes to the middle, mirrors stay mirrors. */
export const turnedBefore = (places: readonly Placed[]): Placed[] =>
  places.map((place) => ({
    ...place,
    orientation: orientationName(compose(orientationNamed(place.orientation), QUARTER)),
  }));

/** mm inside the ends, where they are asked. */
const INSIDE_MM = 1e-5;

/**
 * Judges the points where four pieces of a grid meet. Nothing where no four do, where they are no squares laid edge to edge, or
 * where their layers run to no corner at all.
 */
export function starPoints(
  before: readonly Billet[],
  p: AssembleParameters,
  assembled: Billet,
): StarPoints | null {
  const laid = laidPieces(before, p);
  if (p.layout === 'brick' || laid.length < 4 || !laid.every((l) => isRectangle(l.billet.outline)))
    return null;
  const parts = partsOf(laid, p);
  const line = (part: Part, corner: Corner) =>
    [assembled.lengthMm - INSIDE_MM, INSIDE_MM].map((z) => cornerLine(assembled, part, corner, z));
  const inner: (CornerLine | null)[] = [];
  const beside: (CornerLine | null)[] = [];
  for (let row = 0; row + 1 < p.rows; row++)
    for (let column = 0; column + 1 < p.columns; column++)
      for (const [c, r] of [
        [0, 0],
        [1, 0],
        [0, 1],
        [1, 1],
      ]) {
        const part = parts[(row + r) * p.columns + column + c];
        const [right, up] = [c === 0 ? 1 : -1, r === 0 ? -1 : 1] as const;
        inner.push(...line(part, [right, up]));
        beside.push(...line(part, [right === 1 ? -1 : 1, up]));
      }
  if (inner.length === 0 || [...inner, ...beside].every((l) => l === null)) return null;
  const there = inner.filter((l) => l !== null);
  return {
    bowed: there.length === 0 && beside.every((l) => l !== null),
    without: inner.length - there.length,
    of: inner.length,
    worst: there.reduce<CornerLine | null>(
      (worst, l) => (worst && Math.abs(worst.missMm) >= Math.abs(l.missMm) ? worst : l),
      null,
    ),
  };
}
