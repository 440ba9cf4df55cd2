import { type DiePair, riseOf } from './dies.ts';
import { SOLID } from './steel.ts';

/** Into how many pieces a side of the outline is cut to find what of it lies beyond a die that is not flat. */
const CUTS = 6;

/** Area of every element, mm². */
export function elementAreas(quads: Int32Array, x: Float64Array, y: Float64Array): Float64Array {
  const areas = new Float64Array(quads.length / 4);
  for (let k = 0; k < areas.length; k++) {
    const a = quads[4 * k];
    const b = quads[4 * k + 1];
    const c = quads[4 * k + 2];
    const d = quads[4 * k + 3];
    areas[k] = ((x[c] - x[a]) * (y[d] - y[b]) - (x[d] - x[b]) * (y[c] - y[a])) / 2;
  }
  return areas;
}

/** Area of a section beyond the dies when they stand at a height: what they will displace. mm² */
export function beyondDies(
  rim: ArrayLike<number>,
  dies: DiePair,
  x: Float64Array,
  y: Float64Array,
  height: number,
): number {
  const flat = dies.upper.kind === 'flat' && dies.lower.kind === 'flat';
  const cuts = flat ? 1 : CUTS;
  const above = (px: number, py: number) => py - height / 2 - riseOf(dies.upper, px);
  const below = (px: number, py: number) => -py - height / 2 - riseOf(dies.lower, px);
  let beyond = 0;
  for (let i = 0; i < rim.length; i++) {
    const [p, q] = [rim[i], rim[(i + 1) % rim.length]];
    for (let c = 0; c < cuts; c++) {
      const [s, t] = [c / cuts, (c + 1) / cuts];
      const [x0, y0] = [x[p] + (x[q] - x[p]) * s, y[p] + (y[q] - y[p]) * s];
      const [x1, y1] = [x[p] + (x[q] - x[p]) * t, y[p] + (y[q] - y[p]) * t];
      // Counter-clockwise the top runs from right to left.
      beyond += (x0 - x1) * (over(above(x0, y0), above(x1, y1)) - over(below(x0, y0), below(x1, y1)));
    }
  }
  return beyond;
}

/** Slices of the room between two dies. */
const SLICES = 400;

/** Area of the room between dies that stand at a height; without end where it is open to the sides. mm² */
export function roomBetween({ upper, lower, stopsMm }: DiePair, height: number): number {
  const closed = upper.kind === 'V' || lower.kind === 'V';
  if (stopsMm === null && !closed) return Infinity;
  const apart = (x: number): number => Math.max(0, height + riseOf(upper, x) + riseOf(lower, x));
  let half = (stopsMm ?? 2) / 2;
  if (stopsMm === null) while (apart(half) > 0) half *= 2;
  let area = 0;
  for (let i = 0; i < SLICES; i++) area += (2 * half * apart((half * (i + 0.5)) / SLICES)) / SLICES;
  return area;
}

/** Mean and least of what was powder, by area. */
export function densities(
  first: Float64Array | undefined,
  now: Float64Array | undefined,
  areas: Float64Array,
): { meanDensity: number; leastDensity: number } {
  let [sum, whole, least] = [0, 0, 1];
  now?.forEach((rho, e) => {
    if (first![e] >= SOLID) return;
    sum += Math.min(1, rho) * areas[e];
    whole += areas[e];
    least = Math.min(least, rho);
  });
  return { meanDensity: whole > 0 ? sum / whole : 1, leastDensity: least };
}

export const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
};

/** Mean over a stretch of what is above 0, of a value that goes evenly from one end to the other. */
function over(p: number, q: number): number {
  if (p <= 0 && q <= 0) return 0;
  if (p >= 0 && q >= 0) return (p + q) / 2;
  const high = Math.max(p, q);
  return (high * high) / (2 * Math.abs(p - q));
}

/** From where to where some nodes reach along an axis, mm. */
export function spanOf(nodes: Iterable<number>, along: Float64Array): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const node of nodes) [low, high] = [Math.min(low, along[node]), Math.max(high, along[node])];
  return [low, high];
}

/** A sum over nodes. */
export function sumOver(nodes: Iterable<number>, of: (node: number) => number): number {
  let sum = 0;
  for (const node of nodes) sum += of(node);
  return sum;
}

/** Where a section's nodes lie when the dies come to rest on it, and how far apart these are then. mm */
export function laidBetween(
  mesh: { readonly x: Float64Array; readonly y: Float64Array; readonly rim: Int32Array },
  { upper, lower, stopsMm }: DiePair,
): { x: Float64Array; y: Float64Array; from: number } {
  const shaped = upper.kind !== 'flat' || lower.kind !== 'flat' || stopsMm !== null;
  const [left, right] = spanOf(mesh.rim, mesh.x);
  const across = shaped ? (left + right) / 2 : 0;
  const x = mesh.x.map((v) => v - across);
  let [top, bottom] = [-Infinity, Infinity];
  for (const node of mesh.rim) {
    top = Math.max(top, mesh.y[node] - riseOf(upper, x[node]));
    bottom = Math.min(bottom, mesh.y[node] + riseOf(lower, x[node]));
  }
  return { x, y: mesh.y.map((v) => v - (bottom + top) / 2), from: top - bottom };
}
