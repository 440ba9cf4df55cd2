import type { Coordinates, PointMap } from '../geometry/maps/pointMap.ts';

/** Buckets along a side in which elements are looked for. */
const BUCKETS = 40;
/** How far past its rim an element still answers: the outline's chords leave slivers outside the mesh. */
const PAST = 0.35;

/** Where the nodes of a mesh are, mm. */
export interface Places {
  readonly x: Float64Array;
  readonly y: Float64Array;
}

function bilinearOf(quads: Int32Array, { x, y }: Places): Float64Array {
  const out = new Float64Array(2 * quads.length);
  for (let e = 0; e < quads.length; e += 4)
    [x, y].forEach((p, axis) => {
      const [a, b, c, d] = [0, 1, 2, 3].map((k) => p[quads[e + k]] / 4);
      out.set([a + b + c + d, b + c - a - d, c + d - a - b, a + c - b - d], 2 * e + 4 * axis);
    });
  return out;
}

/** Quadrilaterals with a point's own place in two settings: finds a point of one in the other. */
class Patchwork {
  /** Of every element the eight numbers of its place by u and v: x, by u, by v, by both; and y. */
  private readonly bilinear: Float64Array;
  private readonly to: Places;
  private readonly quads: Int32Array;
  private readonly low: [number, number];
  private readonly perMm: [number, number];
  private readonly starts: Int32Array;
  private readonly lists: Int32Array;
  private last = 0;

  constructor(quads: Int32Array, from: Places, to: Places) {
    [this.quads, this.to] = [quads, to];
    this.bilinear = bilinearOf(quads, from);
    const span = (of: Float64Array): [number, number] => [Math.min(...of), Math.max(...of)];
    const [[x0, x1], [y0, y1]] = [span(from.x), span(from.y)];
    this.low = [x0, y0];
    this.perMm = [BUCKETS / (x1 - x0 || 1), BUCKETS / (y1 - y0 || 1)];
    const cells: number[][] = Array.from({ length: BUCKETS * BUCKETS }, () => []);
    for (let e = 0; e < quads.length; e += 4) {
      const xs = [0, 1, 2, 3].map((k) => from.x[quads[e + k]]);
      const ys = [0, 1, 2, 3].map((k) => from.y[quads[e + k]]);
      const [wx, wy] = [
        PAST * (Math.max(...xs) - Math.min(...xs)),
        PAST * (Math.max(...ys) - Math.min(...ys)),
      ];
      const column = (x: number) => this.cell(x, 0);
      const row = (y: number) => this.cell(y, 1);
      for (let j = row(Math.min(...ys) - wy); j <= row(Math.max(...ys) + wy); j++)
        for (let i = column(Math.min(...xs) - wx); i <= column(Math.max(...xs) + wx); i++)
          cells[j * BUCKETS + i].push(e);
    }
    this.starts = new Int32Array(cells.length + 1);
    cells.forEach((list, i) => (this.starts[i + 1] = this.starts[i] + list.length));
    this.lists = Int32Array.from(cells.flat());
  }

  private cell(v: number, k: 0 | 1): number {
    return Math.min(BUCKETS - 1, Math.max(0, Math.floor((v - this.low[k]) * this.perMm[k])));
  }

