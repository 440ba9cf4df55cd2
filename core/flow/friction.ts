import type { Contact } from './contact.ts';
import type { PressOptions } from './pressing.ts';
import type { Steel } from './steel.ts';

/** Friction on each touching node at the rates of the elements about it, into `drag`: τ = m_f·K·(√3 ε̇)^m. */
export function frictionOn(
  { quads, rate, strength, porousStrength, nodes, elements, exponent }: Steel,
  rim: Int32Array,
  lengths: Float64Array,
  { friction }: PressOptions,
  drag: Float64Array,
): void {
  const sums = new Float64Array(nodes);
  const counts = new Float64Array(nodes);
  for (let e = 0; e < elements; e++)
    for (let a = 0; a < 4; a++) {
      const node = quads[4 * e + a];
      if (lengths[node] === 0) continue;
      sums[node] += porousStrength[e] * strength[4 * e + a] * (Math.sqrt(3) * rate[e]) ** exponent;
      counts[node]++;
    }
  for (const node of rim)
    drag[node] = lengths[node] > 0 ? ((friction as number) * lengths[node] * sums[node]) / counts[node] : 0;
}

/** Mean turning of the section as a row over the velocities, by the nodes' own directions; held nodes have no part in it. */
export function meanTurning(
  contact: Contact,
  x: Float64Array,
  y: Float64Array,
  held: Uint8Array,
): Float64Array {
  const row = new Float64Array(2 * x.length);
  let inertia = 0;
  for (let i = 0; i < x.length; i++) inertia += x[i] * x[i] + y[i] * y[i];
  for (let i = 0; i < x.length; i++) {
    row[2 * i] = -y[i] / Math.sqrt(inertia);
    row[2 * i + 1] = x[i] / Math.sqrt(inertia);
  }
  contact.byFrames(row, false);
  for (let d = 0; d < row.length; d++) if (held[d]) row[d] = 0;
  return row;
}

/** How fast a section turns as a whole at velocities `v`, by x and y. */
export function spinOf(x: Float64Array, y: Float64Array, v: Float64Array): number {
  let [turning, inertia] = [0, 0];
  for (let i = 0; i < x.length; i++) {
    turning += x[i] * v[2 * i + 1] - y[i] * v[2 * i];
    inertia += x[i] * x[i] + y[i] * y[i];
  }
  return turning / inertia;
}
