import FFT from 'fft.js';
import { type Grey, correlation, momentsOf } from './grey.ts';

/** What a face is known again by: how much of each pitch and direction is in it, which way its lines run, how light it is. */
export interface Features {
  /** Log-polar amplitudes of its spectrum, rings by angles. */
  readonly spectrum: Float64Array;
  /** Shares of line lengths by direction, sum 1; 0 along the picture, counter-clockwise. */
  readonly directions: Float64Array;
  readonly mean: number;
}

/** Rings a half octave apart, from one wave over the picture's height. */
const RINGS = 12;
const OCTAVES = 6;
const ANGLES = 12;
const DIRECTIONS = 12;

/** The next power of two. */
const padded = (n: number): number => 2 ** Math.ceil(Math.log2(n));

/** Two-dimensional Fourier transform of a picture set to mean 0 under a Hann window, complex, row by row; sides are powers of two. */
function spectrumOf({ width, height, values }: Grey): {
  wide: number;
  high: number;
  data: Float64Array;
} {
  const [wide, high] = [padded(width), padded(height)];
  const { mean } = momentsOf(values);
  const data = new Float64Array(2 * wide * high);
  const hann = (i: number, n: number) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / n);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++)
      data[2 * (row * wide + column)] =
        (values[row * width + column] - mean) * hann(row, height) * hann(column, width);
  transformed(data, wide, high);
  return { wide, high, data };
}

/** In place: rows, then columns. */
function transformed(data: Float64Array, wide: number, high: number): void {
  const [rows, columns] = [new FFT(wide), new FFT(high)];
  const out = rows.createComplexArray() as number[];
  for (let row = 0; row < high; row++) {
    const part = data.subarray(2 * row * wide, 2 * (row + 1) * wide);
    rows.transform(out, part);
    part.set(out);
  }
  const [column, to] = [new Float64Array(2 * high), columns.createComplexArray() as number[]];
  for (let i = 0; i < wide; i++) {
    for (let row = 0; row < high; row++) {
      column[2 * row] = data[2 * (row * wide + i)];
      column[2 * row + 1] = data[2 * (row * wide + i) + 1];
    }
    columns.transform(to, column);
    for (let row = 0; row < high; row++) {
      data[2 * (row * wide + i)] = to[2 * row];
      data[2 * (row * wide + i) + 1] = to[2 * row + 1];
    }
  }
}

function logPolar(picture: Grey): Float64Array {
  const { wide, high, data } = spectrumOf(picture);
  const bins = new Float64Array(RINGS * ANGLES);
  for (let row = 0; row < high; row++)
    for (let column = 0; column < wide; column++) {
      // In waves over the picture's height, so that both axes are in one unit.
      const fx = ((column < wide / 2 ? column : column - wide) / wide) * picture.height;
      const fy = ((row < high / 2 ? row : row - high) / high) * picture.height;
      const far = Math.hypot(fx, fy);
      const ring = Math.floor((Math.log2(far) / OCTAVES) * RINGS);
      if (far < 1 || ring >= RINGS) continue;
      const turn = (Math.atan2(fy, fx) + Math.PI) % Math.PI;
      const angle = Math.floor((turn / Math.PI) * ANGLES) % ANGLES;
      const at = 2 * (row * wide + column);
      bins[ring * ANGLES + angle] += data[at] ** 2 + data[at + 1] ** 2;
    }
  return bins.map((power) => power ** 0.25);
}

function directionsOf({ width, height, values }: Grey): Float64Array {
  const bins = new Float64Array(DIRECTIONS);
  for (let row = 1; row < height - 1; row++)
    for (let column = 1; column < width - 1; column++) {
      const at = row * width + column;
      const gx = values[at + 1] - values[at - 1];
      const gy = values[at - width] - values[at + width];
      const steep = Math.hypot(gx, gy);
      if (steep === 0) continue;
      // A line runs square to the gradient.
      const turn = (Math.atan2(gx, -gy) + 2 * Math.PI) % Math.PI;
      bins[Math.floor((turn / Math.PI) * DIRECTIONS + 0.5) % DIRECTIONS] += steep;
    }
  const all = bins.reduce((a, b) => a + b, 0);
  return all > 0 ? bins.map((v) => v / all) : bins.fill(1 / DIRECTIONS);
}

export const featuresOf = (picture: Grey): Features => ({
  spectrum: logPolar(picture),
  directions: directionsOf(picture),
  mean: momentsOf(picture.values).mean,
});

/** How unlike two faces are: 0 the same; above 1 nobody takes one for the other (weights: handbook, wish). */
export function unlikeness(a: Features, b: Features): number {
  const directions = a.directions.reduce((sum, v, i) => sum + Math.abs(v - b.directions[i]), 0);
  return 1 - correlation(a.spectrum, b.spectrum) + 1.5 * Math.abs(a.mean - b.mean) + 0.8 * directions;
}
