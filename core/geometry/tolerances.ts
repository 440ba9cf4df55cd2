/** Every tolerance and bound of the geometry, with its unit and reason. */

/** mm. Two lengths closer than this are the same to any saw or caliper. */
export const SAME_LENGTH_MM = 1e-6;

/** mm. How far inside a face it is sampled, so that rounding never falls off the steel. */
export const FACE_INSET_MM = 1e-7;

/** Fraction. Sides of a "square" section may differ by this much before a re-square is called uneven. */
export const SQUARE_TOLERANCE = 0.02;

/** Sides of the polygon that stands for a round section. */
export const ROUND_SIDES = 64;
