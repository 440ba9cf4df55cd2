import { type Fold } from './fold.ts';
import { askSources, borrowTray, returnTray } from './tray.ts';
import { ResquaredField } from './resquared.ts';
import { type Orientation, planeMatrix } from '../../geometry/orientation.ts';
import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap, leavesSection } from './field.ts';

/** One field of the chessboard: a piece, or a solid strip, as it lies there. */
export interface GridCell {
  field: Field;
  orientation: Orientation;
  /** Length of the piece before it was trimmed to the assembly, mm. */
  lengthMm: number;
}

/** Numbers kept per cell, place to piece: a b c d tx ty (section), kz tz (along). */
const STRIDE = 8;

/** Nested grids are laid flat into one up to this many cells, so that its table stays in the cache. */
const MOST_CELLS = 4096;

/** Points after which laying a nested grid flat pays. */
const FLAT_AFTER = 2000;

const BUCKETS = 256;

/** Finds the column (or row) of a coordinate: a bucket to start from, then a few comparisons. */
class Ruler {
  readonly edges: Float64Array;
  /** Upper edges, the last one endless. */
  readonly ends: Float64Array;
  readonly start: number;
  readonly bucketsPerMm: number;
  readonly first: Uint16Array;
  /** Columns per mm, were they all of one width; and whether they are. */
  readonly perMm: number;
  readonly isEven: boolean;

  constructor(edges: ArrayLike<number>) {
    this.edges = Float64Array.from(edges);
    this.ends = this.edges.slice(1);
    const count = this.ends.length;
    const end = this.ends[count - 1];
    this.ends[count - 1] = Infinity;
    this.start = this.edges[0];
    this.bucketsPerMm = BUCKETS / (end - this.start);
    this.first = new Uint16Array(BUCKETS);
    let at = 0;
    for (let b = 0; b < BUCKETS; b++) {
      while (this.ends[at] <= this.start + b / this.bucketsPerMm) at++;
      this.first[b] = at;
    }
    this.perMm = count / (end - this.start);
    this.isEven = this.edges.every((edge, k) => Math.abs((edge - this.start) * this.perMm - k) < 1e-9);
  }

  get count(): number {
    return this.ends.length;
  }

  /** The column in which a coordinate lies. */
  indexOf(at: number): number {
    const bucket = Math.max(0, Math.min(BUCKETS - 1, Math.floor((at - this.start) * this.bucketsPerMm)));
    let k = this.first[bucket];
    while (at > this.ends[k]) k++;
    return k;
  }
}

interface Grid {
  readonly sources: readonly Field[];
  readonly columns: Ruler;
  readonly rows: Ruler;
  /** STRIDE numbers per cell, bottom row first. */
  readonly maps: Float64Array;
  readonly sourceOf: Uint8Array;
  /** No piece lies on its side: x comes from x alone and y from y. */
  readonly unturned: boolean;
}

function foldOf(ruler: Ruler, k: number, t: number, mapOf: (cell: number) => [number, number]): Fold {
  const table = new Float64Array(2 * ruler.count);
  for (let cell = 0; cell < ruler.count; cell++) {
    const [scale, shift] = mapOf(cell);
    table[2 * cell] = scale * k;
    table[2 * cell + 1] = scale * t + shift;
  }
  return { perMm: k * ruler.perMm, start: (t - ruler.start) * ruler.perMm, last: ruler.count - 1, table };
}

/** A grid as all its stretched and shifted copies hold it. */
interface Shared {
  grid: Grid;
  isFlat: boolean;
  /** Points asked of it so far. */
  asked: number;
}

/** Pieces and strips side by side in columns and rows. */
export class GridField implements Field {
  readonly variesAlongZ: boolean;
  private readonly shared: Shared;
  private readonly pre: AxisMap;
  /** Found at the first question: evaluating a plan builds many grids and asks few. */
  private apart: { across: Fold; up: Fold } | null | undefined;
  /** The grid that `apart` was found for. */
  private folded: Grid | undefined;

  private constructor(shared: Shared, pre: AxisMap = SAME_PLACE) {
    this.shared = shared;
    this.pre = pre;
    this.variesAlongZ = shared.grid.sources.some((s) => s.variesAlongZ);
  }

  private get grid(): Grid {
    return this.shared.grid;
  }

