import type { Region } from '../../geometry/regions.ts';

/** What one code fills of a section. */
export interface CodedRegion {
  readonly code: number;
  readonly region: Region;
}

/** Cells along the longer side: most hold no outline and are answered at once. */
const CELLS = 160;
/** Of a cell that outlines pass through. */
const MIXED = 255;

/**
 * Which powder lies where in a section: regions over a ground, later ones over earlier. Points are answered by the cell they
 * lie in, and where an outline passes through it by counting the edges to their left.
 */
export class PowderMap {
  private readonly left: number;
  private readonly low: number;
  private readonly perMm: number;
  private readonly across: number;
  private readonly up: number;
  private readonly cells: Uint8Array;
  private readonly codes: Uint8Array;
  /** Per row of cells: where its edges begin in `edges`. */
  private readonly starts: Int32Array;
  /** x0 y0 x1 y1 and the region's place in `codes`, five numbers an edge. */
  private readonly edges: Float64Array;
  private readonly crossed: Uint8Array;

  constructor(regions: readonly CodedRegion[], ground: number, halfWidthMm: number, halfHeightMm: number) {
    this.left = -halfWidthMm;
    this.low = -halfHeightMm;
    this.perMm = CELLS / (2 * Math.max(halfWidthMm, halfHeightMm, 1e-9));
    this.across = Math.max(1, Math.ceil(2 * halfWidthMm * this.perMm));
    this.up = Math.max(1, Math.ceil(2 * halfHeightMm * this.perMm));
    this.codes = Uint8Array.from([ground, ...regions.map((r) => r.code)]);
    this.crossed = new Uint8Array(this.codes.length);
    this.cells = new Uint8Array(this.across * this.up);
    const rows: number[][] = Array.from({ length: this.up }, () => []);
    const clampRow = (y: number) =>
      Math.min(this.up - 1, Math.max(0, Math.floor((y - this.low) * this.perMm)));
    regions.forEach(({ region }, k) => {
      for (const ring of region)
        ring.forEach(([x0, y0], i) => {
          const [x1, y1] = ring[(i + 1) % ring.length];
          this.mark(x0, y0, x1, y1);
          if (y0 === y1) return;
          const [from, to] = [clampRow(Math.min(y0, y1)), clampRow(Math.max(y0, y1))];
          for (let row = from; row <= to; row++) rows[row].push(x0, y0, x1, y1, k + 1);
        });
    });
    this.starts = new Int32Array(this.up + 1);
    rows.forEach((list, row) => (this.starts[row + 1] = this.starts[row] + list.length));
    this.edges = Float64Array.from(rows.flat());
    for (let j = 0; j < this.up; j++)
      for (let i = 0; i < this.across; i++) {
        const at = j * this.across + i;
        if (this.cells[at] !== MIXED)
          this.cells[at] = this.counted(
            this.left + (i + 0.5) / this.perMm,
            this.low + (j + 0.5) / this.perMm,
            j,
          );
      }
  }

  /** Marks the cells that an edge passes through, with their neighbours at its ends. */
  private mark(x0: number, y0: number, x1: number, y1: number): void {
    const steps = Math.max(1, Math.ceil(Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0)) * this.perMm));
    for (let s = 0; s < steps; s++) {
      const at = (t: number): [number, number] => [
        (x0 + (x1 - x0) * t - this.left) * this.perMm,
        (y0 + (y1 - y0) * t - this.low) * this.perMm,
      ];
      const [[ax, ay], [bx, by]] = [at(s / steps), at((s + 1) / steps)];
      for (let j = Math.floor(Math.min(ay, by) - 1e-6); j <= Math.floor(Math.max(ay, by) + 1e-6); j++)
        for (let i = Math.floor(Math.min(ax, bx) - 1e-6); i <= Math.floor(Math.max(ax, bx) + 1e-6); i++)
          if (i >= 0 && i < this.across && j >= 0 && j < this.up) this.cells[j * this.across + i] = MIXED;
    }
  }

  private counted(x: number, y: number, row: number): number {
    const { edges, crossed, codes, starts } = this;
    crossed.fill(0);
    for (let e = starts[row]; e < starts[row + 1]; e += 5) {
      const y0 = edges[e + 1];
      const y1 = edges[e + 3];
      if (y0 > y === y1 > y) continue;
      if (x < edges[e] + ((y - y0) * (edges[e + 2] - edges[e])) / (y1 - y0)) crossed[edges[e + 4]] ^= 1;
    }
    for (let k = crossed.length - 1; k > 0; k--) if (crossed[k]) return codes[k];
    return codes[0];
  }

  /** The code at a point of the section, mm. */
  codeAt(x: number, y: number): number {
    const i = Math.floor((x - this.left) * this.perMm);
    const j = Math.floor((y - this.low) * this.perMm);
    const [ci, cj] = [Math.min(this.across - 1, Math.max(0, i)), Math.min(this.up - 1, Math.max(0, j))];
    const code = this.cells[cj * this.across + ci];
    return code === MIXED ? this.counted(x, y, cj) : code;
  }
}
