import { describe, expect, it } from 'vitest';
import {
  ALL_ORIENTATIONS,
  AS_IT_LIES,
  ORIENTATION_NAMES,
  type Orientation,
  ROLLED_LEFT_RIGHT,
  TURNED_180,
  compose,
  frontEnd,
  inverse,
  orientationName,
  orientationNamed,
  planeMatrix,
} from './orientation.ts';

type Matrix3 = number[][];
const matrix3 = (o: Orientation): Matrix3 => {
  const [a, b, c, d] = planeMatrix(o);
  return [
    [a, b, 0],
    [c, d, 0],
    [0, 0, a * d - b * c],
  ];
};
const product = (m: Matrix3, n: Matrix3) =>
  m.map((row) => n[0].map((_, j) => row.reduce((s, v, k) => s + v * n[k][j], 0)));
const determinant3 = (m: Matrix3) => m[2][2] * (m[0][0] * m[1][1] - m[0][1] * m[1][0]);

// The proper symmetry group of a square prism, D4 of order 8: any text on point groups.
describe('the eight orientations', () => {
  it('are distinct proper rotations', () => {
    expect(new Set(ALL_ORIENTATIONS.map((o) => matrix3(o).flat().join())).size).toBe(8);
    for (const o of ALL_ORIENTATIONS) expect(determinant3(matrix3(o))).toBe(1);
  });

  it('compose as their matrices do, associatively, with inverses', () => {
    for (const a of ALL_ORIENTATIONS)
      for (const b of ALL_ORIENTATIONS) {
        expect(
          matrix3(compose(a, b))
            .flat()
            .map((v) => v + 0),
        ).toEqual(
          product(matrix3(a), matrix3(b))
            .flat()
            .map((v) => v + 0),
        );
        for (const c of ALL_ORIENTATIONS)
          expect(compose(a, compose(b, c))).toEqual(compose(compose(a, b), c));
        expect(compose(a, inverse(a))).toEqual(AS_IT_LIES);
      }
  });

  it('undo themselves when turned twice by 180° or rolled twice', () => {
    expect(compose(TURNED_180, TURNED_180)).toEqual(AS_IT_LIES);
    for (const o of ALL_ORIENTATIONS.filter((o) => o.rolled)) expect(compose(o, o)).toEqual(AS_IT_LIES);
  });

  it('mirror the picture exactly when the ends are swapped', () => {
    for (const o of ALL_ORIENTATIONS) {
      const [a, b, c, d] = planeMatrix(o);
      expect(a * d - b * c === -1).toBe(frontEnd(o) === 'A');
    }
    expect(planeMatrix(ROLLED_LEFT_RIGHT).map((v) => v + 0)).toEqual([-1, 0, 0, 1]);
  });

  it('go by their names', () => {
    for (const name of ORIENTATION_NAMES) expect(orientationName(orientationNamed(name))).toBe(name);
    expect(planeMatrix(orientationNamed('rolled top–bottom')).map((v) => v + 0)).toEqual([1, 0, 0, -1]);
  });
});