  /** Nested grids are laid flat once enough is asked to be worth it: working a plan out asks little, pictures ask much. */
  private layFlat(asked: number): void {
    const { shared } = this;
    shared.asked += asked;
    if (shared.isFlat || shared.asked < FLAT_AFTER) return;
    shared.grid = laidFlat(shared.grid) ?? shared.grid;
    shared.isFlat = true;
  }

  /** Edges in mm, ascending, the outermost included; cells row by row, bottom row first. */
  static of(edgesX: readonly number[], edgesY: readonly number[], cells: readonly GridCell[]): GridField {
    const columns = new Ruler(edgesX);
    const sources = [...new Set(cells.map((c) => c.field))];
    const maps = new Float64Array(cells.length * STRIDE);
    cells.forEach((cell, i) => {
      const column = i % columns.count;
      const row = Math.floor(i / columns.count);
      const cx = (edgesX[column] + edgesX[column + 1]) / 2;
      const cy = (edgesY[row] + edgesY[row + 1]) / 2;
      // The matrix takes piece to place; its transpose takes place back to piece.
      const [a, c, b, d] = planeMatrix(cell.orientation);
      const [kz, tz] = cell.orientation.rolled ? [-1, cell.lengthMm] : [1, 0];
      maps.set([a, b, c, d, -a * cx - b * cy, -c * cx - d * cy, kz, tz], i * STRIDE);
    });
    const sourceOf = Uint8Array.from(cells, (c) => sources.indexOf(c.field));
    const unturned = cells.every((cell) => cell.orientation.turns % 2 === 0);
    const grid = { sources, columns, rows: new Ruler(edgesY), maps, sourceOf, unturned };
    return new GridField({ grid, isFlat: false, asked: 0 });
  }

  /** The grid as it is in this field's own coordinates, for laying nested grids flat. */
  get inside(): Grid {
    this.layFlat(FLAT_AFTER);
    const { grid, pre } = this;
    const maps = new Float64Array(grid.maps.length);
    const axes = [pre.kx, 0, 0, pre.ky, pre.tx, pre.ty, pre.kz, pre.tz];
    for (let m = 0; m < maps.length; m += STRIDE) chain(grid.maps, m, axes, 0, maps, m);
    const columns = new Ruler(grid.columns.edges.map((x) => (x - pre.tx) / pre.kx));
    const rows = new Ruler(grid.rows.edges.map((y) => (y - pre.ty) / pre.ky));
    return { ...grid, columns, rows, maps };
  }

  /** One fold for x and one for y, where the grid is an even one and every column (row) has a single map. */
  private foldApart(): { across: Fold; up: Fold } | null {
    const { columns, rows, maps, unturned } = this.grid;
    if (!columns.isEven || !rows.isEven || !unturned || this.variesAlongZ) return null;
    const { kx, ky, tx, ty } = this.pre;
    const cells = columns.count * rows.count;
    for (let cell = 0; cell < cells; cell++) {
      const m = cell * STRIDE;
      const top = (cell % columns.count) * STRIDE;
      const side = (cell - (cell % columns.count)) * STRIDE;
      if (maps[m] !== maps[top] || maps[m + 4] !== maps[top + 4]) return null;
      if (maps[m + 3] !== maps[side + 3] || maps[m + 5] !== maps[side + 5]) return null;
    }
    const folds = {
      across: foldOf(columns, kx, tx, (k) => [maps[k * STRIDE], maps[k * STRIDE + 4]]),
      up: foldOf(rows, ky, ty, (k) => [
        maps[k * columns.count * STRIDE + 3],
        maps[k * columns.count * STRIDE + 5],
      ]),
    };
    const [source] = this.grid.sources;
    return source instanceof ResquaredField ? source.toHalfSides(folds) : folds;
  }

  sample(points: Points, out: Uint8Array): void {
    this.layFlat(points.count);
    if (points.trace?.piece) this.mark(points, points.trace.piece);
    if (this.grid.sources.length > 1) this.sampleMany(points, out);
    else {
      if (this.apart === undefined || this.folded !== this.grid) {
        this.folded = this.grid;
        this.apart = this.foldApart();
      }
      const [source] = this.grid.sources;
      if (this.apart && source instanceof ResquaredField)
        return source.sampleFolded(points, out, this.apart.across, this.apart.up);
      if (this.apart) this.toPiecesApart(points, this.apart);
      else this.toPieces(points, null);
      source.sample(points, out);
    }
  }

