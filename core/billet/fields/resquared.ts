import { type BiasTurn, resquareTable, slideAlongSquare, slideForError } from '../../geometry/biasResquare.ts';
import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap, leavesSection } from '../field.ts';

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
    this.slide(points);
    this.lookUp(points);
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
      const [u, v] = slideAlongSquare((x[i] * pre.kx + pre.tx) * perHalf, (y[i] * pre.ky + pre.ty) * perHalf, slide);
      x[i] = (u / perHalf - pre.tx) / pre.kx;
      y[i] = (v / perHalf - pre.ty) / pre.ky;
    }
  }

  /**
   * Bilinear look-up in the baked quarter, then the turn back by 45°. A sliver at the rim comes from up to 0.3 % past the old
   * rim, where every field goes on as at its edge.
   */
  private lookUp({ x, y, count }: Points): void {
    const { cells, sources } = resquareTable();
    const { pre, move } = this;
    const perHalf = 1 / move.halfSideMm;
    const kx = pre.kx * perHalf;
    const tx = pre.tx * perHalf;
    const ky = pre.ky * perHalf;
    const ty = pre.ty * perHalf;
    const hw = move.fromHalfWidthMm * Math.SQRT1_2;
    const hh = move.fromHalfHeightMm * Math.SQRT1_2;
    const sign = move.turn === 'left' ? 1 : -1;
    const row = 2 * (cells + 1);
    const half = cells / 2;
    const last = cells - 1e-9;
    for (let i = 0; i < count; i++) {
      const u = x[i] * kx + tx;
      const v = y[i] * ky + ty;
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
      const a = w00 * sources[at] + w10 * sources[at + 2] + w01 * sources[at + row] + w11 * sources[at + row + 2];
      const b =
        w00 * sources[at + 1] + w10 * sources[at + 3] + w01 * sources[at + row + 1] + w11 * sources[at + row + 3];
      const standingX = u < 0 ? -a : a;
      const standingY = (v < 0 ? -b : b) * sign;
      x[i] = (standingX + standingY) * hw;
      y[i] = (standingY - standingX) * sign * hh;
    }
  }

  through(map: AxisMap): Field {
    if (!this.variesAlongZ && leavesSection(map)) return this;
    return new ResquaredField(this.source, this.move, afterMap(map, this.pre));
  }
}
