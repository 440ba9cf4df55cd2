import { BLOCK, type Points, makePoints } from '../billet/fields/field.ts';
import { type Billet } from '../billet/billet.ts';
import { type Plane, holds } from '../billet/face.ts';
import { contains, isRectangle } from '../geometry/outline.ts';
import type { Ink, Palette } from './palette.ts';

/** A picture, rows from the top, four bytes a pixel (red, green, blue, opacity). */
export interface Painted {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** Points a pixel when sharp: four everywhere, and this many more where they or the neighbours differ. */
const FIRST_POINTS = 4;
const MORE_POINTS = 12;

const MIXED = 255;

/** Asks a billet for codes in its plane, a block at a time: fill `us` and `vs` (0…1 from the lower left), ask, read `codes`. */
class Asker {
  readonly us = new Float64Array(BLOCK);
  readonly vs = new Float64Array(BLOCK);
  readonly codes = new Uint8Array(BLOCK);
  private readonly points: Points = makePoints();
  private readonly wholeSection: boolean;
  private readonly needsZ: boolean;
  private readonly billet: Billet;
  private readonly plane: Plane;

  constructor(billet: Billet, plane: Plane) {
    this.billet = billet;
    this.plane = plane;
    this.wholeSection = !plane.surface && isRectangle(billet.outline) && insideAtCorners(billet, plane);
    this.needsZ = billet.field.variesAlongZ || !this.wholeSection;
  }

  ask(count: number): void {
    const { codes, points } = this;
    points.count = count;
    this.place();
    const bare = this.plane.surface ? this.lift(this.plane.surface) : null;
    const outside = this.wholeSection ? null : this.outside();
    this.billet.field.sample(points, codes);
    if (outside) for (let i = 0; i < count; i++) if (outside[i] || bare?.[i]) codes[i] = 0;
  }

  /** Moves the points from the window to the surface over it; marks those where there is none. */
  private lift(surface: NonNullable<Plane['surface']>): Uint8Array {
    const { across: a, up: b } = this.plane;
    const out = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const { x, y, z, count } = this.points;
    const bare = new Uint8Array(count);
    for (let i = 0; i < count; i++) {
      const above = surface(this.us[i], this.vs[i]);
      if (above === null) bare[i] = 1;
      else {
        x[i] += out[0] * above;
        y[i] += out[1] * above;
        z[i] += out[2] * above;
      }
    }
    return bare;
  }

  /** From the plane to the billet's own coordinates. */
  private place(): void {
    const { us, vs, needsZ } = this;
    const { origin: o, across: a, up, widthMm, heightMm } = this.plane;
    const [ax, ay, az] = [a[0] * widthMm, a[1] * widthMm, a[2] * widthMm];
    const [bx, by, bz] = [up[0] * heightMm, up[1] * heightMm, up[2] * heightMm];
    const [ox, oy, oz] = o;
    const { x, y, z, count } = this.points;
    for (let i = 0; i < count; i++) {
      const u = us[i];
      const v = vs[i];
      x[i] = ox + ax * u + bx * v;
      y[i] = oy + ay * u + by * v;
      if (needsZ) z[i] = oz + az * u + bz * v;
    }
  }

  private outside(): Uint8Array {
    const { x, y, z, count } = this.points;
    const { outline, lengthMm } = this.billet;
    const mask = new Uint8Array(count);
    for (let i = 0; i < count; i++)
      mask[i] = z[i] < 0 || z[i] > lengthMm || !contains(outline, x[i], y[i]) ? 1 : 0;
    return mask;
  }
}

function insideAtCorners(
  billet: Billet,
  { origin: o, across: a, up, widthMm: w, heightMm: h }: Plane,
): boolean {
  const shrink = 1e-9;
  return [0 + shrink, 1 - shrink].every((u) =>
    [0 + shrink, 1 - shrink].every((v) =>
      holds(
        billet,
        o[0] + a[0] * u * w + up[0] * v * h,
        o[1] + a[1] * u * w + up[1] * v * h,
        o[2] + a[2] * u * w + up[2] * v * h,
      ),
    ),
  );
}

/** The material code at the middle of every pixel, rows from the top. */
export function sampleCodes(billet: Billet, plane: Plane, widthPx: number, heightPx: number): Uint8Array {
  const codes = new Uint8Array(widthPx * heightPx);
  const asker = new Asker(billet, plane);
  const { us, vs } = asker;
  let row = 0;
  let column = 0;
  const perPx = 1 / widthPx;
  for (let done = 0; done < codes.length; done += BLOCK) {
    const count = Math.min(BLOCK, codes.length - done);
    for (let i = 0; i < count;) {
      const end = Math.min(count, i + widthPx - column);
      vs.fill(1 - (row + 0.5) / heightPx, i, end);
      for (; i < end; i++) us[i] = (0.5 + column++) * perPx;
      if (column < widthPx) continue;
      column = 0;
      row++;
    }
    asker.ask(count);
    codes.set(count === BLOCK ? asker.codes : asker.codes.subarray(0, count), done);
  }
  return codes;
}

/** Roberts' two-dimensional low-discrepancy sequence. */
const R2 = [0.7548776662466927, 0.5698402909980532];

/** Share of the plane that each code covers, by `count` evenly scattered points (a lattice would beat with the layers). */
export function codeShares(billet: Billet, plane: Plane, count = 100_000): Map<number, number> {
  const shares = new Map<number, number>();
  const asker = new Asker(billet, plane);
  for (let done = 0; done < count; done += BLOCK) {
    const n = Math.min(BLOCK, count - done);
    for (let i = 0; i < n; i++) {
      asker.us[i] = (0.5 + (done + i) * R2[0]) % 1;
      asker.vs[i] = (0.5 + (done + i) * R2[1]) % 1;
    }
    asker.ask(n);
    for (let i = 0; i < n; i++) shares.set(asker.codes[i], (shares.get(asker.codes[i]) ?? 0) + 1 / count);
  }
  return shares;
}

/** A hash of two whole numbers to 0…1: the same picture twice is the same to the bit. */
function jitter(a: number, b: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}

/** Sums of colour while a picture is being painted. Points are given to `add`; `flush` asks for the last of them. */
class Canvas {
  readonly sums: Float32Array;
  /** The one code of a pixel so far, or MIXED. */
  readonly sole: Uint8Array;
  private readonly asker: Asker;
  private readonly pixels = new Uint32Array(BLOCK);
  private count = 0;
  private readonly palette: Palette;
  private readonly widthPx: number;
  private readonly heightPx: number;

