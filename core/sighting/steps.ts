import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { type Tones, between, blended, sampled, slopes, tonesOf } from './tones.ts';
import {
  type DotPlaces,
  USUAL,
  USUAL_SLIDE,
  USUAL_TURN,
  type Spline,
  type Warp,
  carried,
  modesAt,
  splineAt,
  warped,
  withModes,
  withSpline,
} from './warp.ts';

/** A photograph and a prediction at one fineness, both evened; the prediction as it would lie in this orientation. */
export interface Level {
  readonly photo: Tones;
  readonly weight: Tones;
  readonly predicted: Tones;
  readonly dx: Tones;
  readonly dy: Tones;
  /** What a dot of full weight counts for in a step. */
  readonly perDot: number;
}

export function levelOf(photo: Tones, weight: Tones, predicted: Tones): Level {
  const weights = weight.data.reduce((sum, w) => sum + w, 0);
  const perDot = SPOTS / (Math.max(1, weights) * LEFT_OVER ** 2);
  return { photo, weight, predicted, ...slopes(predicted), perDot };
}

/** Beyond this a difference of greys is an error of the photograph (a scratch, a shine) more than of the fit. */
const ODD = 1;
/** The differences left over after a good fit, and of how many places that is known independently. */
const LEFT_OVER = 0.5;
const SPOTS = 2500;

/** Weighted correlation of the photograph with the prediction, where its dots lie there; moved by a shift besides; by every other dot where that is enough. */
export function correlation(
  { photo, weight, predicted }: Level,
  places: DotPlaces,
  sx = 0,
  sy = 0,
  by: 1 | 2 = 1,
): number {
  let [s, a, b, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < weight.data.length; k += by) {
    const i = by === 2 ? onChessboard(k, photo.n) : k;
    const w = weight.data[i];
    if (w < LEAST_WEIGHT) continue;
    const f = photo.data[i];
    const p = sampled(predicted, places[2 * i] + sx, places[2 * i + 1] + sy);
    s += w;
    a += w * f;
    b += w * p;
    aa += w * f * f;
    bb += w * p * p;
    ab += w * f * p;
  }
  if (s === 0) return 0;
  return (ab / s - (a / s) * (b / s)) / Math.sqrt((aa / s - (a / s) ** 2) * (bb / s - (b / s) ** 2) + 1e-12);
}

/** Less than this a dot is not looked at. */
const LEAST_WEIGHT = 0.05;

/** What the photograph shows beyond the prediction at a dot, and how steep the prediction is there. */
interface Difference {
  left: number;
  gx: number;
  gy: number;
  weight: number;
}

/** Every other dot, in every other row the other one. */
const onChessboard = (k: number, n: number): number => k + (Math.floor(k / n) & 1);

/** From so many dots a side on every other one says as much: neighbours are alike. */
const DENSE = 100;

/** Goes through every dot that counts and lies within the prediction; of many every other one, as on a chessboard. */
function eachDot(level: Level, places: DotPlaces, visit: (at: number, difference: Difference) => void): void {
  const { photo, weight, predicted, dx, dy } = level;
  const difference: Difference = { left: 0, gx: 0, gy: 0, weight: 0 };
  const { n } = photo;
  const by = n >= DENSE ? 2 : 1;
  const per = by * level.perDot;
  for (let k = 0; k < weight.data.length; k += by) {
    const i = by === 2 ? onChessboard(k, n) : k;
    const w = weight.data[i];
    const [qx, qy] = [places[2 * i], places[2 * i + 1]];
    if (w < LEAST_WEIGHT || qx < -1 || qx > 1 || qy < -1 || qy > 1) continue;
    const at = between(n, qx, qy);
    difference.left = photo.data[i] - blended(predicted, at);
    difference.gx = blended(dx, at);
    difference.gy = blended(dy, at);
    difference.weight = w * trust(difference.left) * per;
    visit(i, difference);
  }
}

/** Weighted normal equations of a least-squares step, symmetric. */
interface Normal {
  readonly size: number;
  readonly a: Float64Array;
  readonly b: Float64Array;
}

