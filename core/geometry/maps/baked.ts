import { toByteArray } from 'base64-js';
import type { Places } from './areaKept.ts';
import { type PointMap, sectionMap } from './pointMap.ts';

/**
 * The way back through a reshaping of the section, on a grid over the square |u|, |v| ≤ 1: (2·cells + 1)² source pairs, u fastest,
 * from the lower left. Nodes are evenly spaced in `stationOf`, which crowds them at the rim, where sections shear most; between
 * them it is bilinear.
 */
export interface BakedMap {
  readonly cells: number;
  readonly sources: Float32Array;
  readonly grid: Grid;
}

/** The nodes of a grid along a side, −1…1, and 1 over the way from each to the next. */
export interface Grid {
  readonly at: Float64Array;
  readonly per: Float64Array;
}

const grids = new Map<number, Grid>();

/** The grid of so many cells to a half. */
function gridOf(cells: number): Grid {
  const known = grids.get(cells);
  if (known) return known;
  const at = Float64Array.from({ length: 2 * cells + 1 }, (_, i) => {
    const station = i / cells - 1;
    return Math.sign(station) * coordinateAt(Math.abs(station));
  });
  const per = Float64Array.from({ length: 2 * cells }, (_, i) => 1 / (at[i + 1] - at[i]));
  grids.set(cells, { at, per });
  return { at, per };
}

/** A map from the sources of its nodes. */
export const mapFrom = (cells: number, sources: ArrayLike<number>): BakedMap => ({
  cells,
  sources: Float32Array.from(sources),
  grid: gridOf(cells),
});

/** Where along a half of the grid (0…1) the coordinate u (0…1) stands: u(1 + u⁶)/2. */
const stationOf = (u: number): number => 0.5 * u * (1 + u ** 6);

/** The coordinate at a station, by Newton's method. */
function coordinateAt(station: number): number {
  let u = station;
  for (let i = 0; i < 40; i++) u -= (stationOf(u) - station) / (0.5 * (1 + 7 * u ** 6));
  return u;
}

/** Bytes of a number in the file, and what the largest of them stands for. */
const BYTES = 3;
const FARTHEST = 1.6;
const STEPS = 2 ** (8 * BYTES - 1) - 1;

/** Numbers of at most FARTHEST either way, as whole steps of three bytes each. */
export function packed(numbers: ArrayLike<number>): Uint8Array {
  const bytes = new Uint8Array(BYTES * numbers.length);
  for (let i = 0; i < numbers.length; i++) {
    const whole = Math.round((numbers[i] / FARTHEST) * STEPS) + STEPS;
    for (let k = 0; k < BYTES; k++) bytes[BYTES * i + k] = (whole >> (8 * k)) & 255;
  }
  return bytes;
}

function unpacked(text: string): Float32Array {
  const bytes = toByteArray(text);
  const numbers = new Float32Array(bytes.length / BYTES);
  for (let i = 0; i < numbers.length; i++) {
    let whole = 0;
    for (let k = 0; k < BYTES; k++) whole += bytes[BYTES * i + k] << (8 * k);
    numbers[i] = ((whole - STEPS) / STEPS) * FARTHEST;
  }
  return numbers;
}

/** What of a map is kept: its upper right quarter, where a quarter turn takes it to itself, or its upper half, where half a turn does. */
export type Kept = 'quarter' | 'half';

/** Node numbers of what is kept, in the order of the file. */
export function* keptNodes(cells: number, kept: Kept): Generator<number> {
  const across = 2 * cells + 1;
  for (let j = cells; j < across; j++)
    for (let i = kept === 'quarter' ? cells : 0; i < across; i++) yield j * across + i;
}

/** A map from what is kept of it. */
export function unfolded(text: string, cells: number, kept: Kept): BakedMap {
  const across = 2 * cells + 1;
  const sources = new Float32Array(2 * across * across);
  const given = unpacked(text);
  let at = 0;
  for (const node of keptNodes(cells, kept)) {
    const [i, j] = [(node % across) - cells, Math.floor(node / across) - cells];
    const [a, b] = [given[at++], given[at++]];
    const put = (i: number, j: number, a: number, b: number) => {
      const to = 2 * ((j + cells) * across + i + cells);
      sources[to] = a;
      sources[to + 1] = b;
    };
    put(i, j, a, b);
    put(-i, -j, -a, -b);
    if (kept === 'quarter') {
      put(-j, i, -b, a);
      put(j, -i, b, -a);
    }
  }
  return mapFrom(cells, sources);
}

