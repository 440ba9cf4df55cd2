import { type BakedMap, lookingUp, mapFrom, nodesOn } from '../geometry/maps/baked.ts';
import type { Coordinates, PointMap } from '../geometry/maps/pointMap.ts';
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

/**
 * What photographs of one or both ends showed, as a reshaping of the foreseen bar: between the ends it goes over from the one to the
 * other. Not exactly volume-keeping: it says where steel lies, not how much there is. mm
 */
export function seenPattern(
  { endA, endB }: { readonly endA?: Sighting | undefined; readonly endB?: Sighting | undefined },
  lengthMm: number,
  halfWidthMm: number,
  halfHeightMm: number,
): PointMap {
  const [a, b] = [endA && lookingUp(bakedOf(endA)), endB && lookingUp(bakedOf(endB))];
  const one: [number, number] = [0, 0];
  const other: [number, number] = [0, 0];
  const back = (u: number, v: number, z: number): void => {
    const t = !b ? 0 : !a ? 1 : Math.max(0, Math.min(1, z / lengthMm));
    a?.(u, v, one);
    b?.(u, v, other);
    one[0] = t * other[0] + (1 - t) * one[0];
    one[1] = t * other[1] + (1 - t) * one[1];
  };
  const usesZ = Boolean(a && b);
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
