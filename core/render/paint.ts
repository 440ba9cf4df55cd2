import { BLOCK } from '../billet/fields/field.ts';
import type { Billet } from '../billet/billet.ts';
import type { Plane } from '../billet/face.ts';
import { Asker } from './asker.ts';
import { type Palette, colourIn, colourOn } from './palette.ts';
import { jitter } from './scattering.ts';
import { type Sketch, UNCLEAR, sketched } from './sketch.ts';

/** A picture, rows from the top, four bytes a pixel (red, green, blue, opacity). */
export interface Painted {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** Rows and columns of points in a pixel where pieces meet, layers end, or what is no layer has an edge. */
const PER_PIXEL = 4;

export interface PaintRequest {
  readonly billet: Billet;
  readonly plane: Plane;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly palette: Palette;
  /** One point a pixel, for the first look while something is being changed. */
  readonly rough?: boolean;
  /** Rows and columns of points in a pixel that one answer does not settle; fewer for paper, where dots run together. */
  readonly perPixel?: number;
}

const ROWS_AT_ONCE = 16;

/** One point somewhere in every pixel. */
function* roughly(request: PaintRequest): Generator<number, Painted> {
  const { billet, plane, widthPx, heightPx, palette } = request;
  const rgba = new Uint8ClampedArray(widthPx * heightPx * 4);
  const asker = new Asker(billet, plane);
  const { us, vs, codes } = asker;
  const colour = new Float64Array(3);
  const all = widthPx * heightPx;
  for (let from = 0; from < all; from += BLOCK) {
    const count = Math.min(BLOCK, all - from);
    for (let i = 0; i < count; i++) {
      const row = Math.floor((from + i) / widthPx);
      const column = (from + i) % widthPx;
      us[i] = (column + jitter(column, row)) / widthPx;
      vs[i] = 1 - (row + jitter(row + 7919, column)) / heightPx;
    }
    asker.ask(count);
    for (let i = 0; i < count; i++) {
      const ink = palette[codes[i]];
      if (!ink) continue;
      colourOn(ink, us[i] * widthPx, vs[i] * heightPx, colour);
      const at = 4 * (from + i);
      for (let c = 0; c < 3; c++) rgba[at + c] = colour[c];
      rgba[at + 3] = 255;
    }
    yield from / all;
  }
  return { widthPx, heightPx, rgba };
}

/** The smaller of two steps, nothing where they go opposite ways: over a seam it keeps to its own side. */
const lesser = (a: number, b: number): number => (a * b <= 0 ? 0 : Math.abs(a) < Math.abs(b) ? a : b);

/** Paints single pixels by a lattice of points in each; each point stands for its part of the pixel, with what layers cover of that. */
class Closely {
  private readonly asker: Asker;
  private readonly request: PaintRequest;
  private readonly side: number;
  private readonly shares: Float64Array;
  private readonly colour = new Float64Array(3);
  readonly atOnce: number;

  constructor(request: PaintRequest) {
    this.request = request;
    this.asker = new Asker(request.billet, request.plane);
    this.side = request.perPixel ?? PER_PIXEL;
    this.atOnce = Math.floor(BLOCK / this.side ** 2);
    this.shares = new Float64Array(request.palette.length);
  }

  paint(pixels: readonly number[], rgba: Uint8ClampedArray): void {
    const { asker, side } = this;
    const { widthPx, heightPx } = this.request;
    const each = side * side;
    pixels.forEach((pixel, k) => {
      const row = Math.floor(pixel / widthPx);
      const column = pixel % widthPx;
      for (let i = 0; i < each; i++) {
        asker.us[k * each + i] = (column + ((i % side) + 0.5) / side) / widthPx;
        asker.vs[k * each + i] = 1 - (row + (Math.floor(i / side) + 0.5) / side) / heightPx;
      }
    });
    asker.ask(pixels.length * each, true);
    pixels.forEach((pixel, k) => this.pixel(k * each, 4 * pixel, rgba));
  }

  /** How much the height grows from a point to the next along a row or column of the lattice. */
  private growth(from: number, at: number, place: number, stride: number): number {
    const { stack, height } = this.asker.trace;
    const own = stack[from + at];
    const before = place > 0 && stack[from + at - stride] === own;
    const after = place + 1 < this.side && stack[from + at + stride] === own;
    const low = before ? height[from + at] - height[from + at - stride] : 0;
    const high = after ? height[from + at + stride] - height[from + at] : 0;
    return before && after ? lesser(low, high) : before ? low : high;
  }

