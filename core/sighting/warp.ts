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

const STEPS = 4;

/** A point carried along the smooth turn: its flow is −y(1 − x²), x(1 − y²) a radian, counter-clockwise (Runge and Kutta's four slopes). */
function turned(x: number, y: number, angle: number): Pair {
  if (angle === 0) return [x, y];
  let [px, py] = [x, y];
  const h = angle / STEPS;
  for (let k = 0; k < STEPS; k++) {
    const ax = -py * (1 - px * px);
    const ay = px * (1 - py * py);
    const [x2, y2] = [px + (h / 2) * ax, py + (h / 2) * ay];
    const bx = -y2 * (1 - x2 * x2);
    const by = x2 * (1 - y2 * y2);
    const [x3, y3] = [px + (h / 2) * bx, py + (h / 2) * by];
    const cx = -y3 * (1 - x3 * x3);
    const cy = x3 * (1 - y3 * y3);
    const [x4, y4] = [px + h * cx, py + h * cy];
    px += (h / 6) * (ax + 2 * bx + 2 * cx - y4 * (1 - x4 * x4));
    py += (h / 6) * (ay + 2 * by + 2 * cy + x4 * (1 - y4 * y4));
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

/** The dots of a section, an even number a side, as the exact maps alone carry them back: every quarter turns as the first does. */
export function carried({ turn, slide }: Pick<Warp, 'turn' | 'slide'>, n: number): DotPlaces {
  const made = new Float64Array(2 * n * n);
  const put = (i: number, j: number, x: number, y: number) => {
    const at = 2 * (j * n + i);
    made[at] = x;
    made[at + 1] = y;
  };
  for (let j = 0; j < n / 2; j++)
    for (let i = 0; i < n / 2; i++) {
      const [sx, sy] = slid((2 * i + 1) / n - 1, 1 - (2 * j + 1) / n, -slide);
      const [x, y] = turned(sx, sy, -turn);
      put(i, j, x, y);
      put(j, n - 1 - i, -y, x);
      put(n - 1 - i, n - 1 - j, -x, -y);
      put(n - 1 - j, i, y, -x);
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

/** One point's modes at a time: millions of points are asked for. */
const HERE = new Float64Array(2 * USUAL.length);

/** Where a point of the real section lies in the predicted one. */
export function warped(warp: Warp, x: number, y: number): Pair {
  const [sx, sy] = slid(x, y, -warp.slide);
  const [ex, ey] = turned(sx, sy, -warp.turn);
  modesAt(ex, ey, HERE);
  let [qx, qy] = [ex, ey];
  for (let m = 0; m < warp.modes.length; m++) {
    qx += warp.modes[m] * HERE[2 * m];
    qy += warp.modes[m] * HERE[2 * m + 1];
  }
  if (warp.spline) {
    const [dx, dy] = bySpline(warp.spline, x, y);
    qx += dx;
    qy += dy;
  }
  return [qx, qy];
}
