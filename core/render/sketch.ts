import { BLOCK, type Stack } from '../billet/fields/field.ts';
import { Asker } from './asker.ts';
import type { PaintRequest } from './paint.ts';
import { jitter } from './scattering.ts';

/** What one answer at a pixel's middle settles: nothing, all of it (it is of one code), or how layers pass through it. */
export const UNCLEAR = 0;
const PLAIN = 1;
const LAYERED = 2;

/** Of the growth over a pixel: heights that bend by more are not taken as straight. */
const BENT = 0.25;
/** And of the thinnest layer, where they hardly grow. */
const THIN = 0.02;
const ROWS_AT_ONCE = 16;

const NO_CODES: number[] = [0];

/** What is at the middle of every pixel, and whether that tells the whole of it. */
class Sketch {
  readonly kinds: Uint8Array;
  readonly codes: Uint8Array;
  private readonly stacks: (Stack | null)[] = [null];
  /** Of each pixel the place of its stack, 0 for none, and its height there. */
  private readonly stackOf: Uint16Array;
  private readonly heights: Float64Array;
  /** How much the height grows over a pixel of layers, to the right and downward. */
  private readonly across: Float32Array;
  private readonly down: Float32Array;
  private readonly widthPx: number;
  private readonly heightPx: number;

  constructor({ widthPx, heightPx }: PaintRequest) {
    [this.widthPx, this.heightPx] = [widthPx, heightPx];
    const count = widthPx * heightPx;
    this.kinds = new Uint8Array(count);
    this.codes = new Uint8Array(count);
    this.stackOf = new Uint16Array(count);
    this.heights = new Float64Array(count);
    this.across = new Float32Array(count);
    this.down = new Float32Array(count);
  }

  /** Takes down what was asked at the middles of pixels from one on. */
  take({ codes, trace }: Asker, from: number, count: number): void {
    const { stacks } = this;
    this.codes.set(count === BLOCK ? codes : codes.subarray(0, count), from);
    this.heights.set(count === BLOCK ? trace.height : trace.height.subarray(0, count), from);
    let [last, place]: [Stack | null, number] = [null, 0];
    for (let i = 0; i < count; i++) {
      const stack = trace.stack[i];
      if (stack !== last) {
        last = stack;
        place = stacks.indexOf(stack);
        if (place < 0) place = stacks.push(stack) - 1;
      }
      this.stackOf[from + i] = place;
    }
  }

  /** Whether layers pass evenly through a pixel and its four neighbours; at the picture's sides, so far as there are any. */
  private isLayered(pixel: number): boolean {
    const { widthPx, heightPx, stacks, stackOf, heights } = this;
    const own = stackOf[pixel];
    const column = pixel % widthPx;
    const left = column > 0 ? pixel - 1 : pixel;
    const right = column + 1 < widthPx ? pixel + 1 : pixel;
    const above = pixel >= widthPx ? pixel - widthPx : pixel;
    const below = pixel + widthPx < widthPx * heightPx ? pixel + widthPx : pixel;
    if (stackOf[left] !== own || stackOf[right] !== own || stackOf[above] !== own || stackOf[below] !== own)
      return false;
    const height = heights[pixel];
    const [before, after] = [height - heights[left], heights[right] - height];
    const [over, under] = [height - heights[above], heights[below] - height];
    const across = left === pixel ? after : right === pixel ? before : (before + after) / 2;
    const down = above === pixel ? under : below === pixel ? over : (over + under) / 2;
    this.across[pixel] = across;
    this.down[pixel] = down;
    const bend = left === pixel || right === pixel ? 0 : Math.abs(after - before);
    const sag = above === pixel || below === pixel ? 0 : Math.abs(under - over);
    if (bend === 0 && sag === 0) return true;
    const grows = Math.max(Math.abs(across), Math.abs(down));
    return Math.max(bend, sag) <= Math.max(BENT * grows, THIN * stacks[own]!.coverage.leastMm);
  }

  /** Whether a pixel in no stack is of one code with all eight neighbours. */
  private isPlain(pixel: number): boolean {
    const { widthPx, heightPx, codes, stackOf } = this;
    const [row, column] = [Math.floor(pixel / widthPx), pixel % widthPx];
    for (let r = Math.max(0, row - 1); r <= Math.min(heightPx - 1, row + 1); r++)
      for (let c = Math.max(0, column - 1); c <= Math.min(widthPx - 1, column + 1); c++) {
        const other = r * widthPx + c;
        if (codes[other] !== codes[pixel] || stackOf[other] !== 0) return false;
      }
    return true;
  }

