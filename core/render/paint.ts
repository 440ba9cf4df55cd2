import { BLOCK, type Points, makePoints } from '../billet/field.ts';
import { type Billet } from '../billet/billet.ts';
import { type Plane, holds } from '../billet/face.ts';
import { contains, isRectangle } from '../geometry/outline.ts';
import type { Palette } from './palette.ts';

/** A picture, rows from the top, four bytes a pixel (red, green, blue, opacity). */
export interface Picture {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** Points a pixel when sharp: four everywhere, and this many more where they or the neighbours differ. */
const FIRST_POINTS = 4;
const MORE_POINTS = 12;

const MIXED = 255;

/** Asks a billet for codes in its plane, block by block. */
class Asker {
  private readonly points: Points = makePoints();
  private readonly codes = new Uint8Array(BLOCK);
  private readonly us = new Float64Array(BLOCK);
  private readonly vs = new Float64Array(BLOCK);
  private readonly where = new Uint32Array(BLOCK);
  private readonly wholeSection: boolean;
  private count = 0;
  private readonly billet: Billet;
  private readonly plane: Plane;
  private readonly take: (pixel: number, code: number, u: number, v: number) => void;

  constructor(billet: Billet, plane: Plane, take: (pixel: number, code: number, u: number, v: number) => void) {
    this.billet = billet;
    this.plane = plane;
    this.take = take;
    this.wholeSection = isRectangle(billet.outline) && insideAtCorners(billet, plane);
  }

  /** Adds the point u, v (0…1 from the lower left of the plane) on behalf of a pixel. */
  add(pixel: number, u: number, v: number): void {
    const { origin: o, across: a, up, widthMm, heightMm } = this.plane;
    const s = u * widthMm;
    const t = v * heightMm;
    const i = this.count++;
    this.points.x[i] = o[0] + a[0] * s + up[0] * t;
    this.points.y[i] = o[1] + a[1] * s + up[1] * t;
    this.points.z[i] = o[2] + a[2] * s + up[2] * t;
    this.us[i] = u;
    this.vs[i] = v;
    this.where[i] = pixel;
    if (this.count === BLOCK) this.flush();
  }

  flush(): void {
    const { points, codes, count } = this;
    points.count = count;
    const outside = this.wholeSection ? null : this.outside();
    this.billet.field.sample(points, codes);
    for (let i = 0; i < count; i++) this.take(this.where[i], outside?.[i] ? 0 : codes[i], this.us[i], this.vs[i]);
    this.count = 0;
  }

  private outside(): Uint8Array {
    const { x, y, z } = this.points;
    const { outline, lengthMm } = this.billet;
    const mask = new Uint8Array(this.count);
    for (let i = 0; i < this.count; i++)
      mask[i] = z[i] < 0 || z[i] > lengthMm || !contains(outline, x[i], y[i]) ? 1 : 0;
    return mask;
  }
}

function insideAtCorners(billet: Billet, { origin: o, across: a, up, widthMm: w, heightMm: h }: Plane): boolean {
  const shrink = 1e-9;
  return [0 + shrink, 1 - shrink].every((u) =>
    [0 + shrink, 1 - shrink].every((v) =>
      holds(billet, o[0] + a[0] * u * w + up[0] * v * h, o[1] + a[1] * u * w + up[1] * v * h, o[2] + a[2] * u * w + up[2] * v * h),
    ),
  );
}

/** The material code at the middle of every pixel, rows from the top. */
export function sampleCodes(billet: Billet, plane: Plane, widthPx: number, heightPx: number): Uint8Array {
  const codes = new Uint8Array(widthPx * heightPx);
  const asker = new Asker(billet, plane, (pixel, code) => {
    codes[pixel] = code;
  });
  for (let row = 0; row < heightPx; row++)
    for (let column = 0; column < widthPx; column++)
      asker.add(row * widthPx + column, (column + 0.5) / widthPx, 1 - (row + 0.5) / heightPx);
  asker.flush();
  return codes;
}

/** Share of the plane that each code covers, by `pointsAcross`² points. */
export function codeShares(billet: Billet, plane: Plane, pointsAcross = 400): Map<number, number> {
  const codes = sampleCodes(billet, plane, pointsAcross, pointsAcross);
  const shares = new Map<number, number>();
  for (const code of codes) shares.set(code, (shares.get(code) ?? 0) + 1 / codes.length);
  return shares;
}

/** A hash of two whole numbers to 0…1: the same picture twice is the same to the bit. */
function jitter(a: number, b: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}

const R2 = [0.7548776662466927, 0.5698402909980532];

/** Sums of colour while a picture is being painted. */
class Canvas {
  readonly sums: Float32Array;
  /** The one code of a pixel so far, or MIXED. */
  readonly sole: Uint8Array;
  private readonly palette: Palette;
  private readonly widthPx: number;
  private readonly heightPx: number;

