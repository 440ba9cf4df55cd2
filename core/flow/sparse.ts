/**
 * Sparse symmetric positive definite systems of points with two unknowns each, factored as L·D·Lᵀ in 2 × 2 blocks. The pattern
 * is analysed once for a mesh (nested dissection, elimination tree), then factored anew for every set of numbers. Up-looking,
 * after T. A. Davis, "Algorithm 849: a concise sparse Cholesky factorization package", ACM Trans. Math. Softw. 31 (2005)
 * 587–591; recalled.
 */
export class SparseSystem {
  readonly points: number;
  /** The upper triangle's blocks, four values each: row by row of the block. */
  readonly values: Float64Array;
  /** Multiplications and additions of one factoring. */
  readonly flops: number;
  /** Column by column of the order of elimination: which rows have a block. */
  private readonly starts: Int32Array;
  private readonly rows: Int32Array;
  private readonly place: Int32Array;
  private readonly order: Int32Array;
  private readonly parent: Int32Array;
  private readonly lStarts: Int32Array;
  private readonly lRows: Int32Array;
  private readonly lValues: Float64Array;
  /** The inverse of each block on the diagonal: a, b, c of [a b; b c]. */
  private readonly inverse: Float64Array;
  private readonly work: Float64Array;
  private readonly pattern: Int32Array;
  private readonly flag: Int32Array;
  private readonly filled: Int32Array;

  /** `neighbours[i]`: points coupled to i (i itself left out). `order`: which point is eliminated first, second … */
  constructor(neighbours: readonly (readonly number[])[], order: readonly number[]) {
    const n = neighbours.length;
    this.points = n;
    this.order = Int32Array.from(order);
    this.place = new Int32Array(n);
    order.forEach((old, k) => (this.place[old] = k));
    const columns = order.map((old, k) =>
      [...neighbours[old].map((m) => this.place[m]).filter((r) => r < k), k].sort((a, b) => a - b),
    );
    this.starts = new Int32Array(n + 1);
    columns.forEach((c, k) => (this.starts[k + 1] = this.starts[k] + c.length));
    this.rows = Int32Array.from(columns.flat());
    this.values = new Float64Array(4 * this.rows.length);
    this.parent = new Int32Array(n).fill(-1);
    this.flag = new Int32Array(n);
    const counts = new Int32Array(n);
    for (let k = 0; k < n; k++) {
      this.flag[k] = k;
      for (let p = this.starts[k]; p < this.starts[k + 1]; p++)
        for (let i = this.rows[p]; this.flag[i] !== k; i = this.parent[i]) {
          if (this.parent[i] < 0) this.parent[i] = k;
          counts[i]++;
          this.flag[i] = k;
        }
    }
    this.lStarts = new Int32Array(n + 1);
    for (let k = 0; k < n; k++) this.lStarts[k + 1] = this.lStarts[k] + counts[k];
    this.lRows = new Int32Array(this.lStarts[n]);
    this.lValues = new Float64Array(4 * this.lStarts[n]);
    this.inverse = new Float64Array(3 * n);
    this.work = new Float64Array(4 * n);
    this.pattern = new Int32Array(n);
    this.filled = new Int32Array(n);
    // Column i with c blocks below it: every pair of them is multiplied once, 8 multiplications and additions.
    this.flops = counts.reduce((sum, c) => sum + 16 * ((c * (c - 1)) / 2) + 32 * c, 0);
  }

  /**
   * Where the entry of a pair of unknowns (two a point) is kept in `values`; of the two that stand for one, that in the upper
   * triangle. Throws when their points are not coupled.
   */
  slot(i: number, j: number): number {
    const [a, b] = [this.place[i >> 1], this.place[j >> 1]];
    const [row, column, r, c] =
      a < b || (a === b && (i & 1) <= (j & 1)) ? [a, b, i & 1, j & 1] : [b, a, j & 1, i & 1];
    let [low, high] = [this.starts[column], this.starts[column + 1] - 1];
    while (low <= high) {
      const middle = (low + high) >> 1;
      if (this.rows[middle] === row) return 4 * middle + 2 * r + c;
      if (this.rows[middle] < row) low = middle + 1;
      else high = middle - 1;
    }
    throw new Error(`unknowns ${i} and ${j} are not coupled`);
  }