  private pixel(from: number, to: number, rgba: Uint8ClampedArray): void {
    const { asker, side, shares, colour } = this;
    const { palette, widthPx, heightPx } = this.request;
    const { stack, height } = asker.trace;
    let [red, green, blue, steel] = [0, 0, 0, 0];
    const add = (code: number, i: number, share: number): void => {
      const ink = palette[code];
      if (!ink || share === 0) return;
      colourOn(ink, asker.us[i] * widthPx, asker.vs[i] * heightPx, colour);
      red += share * colour[0];
      green += share * colour[1];
      blue += share * colour[2];
      steel += share;
    };
    for (let i = 0; i < side * side; i++) {
      const own = stack[from + i];
      if (!own) {
        add(asker.codes[from + i], from + i, 1);
        continue;
      }
      const across = Math.abs(this.growth(from, i, i % side, 1));
      const up = Math.abs(this.growth(from, i, Math.floor(i / side), side));
      own.coverage.inDot(height[from + i], across, up, shares);
      const { codes } = own.coverage;
      for (let c = 0; c < codes.length; c++) add(codes[c], from + i, shares[c]);
    }
    if (steel <= 0) return;
    rgba[to] = red / steel;
    rgba[to + 1] = green / steel;
    rgba[to + 2] = blue / steel;
    rgba[to + 3] = (255 * steel) / (side * side);
  }
}

/** Paints what one answer settles, row by row. */
class Settled {
  private readonly sketch: Sketch;
  private readonly palette: Palette;
  private readonly widthPx: number;
  private readonly heightPx: number;
  private readonly shares: Float64Array;
  private readonly own = new Float64Array(3);
  /** Whether no ink has lines: then a colour hangs on its code alone. */
  private readonly plain: boolean;

  constructor(sketch: Sketch, { palette, widthPx, heightPx }: PaintRequest) {
    [this.sketch, this.palette, this.widthPx, this.heightPx] = [sketch, palette, widthPx, heightPx];
    this.shares = new Float64Array(palette.length);
    this.plain = palette.every((ink) => !ink || ink.duty === 0);
  }

  /** A row of pixels; those that are not settled are added to `unclear`. */
  paint(row: number, rgba: Uint8ClampedArray, unclear: number[]): void {
    const { sketch, palette, widthPx, heightPx, shares, own, plain } = this;
    const { kinds } = sketch;
    const end = (row + 1) * widthPx;
    for (let pixel = row * widthPx; pixel < end; pixel++) {
      if (kinds[pixel] === UNCLEAR) {
        unclear.push(pixel);
        continue;
      }
      const codes = sketch.coverage(pixel, shares);
      let red = 0;
      let green = 0;
      let blue = 0;
      let steel = 0;
      for (let k = 0; k < codes.length; k++) {
        const share = shares[k];
        const ink = palette[codes[k]];
        if (!ink || share === 0) continue;
        let colour: ArrayLike<number> = ink.paper;
        if (!plain) {
          colourIn(ink, pixel - row * widthPx + 0.5, heightPx - row - 0.5, own);
          colour = own;
        }
        red += share * colour[0];
        green += share * colour[1];
        blue += share * colour[2];
        steel += share;
      }
      if (steel <= 0) continue;
      const to = 4 * pixel;
      rgba[to] = red / steel;
      rgba[to + 1] = green / steel;
      rgba[to + 2] = blue / steel;
      rgba[to + 3] = 255 * steel;
    }
  }
}

/**
 * Paints a face by area coverage, yielding every few rows (share done, 0…1) so that a caller can stop. Where layers pass evenly
 * through a pixel their coverage is exact, by what they sum up to; bands finer than a pixel come out as their mean tone.
 */
export function* painting(request: PaintRequest): Generator<number, Painted> {
  if (request.rough) return yield* roughly(request);
  const { widthPx, heightPx } = request;
  const rgba = new Uint8ClampedArray(widthPx * heightPx * 4);
  const sketch = yield* sketched(request);
  const unclear: number[] = [];
  const settled = new Settled(sketch, request);
  for (let row = 0; row < heightPx; row++) {
    settled.paint(row, rgba, unclear);
    if (row % ROWS_AT_ONCE === 0) yield 0.4 + (0.2 * row) / heightPx;
  }
  const closely = new Closely(request);
  for (let k = 0; k < unclear.length; k += closely.atOnce) {
    closely.paint(unclear.slice(k, k + closely.atOnce), rgba);
    yield 0.6 + (0.4 * k) / unclear.length;
  }
  return { widthPx, heightPx, rgba };
}

/** Paints at one go. */
export function paint(request: PaintRequest): Painted {
  const work = painting(request);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
