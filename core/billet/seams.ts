import { makePoints, makeTrace } from './fields/field.ts';
import type { Stack } from './fields/field.ts';
import type { Billet } from './billet.ts';

/** Places round a point at which it is asked what lies there. */
const ROUND = 16;

/**
 * Which way the seam lies that runs by each point of a bar's section halfway along, within a reach of it: the angle of its normal,
 * rad; not a number where none does. A seam is where the steel, the stack or the piece changes. mm
 */
export function seamWays(
  bar: Billet,
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  reachMm: number,
): Float64Array {
  const points = makePoints(ROUND);
  points.trace = makeTrace(ROUND, 'pieces');
  const codes = new Uint8Array(ROUND);
  const stacks = new Map<Stack | null, number>();
  const labels = new Array<string>(ROUND);
  return Float64Array.from(x, (_, i) => {
    for (let k = 0; k < ROUND; k++) {
      const angle = (2 * Math.PI * k) / ROUND;
      points.x[k] = x[i] + reachMm * Math.cos(angle);
      points.y[k] = y[i] + reachMm * Math.sin(angle);
      points.z[k] = bar.lengthMm / 2;
    }
    points.count = ROUND;
    const { stack } = points.trace!;
    const piece = points.trace!.piece!;
    stack.fill(null);
    piece.fill(0);
    bar.field.sample(points, codes);
    for (let k = 0; k < ROUND; k++) {
      const label = `${codes[k]} ${piece[k]} ${stacks.get(stack[k]) ?? stacks.size}`;
      if (!stacks.has(stack[k])) stacks.set(stack[k], stacks.size);
      labels[k] = label;
    }
    // What lies on either side of a straight seam is joined by lines that lie evenly about its normal; twice the angle, so that a
    // line and its other way are one.
    let [c, s] = [0, 0];
    for (let k = 0; k < ROUND; k++)
      for (let l = 0; l < k; l++) {
        if (labels[k] === labels[l]) continue;
        const across = (2 * Math.PI * (k + l)) / ROUND + Math.PI;
        c += Math.cos(across);
        s += Math.sin(across);
      }
    return c === 0 && s === 0 ? NaN : Math.atan2(s, c) / 2;
  });
}
