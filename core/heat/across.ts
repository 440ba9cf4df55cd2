import { type Outline, type Point2, outlineArea } from '../geometry/outline.ts';
import { radiationWm2K } from './cooling.ts';
import { HOT_STEEL, bessel, knownTermsOf } from './soak.ts';

/** Room, °C. */
const ROOM_C = 20;
/** Of a circle's 1: a section whose 4πA/P² is higher cools as a round does. An octagon has 0.948. */
const ROUND = 0.93;
/** Places from the middle to the rim at which a profile is worked out. */
const PLACES = 64;

/** What is left of the heat along a line from the middle (0) to the surface (1), after so many seconds. */
function profile(shape: 'slab' | 'cylinder', halfMm: number, seconds: number, lossWm2K: number) {
  const { kWmK, heatJm3K } = HOT_STEEL;
  const half = halfMm / 1000;
  const { zeta, centre } = knownTermsOf(shape, (lossWm2K * half) / kWmK);
  const fourier = ((kWmK / heatJm3K) * seconds) / half ** 2;
  const decayed = zeta.map((z, n) => centre[n] * Math.exp(-z * z * fourier));
  const at = Float64Array.from({ length: PLACES + 1 }, (_, i) =>
    zeta.reduce((sum, z, n) => {
      const u = (z * i) / PLACES;
      return sum + decayed[n] * (shape === 'slab' ? Math.cos(u) : bessel(u)[0]);
    }, 0),
  );
  return (mm: number): number => {
    const place = Math.min(1, Math.abs(mm) / halfMm) * PLACES;
    const k = Math.min(PLACES - 1, Math.floor(place));
    return Math.min(1, at[k] + (at[k + 1] - at[k]) * (place - k));
  };
}

/** The smallest box about a convex section: its middle, the direction of its width, and half its sizes. mm */
function boxAbout(outline: Outline): { middle: Point2; along: Point2; half: Point2 } {
  let best = { area: Infinity, middle: [0, 0] as Point2, along: [1, 0] as Point2, half: [1, 1] as Point2 };
  outline.forEach(([x, y], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const length = Math.hypot(x1 - x, y1 - y);
    if (length < 1e-9) return;
    const [c, s] = [(x1 - x) / length, (y1 - y) / length];
    let [u0, u1, v0, v1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [px, py] of outline) {
      const [u, v] = [c * px + s * py, c * py - s * px];
      [u0, u1, v0, v1] = [Math.min(u0, u), Math.max(u1, u), Math.min(v0, v), Math.max(v1, v)];
    }
    const area = (u1 - u0) * (v1 - v0);
    if (area > best.area * (1 - 1e-6)) return;
    const [mu, mv] = [(u0 + u1) / 2, (v0 + v1) / 2];
    best = {
      area,
      middle: [c * mu - s * mv, s * mu + c * mv],
      along: [c, s],
      half: [(u1 - u0) / 2, (v1 - v0) / 2],
    };
  });
  return best;
}

/**
 * Temperature over a long bar's section some seconds after it left the fire hot through, °C by place: of a round the cylinder's
 * series, else the product of two slabs' over the smallest box about it (Incropera and DeWitt, ch. 5), with radiation at the
 * fire's own heat as the loss. It says nothing of what the dies chill.
 */
export function heatAcross(
  outline: Outline,
  fireC: number,
  seconds: number,
): (x: number, y: number) => number {
  if (seconds <= 0) return () => fireC;
  const loss = radiationWm2K(fireC);
  const area = outlineArea(outline);
  const round = outline.reduce((sum, [x, y], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    return sum + Math.hypot(x1 - x, y1 - y);
  }, 0);
  const { middle, along, half } = boxAbout(outline);
  const hot = (share: number) => ROOM_C + (fireC - ROOM_C) * share;
  if ((4 * Math.PI * area) / round ** 2 > ROUND) {
    const left = profile('cylinder', Math.sqrt(area / Math.PI), seconds, loss);
    return (x, y) => hot(left(Math.hypot(x - middle[0], y - middle[1])));
  }
  const [wide, high] = half.map((mm) => profile('slab', mm, seconds, loss));
  return (x, y) => {
    const [dx, dy] = [x - middle[0], y - middle[1]];
    return hot(wide(along[0] * dx + along[1] * dy) * high(along[0] * dy - along[1] * dx));
  };
}
