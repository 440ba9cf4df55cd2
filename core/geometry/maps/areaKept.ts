import { type Outline, placeOn, turnAt } from '../outline.ts';

const ROUNDS = 12;
const LEAST_STEP = 1e-3;
/** Sum of the squares of the cells’ own misses at which all is well. */
const GOOD = 1e-9;
/** Of each cell's own equation: a whole that stays as large leaves one of them without a say. */
const LOOSE = 1e-6;
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
 * rim. Corrections of least squares; shorter ones where they overshoot.
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
    const step = Float64Array.from(spread(solved(corners, rows, short, across)));
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

/** The system of cells that share a corner, a band of its lower triangle row by row: factored in place as L·D·Lᵀ, and solved. */
function solved(corners: Int32Array, rows: Float64Array, right: Float64Array, across: number): Float64Array {
  const n = right.length;
  const cells = across - 1;
  // Of a cell itself and of those before it that touch it, as far back as the one below and to the left.
  const wide = cells + 2;
  const band = new Float64Array(n * wide);
  for (let c = 0; c < n; c++) {
    const column = c % cells;
    for (const back of [0, 1, cells - 1, cells, cells + 1]) {
      const d = c - back;
      if (d < 0 || Math.abs((d % cells) - column) > 1) continue;
      let sum = 0;
      for (let k = 0; k < 4; k++)
        for (let l = 0; l < 4; l++)
          if (corners[4 * c + k] === corners[4 * d + l])
            sum +=
              rows[8 * c + 2 * k] * rows[8 * d + 2 * l] + rows[8 * c + 2 * k + 1] * rows[8 * d + 2 * l + 1];
      band[c * wide + back] = back === 0 ? sum * (1 + LOOSE) || 1 : sum;
    }
  }
  const x = Float64Array.from(right);
  for (let c = 0; c < n; c++) {
    const first = Math.max(0, c - wide + 1);
    for (let d = first; d < c; d++) {
      const [own, other] = [c * wide + c, d * wide + d];
      let sum = band[own - d];
      for (let e = Math.max(first, d - wide + 1); e < d; e++) sum -= band[own - e] * band[other - e];
      band[own - d] = sum;
    }
    let pivot = band[c * wide];
    for (let d = first; d < c; d++) {
      const at = c * wide + c - d;
      const share = band[at] / band[d * wide];
      pivot -= share * band[at];
      band[at] = share;
      x[c] -= share * x[d];
    }
    band[c * wide] = pivot;
  }
  for (let c = 0; c < n; c++) x[c] /= band[c * wide];
  for (let c = n - 1; c >= 0; c--)
    for (let d = Math.max(0, c - wide + 1); d < c; d++) x[d] -= band[c * wide + c - d] * x[c];
  return x;
}