  settle(row: number): void {
    for (let pixel = row * this.widthPx; pixel < (row + 1) * this.widthPx; pixel++)
      this.kinds[pixel] =
        this.stackOf[pixel] === 0
          ? this.isPlain(pixel)
            ? PLAIN
            : UNCLEAR
          : this.isLayered(pixel)
            ? LAYERED
            : UNCLEAR;
  }

  /** Compares a second answer in each of some pixels, `dx` and `dy` pixels off its middle (y down): one that was not to be expected leaves it and its neighbours open. */
  check(
    { codes, trace }: Asker,
    pixels: Uint32Array,
    dx: Float64Array,
    dy: Float64Array,
    count: number,
  ): void {
    const { stacks, stackOf, heights } = this;
    for (let i = 0; i < count; i++) {
      const pixel = pixels[i];
      if (this.kinds[pixel] === UNCLEAR) continue;
      const stack = stacks[stackOf[pixel]];
      if (stack !== trace.stack[i]) this.open(pixel);
      else if (!stack) {
        if (codes[i] !== this.codes[pixel]) this.open(pixel);
      } else {
        const [across, down] = [this.across[pixel], this.down[pixel]];
        const off = trace.height[i] - heights[pixel] - across * dx[i] - down * dy[i];
        const most = Math.max(Math.abs(across), Math.abs(down));
        if (Math.abs(off) > Math.max(2 * BENT * most, 2 * THIN * stack.coverage.leastMm)) this.open(pixel);
      }
    }
  }

  private open(pixel: number): void {
    const { widthPx, heightPx, kinds } = this;
    const [row, column] = [Math.floor(pixel / widthPx), pixel % widthPx];
    for (let r = Math.max(0, row - 1); r <= Math.min(heightPx - 1, row + 1); r++)
      for (let c = Math.max(0, column - 1); c <= Math.min(widthPx - 1, column + 1); c++)
        kinds[r * widthPx + c] = UNCLEAR;
  }

  /** The codes in a pixel that is settled, and the share of each. */
  coverage(pixel: number, shares: Float64Array): readonly number[] {
    const stack = this.stacks[this.stackOf[pixel]];
    if (!stack) {
      shares[0] = 1;
      NO_CODES[0] = this.codes[pixel];
      return NO_CODES;
    }
    const [across, down] = [Math.abs(this.across[pixel]), Math.abs(this.down[pixel])];
    stack.coverage.inDot(this.heights[pixel], across, down, shares);
    return stack.coverage.codes;
  }
}

/** Asks at the middle of every pixel, and once more somewhere else in it; yields the share done, up to 0.4. */
export function* sketched(request: PaintRequest): Generator<number, Sketch> {
  const { widthPx, heightPx, billet, plane } = request;
  const asker = new Asker(billet, plane);
  const { us, vs } = asker;
  const sketch = new Sketch(request);
  const all = widthPx * heightPx;
  const rowsOf = (pixel: number) => Math.floor(pixel / widthPx);
  for (let from = 0; from < all; from += BLOCK) {
    const count = Math.min(BLOCK, all - from);
    for (let i = 0; i < count; i++) {
      us[i] = (((from + i) % widthPx) + 0.5) / widthPx;
      vs[i] = 1 - (rowsOf(from + i) + 0.5) / heightPx;
    }
    asker.ask(count, true);
    sketch.take(asker, from, count);
    if (rowsOf(from) % ROWS_AT_ONCE === 0) yield (0.2 * from) / all;
  }
  for (let row = 0; row < heightPx; row++) sketch.settle(row);
  const [dx, dy, pixels] = [new Float64Array(BLOCK), new Float64Array(BLOCK), new Uint32Array(BLOCK)];
  let count = 0;
  for (let pixel = 0; pixel < all; pixel++) {
    if (sketch.kinds[pixel] !== UNCLEAR) {
      const [row, column] = [rowsOf(pixel), pixel % widthPx];
      pixels[count] = pixel;
      dx[count] = jitter(column, row) - 0.5;
      dy[count] = jitter(row + 7919, column) - 0.5;
      us[count] = (column + 0.5 + dx[count]) / widthPx;
      vs[count] = 1 - (row + 0.5 + dy[count]) / heightPx;
      count++;
    }
    if (count < BLOCK && pixel + 1 < all) continue;
    asker.ask(count, true);
    sketch.check(asker, pixels, dx, dy, count);
    count = 0;
    if (rowsOf(pixel) % ROWS_AT_ONCE === 0) yield 0.2 + (0.2 * pixel) / all;
  }
  return sketch;
}