  constructor({ billet, plane, palette, widthPx, heightPx }: PaintRequest) {
    this.asker = new Asker(billet, plane);
    this.palette = palette;
    this.widthPx = widthPx;
    this.heightPx = heightPx;
    this.sums = new Float32Array(widthPx * heightPx * 5);
    this.sole = new Uint8Array(widthPx * heightPx);
  }

  add(pixel: number, u: number, v: number): void {
    const i = this.count++;
    this.asker.us[i] = u;
    this.asker.vs[i] = v;
    this.pixels[i] = pixel;
    if (this.count === BLOCK) this.flush();
  }

  flush(): void {
    const { sums, sole, palette, pixels, count } = this;
    this.asker.ask(count);
    this.count = 0;
    const { codes, us, vs } = this.asker;
    for (let i = 0; i < count; i++) {
      const pixel = pixels[i];
      const code = codes[i];
      const at = pixel * 5;
      if (sums[at + 4] === 0) sole[pixel] = code;
      else if (sole[pixel] !== code) sole[pixel] = MIXED;
      sums[at + 4]++;
      const ink = palette[code];
      if (!ink) continue;
      const colour = ink.duty > 0 && this.onLine(ink, us[i], vs[i]) ? ink.line : ink.paper;
      sums[at] += colour[0];
      sums[at + 1] += colour[1];
      sums[at + 2] += colour[2];
      sums[at + 3]++;
    }
  }

  /** Whether a place in the picture falls on a hatch line of its ink. */
  private onLine(ink: Ink, u: number, v: number): boolean {
    const phase = u * this.widthPx * ink.hatchX + v * this.heightPx * ink.hatchY;
    return phase - Math.floor(phase) < ink.duty;
  }

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

  picture(): Painted {
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
function askPixel(
  canvas: Canvas,
  widthPx: number,
  heightPx: number,
  row: number,
  column: number,
  from: number,
  to: number,
): void {
  const shiftU = jitter(column, row);
  const shiftV = jitter(row + 7919, column);
  for (let k = from; k < to; k++) {
    const u0 = shiftU + k * R2[0];
    const v0 = shiftV + k * R2[1];
    const u = u0 - Math.floor(u0);
    const v = v0 - Math.floor(v0);
    canvas.add(row * widthPx + column, (column + u) / widthPx, 1 - (row + v) / heightPx);
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
  /** Points more in a pixel that is not plain; fewer for paper, where dots run together. */
  readonly morePoints?: number;
}

/**
 * Paints a face by area coverage, yielding every few rows (share done, 0…1) so that a caller can stop.
 * Bands finer than a pixel come out as their mean tone.
 */
export function* painting(request: PaintRequest): Generator<number, Painted> {
  const { widthPx, heightPx, rough, morePoints = MORE_POINTS } = request;
  const canvas = new Canvas(request);
  const rowsAtOnce = 16;
  const firstPoints = rough ? 1 : FIRST_POINTS;
  for (let row = 0; row < heightPx; row++) {
    for (let column = 0; column < widthPx; column++)
      askPixel(canvas, widthPx, heightPx, row, column, 0, firstPoints);
    if (row % rowsAtOnce === 0) yield (0.5 * row) / heightPx;
  }
  canvas.flush();
  if (rough) return canvas.picture();
  const unclear = unclearPixels(canvas, widthPx, heightPx);
  for (let i = 0; i < unclear.length; i++) {
    askPixel(
      canvas,
      widthPx,
      heightPx,
      Math.floor(unclear[i] / widthPx),
      unclear[i] % widthPx,
      FIRST_POINTS,
      FIRST_POINTS + morePoints,
    );
    if (i % (rowsAtOnce * 64) === 0) yield 0.5 + (0.5 * i) / unclear.length;
  }
  canvas.flush();
  return canvas.picture();
}

/** Pixels that are of more than one code, or beside one that differs. Told before any gets more points. */
function unclearPixels(canvas: Canvas, widthPx: number, heightPx: number): number[] {
  const unclear: number[] = [];
  for (let row = 0; row < heightPx; row++)
    for (let column = 0; column < widthPx; column++)
      if (!canvas.isPlain(row, column)) unclear.push(row * widthPx + column);
  return unclear;
}

/** Paints at one go. */
export function paint(request: PaintRequest): Painted {
  const work = painting(request);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
