import type { Billet } from '../billet/billet.ts';
import { type Corner, type CornerLine, type Part, cornerLine } from '../billet/cornerLine.ts';
import { isRectangle } from '../geometry/outline.ts';
import { type Orientation, compose, orientationName, orientationNamed } from '../geometry/orientation.ts';
import type { Placed } from '../moves/contract/move.ts';
import { type AssembleParameters, laidPieces } from '../moves/lay/assemble/laid.ts';
import { partsOf } from './parts.ts';

/** How the lines of four pieces come together where their corners meet. */
export interface StarPoints {
  /** All have a line to a corner, but to one beside that which meets the others: the layers bow there. */
  readonly bowed: boolean;
  /** Corners at the middle to which no line runs, of so many, where most have one: a piece lies another way round. */
  readonly without: number;
  readonly of: number;
  /** The line that misses the point farthest, at either end; null where no star is meant. */
  readonly worst: CornerLine | null;
}

export const QUARTER: Orientation = { turns: 1, rolled: false };

/** The places with every piece turned a quarter before it is laid as it was: another corner of each comes to the middle, mirrors stay mirrors. */
export const turnedBefore = (places: readonly Placed[]): Placed[] =>
  places.map((place) => ({
    ...place,
    orientation: orientationName(compose(orientationNamed(place.orientation), QUARTER)),
  }));

/** Column and row of the four pieces about a point where they meet. */
const MEETING = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

/** Of a piece: the line to the corner that meets the others, and that to a corner beside it. */
interface Lines {
  readonly inner: CornerLine | null;
  readonly beside: CornerLine | null;
}

const inners = (four: readonly Lines[]): CornerLine[] => four.flatMap(({ inner }) => (inner ? [inner] : []));

/** mm inside the ends, where they are asked. */
const INSIDE_MM = 1e-5;

/**
 * Judges the points where four pieces of a grid meet. Nothing where no four do, where they are no squares laid edge to edge, or
 * where some of every four have layers that run to no corner.
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
  const lines = (part: Part, corner: Corner, z: number): Lines => ({
    inner: cornerLine(assembled, part, corner, z),
    beside: cornerLine(assembled, part, [corner[0] === 1 ? -1 : 1, corner[1]], z),
  });
  const meetings: Lines[][] = [];
  for (const z of [assembled.lengthMm - INSIDE_MM, INSIDE_MM])
    for (let row = 0; row + 1 < p.rows; row++)
      for (let column = 0; column + 1 < p.columns; column++)
        meetings.push(
          MEETING.map(([c, r]) =>
            lines(parts[(row + r) * p.columns + column + c], [c === 0 ? 1 : -1, r === 0 ? -1 : 1], z),
          ),
        );
  const lined = meetings.filter((four) => four.every((l) => l.inner ?? l.beside));
  if (lined.length === 0) return null;
  const stars = lined.filter((four) => inners(four).length > MEETING.length / 2);
  const there = stars.flatMap(inners);
  return {
    bowed: lined.every((four) => inners(four).length === 0),
    without: stars.length * MEETING.length - there.length,
    of: stars.length * MEETING.length,
    worst: there.reduce<CornerLine | null>(
      (worst, l) => (worst && Math.abs(worst.missMm) >= Math.abs(l.missMm) ? worst : l),
      null,
    ),
  };
}