  /** Tells the pieces apart, in whatever these lay before. */
  private mark({ x, y, count }: Points, piece: Float64Array): void {
    const { columns, rows } = this.grid;
    const { kx, ky, tx, ty } = this.pre;
    for (let i = 0; i < count; i++) {
      const cell = rows.indexOf(y[i] * ky + ty) * columns.count + columns.indexOf(x[i] * kx + tx);
      piece[i] = piece[i] * columns.count * rows.count + cell;
    }
  }

  /** The same for a chessboard whose columns settle x and rows settle y, the commonest case, at a fraction of the work. */
  private toPiecesApart({ x, y, count }: Points, { across, up }: { across: Fold; up: Fold }): void {
    const { perMm: ax, start: bx, last: lastX, table: tableX } = across;
    const { perMm: ay, start: by, last: lastY, table: tableY } = up;
    for (let i = 0; i < count; i++) {
      const px = x[i];
      const py = y[i];
      let column = (px * ax + bx) | 0;
      let row = (py * ay + by) | 0;
      if (column < 0) column = 0;
      else if (column > lastX) column = lastX;
      if (row < 0) row = 0;
      else if (row > lastY) row = lastY;
      x[i] = px * tableX[2 * column] + tableX[2 * column + 1];
      y[i] = py * tableY[2 * row] + tableY[2 * row + 1];
    }
  }

  /** Takes every point to the coordinates of the piece it lies in. */
  private toPieces({ x, y, z, count }: Points, sourceOfPoint: Uint8Array | null): void {
    const { columns, rows, maps, sourceOf } = this.grid;
    const { ends: endX, start: startX, bucketsPerMm: perX, first: firstX } = columns;
    const { ends: endY, start: startY, bucketsPerMm: perY, first: firstY } = rows;
    const across = columns.count;
    const { variesAlongZ } = this;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    for (let i = 0; i < count; i++) {
      const px = x[i] * kx + tx;
      const py = y[i] * ky + ty;
      const bx = ((px - startX) * perX) | 0;
      const by = ((py - startY) * perY) | 0;
      let column = firstX[bx < 0 ? 0 : bx >= BUCKETS ? BUCKETS - 1 : bx];
      let row = firstY[by < 0 ? 0 : by >= BUCKETS ? BUCKETS - 1 : by];
      while (px > endX[column]) column++;
      while (py > endY[row]) row++;
      const cell = row * across + column;
      const m = cell * STRIDE;
      x[i] = maps[m] * px + maps[m + 1] * py + maps[m + 4];
      y[i] = maps[m + 2] * px + maps[m + 3] * py + maps[m + 5];
      if (variesAlongZ) z[i] = maps[m + 6] * (z[i] * kz + tz) + maps[m + 7];
      if (sourceOfPoint) sourceOfPoint[i] = sourceOf[cell];
    }
  }

  private sampleMany(points: Points, out: Uint8Array): void {
    const { sources } = this.grid;
    const tray = borrowTray();
    const { sourceOfPoint } = tray;
    this.toPieces(points, sourceOfPoint);
    const lone = loneOf(sources);
    if (lone < 0) askSources(points, tray, sources, out);
    else {
      // Strips are of one steel each: everything is asked of the pieces at once, and what lies in a strip is put right.
      const { count, trace } = points;
      sources[lone].sample(points, out);
      for (let i = 0; i < count; i++) {
        if (sourceOfPoint[i] === lone) continue;
        out[i] = sources[sourceOfPoint[i]].solid!;
        if (trace) trace.stack[i] = null;
      }
    }
    returnTray(tray);
  }

  through(map: AxisMap): Field {
    if (!this.variesAlongZ && leavesSection(map)) return this;
    return new GridField(this.shared, afterMap(map, this.pre));
  }
}

/** The only source that is not of one steel; −1 where there are none or several. */
function loneOf(sources: readonly Field[]): number {
  let lone = -1;
  for (let k = 0; k < sources.length; k++) {
    if (sources[k].solid !== undefined) continue;
    if (lone >= 0) return -1;
    lone = k;
  }
  return lone;
}

