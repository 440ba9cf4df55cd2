import { BLOCK, type Stack } from '../billet/fields/field.ts';
import { Asker } from './asker.ts';
import type { PaintRequest } from './paint.ts';
import { jitter } from './scattering.ts';

/** What one answer at a pixel's middle settles: nothing, all of it (it is of one code), or how layers pass through it. */
export const UNCLEAR = 0;
const PLAIN = 1;
const LAYERED = 2;
/** Layers that pass through all but straight. */
const STRAIGHT = 3;

/** Of the growth over a pixel: heights that bend by more are not taken as straight. */
const BENT = 0.25;
/** And of the thinnest layer, where they hardly grow. */
const THIN = 0.02;
/** Of what may bend: bent by less layers are straight. */
const STRAIGHT_SHARE = 0.3;
const ROWS_AT_ONCE = 16;

const NO_CODES: number[] = [0];

/** What is at the middle of every pixel, and whether that tells the whole of it. */
export class Sketch {
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

  /**
   * Which pixels of a row are settled: where layers pass evenly through one and its four neighbours (at the picture's sides, so
   * far as there are any), or it is of one code with all eight.
   */
  settle(row: number): void {
    const { widthPx, heightPx, stacks, stackOf, heights, codes, kinds } = this;
    const first = row * widthPx;
    const up = row > 0 ? widthPx : 0;
    const below = row + 1 < heightPx ? widthPx : 0;
    const perRow = up > 0 && below > 0 ? 0.5 : 1;
    let [leastOf, leastMm] = [0, 0];
    for (let pixel = first; pixel < first + widthPx; pixel++) {
      const own = stackOf[pixel];
      const left = pixel > first ? pixel - 1 : pixel;
      const right = pixel + 1 < first + widthPx ? pixel + 1 : pixel;
      kinds[pixel] = UNCLEAR;
      if (
        stackOf[left] !== own ||
        stackOf[right] !== own ||
        stackOf[pixel - up] !== own ||
        stackOf[pixel + below] !== own
      )
        continue;
      if (own === 0) {
        const code = codes[pixel];
        let alike = true;
        for (let middle = pixel - up; middle <= pixel + below; middle += widthPx)
          for (let other = middle + left - pixel; other <= middle + right - pixel; other++)
            if (codes[other] !== code || stackOf[other] !== 0) alike = false;
        if (alike) kinds[pixel] = PLAIN;
        continue;
      }
      const height = heights[pixel];
      const before = height - heights[left];
      const after = heights[right] - height;
      const over = height - heights[pixel - up];
      const under = heights[pixel + below] - height;
      const inside = left !== pixel && right !== pixel;
      const across = (before + after) * (inside ? 0.5 : 1);
      const down = (over + under) * perRow;
      this.across[pixel] = across;
      this.down[pixel] = down;
      const bend = inside ? Math.abs(after - before) : 0;
      const sag = perRow === 1 ? 0 : Math.abs(under - over);
      if (own !== leastOf) [leastOf, leastMm] = [own, stacks[own]!.coverage.leastMm];
      const grows = Math.max(Math.abs(across), Math.abs(down));
      const most = Math.max(BENT * grows, THIN * leastMm);
      const bent = Math.max(bend, sag);
      // At the picture's sides nothing tells of a bend.
      const known = inside && perRow < 1;
      if (bent <= most) kinds[pixel] = known && bent <= STRAIGHT_SHARE * most ? STRAIGHT : LAYERED;
    }
  }

  /** Compares a second answer in each of some pixels, `dx` and `dy` pixels off its middle (y down): one that was not to be expected leaves it and its neighbours open. */
  check(
    { codes, trace }: Asker,
    pixels: Uint32Array,
    dx: Float64Array,
    dy: Float64Array,
    count: number,
  ): void {
    const { stacks, stackOf, heights, kinds } = this;
    for (let i = 0; i < count; i++) {
      const pixel = pixels[i];
      if (kinds[pixel] === UNCLEAR) continue;
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

/** Where layers are straight or nothing changes one of so many pixels is asked once more: what is finer than one runs through several. */
const CHECKED = 2;

/** Asks at the middle of every pixel, and of most once more somewhere else; yields the share done, up to 0.4. */
export function* sketched(request: PaintRequest): Generator<number, Sketch> {
  const { widthPx, heightPx, billet, plane } = request;
  const asker = new Asker(billet, plane);
  const { us, vs } = asker;
  const sketch = new Sketch(request);
  const all = widthPx * heightPx;
  const perPx = 1 / widthPx;
  let [row, column, said] = [0, 0, 0];
  for (let from = 0; from < all; from += BLOCK) {
    const count = Math.min(BLOCK, all - from);
    for (let i = 0; i < count;) {
      const end = Math.min(count, i + widthPx - column);
      vs.fill(1 - (row + 0.5) / heightPx, i, end);
      for (; i < end; i++) us[i] = (column++ + 0.5) * perPx;
      if (column < widthPx) continue;
      column = 0;
      row++;
    }
    asker.ask(count, true);
    sketch.take(asker, from, count);
    if (row - said >= ROWS_AT_ONCE) yield (0.2 * (said = row)) / heightPx;
  }
  for (let r = 0; r < heightPx; r++) sketch.settle(r);
  const [dx, dy, pixels] = [new Float64Array(BLOCK), new Float64Array(BLOCK), new Uint32Array(BLOCK)];
  const { kinds } = sketch;
  let count = 0;
  const compared = (): void => {
    if (count === 0) return;
    asker.ask(count, true);
    sketch.check(asker, pixels, dx, dy, count);
    count = 0;
  };
  for (let r = 0; r < heightPx; r++) {
    for (let c = 0; c < widthPx; c++) {
      const pixel = r * widthPx + c;
      const kind = kinds[pixel];
      if (kind === UNCLEAR || (kind !== LAYERED && (r + c) % CHECKED > 0)) continue;
      pixels[count] = pixel;
      const [x, y] = [jitter(c, r), jitter(r + 7919, c)];
      dx[count] = x - 0.5;
      dy[count] = y - 0.5;
      us[count] = (c + x) * perPx;
      vs[count] = 1 - (r + y) / heightPx;
      if (++count === BLOCK) compared();
    }
    if (r % ROWS_AT_ONCE === 0) yield 0.2 + (0.2 * r) / heightPx;
  }
  compared();
  return sketch;
}
