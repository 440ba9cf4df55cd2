import { GAUSS } from './pattern.ts';

/** Each way within the quarter of an element that a Gauss point stands for: so many places are asked. */
const ASKED = 4;

/**
 * Strength at the four Gauss points of every element, each the mean over the quarter that it stands for, by the places of the
 * nodes that it goes by.
 */
export function strengthOver(
  quads: Int32Array,
  x: Float64Array,
  y: Float64Array,
  of: (x: number, y: number) => number,
): Float64Array {
  const strengths = new Float64Array(quads.length);
  for (let e = 0; e < quads.length; e += 4)
    GAUSS.forEach(([u0, v0], g) => {
      for (let j = 0; j < ASKED; j++)
        for (let i = 0; i < ASKED; i++) {
          const u = (Math.sign(u0) + (2 * i + 1) / ASKED - 1) / 2;
          const v = (Math.sign(v0) + (2 * j + 1) / ASKED - 1) / 2;
          const shape = [(1 - u) * (1 - v), (1 + u) * (1 - v), (1 + u) * (1 + v), (1 - u) * (1 + v)];
          let [px, py] = [0, 0];
          for (let a = 0; a < 4; a++) {
            px += (shape[a] / 4) * x[quads[e + a]];
            py += (shape[a] / 4) * y[quads[e + a]];
          }
          strengths[e + g] += of(px, py) / (ASKED * ASKED);
        }
    });
  return strengths;
}

/** Mean of the numbers kept for one element, so many each. */
export function meanOf(values: Float64Array, element: number, each: number): number {
  let sum = 0;
  for (let k = 0; k < each; k++) sum += values[each * element + k];
  return sum / each;
}