/** Writes to `to` at `t` the cell map that goes through the outer one at `o` first, then the inner one at `n`. */
function chain(
  inner: ArrayLike<number>,
  n: number,
  outer: ArrayLike<number>,
  o: number,
  to: Float64Array,
  t: number,
): void {
  const a = inner[n];
  const b = inner[n + 1];
  const c = inner[n + 2];
  const d = inner[n + 3];
  to[t] = a * outer[o] + b * outer[o + 2];
  to[t + 1] = a * outer[o + 1] + b * outer[o + 3];
  to[t + 2] = c * outer[o] + d * outer[o + 2];
  to[t + 3] = c * outer[o + 1] + d * outer[o + 3];
  to[t + 4] = a * outer[o + 4] + b * outer[o + 5] + inner[n + 4];
  to[t + 5] = c * outer[o + 4] + d * outer[o + 5] + inner[n + 5];
  to[t + 6] = inner[n + 6] * outer[o + 6];
  to[t + 7] = inner[n + 6] * outer[o + 7] + inner[n + 7];
}

/**
 * A grid whose every piece is one and the same grid, as a single grid; null where the inner edges do not line up across
 * the outer cells, or the table would grow too large. This is what keeps round after round of four-ways at the price of one.
 */
function laidFlat(outer: Grid): Grid | null {
  const [source] = outer.sources;
  if (outer.sources.length !== 1 || !(source instanceof GridField)) return null;
  const inner = source.inside;
  const columns = seenThrough(outer, inner, 'x');
  const rows = seenThrough(outer, inner, 'y');
  if (!columns || !rows || columns.count * rows.count > MOST_CELLS) return null;
  const maps = new Float64Array(columns.count * rows.count * STRIDE);
  const sourceOf = new Uint8Array(columns.count * rows.count);
  for (let row = 0; row < rows.count; row++)
    for (let column = 0; column < columns.count; column++) {
      const x = (columns.edges[column] + columns.edges[column + 1]) / 2;
      const y = (rows.edges[row] + rows.edges[row + 1]) / 2;
      const o = (outer.rows.indexOf(y) * outer.columns.count + outer.columns.indexOf(x)) * STRIDE;
      const m = outer.maps;
      const innerX = m[o] * x + m[o + 1] * y + m[o + 4];
      const innerY = m[o + 2] * x + m[o + 3] * y + m[o + 5];
      const innerCell = inner.rows.indexOf(innerY) * inner.columns.count + inner.columns.indexOf(innerX);
      const cell = row * columns.count + column;
      chain(inner.maps, innerCell * STRIDE, outer.maps, o, maps, cell * STRIDE);
      sourceOf[cell] = inner.sourceOf[innerCell];
    }
  return {
    sources: inner.sources,
    columns,
    rows,
    maps,
    sourceOf,
    unturned: outer.unturned && inner.unturned,
  };
}

/** The inner edges as seen in every outer column (or row): the same in each of its cells, or null. */
function seenThrough(outer: Grid, inner: Grid, axis: 'x' | 'y'): Ruler | null {
  const [own, other] = axis === 'x' ? [outer.columns, outer.rows] : [outer.rows, outer.columns];
  const tolerance = 1e-9 * (own.edges[own.count] - own.edges[0]);
  const edges: number[] = [own.edges[0]];
  for (let k = 0; k < own.count; k++) {
    let agreed: number[] | null = null;
    for (let l = 0; l < other.count; l++) {
      const cell = axis === 'x' ? l * own.count + k : k * other.count + l;
      const seen = innerEdges(outer.maps, cell * STRIDE, inner, axis);
      if (agreed && !seen.every((edge, i) => Math.abs(edge - agreed![i]) < tolerance)) return null;
      if (agreed && agreed.length !== seen.length) return null;
      agreed = seen;
    }
    const [from, to] = [own.edges[k], own.edges[k + 1]];
    edges.push(...agreed!.filter((edge) => edge > from + tolerance && edge < to - tolerance), to);
  }
  return new Ruler(edges);
}

/** The inner grid's edges across `axis`, ascending, in the outer cell's coordinates. */
function innerEdges(maps: Float64Array, m: number, inner: Grid, axis: 'x' | 'y'): number[] {
  const straight = axis === 'x' ? maps[m] : maps[m + 3];
  const crossed = axis === 'x' ? maps[m + 2] : maps[m + 1];
  const swapped = straight === 0;
  const k = swapped ? crossed : straight;
  const alongX = (axis === 'x') !== swapped;
  const t = alongX ? maps[m + 4] : maps[m + 5];
  const { edges } = alongX ? inner.columns : inner.rows;
  return Array.from(edges, (edge) => (edge - t) / k).sort((a, b) => a - b);
}