  constructor(palette: Palette, widthPx: number, heightPx: number) {
    this.palette = palette;
    this.widthPx = widthPx;
    this.heightPx = heightPx;
    this.sums = new Float32Array(widthPx * heightPx * 5);
    this.sole = new Uint8Array(widthPx * heightPx);
  }

  readonly take = (pixel: number, code: number, u: number, v: number): void => {
    const at = pixel * 5;
    const { sums } = this;
    const ink = this.palette[code];
    if (sums[at + 4] === 0) this.sole[pixel] = code;
    else if (this.sole[pixel] !== code) this.sole[pixel] = MIXED;
    sums[at + 4]++;
    if (!ink) return;
    const phase = u * this.widthPx * ink.hatchX + v * this.heightPx * ink.hatchY;
    const colour = ink.duty > 0 && phase - Math.floor(phase) < ink.duty ? ink.line : ink.paper;
    sums[at] += colour[0];
    sums[at + 1] += colour[1];
    sums[at + 2] += colour[2];
    sums[at + 3]++;
  };

  /** Whether a pixel is of one code with all eight neighbours. */
  isPlain(row: number, column: number): boolean {
    const { widthPx, heightPx, sole } = this;
    const own = sole[row * widthPx + column];
    if (own === MIXED) return false;
    for (let r = Math.max(0, row - 1); r <= Math.min(heightPx - 1, row + 1); r++)
      for (let c = Math.max(0, column - 1); c <= Math.min(widthPx - 1, column + 1); c++)
        if (sole[r * widthPx + c] !== own) return false;
    return true;
  }

  picture(): Picture {
    const { sums, widthPx, heightPx } = this;
    const rgba = new Uint8ClampedArray(widthPx * heightPx * 4);
    for (let pixel = 0; pixel < widthPx * heightPx; pixel++) {
      const steel = sums[pixel * 5 + 3];
      if (steel === 0) continue;
      for (let k = 0; k < 3; k++) rgba[pixel * 4 + k] = sums[pixel * 5 + k] / steel;
      rgba[pixel * 4 + 3] = (255 * steel) / sums[pixel * 5 + 4];
    }
    return { widthPx, heightPx, rgba };
  }
}

/** Points spread over a pixel: a low-discrepancy sequence, shifted from pixel to pixel so that fine bands turn grey. */
function askPixel(asker: Asker, widthPx: number, heightPx: number, row: number, column: number, from: number, to: number): void {
  const shiftU = jitter(column, row);
  const shiftV = jitter(row + 7919, column);
  for (let k = from; k < to; k++) {
    const u = (shiftU + k * R2[0]) % 1;
    const v = (shiftV + k * R2[1]) % 1;
    asker.add(row * widthPx + column, (column + u) / widthPx, 1 - (row + v) / heightPx);
  }
}

export interface PaintRequest {
  readonly billet: Billet;
  readonly plane: Plane;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly palette: Palette;
  /** One point a pixel, for the first look while something is being changed. */
  readonly rough?: boolean;
}

/**
 * Paints a face by area coverage, yielding every few rows (share done, 0…1) so that a caller can stop.
 * Bands finer than a pixel come out as their mean tone.
 */
export function* painting(request: PaintRequest): Generator<number, Picture> {
  const { billet, plane, widthPx, heightPx, palette, rough } = request;
  const canvas = new Canvas(palette, widthPx, heightPx);
  const asker = new Asker(billet, plane, canvas.take);
  const rowsAtOnce = 16;
  const firstPoints = rough ? 1 : FIRST_POINTS;
  for (let row = 0; row < heightPx; row++) {
    for (let column = 0; column < widthPx; column++) askPixel(asker, widthPx, heightPx, row, column, 0, firstPoints);
    if (row % rowsAtOnce === 0) yield (0.5 * row) / heightPx;
  }
  asker.flush();
  if (rough) return canvas.picture();
  const unclear = unclearPixels(canvas, widthPx, heightPx);
  for (let i = 0; i < unclear.length; i++) {
    askPixel(asker, widthPx, heightPx, Math.floor(unclear[i] / widthPx), unclear[i] % widthPx, FIRST_POINTS, FIRST_POINTS + MORE_POINTS);
    if (i % (rowsAtOnce * 64) === 0) yield 0.5 + (0.5 * i) / unclear.length;
  }
  asker.flush();
  return canvas.picture();
}

/** Pixels that are of more than one code, or beside one that differs. Told before any gets more points. */
function unclearPixels(canvas: Canvas, widthPx: number, heightPx: number): number[] {
  const unclear: number[] = [];
  for (let row = 0; row < heightPx; row++)
    for (let column = 0; column < widthPx; column++) if (!canvas.isPlain(row, column)) unclear.push(row * widthPx + column);
  return unclear;
}

/** Paints at one go. */
export function paint(request: PaintRequest): Picture {
  const work = painting(request);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
