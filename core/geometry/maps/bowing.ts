import type { Coordinates, PointMap } from './pointMap.ts';

/**
 * Layers that bow: in the section |u|, |v| ≤ 1 the stream ψ = −A·u(1 − u²)(1 − v²) carries the middle up and the sides down and
 * leaves the outline where it is. The middle of a level line goes to tanh A, its ends to −tanh 2A.
 */

/** Midpoint steps: each keeps area exactly and is undone by the same step backward. */
const STEPS = 6;
const ROUNDS = 40;

/** A for a bow: how much higher the middle of the middle line stands than its ends, of half the height. Grows steadily. */
function strengthOf(bow: number): number {
  const wanted = Math.min(1.9, Math.abs(bow));
  let a = wanted / 3;
  for (let i = 0; i < ROUNDS; i++) {
    const over = Math.tanh(a) + Math.tanh(2 * a) - wanted;
    const slope = 1 / Math.cosh(a) ** 2 + 2 / Math.cosh(2 * a) ** 2;
    const next = Math.max(0, a - over / slope);
    if (Math.abs(next - a) < 1e-13) break;
    a = next;
  }
  return Math.sign(bow) * a;
}

/**
 * A bar whose layers bow further than they were reckoned to, by so much at each distance from end A: how much higher the
 * middle of the middle line stands against its ends, mm; less than nothing: they are milder, or bow down.
 */
export function bowing(bowMm: (z: number) => number, halfWidthMm: number, halfHeightMm: number): PointMap {
  const known = new Map<number, number>();
  const strengthAt = (z: number): number => {
    let a = known.get(z);
    if (a !== undefined) return a;
    a = strengthOf(bowMm(z) / halfHeightMm);
    // One section at a time is asked of, or points without order.
    if (known.size > 4096) known.clear();
    known.set(z, a);
    return a;
  };
  const carry = (way: 1 | -1) => (points: Coordinates) => {
    const { x, y, z, count } = points;
    for (let i = 0; i < count; i++) {
      const h = (way * strengthAt(z[i])) / STEPS;
      if (h === 0) continue;
      let u = x[i] / halfWidthMm;
      let v = y[i] / halfHeightMm;
      for (let k = 0; k < STEPS; k++) {
        let [nu, nv] = [u, v];
        for (let round = 0; round < ROUNDS; round++) {
          const mu = (u + nu) / 2;
          const mv = (v + nv) / 2;
          const tu = u + h * 2 * mu * (1 - mu * mu) * mv;
          const tv = v + h * (1 - 3 * mu * mu) * (1 - mv * mv);
          const off = Math.abs(tu - nu) + Math.abs(tv - nv);
          [nu, nv] = [tu, tv];
          if (off < 1e-14) break;
        }
        [u, v] = [nu, nv];
      }
      x[i] = u * halfWidthMm;
      y[i] = v * halfHeightMm;
    }
  };
  return { usesZ: true, forward: carry(1), backward: carry(-1) };
}
