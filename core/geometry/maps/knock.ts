import { KNOCK_STEPS, KNOCK_TABLE_CELLS } from '../tolerances.ts';
import { type Drift, lobedFlow, walkDrift } from './conjugate.ts';
import { type PointMap, type SectionStep, sectionMap } from './pointMap.ts';

/** What a square becomes when its corners are knocked down. */
export type KnockShape = 'octagon' | 'round';

/**
 * The square (half-side 1) pressed to a regular octagon or a circle of the same area, as a drift for a unit of time:
 * dz/dt = a z̄³ + (b + b′(t − ½)) z̄⁷ + (c + c′(t − ½)) z̄¹¹. Every term is the conjugate of an analytic function, so area is
 * kept exactly (the idea of the ideal bias re-square in the handbook, geometry); the five constants were fitted here so that
 * the outline lands within 0.23 % (round) and 0.37 % (octagon) of its radius.
 */
const CONSTANTS: Record<KnockShape, readonly [number, number, number, number, number]> = {
  round: [0.086023, -0.000771, 0.403081, 0.004555, 0.015892],
  octagon: [0.093431, -0.011625, 0.158035, 0.002754, -0.024509],
};

const driftOf =
  ([a, b, b1, c, c1]: (typeof CONSTANTS)[KnockShape]): Drift =>
  (x, y, t, out) =>
    lobedFlow(x, y, a, b + b1 * (t - 0.5), c + c1 * (t - 0.5), out);

const DRIFTS: Record<KnockShape, Drift> = {
  round: driftOf(CONSTANTS.round),
  octagon: driftOf(CONSTANTS.octagon),
};

/** From t = `from` to t = 1 − `from`. */
const walk = (x: number, y: number, shape: KnockShape, from: 0 | 1, out: [number, number]): void =>
  walkDrift(DRIFTS[shape], x, y, from, 1 - from, KNOCK_STEPS, out);

/** Square to knocked shape, half-sides of the square. */
export const knockForward =
  (shape: KnockShape): SectionStep =>
  (x, y, out) =>
    walk(x, y, shape, 0, out);

/** Knocked shape to square, half-sides of the square. */
export const knockBackward =
  (shape: KnockShape): SectionStep =>
  (x, y, out) =>
    walk(x, y, shape, 1, out);

/** Farthest from the middle that a walk is begun, in half-sides: a little past the rim of the square, and of the octagon. */
const FARTHEST = { 0: 1.45, 1: 1.2 } as const;

/** Half the side of the table: the circle of area 4 reaches 1.1284, with room at the rim. Half-sides. */
const REACH = 1.16;

interface Table {
  readonly xs: Float64Array;
  readonly ys: Float64Array;
}

const baked = new Map<string, Table>();

/** A quarter of a walk in an even table; the other quarters mirror it. */
function tableOf(shape: KnockShape, from: 0 | 1): Table {
  const key = `${shape} ${from}`;
  const known = baked.get(key);
  if (known) return known;
  const n = KNOCK_TABLE_CELLS + 1;
  const table = { xs: new Float64Array(n * n), ys: new Float64Array(n * n) };
  const out: [number, number] = [0, 0];
  for (let j = 0; j < n; j++)
    for (let i = 0; i <= j; i++) {
      const far = (Math.hypot(i, j) * REACH) / KNOCK_TABLE_CELLS;
      const scale = (REACH / KNOCK_TABLE_CELLS) * Math.min(1, FARTHEST[from] / Math.max(1e-9, far));
      walk(i * scale, j * scale, shape, from, out);
      table.xs[j * n + i] = table.ys[i * n + j] = out[0];
      table.ys[j * n + i] = table.xs[i * n + j] = out[1];
    }
  baked.set(key, table);
  return table;
}

/** A walk by bilinear interpolation in its table, for pictures: within 1e-4 of the half-side. */
function tabled(shape: KnockShape, from: 0 | 1): SectionStep {
  const { xs, ys } = tableOf(shape, from);
  const n = KNOCK_TABLE_CELLS + 1;
  const perUnit = KNOCK_TABLE_CELLS / REACH;
  return (x, y, out) => {
    const p = Math.min(KNOCK_TABLE_CELLS - 1e-9, Math.abs(x) * perUnit);
    const q = Math.min(KNOCK_TABLE_CELLS - 1e-9, Math.abs(y) * perUnit);
    const i = p | 0;
    const j = q | 0;
    const w11 = (p - i) * (q - j);
    const w10 = p - i - w11;
    const w01 = q - j - w11;
    const w00 = 1 - p + i - w01;
    const at = j * n + i;
    const u = w00 * xs[at] + w10 * xs[at + 1] + w01 * xs[at + n] + w11 * xs[at + n + 1];
    const v = w00 * ys[at] + w10 * ys[at + 1] + w01 * ys[at + n] + w11 * ys[at + n + 1];
    out[0] = x < 0 ? -u : u;
    out[1] = y < 0 ? -v : v;
  };
}

const scaled =
  (step: SectionStep, halfSideMm: number): SectionStep =>
  (x, y, out) => {
    step(x / halfSideMm, y / halfSideMm, out);
    out[0] *= halfSideMm;
    out[1] *= halfSideMm;
  };

/** The corners of a square of half-side `halfSideMm` knocked down. */
export const knocking = (shape: KnockShape, halfSideMm: number): PointMap =>
  sectionMap(scaled(knockForward(shape), halfSideMm), scaled(tabled(shape, 1), halfSideMm));

/** The way back: an octagon or round pressed square again, corners filling as they went. */
export const cornersFilled = (shape: KnockShape, halfSideMm: number): PointMap =>
  sectionMap(scaled(knockBackward(shape), halfSideMm), scaled(tabled(shape, 0), halfSideMm));
