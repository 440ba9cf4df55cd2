import type { Plane } from '../billet/face.ts';
import { FACE_INSET_MM } from '../geometry/tolerances.ts';
import {
  type Facet,
  type Solid,
  type Turn,
  type V3,
  NO_TURN,
  cross,
  cutOff,
  dot,
  normalOf,
  plus,
  rotated,
  scaled,
  turnAbout,
  turnAfter,
  turnedBack,
} from './solid.ts';

/**
 * What lies on the bench under one name, and how: from the coordinates of its bars to those of whoever stands in front (x to the
 * right, y up, z towards them), first turned, then moved. mm.
 */
export interface Thing {
  readonly name: string;
  readonly parts: readonly Solid[];
  readonly turn: Turn;
  readonly shift: V3;
  /** The way to end B square to the last cut, and the way to the old top along it, own. */
  readonly toB: V3;
  readonly toTop: V3;
}

export const asItCame = (name: string, parts: readonly Solid[]): Thing => ({
  name,
  parts,
  turn: NO_TURN,
  shift: [0, 0, 0],
  toB: [0, 0, 1],
  toTop: [0, 1, 0],
});

const toWorld = ({ turn, shift }: Thing, p: V3): V3 => plus(rotated(turn, p), shift);

export const cornersOf = (thing: Thing): V3[] =>
  thing.parts.flatMap((s) => s.facets.flatMap((f) => f.points.map((p) => toWorld(thing, p))));

export interface Box {
  readonly low: V3;
  readonly high: V3;
}

export function boxOf(things: readonly Thing[]): Box {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const thing of things)
    for (const p of cornersOf(thing))
      for (const i of [0, 1, 2] as const) {
        low[i] = Math.min(low[i], p[i]);
        high[i] = Math.max(high[i], p[i]);
      }
  return { low: low as unknown as V3, high: high as unknown as V3 };
}

export const movedBy = (thing: Thing, by: V3): Thing => ({ ...thing, shift: plus(thing.shift, by) });

/** About the middle of the room it takes. */
export function turnedBy(thing: Thing, turn: Turn): Thing {
  const { low, high } = boxOf([thing]);
  const middle = scaled(plus(low, high), 0.5);
  return {
    ...thing,
    turn: turnAfter(turn, thing.turn),
    shift: plus(middle, rotated(turn, plus(thing.shift, middle, -1))),
  };
}

/** Keeps what is behind a plane of the bench. */
export function cutThing(thing: Thing, n: V3, c: number, ground = false): Thing {
  const own = turnedBack(thing.turn, n);
  const at = c - dot(n, thing.shift);
  return { ...thing, parts: thing.parts.flatMap((s) => cutOff(s, own, at, ground) ?? []) };
}

/** Rolled about its length until the face (ground, or not) that is most nearly down is quite down. */
export function restedOn(thing: Thing, ground: boolean): Thing {
  const ways = thing.parts
    .flatMap((s) => s.facets.filter((f) => (f.ground ?? false) === ground))
    .map((f) => rotated(thing.turn, normalOf(f)))
    .filter((n) => Math.abs(n[2]) < 0.5);
  const down = ways.reduce((a, b) => (b[1] < a[1] ? b : a));
  return turnedBy(thing, turnAbout([0, 0, 1], (-Math.atan2(down[0], -down[1]) * 180) / Math.PI));
}

/** A sawn face (the one that looked to that end) up, the old top to a new end. */
export function laidDown(thing: Thing, up: 'A' | 'B', topTowards: 'A' | 'B'): Thing {
  const y = scaled(thing.toB, up === 'B' ? 1 : -1);
  const z = scaled(thing.toTop, topTowards === 'B' ? 1 : -1);
  const { low, high } = boxOf([thing]);
  const middle = scaled(plus(low, high), 0.5);
  const laid: Thing = { ...thing, turn: [cross(y, z), y, z], shift: [0, 0, 0] };
  const now = boxOf([laid]);
  return movedBy(laid, plus(middle, scaled(plus(now.low, now.high), 0.5), -1));
}

/** A facet as a flat window into its bar, seen from outside, in the bar's own coordinates. */
export function windowOf(facet: Facet): Plane {
  const n = normalOf(facet);
  const high: V3 = Math.abs(n[2]) > 0.7 ? [0, 1, 0] : [0, 0, 1];
  const off = plus(high, n, -dot(high, n));
  const up = scaled(off, 1 / Math.hypot(...off));
  const across = cross(up, n);
  const us = facet.points.map((p) => dot(p, across));
  const vs = facet.points.map((p) => dot(p, up));
  const [u, v] = [Math.min(...us), Math.min(...vs)];
  const depth = dot(facet.points[0], n) - FACE_INSET_MM;
  return {
    origin: plus(plus(scaled(across, u), up, v), n, depth),
    across,
    up,
    widthMm: Math.max(...us) - u,
    heightMm: Math.max(...vs) - v,
  };
}

/** Which end of its piece a facet is, by the mark on it; null for a side. */
export function endOf({ toB }: Thing, facet: Facet): 'A' | 'B' | null {
  const along = dot(normalOf(facet), toB);
  return along > 0.95 ? 'B' : along < -0.95 ? 'A' : null;
}