  /** Where in an element a point lies (−1…1 each way within it), by Newton's method. */
  private within(e: number, x: number, y: number, out: Float64Array): number {
    const { bilinear } = this;
    const k = 2 * e;
    // x = x0 + xu·u + xv·v + xw·u·v
    const x0 = bilinear[k] - x;
    const xu = bilinear[k + 1];
    const xv = bilinear[k + 2];
    const xw = bilinear[k + 3];
    const y0 = bilinear[k + 4] - y;
    const yu = bilinear[k + 5];
    const yv = bilinear[k + 6];
    const yw = bilinear[k + 7];
    let u = 0;
    let v = 0;
    for (let i = 0; i < 12; i++) {
      const fx = x0 + xu * u + xv * v + xw * u * v;
      const fy = y0 + yu * u + yv * v + yw * u * v;
      const a1 = xu + xw * v;
      const a2 = xv + xw * u;
      const b1 = yu + yw * v;
      const b2 = yv + yw * u;
      const det = a1 * b2 - a2 * b1;
      if (!(Math.abs(det) > 1e-14)) return Infinity;
      const du = (b2 * fx - a2 * fy) / det;
      const dv = (a1 * fy - b1 * fx) / det;
      u -= du;
      v -= dv;
      if (Math.abs(du) + Math.abs(dv) < 1e-12) break;
      if (Math.abs(u) > 4 || Math.abs(v) > 4) return Infinity;
    }
    out[0] = u;
    out[1] = v;
    return Math.max(Math.abs(u), Math.abs(v));
  }

  /** Element (by its first place in `quads`) that holds a point, or comes nearest to it; where within it, into `local`. */
  find(x: number, y: number, local: Float64Array): number {
    const { starts, lists } = this;
    let best = this.within(this.last, x, y, local);
    let [u, v] = [local[0], local[1]];
    let element = this.last;
    if (best > 1) {
      const cell = this.cell(y, 1) * BUCKETS + this.cell(x, 0);
      for (let k = starts[cell]; k < starts[cell + 1] && best > 1; k++) {
        const far = this.within(lists[k], x, y, local);
        if (far < best) [best, element, u, v] = [far, lists[k], local[0], local[1]];
      }
    }
    this.last = element;
    local[0] = u;
    local[1] = v;
    return element;
  }

  /** Takes points from the one setting to the other, in place. */
  take({ x, y, count }: Coordinates): void {
    const { quads, to } = this;
    const local = new Float64Array(2);
    for (let i = 0; i < count; i++) {
      const element = this.find(x[i], y[i], local);
      let [u, v] = [local[0], local[1]];
      // Past the rim the element goes on a little, no further.
      const most = 1 + PAST;
      u = u > most ? most : u < -most ? -most : u;
      v = v > most ? most : v < -most ? -most : v;
      const [a, b] = [quads[element], quads[element + 1]];
      const [c, d] = [quads[element + 2], quads[element + 3]];
      const sa = ((1 - u) * (1 - v)) / 4;
      const sb = ((1 + u) * (1 - v)) / 4;
      const sc = ((1 + u) * (1 + v)) / 4;
      const sd = ((1 - u) * (1 + v)) / 4;
      x[i] = sa * to.x[a] + sb * to.x[b] + sc * to.x[c] + sd * to.x[d];
      y[i] = sa * to.y[a] + sb * to.y[b] + sc * to.y[c] + sd * to.y[d];
    }
  }
}

/** What each element of a fresh grid takes over, of values that the elements of the one before had, so many each. */
export function carried(
  quads: Int32Array,
  before: Places,
  fresh: Places,
  values: Float64Array,
): Float64Array {
  const patchwork = new Patchwork(quads, before, before);
  const local = new Float64Array(2);
  const each = (4 * values.length) / quads.length;
  const over = new Float64Array(values.length);
  for (let e = 0; e < quads.length / 4; e++) {
    let [x, y] = [0, 0];
    for (let k = 0; k < 4; k++) {
      x += fresh.x[quads[4 * e + k]] / 4;
      y += fresh.y[quads[4 * e + k]] / 4;
    }
    const from = (each * patchwork.find(x, y, local)) / 4;
    over.set(values.subarray(from, from + each), each * e);
  }
  return over;
}

/** The reshaping that a mesh has been through, there and back: the mesh is the map. Places in mm; length is not its part. */
export function meshMap(quads: Int32Array, before: Places, after: Places): PointMap {
  let [there, back]: [Patchwork | null, Patchwork | null] = [null, null];
  return {
    usesZ: false,
    forward: (points) => (there ??= new Patchwork(quads, before, after)).take(points),
    backward: (points) => (back ??= new Patchwork(quads, after, before)).take(points),
  };
}