const normalOf = (size: number): Normal => ({
  size,
  a: new Float64Array(size * size),
  b: new Float64Array(size),
});

function solved({ size, a, b }: Normal): Float64Array {
  for (let i = 0; i < size; i++) for (let j = 0; j < i; j++) a[i * size + j] = a[j * size + i];
  const matrix = Matrix.from1DArray(size, size, a);
  const way = new CholeskyDecomposition(matrix).solve(Matrix.columnVector(b));
  return Float64Array.from(way.to1DArray());
}

/** How much a difference counts: less where it is odd. */
const trust = (difference: number): number => 1 / (1 + (difference / ODD) ** 2) ** 2;

/** By what the layers are turned: a section is pressed off its angle, or turned in the press; seldom both. */
export type Turns = 'turn' | 'slide' | 'both';
const HELD = 1e-4;

/** One step of the few modes that are usual: the smooth turn, the slide, and the others. */
export function modesStep(level: Level, warp: Warp, turns: Turns = 'both'): Warp {
  const size = USUAL.length + 2;
  const normal = normalOf(size);
  const { a, b } = normal;
  const row = new Float64Array(size);
  const each = new Float64Array(2 * USUAL.length);
  const exact = carried(warp, level.photo.n);
  eachDot(level, withModes(exact, warp.modes), (i, { left, gx, gy, weight }) => {
    const [x, y] = [exact[2 * i], exact[2 * i + 1]];
    const r = 2 * Math.max(Math.abs(x), Math.abs(y));
    row[0] = gx * y * (1 - x * x) - gy * x * (1 - y * y);
    row[1] = Math.abs(x) >= Math.abs(y) ? (x > 0 ? -r : r) * gy : (y > 0 ? r : -r) * gx;
    modesAt(x, y, each);
    for (let m = 0; m < USUAL.length; m++) row[m + 2] = gx * each[2 * m] + gy * each[2 * m + 1];
    for (let p = 0; p < size; p++) {
      const by = weight * row[p];
      const from = p * size;
      b[p] += by * left;
      for (let q = p; q < size; q++) a[from + q] += by * row[q];
    }
  });
  const now = [warp.turn, warp.slide, ...USUAL.map((_, m) => warp.modes[m] ?? 0)];
  // What is held stays at nothing.
  const usual = [turns === 'slide' ? HELD : USUAL_TURN, turns === 'turn' ? HELD : USUAL_SLIDE, ...USUAL];
  usual.forEach((spread, p) => {
    normal.a[p * size + p] += 1 / spread ** 2;
    normal.b[p] -= now[p] / spread ** 2;
  });
  const step = solved(normal);
  const next = now.map((value, p) => value + Math.max(-usual[p], Math.min(usual[p], step[p])));
  return { ...warp, turn: next[0], slide: next[1], modes: next.slice(2) };
}

/** How stiff the bending of a displacement is held, and how near to nothing, in half sides. */
const BENDS = 0.03;
const STRAYS = 0.02;
/** A knot moves by no more than this at once. */
const MOST_STEP = 0.03;

/** Adds what holds the knots: second differences along and across, and what they are worth themselves. */
function hold(normal: Normal, { cells, knots }: Spline): void {
  const row = cells + 3;
  const { size, a, b } = normal;
  const stiff = 1 / BENDS ** 2;
  const add = (terms: readonly (readonly [number, number])[], weight: number) => {
    const value = terms.reduce((sum, [k, c]) => sum + c * knots[k], 0);
    for (const [p, cp] of terms) {
      b[p] -= weight * cp * value;
      for (const [q, cq] of terms) if (q >= p) a[p * size + q] += weight * cp * cq;
    }
  };
  for (let j = 0; j < row; j++)
    for (let i = 0; i < row; i++)
      for (let c = 0; c < 2; c++) {
        const at = (di: number, dj: number) => 2 * ((j + dj) * row + i + di) + c;
        add([[at(0, 0), 1]], 1 / (2 * STRAYS) ** 2);
        if (i + 2 < row)
          add(
            [
              [at(0, 0), 1],
              [at(1, 0), -2],
              [at(2, 0), 1],
            ],
            stiff,
          );
        if (j + 2 < row)
          add(
            [
              [at(0, 0), 1],
              [at(0, 1), -2],
              [at(0, 2), 1],
            ],
            stiff,
          );
        if (i + 1 < row && j + 1 < row)
          add(
            [
              [at(0, 0), 1],
              [at(1, 0), -1],
              [at(0, 1), -1],
              [at(1, 1), 1],
            ],
            2 * stiff,
          );
      }
}

