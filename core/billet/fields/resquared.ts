import {
  type BiasTurn,
  resquareTable,
  slideAlongSquare,
  slideForError,
} from '../../geometry/maps/biasResquare.ts';
import { type Fold, foldThen, plainFold } from './fold.ts';
import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap, leavesSection } from './field.ts';

export interface Resquare {
  turn: BiasTurn;
  errorRad: number;
  /** Half the side of the new square, mm. */
  halfSideMm: number;
  /** Half width and half height of the section before, mm. */
  fromHalfWidthMm: number;
  fromHalfHeightMm: number;
  /** New length over old length. */
  lengthening: number;
}

/** A square section re-squared on the bias, by the baked ideal map. */
export class ResquaredField implements Field {
  readonly variesAlongZ: boolean;
  private readonly source: Field;
  private readonly move: Resquare;
  private readonly pre: AxisMap;

  constructor(source: Field, move: Resquare, pre: AxisMap = SAME_PLACE) {
    this.source = source;
    this.move = move;
    this.pre = pre;
    this.variesAlongZ = source.variesAlongZ;
  }

  sample(points: Points, out: Uint8Array): void {
    const { pre } = this;
    const perHalf = 1 / this.move.halfSideMm;
    this.slide(points);
    this.lookUp(
      points,
      plainFold(pre.kx * perHalf, pre.tx * perHalf),
      plainFold(pre.ky * perHalf, pre.ty * perHalf),
    );
    this.ask(points, out);
  }

  /** Whether it was turned without error, so that nothing stands between a fold and the look-up. */
  get isTrue(): boolean {
    return this.move.errorRad === 0;
  }

  /** The same, of a true one, through folds that lead from the points to half-sides: a whole chessboard in one go. */
  sampleFolded(points: Points, out: Uint8Array, across: Fold, up: Fold): void {
    this.lookUp(points, across, up);
    this.ask(points, out);
  }

  /** Folds that lead here, led on to half-sides of the new square. */
  toHalfSides({ across, up }: { across: Fold; up: Fold }): { across: Fold; up: Fold } {
    const { kx, ky, tx, ty } = this.pre;
    const perHalf = 1 / this.move.halfSideMm;
    return {
      across: foldThen(across, kx * perHalf, tx * perHalf),
      up: foldThen(up, ky * perHalf, ty * perHalf),
    };
  }

  private lookUp({ x, y, count }: Points, across: Fold, up: Fold): void {
    const { fromHalfWidthMm, fromHalfHeightMm, turn } = this.move;
    const sign = turn === 'left' ? 1 : -1;
    lookUp(x, y, count, across, up, fromHalfWidthMm * Math.SQRT1_2, fromHalfHeightMm * Math.SQRT1_2, sign);
  }

  private ask(points: Points, out: Uint8Array): void {
    if (this.variesAlongZ) {
      const k = this.pre.kz / this.move.lengthening;
      const t = this.pre.tz / this.move.lengthening;
      for (let i = 0; i < points.count; i++) points.z[i] = points.z[i] * k + t;
    }
    this.source.sample(points, out);
  }

  /** Into half-sides of the new square, undoing the angle error. */
  private slide({ x, y, count }: Points): void {
    const { pre } = this;
    const perHalf = 1 / this.move.halfSideMm;
    const slide = -slideForError(this.move.errorRad);
    if (slide === 0) return;
    for (let i = 0; i < count; i++) {
      const [u, v] = slideAlongSquare(
        (x[i] * pre.kx + pre.tx) * perHalf,
        (y[i] * pre.ky + pre.ty) * perHalf,
        slide,
      );
      x[i] = (u / perHalf - pre.tx) / pre.kx;
      y[i] = (v / perHalf - pre.ty) / pre.ky;
    }
  }

  through(map: AxisMap): Field {
    if (!this.variesAlongZ && leavesSection(map)) return this;
    return new ResquaredField(this.source, this.move, afterMap(map, this.pre));
  }
}

/**
 * Bilinear look-up in the baked quarter, then the turn back by 45°; the folds lead to half-sides of the new square. `hw` and
 * `hh` are the old half width and half height over √2, `sign` +1 for a turn to the left. A sliver at the rim comes from up to
 * 0.3 % past the old rim, where every field goes on as at its edge.
 */
function lookUp(
  x: Float64Array,
  y: Float64Array,
  count: number,
  { perMm: ax, start: bx, last: lastX, table: tableX }: Fold,
  { perMm: ay, start: by, last: lastY, table: tableY }: Fold,
  hw: number,
  hh: number,
  sign: number,
): void {
  const { cells, sources } = resquareTable();
  const row = 2 * (cells + 1);
  const half = cells / 2;
  const last = cells - 1e-9;
  for (let i = 0; i < count; i++) {
    const px = x[i];
    const py = y[i];
    let column = (px * ax + bx) | 0;
    let line = (py * ay + by) | 0;
    if (column < 0) column = 0;
    else if (column > lastX) column = lastX;
    if (line < 0) line = 0;
    else if (line > lastY) line = lastY;
    const u = px * tableX[column << 1] + tableX[(column << 1) + 1];
    const v = py * tableY[line << 1] + tableY[(line << 1) + 1];
    const u2 = u * u;
    const v2 = v * v;
    // tableStation, written out: the same polynomial in cells of the table.
    let p = half * Math.abs(u) * (1 + u2 * u2 * u2);
    let q = half * Math.abs(v) * (1 + v2 * v2 * v2);
    if (!(p < last)) p = last;
    if (!(q < last)) q = last;
    const ip = p | 0;
    const iq = q | 0;
    const fp = p - ip;
    const fq = q - iq;
    const at = iq * row + 2 * ip;
    const w11 = fp * fq;
    const w10 = fp - w11;
    const w01 = fq - w11;
    const w00 = 1 - fp - w01;
    const a =
      w00 * sources[at] + w10 * sources[at + 2] + w01 * sources[at + row] + w11 * sources[at + row + 2];
    const b =
      w00 * sources[at + 1] +
      w10 * sources[at + 3] +
      w01 * sources[at + row + 1] +
      w11 * sources[at + row + 3];
    const standingX = u < 0 ? -a : a;
    const standingY = (v < 0 ? -b : b) * sign;
    x[i] = (standingX + standingY) * hw;
    y[i] = (standingY - standingX) * sign * hh;
  }
}
