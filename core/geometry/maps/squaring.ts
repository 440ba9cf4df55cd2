import { type Outline, outlineArea, outlineSize } from '../outline.ts';
import { type PointMap, sectionMap } from './pointMap.ts';

/** Directions in which an outline's reach is kept. */
const DIRECTIONS = 1440;

/** How far an outline reaches from its middle in every direction, mm; star-shaped outlines only. */
function reaches(outline: Outline): Float64Array {
  const table = new Float64Array(DIRECTIONS + 1);
  for (let k = 0; k <= DIRECTIONS; k++) {
    const turn = (2 * Math.PI * k) / DIRECTIONS;
    const [dx, dy] = [Math.cos(turn), Math.sin(turn)];
    let far = 0;
    outline.forEach(([x0, y0], i) => {
      const [x1, y1] = outline[(i + 1) % outline.length];
      const [a, b] = [dx * y0 - dy * x0, dx * y1 - dy * x1];
      if (a > 0 === b > 0 && a !== 0) return;
      const t = a === b ? 0 : a / (a - b);
      far = Math.max(far, dx * (x0 + (x1 - x0) * t) + dy * (y0 + (y1 - y0) * t));
    });
    table[k] = far;
  }
  return table;
}

const reachAt = (table: Float64Array, x: number, y: number): number => {
  const at = ((Math.atan2(y, x) / (2 * Math.PI) + 1) % 1) * DIRECTIONS;
  const k = Math.floor(at);
  return table[k] + (table[Math.min(DIRECTIONS, k + 1)] - table[k]) * (at - k);
};

/** How quickly the filling of the corners fades towards the middle. */
const FADES = 4;

/**
 * A nearly square or flat section with worn corners, its corners filled: to the rectangle of the same proportions and the same
 * area, the rim moved outward or inward along every ray and the middle left as it is. Whole areas agree (with `areaMm2`, where the section is to close further, the rim moves in); a part's own may
 * differ by what its corner lacked.
 */
export function squaring(
  outline: Outline,
  areaMm2 = outlineArea(outline),
): { map: PointMap; widthMm: number; heightMm: number } {
  const size = outlineSize(outline);
  const scale = Math.sqrt(areaMm2 / (size.widthMm * size.heightMm));
  const [widthMm, heightMm] = [size.widthMm * scale, size.heightMm * scale];
  const worn = reaches(outline);
  const [w, h] = [widthMm / 2, heightMm / 2];
  const map = filling(worn, (dx, dy) => Math.min(w / (Math.abs(dx) || 1e-300), h / (Math.abs(dy) || 1e-300)));
  return { map, widthMm, heightMm };
}

/** A section filled to another outline of the same area, in the same way. */
export function shaping(outline: Outline, target: Outline): PointMap {
  const wanted = reaches(target);
  return filling(reaches(outline), (dx, dy) => reachAt(wanted, dx, dy));
}

/** The rim moved along every ray to where `reach` says, the middle left as it is. */
function filling(worn: Float64Array, reach: (dx: number, dy: number) => number): PointMap {
  /** Of a point of what it becomes: by how much its rim was moved there. */
  const back = (x: number, y: number, share: number): number => {
    const away = Math.hypot(x, y);
    if (away === 0) return 1;
    const rim = reach(x / away, y / away);
    return 1 + (reachAt(worn, x, y) / rim - 1) * ((away * share) / rim) ** FADES;
  };
  return sectionMap(
    (x, y, out) => {
      // Along a ray the way back grows steadily, so that a secant finds its inverse.
      let share = 1;
      for (let i = 0; i < 60; i++) {
        const off = share * back(x, y, share) - 1;
        if (Math.abs(off) < 1e-13) break;
        const slope = ((share + 1e-6) * back(x, y, share + 1e-6) - 1 - off) / 1e-6;
        share -= off / slope;
      }
      [out[0], out[1]] = [x * share, y * share];
    },
    (x, y, out) => {
      const share = back(x, y, 1);
      [out[0], out[1]] = [x * share, y * share];
    },
  );
}
