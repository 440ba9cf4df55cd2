import type { Coordinates, PointMap } from './pointMap.ts';

/**
 * The square |x|, |y| ≤ 1 lies in rings x² + y² − 2x²y² = q(1 − x²y²), 0 < q < 1: circles at the middle, the square itself at the
 * rim, smooth between. Every ring is divided evenly by area into eight, from axis to diagonal to axis; a pattern that turns slides
 * along its rings, which keeps outline and area, and tears it nowhere.
 */

/** Of a ring in the direction of an angle to the nearest axis: the square of its distance from the middle, and how fast that grows with q. */
function reachOf(q: number, angle: number): { square: number; growth: number } {
  const sine = Math.sin(2 * angle) / 2;
  const cs = sine * sine;
  const root = Math.sqrt(Math.max(1e-24, 1 - 4 * (2 - q) * q * cs));
  const square = (2 * q) / (1 + root);
  return { square, growth: (1 - cs * square * square) / root };
}

/** Rows of rings, closer at the rim, and places in an eighth of each, evenly by angle. */
const ROWS = 128;
const PLACES = 64;
/** Neighbours that a cubic needs past each side of the table. */
const PAST = 1;
const ACROSS = PLACES + 1 + 2 * PAST;
const EIGHTH = Math.PI / 4;

/** Gauss's points and weights of the ninth order on 0…1. */
const GAUSS = [
  [0.046910077030668, 0.1184634425280945],
  [0.2307653449471585, 0.2393143352496832],
  [0.5, 0.2844444444444444],
  [0.7692346550528415, 0.2393143352496832],
  [0.953089922969332, 0.1184634425280945],
] as const;

let table: Float64Array | null = null;

/** Of an eighth of every ring the share by area up to each place, and what lies past the table's sides by symmetry. */
function shares(): Float64Array {
  if (table) return table;
  table = new Float64Array((ROWS + 1 + 2 * PAST) * ACROSS);
  for (let row = 0; row <= ROWS; row++) {
    const q = 1 - (1 - row / ROWS) ** 2;
    const at = (row + PAST) * ACROSS + PAST;
    const step = EIGHTH / PLACES;
    for (let k = 0; k < PLACES; k++)
      table[at + k + 1] =
        table[at + k] +
        GAUSS.reduce((sum, [place, weight]) => sum + weight * reachOf(q, (k + place) * step).growth, 0);
    const whole = table[at + PLACES];
    for (let k = 0; k <= PLACES; k++) table[at + k] /= whole;
    table[at - 1] = -table[at + 1];
    table[at + PLACES + 1] = 2 - table[at + PLACES - 1];
  }
  const [inner, rim] = [PAST * ACROSS, (PAST + ROWS) * ACROSS];
  for (let k = 0; k < ACROSS; k++) {
    table[k] = 3 * table[inner + k] - 3 * table[inner + ACROSS + k] + table[inner + 2 * ACROSS + k];
    table[rim + ACROSS + k] = table[rim - ACROSS + k];
  }
  return table;
}

/** The shares of one ring at any place, cubic between those of the table. */
class Ring {
  /** Weights of the four rows about it, and where the first begins. */
  private readonly rows = new Float64Array(4);
  private first = 0;
  private readonly table = shares();
  /** At the place last asked, and its growth by place. */
  share = 0;
  growth = 0;

  /** How far the shares bend away from even ones: at the rim they go by the tangent. */
  private bend = 0;

  set(q: number): void {
    this.bend = 0.27 * q * q;
    const place = ROWS * (1 - Math.sqrt(1 - q));
    const row = place < ROWS - 1 ? Math.floor(place) : ROWS - 1;
    const f = place - row;
    const { rows } = this;
    rows[0] = 0.5 * f * (-1 + f * (2 - f));
    rows[1] = 1 + 0.5 * f * f * (-5 + 3 * f);
    rows[2] = 0.5 * f * (1 + f * (4 - 3 * f));
    rows[3] = 0.5 * f * f * (f - 1);
    this.first = row * ACROSS;
  }

