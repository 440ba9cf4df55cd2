import type { Billet } from '../billet/billet.ts';
import { type Field, codeAt } from '../billet/fields/field.ts';
import type { Outline } from '../geometry/outline.ts';

/** Convex bodies of steel, each with the field it had in its bar, and how they are turned, cut and laid. For the literal hand. World: x to the right, y up, z towards whoever stands in front. mm. */
export type V = readonly [number, number, number];
type Matrix = readonly [V, V, V];
/** What a body is of: one steel by its code, what it was in its bar, or what was elsewhere before it was forged; not a number where it is hollow. */
type Steel = Field | number | ((p: V) => number);
export interface Body {
  readonly field: Steel;
  /** n · p ≤ c in the body's own coordinates, those of the bar it came from. */
  readonly inside: readonly (readonly [n: V, c: number])[];
  /** Which of them were ground. */
  readonly ground: readonly V[];
  /** Own to world: rotation, then shift. */
  readonly turn: Matrix;
  readonly shift: V;
  /** The way to end B square to the last cut, and the way to the old top along it, own. */
  readonly toB: V;
  readonly toTop: V;
}
export type Thing = readonly Body[];

export const dot = (a: V, b: V): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: V, b: V): V => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const add = (a: V, b: V, k = 1): V => [a[0] + k * b[0], a[1] + k * b[1], a[2] + k * b[2]];
export const times = (m: Matrix, v: V): V => [dot(m[0], v), dot(m[1], v), dot(m[2], v)];
export const flipped = (m: Matrix): Matrix =>
  [0, 1, 2].map((i) => m.map((row) => row[i])) as unknown as Matrix;
const after = (a: Matrix, b: Matrix): Matrix => a.map((row) => times(flipped(b), row)) as unknown as Matrix;
const toWorld = (b: Body, p: V): V => add(times(b.turn, p), b.shift);
const toOwn = (b: Body, p: V): V => times(flipped(b.turn), add(p, b.shift, -1));

/** Counter-clockwise about an axis by its index, seen with the axis pointing at the eye. */
export function rotation(axis: 0 | 1 | 2, deg: number): Matrix {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  if (axis === 2)
    return [
      [c, -s, 0],
      [s, c, 0],
      [0, 0, 1],
    ];
  if (axis === 1)
    return [
      [c, 0, s],
      [0, 1, 0],
      [-s, 0, c],
    ];
  return [
    [1, 0, 0],
    [0, c, -s],
    [0, s, c],
  ];
}

/** Sizes that are said beside what is done must be the ones that come, mm. */
export function agrees(mm: number, said: number, within = 1e-3): void {
  if (!(Math.abs(mm - said) <= within)) throw new Error(`It is ${mm} mm, and ${said} mm is said`);
}

export function corners(b: Body): V[] {
  const found: V[] = [];
  const { inside } = b;
  for (let i = 0; i < inside.length; i++)
    for (let j = 0; j < i; j++)
      for (let k = 0; k < j; k++) {
        const [[n, c], [m, d], [o, e]] = [inside[i], inside[j], inside[k]];
        const det = dot(n, cross(m, o));
        if (Math.abs(det) < 1e-9) continue;
        const sum = add(add(times1(cross(m, o), c), times1(cross(o, n), d)), times1(cross(n, m), e));
        const p = times1(sum, 1 / det);
        if (inside.every(([q, f]) => dot(q, p) <= f + 1e-6)) found.push(toWorld(b, p));
      }
  return found;
}
export const times1 = (v: V, k: number): V => [v[0] * k, v[1] * k, v[2] * k];

export function box(thing: Thing): { low: V; high: V } {
  const all = thing.flatMap(corners);
  const pick = (f: (...n: number[]) => number) =>
    [0, 1, 2].map((i) => f(...all.map((p) => p[i]))) as unknown as V;
  return { low: pick(Math.min), high: pick(Math.max) };
}

/** Keeps what is behind a plane of the world. */
export const clipped = (thing: Thing, n: V, c: number): Thing =>
  thing.flatMap((b) => {
    const own: readonly [V, number] = [times(flipped(b.turn), n), c - dot(n, b.shift)];
    const kept = { ...b, inside: [...b.inside, own] };
    return corners(kept).length >= 4 ? [kept] : [];
  });

export const moved = (thing: Thing, by: V): Thing => thing.map((b) => ({ ...b, shift: add(b.shift, by) }));

export function turned(thing: Thing, turn: Matrix): Thing {
  const { low, high } = box(thing);
  const middle = times1(add(low, high), 0.5);
  return thing.map((b) => ({
    ...b,
    turn: after(turn, b.turn),
    shift: add(middle, times(turn, add(b.shift, middle, -1))),
  }));
}

export function block(code: Steel, low: V, high: V): Thing {
  const sides = ([0, 1, 2] as const).flatMap((i) => {
    const n = [0, 0, 0].map((_, k) => (k === i ? 1 : 0)) as unknown as V;
    return [[n, high[i]] as const, [times1(n, -1), -low[i]] as const];
  });
  return [
    {
      field: code,
      inside: sides,
      ground: [],
      turn: rotation(2, 0),
      shift: [0, 0, 0],
      toB: [0, 0, 1],
      toTop: [0, 1, 0],
    },
  ];
}

/** A bar of a section (counter-clockwise), from z = 0. */
export function prism(field: Steel, outline: Outline, lengthMm: number): Body {
  const sides = outline.map((p, i): readonly [V, number] => {
    const q = outline[(i + 1) % outline.length];
    const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
    const long = Math.hypot(dx, dy);
    const n: V = [dy / long, -dx / long, 0];
    return [n, n[0] * p[0] + n[1] * p[1]];
  });
  return {
    field,
    ground: [],
    inside: [...sides, [[0, 0, 1], lengthMm], [[0, 0, -1], 0]],
    turn: rotation(2, 0),
    shift: [0, 0, 0],
    toB: [0, 0, 1],
    toTop: [0, 1, 0],
  };
}

export const bodyOf = (bar: Billet): Body => prism(bar.field, bar.outline, bar.lengthMm);

/** The steel at a point of the world; of bodies that lie in one another the first counts. */
export function steelAt(thing: Thing, p: V): number | null {
  for (const b of thing) {
    const own = toOwn(b, p);
    if (!b.inside.every(([n, c]) => dot(n, own) <= c + 1e-9)) continue;
    if (typeof b.field === 'number') return b.field;
    if (typeof b.field !== 'function') return codeAt(b.field, ...own);
    const code = b.field(own);
    if (!Number.isNaN(code)) return code;
  }
  return null;
}

/** Rolled about its length until the face (a ground one, or an old one) that is most nearly down is quite down. */
export function flatOn(b: Body, ground: boolean): Body {
  const faces = b.inside.map(([n]) => n).filter((n) => b.ground.includes(n) === ground);
  const down = faces.map((n) => times(b.turn, n)).sort((m, n) => m[1] - n[1])[0];
  const deg = (Math.atan2(down[0], -down[1]) * 180) / Math.PI;
  return turned([b], rotation(2, -deg))[0];
}

export function laidDown(b: Body, up: 'A' | 'B', topTowards: 'A' | 'B'): Body {
  const y: V = times1(b.toB, up === 'B' ? 1 : -1);
  const z: V = times1(b.toTop, topTowards === 'B' ? 1 : -1);
  return { ...b, turn: [cross(y, z), y, z], shift: [0, 0, 0] };
}
