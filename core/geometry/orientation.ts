/**
 * How a piece lies in an assembly: one of the eight proper rotations of a square prism (handbook, geometry).
 * `turns` are quarter turns counter-clockwise about z after an optional roll end for end about the upright axis y.
 * Rolled, end A comes to the front and the picture is mirrored; nothing else mirrors it.
 */
export interface Orientation {
  readonly turns: 0 | 1 | 2 | 3;
  readonly rolled: boolean;
}

export const ORIENTATION_NAMES = [
  'as it lies',
  'turned 90°',
  'turned 180°',
  'turned 270°',
  'rolled left–right',
  'rolled, turned 90°',
  'rolled top–bottom',
  'rolled, turned 270°',
] as const;

export type OrientationName = (typeof ORIENTATION_NAMES)[number];

const turnsOf = (n: number): Orientation['turns'] => (((n % 4) + 4) % 4) as Orientation['turns'];

export const ALL_ORIENTATIONS: readonly Orientation[] = ORIENTATION_NAMES.map((_, i) => ({
  turns: turnsOf(i),
  rolled: i >= 4,
}));

export const AS_IT_LIES = ALL_ORIENTATIONS[0];
export const TURNED_180 = ALL_ORIENTATIONS[2];
/** Half a turn about the upright axis: mirrored left–right, end A in front. */
export const ROLLED_LEFT_RIGHT = ALL_ORIENTATIONS[4];
/** Half a turn about the cross axis: mirrored top–bottom, end A in front. */
export const ROLLED_TOP_BOTTOM = ALL_ORIENTATIONS[6];

export const orientationName = (o: Orientation): OrientationName =>
  ORIENTATION_NAMES[o.turns + (o.rolled ? 4 : 0)];

export const orientationNamed = (name: OrientationName): Orientation =>
  ALL_ORIENTATIONS[ORIENTATION_NAMES.indexOf(name)];

/** The orientation that results from lying as `first` and then being moved as `then`. */
export function compose(then: Orientation, first: Orientation): Orientation {
  const carried = then.rolled ? -first.turns : first.turns;
  return { turns: turnsOf(then.turns + carried), rolled: then.rolled !== first.rolled };
}

/** The move that undoes `o`. */
export const inverse = (o: Orientation): Orientation =>
  o.rolled ? o : { turns: turnsOf(-o.turns), rolled: false };

/** Plane part of the rotation, row-major [a b; c d] taking piece (x, y) to place (x, y). z turns over when the determinant is −1. */
export function planeMatrix(o: Orientation): readonly [number, number, number, number] {
  const cos = [1, 0, -1, 0][o.turns];
  const sin = [0, 1, 0, -1][o.turns];
  const mirror = o.rolled ? -1 : 1;
  return [cos * mirror, -sin, sin * mirror, cos];
}

const OUTWARD = { top: [0, 1], bottom: [0, -1], left: [-1, 0], right: [1, 0] } as const;
export type LongFace = keyof typeof OUTWARD;

/** Where a long face then is. */
export function faceAfter(o: Orientation, face: LongFace): LongFace {
  const [a, b, c, d] = planeMatrix(o);
  const [x, y] = OUTWARD[face];
  const [u, v] = [a * x + b * y, c * x + d * y];
  return u > 0.5 ? 'right' : u < -0.5 ? 'left' : v > 0 ? 'top' : 'bottom';
}

/** Whether width and height change places. */
export const swapsSides = (o: Orientation): boolean => o.turns % 2 === 1;

/** The end seen from the front of the assembly (its end B). */
export const frontEnd = (o: Orientation): 'A' | 'B' => (o.rolled ? 'A' : 'B');
