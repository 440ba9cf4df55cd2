import { Matrix, solve } from 'ml-matrix';

export type Point = readonly [x: number, y: number];
export type Four = readonly [Point, Point, Point, Point];

/** A plane map through the vanishing points, row by row. */
export type Homography = readonly number[];

/** The corners of the square, clockwise to the eye from the upper left. */
const SQUARE: Four = [
  [-1, 1],
  [1, 1],
  [1, -1],
  [-1, -1],
];

/** The map that takes each corner of the square (clockwise to the eye from the upper left) to a point. */
export function toCorners(corners: Four): Homography {
  const rows: number[][] = [];
  const right: number[] = [];
  corners.forEach(([u, v], k) => {
    const [x, y] = SQUARE[k];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  return [...solve(new Matrix(rows), Matrix.columnVector(right)).to1DArray(), 1];
}

export function through(h: Homography, [x, y]: Point): Point {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/** The map the other way. */
export function inverted(h: Homography): Homography {
  const [a, b, c, d, e, f, g, i, j] = h;
  return [
    e * j - f * i,
    c * i - b * j,
    b * f - c * e,
    f * g - d * j,
    a * j - c * g,
    c * d - a * f,
    d * i - e * g,
    b * g - a * i,
    a * e - b * d,
  ];
}
