import type { Steel } from './steel.ts';

/** Planes in the steel, by their normals at the start, over half a turn: what pushes across each is followed. */
export const WAYS = 8;
const COSINES = Float64Array.from({ length: WAYS }, (_, k) => Math.cos((k * Math.PI) / WAYS));
const SINES = Float64Array.from({ length: WAYS }, (_, k) => Math.sin((k * Math.PI) / WAYS));

/** Where nodes stand, mm. */
interface Places {
  readonly x: Float64Array;
  readonly y: Float64Array;
}

/**
 * Keeps, of every element and plane, the greatest push across it: the normal traction −n·σ·n, in units of the strength. The
 * planes go with the steel. It is this that closes a seam, not the pressure from all sides. `v` by x and y, at the rates and
 * pressures that the steel was last asked for.
 */
export function keepPushes(
  steel: Steel,
  start: Places,
  now: Places,
  v: Float64Array,
  axial: number,
  kept: Float64Array,
): void {
  const { quads, rate, pressure, strength, porousStrength, exponent: m } = steel;
  const c = 3 * Math.sqrt(3) ** (m - 1);
  for (let e = 0; e < steel.elements; e++) {
    // Along the two lines that join the middles of an element's opposite sides.
    const n = 4 * e;
    const [i, j, k, l] = [quads[n], quads[n + 1], quads[n + 2], quads[n + 3]];
    const xu = now.x[j] + now.x[k] - now.x[i] - now.x[l];
    const xw = now.x[k] + now.x[l] - now.x[i] - now.x[j];
    const yu = now.y[j] + now.y[k] - now.y[i] - now.y[l];
    const yw = now.y[k] + now.y[l] - now.y[i] - now.y[j];
    const det = xu * yw - xw * yu;
    const pu = v[2 * j] + v[2 * k] - v[2 * i] - v[2 * l];
    const pw = v[2 * k] + v[2 * l] - v[2 * i] - v[2 * j];
    const qu = v[2 * j + 1] + v[2 * k + 1] - v[2 * i + 1] - v[2 * l + 1];
    const qw = v[2 * k + 1] + v[2 * l + 1] - v[2 * i + 1] - v[2 * j + 1];
    const xx = (pu * yw - pw * yu) / det;
    const yy = (qw * xu - qu * xw) / det;
    const shear = (pw * xu - pu * xw + qu * yw - qw * yu) / det;
    const third = (xx + yy + axial) / 3;
    const mean = (strength[n] + strength[n + 1] + strength[n + 2] + strength[n + 3]) / 4;
    const stiff = (2 / 3) * c * porousStrength[e] * mean * rate[e] ** (m - 1);
    const sxx = stiff * (xx - third);
    const syy = stiff * (yy - third);
    const sxy = (stiff * shear) / 2;
    // How the steel was reshaped, and by its cofactors where a plane's normal points now.
    const su = start.x[j] + start.x[k] - start.x[i] - start.x[l];
    const sw = start.x[k] + start.x[l] - start.x[i] - start.x[j];
    const tu = start.y[j] + start.y[k] - start.y[i] - start.y[l];
    const tw = start.y[k] + start.y[l] - start.y[i] - start.y[j];
    const f0 = xu * tw - xw * tu;
    const f1 = xw * su - xu * sw;
    const f2 = yu * tw - yw * tu;
    const f3 = yw * su - yu * sw;
    for (let way = 0; way < WAYS; way++) {
      const nx = f3 * COSINES[way] - f2 * SINES[way];
      const ny = f0 * SINES[way] - f1 * COSINES[way];
      const push = pressure[e] - (sxx * nx * nx + syy * ny * ny + 2 * sxy * nx * ny) / (nx * nx + ny * ny);
      if (push > kept[WAYS * e + way]) kept[WAYS * e + way] = push;
    }
  }
}

/** The push kept of an element across a plane whose normal stood at an angle at the start. rad */
export function pushAcross(kept: Float64Array, e: number, angle: number): number {
  const place = ((((angle / Math.PI) % 1) + 1) % 1) * WAYS;
  const k = Math.floor(place) % WAYS;
  const share = place - Math.floor(place);
  return (1 - share) * kept[WAYS * e + k] + share * kept[WAYS * e + ((k + 1) % WAYS)];
}