/** One step of the displacement by splines over what the modes make of every dot. */
export function splineStep(level: Level, byModes: DotPlaces, spline: Spline): Spline {
  const { n } = level.photo;
  const { cells, knots } = spline;
  const row = cells + 3;
  const size = knots.length;
  const normal = normalOf(size);
  const { a, b } = normal;
  const along = Array.from({ length: n }, (_, i) => splineAt(cells, (2 * i + 1) / n - 1));
  const knot = new Int32Array(16);
  const part = new Float64Array(16);
  eachDot(level, withSpline(byModes, spline), (at, { left, gx, gy, weight }) => {
    const [u, v] = [along[at % n], along[n - 1 - Math.floor(at / n)]];
    for (let m = 0; m < 16; m++) {
      knot[m] = 2 * ((v.first + (m >> 2)) * row + u.first + (m & 3));
      part[m] = u.w[m & 3] * v.w[m >> 2];
    }
    const [xx, xy, yy] = [weight * gx * gx, weight * gx * gy, weight * gy * gy];
    for (let p = 0; p < 16; p++) {
      const by = weight * left * part[p];
      b[knot[p]] += by * gx;
      b[knot[p] + 1] += by * gy;
      const [first, second] = [knot[p] * size, (knot[p] + 1) * size];
      for (let q = p; q < 16; q++) {
        const both = part[p] * part[q];
        const k = knot[q];
        a[first + k] += both * xx;
        a[first + k + 1] += both * xy;
        a[second + k] += both * xy;
        a[second + k + 1] += both * yy;
      }
    }
  });
  hold(normal, spline);
  const step = solved(normal);
  return { cells, knots: knots.map((k, i) => k + Math.max(-MOST_STEP, Math.min(MOST_STEP, step[i]))) };
}

export const fresh = (cells: number): Spline => ({ cells, knots: new Float64Array(2 * (cells + 3) ** 2) });

/** A finer net of knots that gives nearly the same displacement. */
export function finer(spline: Spline, cells: number): Spline {
  const made = fresh(cells);
  const row = cells + 3;
  // Knots of a smooth displacement lie near its values at their own places.
  for (let j = 0; j < row; j++)
    for (let i = 0; i < row; i++) {
      const place = (k: number) => Math.max(-1, Math.min(1, (2 * (k - 1)) / cells - 1));
      const [dx, dy] = warped({ turn: 0, slide: 0, modes: [], spline }, place(i), place(j));
      made.knots[2 * (j * row + i)] = dx - place(i);
      made.knots[2 * (j * row + i) + 1] = dy - place(j);
    }
  return made;
}

/** The orientations of a square: seen on end B turned k quarters, then the same mirrored, as end A shows it. */
export const ORIENTATIONS = 8;

/** A point of a photograph in orientation k as it lies on end B: turned, or mirrored and turned. */
export function onEndB(k: number, x: number, y: number): readonly [number, number] {
  const m = k >= 4 ? -1 : 1;
  const [c, s] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ][k % 4];
  return [c * m * x - s * y, s * m * x + c * y];
}

/** A prediction, seen on end B, as it lies in a photograph of orientation k. */
export function oriented(predicted: Tones, k: number): Tones {
  const { n } = predicted;
  const made = tonesOf(n);
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [x, y] = onEndB(k, 2 * i + 1 - n, n - 1 - 2 * j);
      made.data[j * n + i] = predicted.data[((n - 1 - y) / 2) * n + (x + n - 1) / 2];
    }
  return made;
}