  ask(place: number): void {
    const k = place < PLACES - 1 ? (place > 0 ? Math.floor(place) : 0) : PLACES - 1;
    const f = place - k;
    const { rows, table } = this;
    const [r0, r1, r2, r3] = [rows[0], rows[1], rows[2], rows[3]];
    let at = this.first + k;
    const v0 =
      r0 * table[at] + r1 * table[at + ACROSS] + r2 * table[at + 2 * ACROSS] + r3 * table[at + 3 * ACROSS];
    at++;
    const v1 =
      r0 * table[at] + r1 * table[at + ACROSS] + r2 * table[at + 2 * ACROSS] + r3 * table[at + 3 * ACROSS];
    at++;
    const v2 =
      r0 * table[at] + r1 * table[at + ACROSS] + r2 * table[at + 2 * ACROSS] + r3 * table[at + 3 * ACROSS];
    at++;
    const v3 =
      r0 * table[at] + r1 * table[at + ACROSS] + r2 * table[at + 2 * ACROSS] + r3 * table[at + 3 * ACROSS];
    const b = 0.5 * (v2 - v0);
    const c = v0 - 2.5 * v1 + 2 * v2 - 0.5 * v3;
    const d = 0.5 * (v3 - v0) + 1.5 * (v1 - v2);
    this.share = v1 + f * (b + f * (c + f * d));
    this.growth = b + f * (2 * c + 3 * f * d);
  }

  /** The place at which the share is so much, by Newton's method. */
  placeOf(share: number): number {
    let [low, high] = [0, PLACES];
    let place = PLACES * share * (1 + this.bend * (1 - share));
    for (let i = 0; i < 30; i++) {
      this.ask(place);
      const over = this.share - share;
      if (over > 0) high = place;
      else low = place;
      const next = place - over / this.growth;
      const to = next >= low && next <= high ? next : (low + high) / 2;
      const moved = Math.abs(to - place);
      place = to;
      // The next step would be the square of this one.
      if (moved < 1e-6 * PLACES) break;
    }
    return place;
  }

  /** Eighths by area from the right to a direction, rad; of any number of turns. */
  eighthsTo(rad: number): number {
    const nearest = 2 * Math.round(rad / (2 * EIGHTH));
    const past = rad / EIGHTH - nearest;
    this.ask(PLACES * Math.abs(past));
    return nearest + (past < 0 ? -this.share : this.share);
  }
}

/**
 * A pattern that has turned against the faces of a rectangular bar, by `turnRad` at end A and `radPerMm` more along it: the line
 * that ran from the middle to a corner still runs straight, and misses the corner by that angle.
 */
export function drifting(
  turnRad: number,
  radPerMm: number,
  halfWidthMm: number,
  halfHeightMm: number,
): PointMap {
  // Where it does not count z is never worked out.
  const turnAt = radPerMm === 0 ? () => turnRad : (z: number) => turnRad + radPerMm * z;
  const map = driftingAlong(turnAt, halfWidthMm, halfHeightMm);
  return { ...map, usesZ: radPerMm !== 0 };
}

/** The same by any angle along the bar, rad. */
export function driftingAlong(
  turnAt: (z: number) => number,
  halfWidthMm: number,
  halfHeightMm: number,
): PointMap {
  const ring = new Ring();
  const slide = (sign: 1 | -1) => (points: Coordinates) => {
    const { x, y, z, count } = points;
    for (let i = 0; i < count; i++) {
      const turn = turnAt(z[i]);
      const u = x[i] / halfWidthMm;
      const v = y[i] / halfHeightMm;
      const u2 = u * u;
      const v2 = v * v;
      const q = Math.min(1, (u2 + v2 - 2 * u2 * v2) / Math.max(1e-12, 1 - u2 * v2));
      if (turn === 0 || !(q > 0)) continue;
      ring.set(q);
      const by = ring.eighthsTo(EIGHTH + turn) - 1;
      const to = ring.eighthsTo(Math.atan2(v, u)) + sign * by;
      const nearest = 2 * Math.round(to / 2);
      const past = to - nearest;
      const angle = (EIGHTH * ring.placeOf(Math.abs(past))) / PLACES;
      const away = Math.sqrt(reachOf(q, angle).square);
      const direction = EIGHTH * nearest + (past < 0 ? -angle : angle);
      x[i] = halfWidthMm * away * Math.cos(direction);
      y[i] = halfHeightMm * away * Math.sin(direction);
    }
  };
  return { usesZ: true, forward: slide(1), backward: slide(-1) };
}