/** Maps mixed in shares that add up to 1. */
export function mixed(parts: readonly (readonly [share: number, map: BakedMap])[]): BakedMap {
  const [[, { cells, sources }]] = parts;
  const sum = new Float32Array(sources.length);
  for (const [share, map] of parts)
    if (share !== 0) for (let k = 0; k < sum.length; k++) sum[k] += share * map.sources[k];
  return mapFrom(cells, sum);
}

/** The map seen in a mirror, left for right. */
export function mirrored({ cells, sources }: BakedMap): BakedMap {
  const across = 2 * cells + 1;
  const mirror = new Float32Array(sources.length);
  for (let j = 0; j < across; j++)
    for (let i = 0; i < across; i++) {
      const from = 2 * (j * across + 2 * cells - i);
      mirror.set([-sources[from], sources[from + 1]], 2 * (j * across + i));
    }
  return mapFrom(cells, mirror);
}

/** So many nodes about a place have a share in its value. */
const SHARED_BY = 4;

/** Lagrange's shares of values at ascending `nodes` in the value at a place, from the nearest few; past the ends, that of the end. */
export function sharesAt(nodes: readonly number[], place: number): number[] {
  const at = Math.min(nodes[nodes.length - 1], Math.max(nodes[0], place));
  const first = Math.max(
    0,
    Math.min(nodes.length - SHARED_BY, nodes.filter((node) => node <= at).length - SHARED_BY / 2),
  );
  const near = nodes.slice(first, first + SHARED_BY);
  return nodes.map((own) =>
    near.includes(own)
      ? near.reduce((share, other) => (other === own ? share : (share * (at - other)) / (own - other)), 1)
      : 0,
  );
}

/** Where the nodes of a grid lie in a section, u fastest; on its own square where nothing else is said. */
export function nodesOn(cells: number, onto?: Gridded['fromGrid']): Places {
  const { at } = gridOf(cells);
  const across = at.length;
  const xy = new Float64Array(2 * across * across);
  at.forEach((v, j) =>
    at.forEach((u, i) => {
      const spot: [number, number] = [u, v];
      onto?.(u, v, spot);
      xy.set(spot, 2 * (j * across + i));
    }),
  );
  return { across, xy };
}

/** The map that leaves all where it is. */
export const resting = (cells: number): BakedMap => mapFrom(cells, nodesOn(cells).xy);

/** The cell of a grid in which a coordinate lies, those beyond its ends in the last ones. */
const cellAt = (cells: number, w: number): number =>
  Math.min(2 * cells - 1, Math.max(0, Math.floor(cells * (1 + 0.5 * w * (1 + w ** 6)))));

/** The way back through a map at one place of its grid. */
function back(
  { cells, sources, grid: { at, per } }: BakedMap,
  u: number,
  v: number,
  out: [number, number],
): void {
  const row = 2 * (2 * cells + 1);
  const i = cellAt(cells, u);
  const j = cellAt(cells, v);
  const fp = (u - at[i]) * per[i];
  const fq = (v - at[j]) * per[j];
  const n = j * row + 2 * i;
  for (let k = 0; k < 2; k++)
    out[k] =
      (1 - fp) * ((1 - fq) * sources[n + k] + fq * sources[n + row + k]) +
      fp * ((1 - fq) * sources[n + 2 + k] + fq * sources[n + row + 2 + k]);
}

/** A map's way back, one place at a time. */
export const lookingUp =
  (map: BakedMap) =>
  (u: number, v: number, out: [number, number]): void =>
    back(map, u, v, out);

/** A section after a baked map: from its places (mm) to the grid's square and back. */
export interface Gridded {
  toGrid(x: number, y: number, out: [number, number]): void;
  fromGrid(u: number, v: number, out: [number, number]): void;
  /**
   * Where the grid's nodes lie in it, in the unit of the sources, for a grid that has kinks: only what a point comes from
   * beside its own place is then interpolated.
   */
  readonly nodes?: BakedMap;
}

