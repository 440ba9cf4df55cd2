import type { LooseMesh } from './pieces.ts';

/** So near each other two stretches of rim may come to touch within a step, mm; and pass so far through each other while it is looked for. */
const REACH = 0.5;
const THROUGH = 0.3;
/** Two stretches face each other where their directions differ by more than a right angle and this (cosine). */
const FACING = -0.2;
/** Stretches so near beyond half their lengths are coupled in the equations beforehand, mm. */
const COUPLED = 0.3;
const GAUSS = 1 / Math.sqrt(3);

/** A stretch of rim between two nodes, of one piece. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly piece: number;
}

export const stretchesOf = ({ loops }: LooseMesh): Stretch[] =>
  loops.flatMap((loop, piece) =>
    Array.from(loop, (from, i) => ({ from, to: loop[(i + 1) % loop.length], piece })),
  );

/**
 * Where two stretches may touch: four nodes (the ends of the first, then of the second), what each counts for in the distance
 * of the second from the first, the direction of that, and how much of the rim the point stands for, mm.
 */
export interface Touch {
  readonly first: number;
  readonly second: number;
  readonly shares: readonly [number, number, number, number];
  readonly nx: number;
  readonly ny: number;
  readonly weight: number;
}

/** Which way a stretch of rim looks. */
export function outward({ from, to }: Stretch, x: Float64Array, y: Float64Array): [number, number] {
  const [tx, ty] = [x[to] - x[from], y[to] - y[from]];
  const length = Math.hypot(tx, ty);
  return [ty / length, -tx / length];
}

/** Pairs of stretches of different pieces that lie so near that they are coupled, as numbers first · count + second. */
export function coupledPairs(all: readonly Stretch[], x: Float64Array, y: Float64Array): Set<number> {
  const pairs = new Set<number>();
  near(all, x, y, COUPLED, (a, b) => pairs.add(a * all.length + b));
  return pairs;
}

/** Every pair of stretches of different pieces whose middles are nearer than half of both and `reach`. */
function near(
  all: readonly Stretch[],
  x: Float64Array,
  y: Float64Array,
  reach: number,
  found: (a: number, b: number) => void,
): void {
  const mx = all.map(({ from, to }) => (x[from] + x[to]) / 2);
  const my = all.map(({ from, to }) => (y[from] + y[to]) / 2);
  const half = all.map(({ from, to }) => Math.hypot(x[to] - x[from], y[to] - y[from]) / 2);
  const order = all.map((_, i) => i).sort((a, b) => mx[a] - half[a] - (mx[b] - half[b]));
  for (let i = 0; i < order.length; i++) {
    const a = order[i];
    const right = mx[a] + half[a] + reach;
    for (let k = i + 1; k < order.length; k++) {
      const b = order[k];
      if (mx[b] - half[b] > right) break;
      if (all[a].piece === all[b].piece) continue;
      const far = half[a] + half[b] + reach;
      if (Math.abs(my[a] - my[b]) > far) continue;
      if (Math.hypot(mx[a] - mx[b], my[a] - my[b]) > far) continue;
      found(Math.min(a, b), Math.max(a, b));
    }
  }
}

/**
 * Where pieces may touch within a step, by where they are in the middle of it. Both stretches are seen along the line half-way
 * between their directions, cut where either ends, and every part has two points: so a push is handed on evenly whatever the
 * nodes (without the cut it errs by a quarter), and the same from either side.
 */
export function touchesOf(all: readonly Stretch[], x: Float64Array, y: Float64Array): Touch[] {
  const touches: Touch[] = [];
  near(all, x, y, REACH, (first, second) => {
    const [a, b] = [all[first], all[second]];
    const [ax, ay] = [x[a.to] - x[a.from], y[a.to] - y[a.from]];
    const [bx, by] = [x[b.to] - x[b.from], y[b.to] - y[b.from]];
    const [la, lb] = [Math.hypot(ax, ay), Math.hypot(bx, by)];
    if (ax * bx + ay * by > FACING * la * lb) return;
    let [tx, ty] = [ax / la - bx / lb, ay / la - by / lb];
    const t = Math.hypot(tx, ty);
    [tx, ty] = [tx / t, ty / t];
    const [nx, ny] = [ty, -tx];
    const along = (node: number) => x[node] * tx + y[node] * ty;
    const [a0, a1, b0, b1] = [along(a.from), along(a.to), along(b.from), along(b.to)];
    const [low, high] = [Math.max(a0, b1), Math.min(a1, b0)];
    if (high - low < 1e-9) return;
    for (const gauss of [-GAUSS, GAUSS]) {
      const u = (low + high + gauss * (high - low)) / 2;
      const [s, r] = [(u - a0) / (a1 - a0), (u - b0) / (b1 - b0)];
      const shares = [s - 1, -s, 1 - r, r] as const;
      const gap = gapOf(a, b, shares, nx, ny, x, y);
      if (gap > REACH || gap < -THROUGH) continue;
      touches.push({ first, second, shares, nx, ny, weight: (high - low) / 2 });
    }
  });
  return touches;
}

/** How far the second stretch stands off the first at a point, along its direction, mm; or, of velocities, how fast they part. */
export const gapOf = (
  a: Stretch,
  b: Stretch,
  [p, q, r, s]: Touch['shares'],
  nx: number,
  ny: number,
  x: Float64Array,
  y: Float64Array,
): number =>
  nx * (p * x[a.from] + q * x[a.to] + r * x[b.from] + s * x[b.to]) +
  ny * (p * y[a.from] + q * y[a.to] + r * y[b.from] + s * y[b.to]);
