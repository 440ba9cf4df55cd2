import type { Grey } from '../likeness/grey.ts';
import { momentsOf } from '../likeness/grey.ts';

/** The shift along a picture, from one to another, at which it agrees best with itself; between dots by a parabola. Dots. */
export function periodAlong({ width, height, values }: Grey, from: number, to: number): number {
  const { mean } = momentsOf(values);
  const agrees = (shift: number): number => {
    let [cross, a, b] = [0, 0, 0];
    for (let row = 0; row < height; row++)
      for (let column = 0; column + shift < width; column++) {
        const u = values[row * width + column] - mean;
        const v = values[row * width + column + shift] - mean;
        cross += u * v;
        a += u * u;
        b += v * v;
      }
    return cross / Math.sqrt(a * b);
  };
  let [best, most] = [from, -1];
  for (let shift = Math.floor(from); shift <= to; shift++) {
    const here = agrees(shift);
    if (here > most) [best, most] = [shift, here];
  }
  const [before, after] = [agrees(best - 1), agrees(best + 1)];
  return best + (before - after) / (2 * (before - 2 * most + after));
}