const STEP = 1e-6;
const MOST_ROUNDS = 80;
const LEAST_SHARE = 1e-5;

/** Of the nodes that come from nearest so many are begun from: over a kink of the grid the nearest may lie on the wrong side. */
const STARTS = 6;
/** So near it is found, and so near where a kink lies. */
const FOUND = 1e-14;
const NEAR_KINK = 1e-10;

/** The way there: from the node that comes from nearest, by Newton's method in halved steps where it overshoots. */
function found(
  { cells, sources, grid }: BakedMap,
  wayBack: (u: number, v: number, out: [number, number]) => void,
  a: number,
  b: number,
  out: [number, number],
): void {
  const across = 2 * cells + 1;
  const far = (n: number): number => Math.hypot(sources[2 * n] - a, sources[2 * n + 1] - b);
  const missed = (u: number, v: number): [number, number] => {
    wayBack(u, v, at);
    return [at[0] - a, at[1] - b];
  };
  const at: [number, number] = [0, 0];
  let least = Infinity;
  const tried = new Set<number>();
  while (tried.size < STARTS && least > NEAR_KINK) {
    let best = -1;
    for (let n = 0; n < across * across; n++) if (!tried.has(n) && (best < 0 || far(n) < far(best))) best = n;
    tried.add(best);
    const [u, v, left] = nearer(missed, grid.at[best % across], grid.at[Math.floor(best / across)]);
    if (left >= least) continue;
    least = left;
    [out[0], out[1]] = [u, v];
  }
}

/** Newton's method from a place: where it ends, and how far off that still is. */
function nearer(
  missed: (u: number, v: number) => [number, number],
  fromU: number,
  fromV: number,
): [u: number, v: number, left: number] {
  let [u, v] = [fromU, fromV];
  let least = Math.hypot(...missed(u, v));
  for (let i = 0; i < MOST_ROUNDS && least > FOUND; i++) {
    const [fa, fb] = missed(u, v);
    const [side, up] = [u > 0 ? -STEP : STEP, v > 0 ? -STEP : STEP];
    const [ua, ub] = missed(u + side, v).map((f, k) => (f - [fa, fb][k]) / side);
    const [va, vb] = missed(u, v + up).map((f, k) => (f - [fa, fb][k]) / up);
    const det = ua * vb - va * ub;
    if (!(Math.abs(det) > 1e-9)) break;
    const [du, dv] = [(vb * fa - va * fb) / det, (ua * fb - ub * fa) / det];
    let share = 1;
    for (; share > LEAST_SHARE; share /= 2) {
      const far = Math.hypot(...missed(u - share * du, v - share * dv));
      if (far >= least) continue;
      least = far;
      break;
    }
    if (share <= LEAST_SHARE) break;
    [u, v] = [u - share * du, v - share * dv];
  }
  return [u, v, least];
}

/** A baked map between sections in mm; `halfWidthMm`, `halfHeightMm`: the units of its sources. */
export function bakedMap(
  map: BakedMap,
  { toGrid, fromGrid, nodes }: Gridded,
  halfWidthMm: number,
  halfHeightMm: number,
): PointMap {
  const own: [number, number] = [0, 0];
  const wayBack = (x: number, y: number, out: [number, number]): void => {
    toGrid(x, y, own);
    const [u, v] = own;
    back(map, u, v, out);
    if (!nodes) return;
    back(nodes, u, v, own);
    out[0] += x / halfWidthMm - own[0];
    out[1] += y / halfHeightMm - own[1];
  };
  const place: [number, number] = [0, 0];
  return sectionMap(
    (x, y, out) => {
      const viaGrid = (u: number, v: number, to: [number, number]): void => {
        fromGrid(u, v, place);
        wayBack(place[0], place[1], to);
      };
      found(map, viaGrid, x / halfWidthMm, y / halfHeightMm, out);
      fromGrid(out[0], out[1], out);
    },
    (x, y, out) => {
      wayBack(x, y, out);
      out[0] *= halfWidthMm;
      out[1] *= halfHeightMm;
    },
  );
}
