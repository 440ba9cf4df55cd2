/** The pattern of a section moved within its outline: where a point of the real section lies in the predicted one. All in half sides. */
export interface Warp {
  /** Radians by which the middle is turned, the rim staying in the rim (the flow of ψ = (1 − x²)(1 − y²)/2), counter-clockwise. */
  readonly turn: number;
  /** By how much the corner line is turned by sliding every concentric square along itself, radians, counter-clockwise. */
  readonly slide: number;
  /** Shift, stretch, shear, turning as a whole, gathering and keystone, in the order of `MODES`. */
  readonly modes: readonly number[];
  readonly spline: Spline | null;
}

/** A displacement by cubic B-splines over so many cells a side: (cells + 3)² knots, x and then y of each. */
export interface Spline {
  readonly cells: number;
  readonly knots: Float64Array;
}

export const STILL: Warp = { turn: 0, slide: 0, modes: [], spline: null };

type Pair = readonly [number, number];

/**
 * How large each mode usually is: shift, stretch, shear, turning as a whole, gathering towards the middle, keystone. Shear, turning as
 * a whole and keystone come of an outline that is a little off: they are held closest.
 */
export const USUAL = [0.025, 0.025, 0.03, 0.03, 0.01, 0.008, 0.05, 0.05, 0.005, 0.005] as const;

/** By what each mode moves a point: along x and y of each in turn. */
export function modesAt(x: number, y: number, into: Float64Array): void {
  into[0] = into[3] = 1;
  into[4] = into[9] = into[11] = x;
  into[7] = into[8] = y;
  into[10] = -y;
  into[12] = x * (1 - x * x);
  into[15] = y * (1 - y * y);
  into[16] = x * x;
  into[17] = x * y;
  into[18] = x * y;
  into[19] = y * y;
}

export const USUAL_TURN = 0.1;
export const USUAL_SLIDE = 0.08;

/** The flow of the smooth turn, counter-clockwise at one radian. */
const turning = (x: number, y: number): Pair => [-y * (1 - x * x), x * (1 - y * y)];

const STEPS = 4;

/** A point carried along the smooth turn. */
function turned(x: number, y: number, angle: number): Pair {
  if (angle === 0) return [x, y];
  let [px, py] = [x, y];
  const h = angle / STEPS;
  for (let k = 0; k < STEPS; k++) {
    const [ax, ay] = turning(px, py);
    const [bx, by] = turning(px + (h / 2) * ax, py + (h / 2) * ay);
    const [cx, cy] = turning(px + (h / 2) * bx, py + (h / 2) * by);
    const [dx, dy] = turning(px + h * cx, py + h * cy);
    px += (h / 6) * (ax + 2 * bx + 2 * cx + dx);
    py += (h / 6) * (ay + 2 * by + 2 * cy + dy);
  }
  return [px, py];
}

/** A point slid along its concentric square, so that the corner line is turned by an angle. */
export function slid(x: number, y: number, angle: number): Pair {
  const r = Math.max(Math.abs(x), Math.abs(y));
  if (angle === 0 || r === 0) return [x, y];
  // Along the square from its lower right corner, counter-clockwise, in half sides: 0 to 8.
  const along = Math.abs(x) >= Math.abs(y) ? (x > 0 ? 1 + y / r : 5 - y / r) : y > 0 ? 3 - x / r : 7 + x / r;
  const by = Math.sign(angle) * (1 - Math.tan(Math.PI / 4 - Math.abs(angle)));
  const to = (((along + by) % 8) + 8) % 8;
  if (to < 2) return [r, r * (to - 1)];
  if (to < 4) return [r * (3 - to), r];
  if (to < 6) return [-r, r * (5 - to)];
  return [r * (to - 7), -r];
}

