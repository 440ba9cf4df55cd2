import { type Outline, placeOn, turnAt } from '../outline.ts';

const ROUNDS = 12;
const LEAST_STEP = 1e-3;
/** Sum of the squares of the cells’ own misses at which all is well. */
const GOOD = 1e-9;
const MOST_ITERATIONS = 600;
/** Of the first residual, squared: so far a round's equations are solved. */
const SOLVED = 1e-6;
/** rad. So sharp a corner of the rim is one, and what lies on it stays there. */
const CORNER = 0.3;
const ON_IT = 1e-6;

/** A grid's places, x and y of each node, row by row: so many across, as many up. */
export interface Places {
  readonly across: number;
  readonly xy: Float64Array;
}

/** Areas of a grid's cells, row by row. */
export function cellAreas({ across, xy }: Places): Float64Array {
  const cells = across - 1;
  const areas = new Float64Array(cells * cells);
  for (let j = 0; j < cells; j++)
    for (let i = 0; i < cells; i++) {
      const a = 2 * (j * across + i);
      const c = a + 2 * across;
      areas[j * cells + i] =
        ((xy[c + 2] - xy[a]) * (xy[c + 1] - xy[a + 3]) - (xy[c] - xy[a + 2]) * (xy[c + 3] - xy[a + 1])) / 2;
    }
  return areas;
}

/**
 * The places nearest to those of a grid at which the cells share out its area as they are to, the outermost nodes staying on the
 * rim. Corrections of least squares, the equations solved by conjugate gradients; shorter ones where they overshoot.
 */
export function areaKept(
  { across, xy: first }: Places,
  shares: Float64Array,
  rim: Outline,
  rounds = ROUNDS,
): Places {
  const xy = Float64Array.from(first);
  const nodes = across * across;
  const cells = across - 1;
  const count = cells * cells;
  const corners = Int32Array.from(
    Array.from({ length: count }, (_, c) => {
      const a = Math.floor(c / cells) * across + (c % cells);
      return [a, a + 1, a + across + 1, a + across];
    }).flat(),
  );
  const outer = Array.from({ length: nodes }, (_, n) => n).filter((n) =>
    [n % across, Math.floor(n / across)].some((k) => k === 0 || k === cells),
  );
  const rows = new Float64Array(8 * count);
  const moved = new Float64Array(2 * nodes);
  const spread = (weights: Float64Array): Float64Array => {
    moved.fill(0);
    for (let c = 0; c < count; c++)
      for (let k = 0; k < 4; k++) {
        const n = 2 * corners[4 * c + k];
        moved[n] += weights[c] * rows[8 * c + 2 * k];
        moved[n + 1] += weights[c] * rows[8 * c + 2 * k + 1];
      }
    return moved;
  };
  const times = (weights: Float64Array, out: Float64Array): void => {
    spread(weights);
    for (let c = 0; c < count; c++) {
      let sum = 0;
      for (let k = 0; k < 4; k++) {
        const n = 2 * corners[4 * c + k];
        sum += rows[8 * c + 2 * k] * moved[n] + rows[8 * c + 2 * k + 1] * moved[n + 1];
      }
      out[c] = sum;
    }
  };
  const all = shares.reduce((sum, a) => sum + a, 0);
  const shortOf = (places: Float64Array): Float64Array => {
    const areas = cellAreas({ across, xy: places });
    const whole = areas.reduce((sum, a) => sum + a, 0);
    return areas.map((a, c) => (shares[c] / all) * whole - a);
  };
  const off = (short: Float64Array): number => short.reduce((sum, s, c) => sum + (s / shares[c]) ** 2, 0);
  onRim(rim, outer, xy);
  let short = shortOf(xy);
  for (let round = 0; round < rounds; round++) {
    // By how much each cell grows with a move of each of its corners.
    for (let c = 0; c < count; c++)
      for (let k = 0; k < 4; k++) {
        const next = 2 * corners[4 * c + ((k + 1) % 4)];
        const last = 2 * corners[4 * c + ((k + 3) % 4)];
        rows[8 * c + 2 * k] = (xy[next + 1] - xy[last + 1]) / 2;
        rows[8 * c + 2 * k + 1] = (xy[last] - xy[next]) / 2;
      }
    alongRim(onRim(rim, outer, xy), corners, rows);
    const step = Float64Array.from(spread(solved(times, short, rows)));
    const now = off(short);
    let share = 1;
    for (; share > LEAST_STEP; share /= 2) {
      const tried = xy.map((p, d) => p + share * step[d]);
      onRim(rim, outer, tried);
      const left = shortOf(tried);
      if (!(off(left) < now)) continue;
      xy.set(tried);
      short = left;
      break;
    }
    if (share <= LEAST_STEP || off(short) < GOOD) break;
  }
  return { across, xy };
}

type Way = readonly [number, number];

/** Puts the outer nodes on the rim. The way each may go along it; none at a sharp corner. */
function onRim(rim: Outline, outer: readonly number[], xy: Float64Array): Map<number, Way> {
  const ways = new Map<number, Way>();
  for (const n of outer) {
    const { at, side, share } = placeOn(rim, xy[2 * n], xy[2 * n + 1]);
    const next = (side + 1) % rim.length;
    const end = share < ON_IT ? side : share > 1 - ON_IT ? next : null;
    const [dx, dy] = [rim[next][0] - rim[side][0], rim[next][1] - rim[side][1]];
    const length = Math.hypot(dx, dy);
    xy.set(at, 2 * n);
    ways.set(n, end !== null && Math.abs(turnAt(rim, end)) > CORNER ? [0, 0] : [dx / length, dy / length]);
  }
  return ways;
}

/** Of what the outer nodes' moves do, only what is along the rim. */
function alongRim(ways: Map<number, Way>, corners: Int32Array, rows: Float64Array): void {
  corners.forEach((n, i) => {
    const way = ways.get(n);
    if (!way) return;
    const along = rows[2 * i] * way[0] + rows[2 * i + 1] * way[1];
    rows[2 * i] = along * way[0];
    rows[2 * i + 1] = along * way[1];
  });
}

/** Conjugate gradients, every row by its own size. */
function solved(
  times: (v: Float64Array, out: Float64Array) => void,
  right: Float64Array,
  rows: Float64Array,
): Float64Array {
  const n = right.length;
  const per = Float64Array.from({ length: n }, (_, c) => {
    let own = 0;
    for (let k = 0; k < 8; k++) own += rows[8 * c + k] ** 2;
    return 1 / (own || 1);
  });
  const dot = (p: Float64Array, q: Float64Array): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += p[i] * q[i];
    return sum;
  };
  const x = new Float64Array(n);
  const r = Float64Array.from(right);
  const z = r.map((v, i) => v * per[i]);
  const p = Float64Array.from(z);
  const q = new Float64Array(n);
  let rz = dot(r, z);
  const enough = SOLVED * rz;
  for (let i = 0; i < MOST_ITERATIONS && rz > enough; i++) {
    times(p, q);
    const step = rz / dot(p, q);
    for (let k = 0; k < n; k++) {
      x[k] += step * p[k];
      r[k] -= step * q[k];
      z[k] = r[k] * per[k];
    }
    const next = dot(r, z);
    for (let k = 0; k < n; k++) p[k] = z[k] + (next / rz) * p[k];
    rz = next;
  }
  return x;
}
