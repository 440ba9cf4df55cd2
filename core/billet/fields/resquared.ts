import type { BakedMap } from '../../geometry/maps/baked.ts';
import { type Fold, foldThen, plainFold } from './fold.ts';
import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap, leavesSection } from './field.ts';

/** Direction the bar is turned before pressing, seen on end B. */
export type BiasTurn = 'left' | 'right';

export interface Resquare {
  readonly turn: BiasTurn;
  /** The way back to the old square on its corner, after a turn to the left, half-sides; one to the right is its mirror image. */
  readonly map: BakedMap;
  /** Half the side of the new square, mm. */
  readonly halfSideMm: number;
  /** Half width and half height of the section before, mm. */
  readonly fromHalfWidthMm: number;
  readonly fromHalfHeightMm: number;
  /** New length over old length. */
  readonly lengthening: number;
}

/** A square section re-squared on the bias, as even bars usually flow. */
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
    this.sampleFolded(
      points,
      out,
      plainFold(pre.kx * perHalf, pre.tx * perHalf),
      plainFold(pre.ky * perHalf, pre.ty * perHalf),
    );
  }

  /** The same through folds that lead from the points to half-sides: a whole chessboard in one go. */
  sampleFolded(points: Points, out: Uint8Array, across: Fold, up: Fold): void {
    const { fromHalfWidthMm, fromHalfHeightMm, turn, map } = this.move;
    const { x, y, count } = points;
    const mirror = turn === 'left' ? 1 : -1;
    lookUp(
      x,
      y,
      count,
      across,
      up,
      fromHalfWidthMm * Math.SQRT1_2,
      fromHalfHeightMm * Math.SQRT1_2,
      mirror,
      map,
    );
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

  private ask(points: Points, out: Uint8Array): void {
    if (this.variesAlongZ) {
      const k = this.pre.kz / this.move.lengthening;
      const t = this.pre.tz / this.move.lengthening;
      for (let i = 0; i < points.count; i++) points.z[i] = points.z[i] * k + t;
    }
    this.source.sample(points, out);
  }

  through(map: AxisMap): Field {
    if (!this.variesAlongZ && leavesSection(map)) return this;
    return new ResquaredField(this.source, this.move, afterMap(map, this.pre));
  }
}

/**
 * Bilinear look-up in the map, then the turn back by 45°; the folds lead to half-sides of the new square. `hw` and `hh` are the
 * old half width and half height over √2, `mirror` −1 after a turn to the right.
 */
function lookUp(
  x: Float64Array,
  y: Float64Array,
  count: number,
  { perMm: ax, start: bx, last: lastX, table: tableX }: Fold,
  { perMm: ay, start: by, last: lastY, table: tableY }: Fold,
  hw: number,
  hh: number,
  mirror: number,
  { cells, sources, grid: { at: places, per } }: BakedMap,
): void {
  const row = 2 * (2 * cells + 1);
  const half = cells / 2;
  const last = 2 * cells - 1;
  const width = mirror * hw;
  for (let i = 0; i < count; i++) {
    const px = x[i];
    const py = y[i];
    let column = (px * ax + bx) | 0;
    let line = (py * ay + by) | 0;
    if (column < 0) column = 0;
    else if (column > lastX) column = lastX;
    if (line < 0) line = 0;
    else if (line > lastY) line = lastY;
    const u = (px * tableX[column << 1] + tableX[(column << 1) + 1]) * mirror;
    const v = py * tableY[line << 1] + tableY[(line << 1) + 1];
    const u2 = u * u;
    const v2 = v * v;
    // stationOf, written out: the same polynomial in cells of the map.
    let ip = (cells + half * u * (1 + u2 * u2 * u2)) | 0;
    let iq = (cells + half * v * (1 + v2 * v2 * v2)) | 0;
    if (ip < 0) ip = 0;
    else if (ip > last) ip = last;
    if (iq < 0) iq = 0;
    else if (iq > last) iq = last;
    const fp = (u - places[ip]) * per[ip];
    const fq = (v - places[iq]) * per[iq];
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
    x[i] = (a + b) * width;
    y[i] = (b - a) * hh;
  }
}
