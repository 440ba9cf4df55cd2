import { KNOCK_STEPS, KNOCK_TABLE_CELLS } from '../tolerances.ts';
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

function drift(x: number, y: number, t: number, c: readonly number[], out: [number, number]): void {
  const re2 = x * x - y * y;
  const im2 = -2 * x * y;
  const re3 = re2 * x + im2 * y;
  const im3 = im2 * x - re2 * y;
  const re4 = re2 * re2 - im2 * im2;
  const im4 = 2 * re2 * im2;
  const re7 = re3 * re4 - im3 * im4;
  const im7 = re3 * im4 + im3 * re4;
  const b = c[1] + c[2] * (t - 0.5);
  const d = c[3] + c[4] * (t - 0.5);
  out[0] = c[0] * re3 + b * re7 + d * (re7 * re4 - im7 * im4);
  out[1] = c[0] * im3 + b * im7 + d * (re7 * im4 + im7 * re4);
}

/** Fourth-order Runge–Kutta from t = `from` to t = 1 − `from`. */
function walk(x: number, y: number, shape: KnockShape, from: 0 | 1, out: [number, number]): void {
  const c = CONSTANTS[shape];
  const h = (from === 0 ? 1 : -1) / KNOCK_STEPS;
  const k: [number, number][] = [
    [0, 0],
    [0, 0],
    [0, 0],
    [0, 0],
  ];
  for (let i = 0; i < KNOCK_STEPS; i++) {
    const t = from + i * h;
    drift(x, y, t, c, k[0]);
    drift(x + (h / 2) * k[0][0], y + (h / 2) * k[0][1], t + h / 2, c, k[1]);
    drift(x + (h / 2) * k[1][0], y + (h / 2) * k[1][1], t + h / 2, c, k[2]);
    drift(x + h * k[2][0], y + h * k[2][1], t + h, c, k[3]);
    x += (h / 6) * (k[0][0] + 2 * k[1][0] + 2 * k[2][0] + k[3][0]);
    y += (h / 6) * (k[0][1] + 2 * k[1][1] + 2 * k[2][1] + k[3][1]);
  }
  out[0] = x;
  out[1] = y;
}

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
export const squaring = (shape: KnockShape, halfSideMm: number): PointMap =>
  sectionMap(scaled(knockBackward(shape), halfSideMm), scaled(tabled(shape, 0), halfSideMm));
