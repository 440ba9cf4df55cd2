import FFT from 'fft.js';
import { type Grey, greyAt, grey, momentsOf, softened } from './grey.ts';

/** One repeat of a picture, set square whatever its shape: mean 0, spread 1; all 0 where it is of one tone. */
export interface RepeatCell {
  readonly side: number;
  readonly values: Float64Array;
}

/** Which way lines run in a cell: real and imaginary part of the squared gradient, so that neither their number nor their phase counts. */
export interface Directions {
  readonly side: number;
  readonly real: Float64Array;
  readonly imaginary: Float64Array;
}

/** Complex, row by row; of a square whose side is a power of two. */
export type Spectrum = Float64Array;

const ffts = new Map<number, FFT>();
function fftOf(side: number): FFT {
  const known = ffts.get(side) ?? new FFT(side);
  ffts.set(side, known);
  return known;
}

/** A two-dimensional transform of a square, in place. */
function transformed(data: Float64Array, side: number, isBack: boolean): Float64Array {
  const fft = fftOf(side);
  const out = fft.createComplexArray() as number[];
  const line = new Float64Array(2 * side);
  const go = (): void => (isBack ? fft.inverseTransform(out, line) : fft.transform(out, line));
  for (let row = 0; row < side; row++) {
    line.set(data.subarray(2 * row * side, 2 * (row + 1) * side));
    go();
    data.set(out, 2 * row * side);
  }
  for (let column = 0; column < side; column++) {
    for (let row = 0; row < side; row++) {
      line[2 * row] = data[2 * (row * side + column)];
      line[2 * row + 1] = data[2 * (row * side + column) + 1];
    }
    go();
    for (let row = 0; row < side; row++) {
      data[2 * (row * side + column)] = out[2 * row];
      data[2 * (row * side + column) + 1] = out[2 * row + 1];
    }
  }
  return data;
}

function standard(values: Float64Array, side: number): RepeatCell {
  const { mean, deviation } = momentsOf(values);
  return { side, values: deviation < 1e-9 ? values.map(() => 0) : values.map((v) => (v - mean) / deviation) };
}

/** A picture set square, so many dots a side: each the mean of what it covers, which is what a finer line is to the eye. */
export function cellOf(picture: Grey, side: number): RepeatCell {
  const { width, height } = picture;
  const [across, down] = [Math.ceil(width / side), Math.ceil(height / side)];
  const values = new Float64Array(side * side);
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      let sum = 0;
      for (let j = 0; j < down; j++)
        for (let i = 0; i < across; i++)
          sum += greyAt(
            picture,
            ((column + (i + 0.5) / across) * width) / side - 0.5,
            ((row + (j + 0.5) / down) * height) / side - 0.5,
          );
      values[row * side + column] = sum / (across * down);
    }
  return standard(values, side);
}

/** At fewer dots: a side that divides the one it has. */
export function coarser({ side, values }: RepeatCell, to: number): RepeatCell {
  return standard(pooled(values, side, to), to);
}

function pooled(values: Float64Array, side: number, to: number): Float64Array<ArrayBuffer> {
  const by = side / to;
  const small = new Float64Array(to * to);
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++)
      small[Math.floor(row / by) * to + Math.floor(column / by)] += values[row * side + column] / (by * by);
  return small;
}

/** A cell that lies mirrored left to right, end for end, or both. */
export function lyingAs({ side, values }: RepeatCell, { isTurned, isMirrored }: Lying): RepeatCell {
  const to = new Float64Array(values.length);
  const last = side - 1;
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      const x = isTurned !== isMirrored ? last - column : column;
      const y = isTurned ? last - row : row;
      to[row * side + column] = values[y * side + x];
    }
  return { side, values: to };
}

export interface Lying {
  /** Half round. */
  readonly isTurned: boolean;
  readonly isMirrored: boolean;
}

/** End for end and from behind a blade is the same blade; what lies a quarter turned on it is another face. */
export const FOUR_WAYS: readonly Lying[] = [false, true].flatMap((isTurned) =>
  [false, true].map((isMirrored) => ({ isTurned, isMirrored })),
);

/** How its lines run, at fewer dots: run together, so that what lies between them counts for nothing. */
export function directionsOf(cell: RepeatCell, to: number): Directions {
  const { side, values } = cell;
  const even = softened({ width: side, height: side, values }, 1).values;
  const [real, imaginary] = [grey(side, side), grey(side, side)];
  for (let y = 0; y < side; y++) {
    const [row, above, below] = [y, (y + side - 1) % side, (y + 1) % side].map((line) => line * side);
    for (let x = 0; x < side; x++) {
      const gx = even[row + (x + 1 === side ? 0 : x + 1)] - even[row + (x === 0 ? side : x) - 1];
      const gy = even[below + x] - even[above + x];
      real.values[row + x] = gx * gx - gy * gy;
      imaginary.values[row + x] = 2 * gx * gy;
    }
  }
  const by = Math.max(1, Math.round(side / to / 2));
  const parts = [real, imaginary].map((part) => pooled(softened(part, by).values, side, to));
  // A weak edge runs some way too: half of its strength counts.
  for (let i = 0; i < to * to; i++) {
    const strength = Math.hypot(parts[0][i], parts[1][i]);
    if (strength < 1e-12) continue;
    for (const part of parts) part[i] /= Math.sqrt(strength);
  }
  const power = Math.sqrt(parts.reduce((sum, part) => sum + part.reduce((s, v) => s + v * v, 0), 0));
  const [r, i] = parts.map((part) => (power < 1e-9 ? part : part.map((v) => (v * to) / power)));
  return { side: to, real: r, imaginary: i };
}

export function spectrumOfCell({ side, values }: RepeatCell): Spectrum {
  const data = new Float64Array(2 * side * side);
  for (let i = 0; i < values.length; i++) data[2 * i] = values[i];
  return transformed(data, side, false);
}

export function spectrumOfDirections({ side, real, imaginary }: Directions): Spectrum {
  const data = new Float64Array(2 * side * side);
  for (let i = 0; i < real.length; i++) {
    data[2 * i] = real[i];
    data[2 * i + 1] = imaginary[i];
  }
  return transformed(data, side, false);
}

/** How well two agree at every shift round the repeat (−1 … 1), from their spectra: the real part of the cross-correlation, dots. */
export function agreements(a: Spectrum, b: Spectrum, side: number): Float64Array {
  const product = new Float64Array(a.length);
  for (let i = 0; i < a.length; i += 2) {
    product[i] = a[i] * b[i] + a[i + 1] * b[i + 1];
    product[i + 1] = a[i] * b[i + 1] - a[i + 1] * b[i];
  }
  transformed(product, side, true);
  const all = new Float64Array(side * side);
  for (let i = 0; i < all.length; i++) all[i] = product[2 * i] / (side * side);
  return all;
}