/** Weights of the four knots about a place, and the first of them. */
export function splineAt(cells: number, x: number): { first: number; w: [number, number, number, number] } {
  const at = ((x + 1) / 2) * cells;
  const first = Math.min(cells - 1, Math.max(0, Math.floor(at)));
  const t = at - first;
  const [t2, t3] = [t * t, t * t * t];
  return {
    first,
    w: [(1 - t) ** 3 / 6, (3 * t3 - 6 * t2 + 4) / 6, (-3 * t3 + 3 * t2 + 3 * t + 1) / 6, t3 / 6],
  };
}

function bySpline({ cells, knots }: Spline, x: number, y: number): Pair {
  const [a, b] = [splineAt(cells, x), splineAt(cells, y)];
  const row = cells + 3;
  let [dx, dy] = [0, 0];
  for (let j = 0; j < 4; j++)
    for (let i = 0; i < 4; i++) {
      const w = a.w[i] * b.w[j];
      const k = 2 * ((b.first + j) * row + a.first + i);
      dx += w * knots[k];
      dy += w * knots[k + 1];
    }
  return [dx, dy];
}

/** Points of a section's n × n dots, as maps carry them: x and y of each in turn. */
export type DotPlaces = Float64Array;

/** The dots of a section as the exact maps alone carry them back. */
export function carried({ turn, slide }: Pick<Warp, 'turn' | 'slide'>, n: number): DotPlaces {
  const made = new Float64Array(2 * n * n);
  for (let j = 0, at = 0; j < n; j++)
    for (let i = 0; i < n; i++, at += 2) {
      const [sx, sy] = slid((2 * i + 1) / n - 1, 1 - (2 * j + 1) / n, -slide);
      const [x, y] = turned(sx, sy, -turn);
      made[at] = x;
      made[at + 1] = y;
    }
  return made;
}

/** The same with the modes added: `from` is what the exact maps made. */
export function withModes(from: DotPlaces, modes: readonly number[]): DotPlaces {
  const made = from.slice();
  const each = new Float64Array(2 * USUAL.length);
  for (let at = 0; at < from.length; at += 2) {
    modesAt(from[at], from[at + 1], each);
    for (let m = 0; m < modes.length; m++) {
      made[at] += modes[m] * each[2 * m];
      made[at + 1] += modes[m] * each[2 * m + 1];
    }
  }
  return made;
}

/** The same with a displacement by splines added. */
export function withSpline(from: DotPlaces, { cells, knots }: Spline): DotPlaces {
  const n = Math.round(Math.sqrt(from.length / 2));
  const made = from.slice();
  const row = cells + 3;
  const along = Array.from({ length: n }, (_, i) => splineAt(cells, (2 * i + 1) / n - 1));
  for (let j = 0, at = 0; j < n; j++)
    for (let i = 0; i < n; i++, at += 2) {
      const [a, b] = [along[i], along[n - 1 - j]];
      for (let v = 0; v < 4; v++)
        for (let u = 0; u < 4; u++) {
          const w = a.w[u] * b.w[v];
          const k = 2 * ((b.first + v) * row + a.first + u);
          made[at] += w * knots[k];
          made[at + 1] += w * knots[k + 1];
        }
    }
  return made;
}

/** Where the dots of a real section lie in the predicted one. */
export function warpedAll(warp: Warp, n: number): DotPlaces {
  const modes = withModes(carried(warp, n), warp.modes);
  return warp.spline ? withSpline(modes, warp.spline) : modes;
}

/** Where a point of the real section lies in the predicted one. */
export function warped(warp: Warp, x: number, y: number): Pair {
  const [sx, sy] = slid(x, y, -warp.slide);
  const [ex, ey] = turned(sx, sy, -warp.turn);
  const each = new Float64Array(2 * USUAL.length);
  modesAt(ex, ey, each);
  let [qx, qy] = [ex, ey];
  warp.modes.forEach((value, m) => {
    qx += value * each[2 * m];
    qy += value * each[2 * m + 1];
  });
  if (warp.spline) {
    const [dx, dy] = bySpline(warp.spline, x, y);
    qx += dx;
    qy += dy;
  }
  return [qx, qy];
}
