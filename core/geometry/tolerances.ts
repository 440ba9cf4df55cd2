/** Every tolerance and bound of the geometry, with its unit and reason. */

/** mm. Two lengths closer than this are the same to any saw or caliper. */
export const SAME_LENGTH_MM = 1e-6;

/** mm. How far inside a face it is sampled, so that rounding never falls off the steel. */
export const FACE_INSET_MM = 1e-7;

/** Fraction. Sides of a "square" section may differ by this much before a re-square is called uneven. */
export const SQUARE_TOLERANCE = 0.02;

/** Steps of the Runge–Kutta walk through the bias re-square. 24 leave the Jacobian 2.5e-3 off at the corners, 40 keep 4e-4. */
export const RESQUARE_STEPS = 40;

/** Cells each way of the baked quarter of the re-square: bilinear error 6e-5 of the half-side at worst, 0.3 MB. */
export const RESQUARE_TABLE_CELLS = 192;

/** Steps of the walk that knocks corners down: there and back to 1e-8 of the half-side. */
export const KNOCK_STEPS = 40;

/** Cells each way of its baked quarter: bilinear error below 1e-4 of the half-side. */
export const KNOCK_TABLE_CELLS = 160;

/** Sides of the polygon that stands for a round section. */
export const ROUND_SIDES = 64;
