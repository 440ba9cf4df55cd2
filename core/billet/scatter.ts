import { BLOCK } from './fields/field.ts';

/** Roberts' R3: points spread evenly through the unit cube, the same every time. */
const R3 = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703];

const placed = (i: number, axis: 0 | 1 | 2): number => (0.5 + (i + 1) * R3[axis]) % 1;

/** The first are asked for again and again. */
const FIRST = 4 * BLOCK;
const TABLE = ([0, 1, 2] as const).map((axis) =>
  Float64Array.from({ length: FIRST }, (_, i) => placed(i, axis)),
);

/** Coordinate `axis` (0…1) of point `i`. */
export const scattered = (i: number, axis: 0 | 1 | 2): number =>
  i < FIRST ? TABLE[axis][i] : placed(i, axis);
