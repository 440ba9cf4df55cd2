/** Points asked about together: coordinates in mm, the first `count` of each array. A field may overwrite them. */
export interface Points {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
  count: number;
  /** Where given, layers write here which stack each point lies in, and how high; other steel leaves it alone. */
  trace?: Trace | undefined;
}

/**
 * The stacks in which points lie, and the height of each in its own, mm; what lies in none has null. And, where it is asked for,
 * a number for the piece: points of two pieces that were laid side by side have two; or for the tile, from 1, of the row that was laid
 * last.
 */
export interface Trace {
  readonly stack: (Stack | null)[];
  readonly height: Float64Array;
  readonly piece: Float64Array | null;
  readonly tile: Float64Array | null;
}

/** Layers as a stack has them. */
export interface Stack {
  /** How many layers lie under a height, its own by its part: a smooth count inside each. */
  countAt(height: number): number;
  readonly coverage: Coverage;
}

/** How much of a stretch of heights each of a stack's codes takes. */
export interface Coverage {
  readonly codes: readonly number[];
  /** The thinnest layer, mm. */
  readonly leastMm: number;
  /**
   * Shares of the codes in a square dot over which the height grows by `across` one way and `up` the other, 0 or more, its
   * middle at `height`: exact for flat layers.
   */
  inDot(height: number, across: number, up: number, out: Float64Array): void;
}

export const makeTrace = (size = BLOCK, asked?: 'pieces' | 'tiles'): Trace => ({
  stack: new Array<Stack | null>(size).fill(null),
  height: new Float64Array(size),
  piece: asked === 'pieces' ? new Float64Array(size) : null,
  tile: asked === 'tiles' ? new Float64Array(size) : null,
});

/** Layers under each of the first points that were traced; not a number where there are none. */
export function layerCounts({ stack, height }: Trace, count: number): Float64Array {
  const counts = new Float64Array(count);
  for (let i = 0; i < count; i++) counts[i] = stack[i]?.countAt(height[i]) ?? NaN;
  return counts;
}

/** Points per call: three coordinate arrays of this size stay in the processor's nearest cache. */
export const BLOCK = 1024;

export const makePoints = (size = BLOCK): Points => ({
  x: new Float64Array(size),
  y: new Float64Array(size),
  z: new Float64Array(size),
  count: 0,
  // Named at once, so that all points are of one shape to the engine.
  trace: undefined,
});

/** A map along the axes, from the billet after to the billet before: before = k · after + t, every k above 0. */
export interface AxisMap {
  readonly kx: number;
  readonly ky: number;
  readonly kz: number;
  readonly tx: number;
  readonly ty: number;
  readonly tz: number;
}

export const SAME_PLACE: AxisMap = { kx: 1, ky: 1, kz: 1, tx: 0, ty: 0, tz: 0 };

/** `outer` first, then `inner`: the one map that does both. */
export const afterMap = (outer: AxisMap, inner: AxisMap): AxisMap => ({
  kx: outer.kx * inner.kx,
  ky: outer.ky * inner.ky,
  kz: outer.kz * inner.kz,
  tx: inner.kx * outer.tx + inner.tx,
  ty: inner.ky * outer.ty + inner.ty,
  tz: inner.kz * outer.tz + inner.tz,
});

/** Whether a map leaves the section where it is (it may move along the bar). */
export const leavesSection = (m: AxisMap): boolean => m.kx === 1 && m.ky === 1 && m.tx === 0 && m.ty === 0;

/**
 * What a billet is made of: for every point the code of its material. Asked inside the billet's outline and length only.
 * Each kind of field takes stretches and shifts into its own numbers (`through`), so drawing a bar adds no work per point.
 */
export interface Field {
  /** Where it is of one material throughout, that. */
  readonly solid?: number;
  /** Whether the answer depends on z. Where it does not, z is never computed. */
  readonly variesAlongZ: boolean;
  /** Writes the material code of each point to `out`. The points are used up. */
  sample(points: Points, out: Uint8Array): void;
  /** This field seen through a map from new coordinates to its own. */
  through(map: AxisMap): Field;
}

/** The code at one point. For single questions only: pictures ask in blocks. */
export function codeAt(field: Field, x: number, y: number, z = 0): number {
  const points = makePoints(1);
  points.x[0] = x;
  points.y[0] = y;
  points.z[0] = z;
  points.count = 1;
  const out = new Uint8Array(1);
  field.sample(points, out);
  return out[0];
}

/** Scratch for counting; it never leaves this module. */
const counting = { points: makePoints(), codes: new Uint8Array(BLOCK) };

/** How many of the given points fall on each code. `fill` writes at most BLOCK points and returns how many. */
export function countCodes(field: Field, fill: (points: Points) => number): Map<number, number> {
  counting.points.count = fill(counting.points);
  const { count } = counting.points;
  field.sample(counting.points, counting.codes);
  const counts = new Map<number, number>();
  for (let i = 0; i < count; i++) counts.set(counting.codes[i], (counts.get(counting.codes[i]) ?? 0) + 1);
  return counts;
}
