import type { Outline } from '../geometry/outline.ts';

export type V3 = readonly [number, number, number];

/** Rows of a rotation. */
export type Turn = readonly [V3, V3, V3];

/** A flat face of a solid, counter-clockwise seen from outside, in the coordinates of the bar it came from, mm. */
export interface Facet {
  readonly points: readonly V3[];
  /** Made by a grinder. */
  readonly ground?: boolean;
}

/** A convex body: of a bar by its place, or bought steel by its name. */
export interface Solid {
  readonly of: number | string;
  readonly facets: readonly Facet[];
}

export const dot = (a: V3, b: V3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const plus = (a: V3, b: V3, k = 1): V3 => [a[0] + k * b[0], a[1] + k * b[1], a[2] + k * b[2]];
export const scaled = (v: V3, k: number): V3 => [k * v[0], k * v[1], k * v[2]];
export const cross = (a: V3, b: V3): V3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (v: V3): V3 => scaled(v, 1 / Math.hypot(...v));

export const rotated = (turn: Turn, v: V3): V3 => [dot(turn[0], v), dot(turn[1], v), dot(turn[2], v)];
export const turnedBack = (turn: Turn, v: V3): V3 =>
  plus(plus(scaled(turn[0], v[0]), turn[1], v[1]), turn[2], v[2]);
/** First `b`, then `a`. */
export const turnAfter = (a: Turn, b: Turn): Turn =>
  [0, 1, 2].map((i) => turnedBack(b, a[i as 0 | 1 | 2])) as unknown as Turn;

export const NO_TURN: Turn = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** About an axis through the origin (a unit vector), counter-clockwise seen with the axis pointing at the eye: Rodrigues' formula. */
export function turnAbout(axis: V3, deg: number): Turn {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  const of = (v: V3): V3 => plus(plus(scaled(v, c), cross(axis, v), s), axis, dot(axis, v) * (1 - c));
  const columns = NO_TURN.map(of);
  return [0, 1, 2].map((i) => columns.map((v) => v[i])) as unknown as Turn;
}

/** The outward normal of a face (Newell's). */
export function normalOf({ points }: Facet): V3 {
  let n: V3 = [0, 0, 0];
  points.forEach((p, i) => {
    n = plus(n, cross(p, points[(i + 1) % points.length]));
  });
  return unit(n);
}

/** A bar of a section (counter-clockwise), from z = 0. */
export function prismOf(of: Solid['of'], outline: Outline, lengthMm: number): Solid {
  const at = (z: number) => outline.map(([x, y]): V3 => [x, y, z]);
  const sides = outline.map((p, i): Facet => {
    const q = outline[(i + 1) % outline.length];
    return {
      points: [
        [p[0], p[1], 0],
        [q[0], q[1], 0],
        [q[0], q[1], lengthMm],
        [p[0], p[1], lengthMm],
      ],
    };
  });
  return { of, facets: [...sides, { points: at(lengthMm) }, { points: at(0).reverse() }] };
}

/** A block from corner to corner. */
export function blockOf(of: Solid['of'], low: V3, high: V3): Solid {
  const prism = prismOf(
    of,
    [
      [low[0], low[1]],
      [high[0], low[1]],
      [high[0], high[1]],
      [low[0], high[1]],
    ],
    high[2] - low[2],
  );
  return { of, facets: prism.facets.map((f) => ({ points: f.points.map((p) => plus(p, [0, 0, low[2]])) })) };
}

/** mm. Closer to a plane than this is on it. */
const ON_MM = 1e-7;

/** Keeps what is behind a plane, n · p ≤ c; null where nothing is. The new face closes it. */
export function cutOff(solid: Solid, n: V3, c: number, ground = false): Solid | null {
  const facets: Facet[] = [];
  const rim: V3[] = [];
  let touched = false;
  for (const facet of solid.facets) {
    const { points } = facet;
    const kept: V3[] = [];
    points.forEach((p, i) => {
      const q = points[(i + 1) % points.length];
      const [a, b] = [dot(n, p) - c, dot(n, q) - c];
      if (a <= ON_MM) kept.push(p);
      else touched = true;
      if ((a < -ON_MM && b > ON_MM) || (a > ON_MM && b < -ON_MM)) {
        const on = plus(p, plus(q, p, -1), a / (a - b));
        kept.push(on);
        rim.push(on);
      } else if (Math.abs(a) <= ON_MM) rim.push(p);
    });
    if (kept.length >= 3 && kept.some((p) => dot(n, p) < c - ON_MM)) facets.push({ ...facet, points: kept });
  }
  if (!touched) return solid;
  if (facets.length === 0) return null;
  const cap = around(rim, n);
  return {
    ...solid,
    facets: cap.length >= 3 ? [...facets, { points: cap, ...(ground && { ground }) }] : facets,
  };
}

/** Points of a plane in order about their middle, counter-clockwise about n, each once. */
function around(points: readonly V3[], n: V3): V3[] {
  const once = points.filter((p, i) => points.findIndex((q) => Math.hypot(...plus(p, q, -1)) < 1e-5) === i);
  if (once.length < 3) return [];
  const middle = scaled(
    once.reduce((sum, p) => plus(sum, p), [0, 0, 0] as V3),
    1 / once.length,
  );
  const first = unit(plus(once[0], middle, -1));
  const second = cross(n, first);
  const angle = (p: V3) => Math.atan2(dot(plus(p, middle, -1), second), dot(plus(p, middle, -1), first));
  return once.sort((p, q) => angle(p) - angle(q));
}