  /** Factors the present values. False where they are not positive definite. */
  factor(): boolean {
    const {
      points: n,
      starts,
      rows,
      values,
      parent,
      lStarts,
      lRows,
      lValues,
      inverse,
      work,
      pattern,
      flag,
      filled,
    } = this;
    filled.fill(0);
    flag.fill(-1);
    for (let k = 0; k < n; k++) {
      let top = n;
      flag[k] = k;
      for (let p = starts[k]; p < starts[k + 1]; p++) {
        let i = rows[p];
        const w = 4 * i;
        const a = 4 * p;
        work[w] = values[a];
        work[w + 1] = values[a + 1];
        work[w + 2] = values[a + 2];
        work[w + 3] = values[a + 3];
        let length = 0;
        for (; flag[i] !== k; i = parent[i]) {
          pattern[length++] = i;
          flag[i] = k;
        }
        while (length > 0) pattern[--top] = pattern[--length];
      }
      const own = 4 * k;
      let d0 = work[own];
      let d1 = work[own + 1];
      let d3 = work[own + 3];
      work[own] = work[own + 1] = work[own + 2] = work[own + 3] = 0;
      for (; top < n; top++) {
        const i = pattern[top];
        const w = 4 * i;
        const y0 = work[w];
        const y1 = work[w + 1];
        const y2 = work[w + 2];
        const y3 = work[w + 3];
        work[w] = work[w + 1] = work[w + 2] = work[w + 3] = 0;
        const end = lStarts[i] + filled[i];
        for (let p = lStarts[i]; p < end; p++) {
          const l = 4 * p;
          const r = 4 * lRows[p];
          const l0 = lValues[l];
          const l1 = lValues[l + 1];
          const l2 = lValues[l + 2];
          const l3 = lValues[l + 3];
          work[r] -= l0 * y0 + l1 * y2;
          work[r + 1] -= l0 * y1 + l1 * y3;
          work[r + 2] -= l2 * y0 + l3 * y2;
          work[r + 3] -= l2 * y1 + l3 * y3;
        }
        // L of k and i is Yᵀ·D⁻¹.
        const ia = inverse[3 * i];
        const ib = inverse[3 * i + 1];
        const ic = inverse[3 * i + 2];
        const l0 = y0 * ia + y2 * ib;
        const l1 = y0 * ib + y2 * ic;
        const l2 = y1 * ia + y3 * ib;
        const l3 = y1 * ib + y3 * ic;
        d0 -= l0 * y0 + l1 * y2;
        d1 -= l0 * y1 + l1 * y3;
        d3 -= l2 * y1 + l3 * y3;
        lRows[end] = k;
        const to = 4 * end;
        lValues[to] = l0;
        lValues[to + 1] = l1;
        lValues[to + 2] = l2;
        lValues[to + 3] = l3;
        filled[i]++;
      }
      const det = d0 * d3 - d1 * d1;
      if (!(d0 > 0 && det > 0)) return false;
      inverse[3 * k] = d3 / det;
      inverse[3 * k + 1] = -d1 / det;
      inverse[3 * k + 2] = d0 / det;
    }
    return true;
  }

  /** Solves with the last factors: `right` in, the solution out in its place. */
  solve(right: Float64Array): void {
    const { points: n, order, lStarts, lRows, lValues, inverse } = this;
    const x = new Float64Array(2 * n);
    for (let k = 0; k < n; k++) {
      x[2 * k] = right[2 * order[k]];
      x[2 * k + 1] = right[2 * order[k] + 1];
    }
    for (let k = 0; k < n; k++) {
      const u = x[2 * k];
      const v = x[2 * k + 1];
      for (let p = lStarts[k]; p < lStarts[k + 1]; p++) {
        const r = 2 * lRows[p];
        x[r] -= lValues[4 * p] * u + lValues[4 * p + 1] * v;
        x[r + 1] -= lValues[4 * p + 2] * u + lValues[4 * p + 3] * v;
      }
    }
    for (let k = n - 1; k >= 0; k--) {
      const [a, b, c] = [inverse[3 * k], inverse[3 * k + 1], inverse[3 * k + 2]];
      let u = a * x[2 * k] + b * x[2 * k + 1];
      let v = b * x[2 * k] + c * x[2 * k + 1];
      for (let p = lStarts[k]; p < lStarts[k + 1]; p++) {
        const r = 2 * lRows[p];
        u -= lValues[4 * p] * x[r] + lValues[4 * p + 2] * x[r + 1];
        v -= lValues[4 * p + 1] * x[r] + lValues[4 * p + 3] * x[r + 1];
      }
      x[2 * k] = u;
      x[2 * k + 1] = v;
    }
    for (let k = 0; k < n; k++) {
      right[2 * order[k]] = x[2 * k];
      right[2 * order[k] + 1] = x[2 * k + 1];
    }
  }
}

/** Fewer are not divided further. */
const SMALL = 6;
/** Where a set may be cut, of its points in a row. */
const CUTS = [0.5, 0.47, 0.53, 0.44, 0.56, 0.41, 0.59];

/**
 * Nested dissection of points that are coupled to their neighbours: halves by the wider direction, the points of one half that
 * touch the other kept for the end. The order in which they are eliminated.
 */
export function dissected(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  neighbours: readonly (readonly number[])[],
): number[] {
  const side = new Int8Array(x.length);
  const order: number[] = [];
  const span = (points: readonly number[], of: ArrayLike<number>): number => {
    let [low, high] = [Infinity, -Infinity];
    for (const p of points) [low, high] = [Math.min(low, of[p]), Math.max(high, of[p])];
    return high - low;
  };
  const divide = (points: number[]): void => {
    if (points.length <= SMALL) {
      order.push(...points);
      return;
    }
    // Of several cuts either way the one with the fewest points between.
    let best: { first: number[]; second: number[]; between: number[] } | null = null;
    for (const along of [x, y]) {
      if (2.5 * span(points, along) < Math.max(span(points, x), span(points, y))) continue;
      const sorted = [...points].sort((a, b) => along[a] - along[b]);
      for (const share of CUTS) {
        const half = Math.round(share * sorted.length);
        sorted.forEach((p, i) => (side[p] = i < half ? 1 : 2));
        const touches = (from: number, to: number, other: number) =>
          sorted.slice(from, to).filter((p) => neighbours[p].some((m) => side[m] === other));
        const [a, b] = [touches(0, half, 2), touches(half, sorted.length, 1)];
        const between = a.length <= b.length ? a : b;
        if (best && between.length >= best.between.length) continue;
        const parts = new Set(between);
        best = {
          first: sorted.slice(0, half).filter((p) => !parts.has(p)),
          second: sorted.slice(half).filter((p) => !parts.has(p)),
          between,
        };
      }
      for (const p of points) side[p] = 0;
    }
    const { first, second, between } = best!;
    if (first.length === 0 || second.length === 0) {
      order.push(...points);
      return;
    }
    divide(first);
    divide(second);
    order.push(...between);
  };
  divide(Array.from({ length: x.length }, (_, i) => i));
  return order;
}
