import { BLOCK } from './fields/field.ts';

/** Roberts' R3: points spread evenly through the unit cube, the same every time. */
const R3 = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703];

const TABLE = R3.map((step) =>
  Float64Array.from({ length: 4 * BLOCK }, (_, i) => (0.5 + (i + 1) * step) % 1),
);

/** Coordinate `axis` (0…1) of point `i`, i below 4 × BLOCK. */
export const scattered = (i: number, axis: 0 | 1 | 2): number => TABLE[axis][i];
