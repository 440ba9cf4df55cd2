import { Matrix, solve } from 'ml-matrix';
import type { Four, Point } from './homography.ts';
import { refinedCorners } from './outline.ts';
import { type Photo, rectified, shrunk } from './photo.ts';
import { inOrder } from './sighting.ts';
import { type Tones, halved } from './tones.ts';

/** A photographed section in so few tones, laid out square as it is seen: of each of n × n dots, rows from above, which tone, the darkest 0. */
export interface Posterised {
  readonly n: number;
  readonly tone: Uint8Array;
  /** Where its edges were found. */
  readonly corners: Four;
}

/** Dots a side of it; twice as many are looked at. */
export const POSTER_SIDE = 256;
const ROUNDS = 8;
/** Of the light that falls on it: even, and falling off either way. */
const LIGHT = 6;

const lightAt = (x: number, y: number): number[] => [1, x, y, x * x, x * y, y * y];

/** The middles of `count` heaps of values (Lloyd), from the least. */
function heaps(values: Float64Array, count: number): number[] {
  const sorted = Float64Array.from(values).sort();
  let middles = Array.from(
    { length: count },
    (_, k) => sorted[Math.floor(((k + 0.5) / count) * sorted.length)],
  );
  for (let round = 0; round < 20; round++) {
    const sums = middles.map(() => [0, 0]);
    for (const v of values) {
      const own = sums[nearest(middles, v)];
      own[0] += v;
      own[1]++;
    }
    middles = sums.map(([sum, n], k) => (n > 0 ? sum / n : middles[k])).sort((a, b) => a - b);
  }
  return middles;
}

function nearest(middles: readonly number[], value: number): number {
  let best = 0;
  for (let k = 1; k < middles.length; k++)
    if (Math.abs(value - middles[k]) < Math.abs(value - middles[best])) best = k;
  return best;
}

/** The tone of most of a dot and its eight neighbours. */
function smoothed(tone: Uint8Array, n: number, count: number): Uint8Array {
  return tone.map((own, at) => {
    const votes = new Array<number>(count).fill(0);
    votes[own] = 0.5;
    for (let dj = -1; dj <= 1; dj++)
      for (let di = -1; di <= 1; di++) {
        const [i, j] = [(at % n) + di, Math.floor(at / n) + dj];
        if (i >= 0 && j >= 0 && i < n && j < n) votes[tone[j * n + i]]++;
      }
    return votes.indexOf(Math.max(...votes));
  });
}

/** What falls on it unevenly is taken off by turns with finding its tones: each makes the other plainer. */
function tonesOf(grey: Tones, weight: Tones, count: number): Uint8Array {
  const { n, data } = grey;
  const light = new Float64Array(n * n);
  const basis = Float64Array.from({ length: LIGHT * n * n }, (_, k) => {
    const at = Math.floor(k / LIGHT);
    return lightAt((2 * (at % n) + 1) / n - 1, 1 - (2 * Math.floor(at / n) + 1) / n)[k % LIGHT];
  });
  const seen = Array.from({ length: n * n }, (_, k) => k).filter((k) => weight.data[k] > 0.3);
  const values = new Float64Array(seen.length);
  let middles: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    seen.forEach((k, i) => (values[i] = data[k] - light[k]));
    middles = heaps(values, count);
    const a = new Float64Array(LIGHT * LIGHT);
    const b = new Float64Array(LIGHT);
    for (const k of seen) {
      const left = data[k] - middles[nearest(middles, data[k] - light[k])];
      for (let p = 0; p < LIGHT; p++) {
        b[p] += basis[LIGHT * k + p] * left;
        for (let q = 0; q < LIGHT; q++) a[LIGHT * p + q] += basis[LIGHT * k + p] * basis[LIGHT * k + q];
      }
    }
    for (let p = 0; p < LIGHT; p++) a[LIGHT * p + p] += 1e-6 * seen.length;
    const by = solve(Matrix.from1DArray(LIGHT, LIGHT, a), Matrix.columnVector(b)).to1DArray();
    for (let k = 0; k < n * n; k++) {
      light[k] = 0;
      for (let p = 0; p < LIGHT; p++) light[k] += by[p] * basis[LIGHT * k + p];
    }
  }
  return Uint8Array.from(data, (v, k) => nearest(middles, v - light[k]));
}

/** A photographed section as so many tones, by where its corners were tapped; null where they make no section. */
export function posterised(photo: Photo, taps: Four, count: number): Posterised | null {
  const { photo: small, by } = shrunk(photo, inOrder(taps));
  const scaled = (corners: Four, f: number) =>
    corners.map(([x, y]): Point => [x * f, y * f]) as unknown as Four;
  const corners = refinedCorners(small, scaled(inOrder(taps), 1 / by));
  if (!corners.flat().every(Number.isFinite)) return null;
  const { grey, weight } = rectified(small, corners, 2 * POSTER_SIDE);
  const tone = tonesOf(halved(grey), halved(weight), count);
  return { n: POSTER_SIDE, tone: smoothed(tone, POSTER_SIDE, count), corners: scaled(corners, by) };
}
