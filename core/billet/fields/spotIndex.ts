import { signedDistance } from '../../geometry/bodies.ts';
import type { InsertSpot } from './canned.ts';

/** A bent rod that is pressed flat is looked for so many of its thicknesses from the wall. */
const FAR_RODS = 2;

/** Cells along a side at most. */
const MOST_CELLS = 48;

/** Which inserts may reach to a point of the room: cells, each with a list of them. */
export class SpotIndex {
  /** For every cell where its inserts begin in `lists`. */
  readonly starts: Int32Array;
  readonly lists: Int32Array;
  private readonly perMm: number;
  private readonly across: number;
  private readonly up: number;
  private readonly along: number;
  private readonly halfWidthMm: number;
  private readonly halfHeightMm: number;
  private readonly fromMm: number;

  /** `reach`: how much larger than itself an insert counts. */
  constructor(
    spots: readonly InsertSpot[],
    reach: number,
    halfWidthMm: number,
    halfHeightMm: number,
    fromMm: number,
    toMm: number,
  ) {
    const plain = spots.filter((s) => s.wire?.body.kind !== 'bent rod');
    const size = plain.reduce((sum, s) => sum + s.halfX + s.halfY, 0) / Math.max(1, plain.length);
    const longest = Math.max(2 * halfWidthMm, 2 * halfHeightMm, toMm - fromMm);
    const cell = Math.max(size, longest / MOST_CELLS, 1e-6);
    this.perMm = 1 / cell;
    this.halfWidthMm = halfWidthMm;
    this.halfHeightMm = halfHeightMm;
    this.fromMm = fromMm;
    this.across = Math.ceil(2 * halfWidthMm * this.perMm) + 1;
    this.up = Math.ceil(2 * halfHeightMm * this.perMm) + 1;
    const placed = spots.some((s) => s.ball || s.halfZ !== undefined);
    this.along = placed ? Math.ceil((toMm - fromMm) * this.perMm) + 1 : 1;
    const cells: number[][] = Array.from({ length: this.across * this.up * this.along }, () => []);
    const span = (low: number, high: number, most: number): [number, number] => [
      Math.min(most - 1, Math.max(0, Math.floor(low * this.perMm))),
      Math.min(most - 1, Math.max(0, Math.floor(high * this.perMm))),
    ];
    spots.forEach((s, i) => {
      const [rx, ry] = [s.halfX * reach, s.halfY * reach];
      const rz = s.ball ? rx : (s.halfZ ?? Infinity) * reach;
      const [x0, x1] = span(s.x - rx + halfWidthMm, s.x + rx + halfWidthMm, this.across);
      const [y0, y1] = span(s.y - ry + halfHeightMm, s.y + ry + halfHeightMm, this.up);
      const [z0, z1] = this.along === 1 ? [0, 0] : span(s.z - rz - fromMm, s.z + rz - fromMm, this.along);
      for (let z = z0; z <= z1; z++)
        for (let y = y0; y <= y1; y++)
          for (let x = x0; x <= x1; x++)
            if (this.mayReach(s, x, y)) cells[x + this.across * (y + this.up * z)].push(i);
    });
    this.starts = new Int32Array(cells.length + 1);
    cells.forEach((list, i) => (this.starts[i + 1] = this.starts[i] + list.length));
    this.lists = Int32Array.from(cells.flat());
  }

  /** A rod that is bent round the room is met near its wall only. */
  private mayReach({ wire }: InsertSpot, x: number, y: number): boolean {
    if (wire?.body.kind !== 'bent rod') return true;
    const [kx, ky] = wire.scale;
    const at = (k: number, half: number) => (k + 0.5) / this.perMm - half;
    const out = signedDistance(
      wire.body.outline,
      at(x, this.halfWidthMm) / kx,
      at(y, this.halfHeightMm) / ky,
    );
    return -out * Math.min(kx, ky) < FAR_RODS * wire.body.wireMm + 1 / this.perMm;
  }

  /** The cell of a point within the room. */
  cellAt(x: number, y: number, z: number): number {
    const ix = ((x + this.halfWidthMm) * this.perMm) | 0;
    const iy = ((y + this.halfHeightMm) * this.perMm) | 0;
    const iz = this.along === 1 ? 0 : ((z - this.fromMm) * this.perMm) | 0;
    return ix + this.across * (iy + this.up * iz);
  }
}
