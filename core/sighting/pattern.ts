import { type BakedMap, lookingUp, mapFrom, nodesOn } from '../geometry/maps/baked.ts';
import type { Coordinates, PointMap } from '../geometry/maps/pointMap.ts';
import type { Along } from './along.ts';
import { type Sighting, patternAt } from './sighting.ts';

/** Cells to a half of the grid on which a pattern is kept for drawing. */
const HALF = 32;

const within = (value: number): number => Math.max(-1, Math.min(1, value));

/** The pattern of one end on a grid; steel at the rim comes from inside the section. */
function bakedOf(sighting: Sighting): BakedMap {
  const at = patternAt(sighting);
  const { xy } = nodesOn(HALF);
  const sources = new Float64Array(xy.length);
  for (let k = 0; k < xy.length; k += 2) {
    const [u, v] = at(xy[k], xy[k + 1]);
    sources[k] = within(u);
    sources[k + 1] = within(v);
  }
  return mapFrom(HALF, sources);
}

const ROUNDS = 30;

/** What was seen of a bar so far along it, mm from end A. */
export interface SeenAt {
  readonly sighting: Sighting;
  readonly atMm: number;
}

/**
 * What photographs at one or several places along a bar showed, as a reshaping of the foreseen one: between two places it goes over
 * from the one to the other. Not exactly volume-keeping: it says where steel lies, not how much there is. mm
 */
export function seenPattern(seen: readonly SeenAt[], halfWidthMm: number, halfHeightMm: number): PointMap {
  const stations = [...seen]
    .sort((a, b) => a.atMm - b.atMm)
    .map(({ sighting, atMm }) => ({ atMm, look: lookingUp(bakedOf(sighting)) }));
  const last = stations.length - 1;
  const one: [number, number] = [0, 0];
  const other: [number, number] = [0, 0];
  const back = (u: number, v: number, z: number): void => {
    let k = 0;
    while (k < last && z > stations[k + 1].atMm) k++;
    stations[k].look(u, v, one);
    const next = stations[k + 1];
    if (!next || z <= stations[k].atMm) return;
    next.look(u, v, other);
    const t = Math.min(1, (z - stations[k].atMm) / (next.atMm - stations[k].atMm));
    one[0] = t * other[0] + (1 - t) * one[0];
    one[1] = t * other[1] + (1 - t) * one[1];
  };
  const usesZ = last > 0;
  return {
    usesZ,
    backward({ x, y, z, count }: Coordinates) {
      for (let i = 0; i < count; i++) {
        back(x[i] / halfWidthMm, y[i] / halfHeightMm, usesZ ? z[i] : 0);
        x[i] = one[0] * halfWidthMm;
        y[i] = one[1] * halfHeightMm;
      }
    },
    forward({ x, y, z, count }: Coordinates) {
      for (let i = 0; i < count; i++) {
        const [u, v] = [x[i] / halfWidthMm, y[i] / halfHeightMm];
        let [p, q] = [u, v];
        for (let round = 0; round < ROUNDS; round++) {
          back(p, q, usesZ ? z[i] : 0);
          const [du, dv] = [u - one[0], v - one[1]];
          [p, q] = [within(p + du), within(q + dv)];
          if (Math.abs(du) + Math.abs(dv) < 1e-9) break;
        }
        x[i] = p * halfWidthMm;
        y[i] = q * halfHeightMm;
      }
    },
  };
}

/**
 * What photographs of a bar's broad face showed, as a reshaping of the foreseen one: everything lies where it was seen along it. Between
 * two stretches, and beyond the outermost, it goes over from the one to the other, or on as there. mm
 */
export function seenAlong(
  seen: readonly Along[],
  lengthMm: number,
  /** What stands where the foreseen bar was read against: so many times as long, once so much was cut off its end A. */
  since: { readonly times: number; readonly lessMm: number } = { times: 1, lessMm: 0 },
): PointMap {
  const known = seen
    .flatMap((along) => along.offMm.map((off, k) => [stationOf(along, k), off] as const))
    .sort(([a], [b]) => a - b);
  const offset = (z: number): number => {
    let k = 0;
    while (k < known.length - 2 && z > known[k + 1][0]) k++;
    const [[a, from], [b, to]] = [known[k], known[k + 1]];
    const t = b > a ? Math.max(0, Math.min(1, (z - a) / (b - a))) : 0;
    return from + t * (to - from);
  };
  const within = (z: number): number => Math.max(0, Math.min(lengthMm, z));
  return {
    usesZ: true,
    backward({ z, count }: Coordinates) {
      for (let i = 0; i < count; i++) z[i] = within((z[i] + offset(z[i]) - since.lessMm) * since.times);
    },
    forward({ z, count }: Coordinates) {
      for (let i = 0; i < count; i++) {
        const foreseen = z[i] / since.times + since.lessMm;
        let at = foreseen;
        for (let round = 0; round < ROUNDS; round++) at = foreseen - offset(at);
        z[i] = within(at);
      }
    },
  };
}

const stationOf = ({ fromMm, toMm, offMm }: Along, k: number): number =>
  fromMm + (k / (offMm.length - 1)) * (toMm - fromMm);
