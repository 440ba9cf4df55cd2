import type { Billet } from '../billet/billet.ts';
import type { Plane } from '../billet/face.ts';
import { sampleCodes } from '../render/codes.ts';
import { type Shop, codedMaterial } from '../shop/shop.ts';

/** A picture in greys, rows from the top: 0 black … 1 white. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly values: Float64Array;
}

export const grey = (width: number, height: number, values = new Float64Array(width * height)): Grey => ({
  width,
  height,
  values,
});

/** Points a dot, each way. */
const PER_DOT = 2;

/** A face as it etches, by the tones of its steels; what is no steel is the mean of the rest. */
export function greyOf(billet: Billet, plane: Plane, width: number, height: number, shop: Shop): Grey {
  const codes = sampleCodes(billet, plane, PER_DOT * width, PER_DOT * height);
  const tones = new Float64Array(256).fill(NaN);
  const toneOf = (code: number): number => {
    if (code === 0) return NaN;
    if (Number.isNaN(tones[code])) tones[code] = codedMaterial(shop, code).tone;
    return tones[code];
  };
  const picture = grey(width, height);
  const empty: number[] = [];
  let sum = 0;
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      let [tone, count] = [0, 0];
      for (let j = 0; j < PER_DOT; j++)
        for (let i = 0; i < PER_DOT; i++) {
          const one = toneOf(codes[(PER_DOT * row + j) * PER_DOT * width + PER_DOT * column + i]);
          if (Number.isNaN(one)) continue;
          tone += one;
          count++;
        }
      const at = row * width + column;
      if (count === 0) empty.push(at);
      else sum += picture.values[at] = tone / count;
    }
  const mean = sum / Math.max(1, width * height - empty.length);
  for (const at of empty) picture.values[at] = mean;
  return picture;
}

/** Between dots, straight from one to the next; at the rim the nearest. */
export function greyAt({ width, height, values }: Grey, x: number, y: number): number {
  const cx = Math.min(width - 1, Math.max(0, x));
  const cy = Math.min(height - 1, Math.max(0, y));
  const [i, j] = [Math.min(width - 2, Math.floor(cx)), Math.min(height - 2, Math.floor(cy))];
  const [u, v] = [cx - i, cy - j];
  const at = j * width + i;
  return (
    (1 - v) * ((1 - u) * values[at] + u * values[at + 1]) +
    v * ((1 - u) * values[at + width] + u * values[at + width + 1])
  );
}

/** Another picture, each of whose dots asks this one somewhere. */
export function resampled(
  from: Grey,
  width: number,
  height: number,
  place: (x: number, y: number) => readonly [number, number],
): Grey {
  const to = grey(width, height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const [x, y] = place(column, row);
      to.values[row * width + column] = greyAt(from, x, y);
    }
  return to;
}

/** Part of a picture. */
export function cropped(
  { width, values }: Grey,
  left: number,
  top: number,
  wide: number,
  high: number,
): Grey {
  const part = grey(wide, high);
  for (let row = 0; row < high; row++)
    part.values.set(
      values.subarray((top + row) * width + left, (top + row) * width + left + wide),
      row * wide,
    );
  return part;
}

/** Mean and standard deviation. */
export function momentsOf(values: Float64Array): { mean: number; deviation: number } {
  let [sum, square] = [0, 0];
  for (const v of values) {
    sum += v;
    square += v * v;
  }
  const mean = sum / values.length;
  return { mean, deviation: Math.sqrt(Math.max(0, square / values.length - mean * mean)) };
}

/** Pearson's correlation of two pictures of one size; 0 where one is all of one tone. */
export function correlation(a: Float64Array, b: Float64Array): number {
  const n = a.length;
  // About a value of its own each: the squares then lose nothing.
  const [fromA, fromB] = [a[0], b[0]];
  let [sumA, sumB, squareA, squareB, cross] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    const u = a[i] - fromA;
    const v = b[i] - fromB;
    sumA += u;
    sumB += v;
    squareA += u * u;
    squareB += v * v;
    cross += u * v;
  }
  const deviationA = Math.sqrt(Math.max(0, squareA / n - (sumA / n) ** 2));
  const deviationB = Math.sqrt(Math.max(0, squareB / n - (sumB / n) ** 2));
  if (deviationA < 1e-9 || deviationB < 1e-9) return 0;
  return (cross / n - (sumA / n) * (sumB / n)) / (deviationA * deviationB);
}

/** Run together over so many dots either way, twice: what is finer than that is gone. */
export function softened(from: Grey, by: number): Grey {
  const { width, height } = from;
  const along = (v: Float64Array, n: number, lines: number, step: number, next: number): Float64Array => {
    const to = new Float64Array(v.length);
    // All up to a dot: what two such differ by is what lies between.
    const upTo = new Float64Array(n + 1);
    for (let line = 0; line < lines; line++) {
      const from = line * next;
      for (let i = 0; i < n; i++) upTo[i + 1] = upTo[i] + v[from + i * step];
      for (let i = 0; i < n; i++) {
        const [first, end] = [Math.max(0, i - by), Math.min(n, i + by + 1)];
        to[from + i * step] = (upTo[end] - upTo[first]) / (end - first);
      }
    }
    return to;
  };
  let { values } = from;
  for (let round = 0; round < 2; round++) {
    values = along(values, width, height, 1, width);
    values = along(values, height, width, width, 1);
  }
  return { width, height, values };
}
