import { dot } from '../flow/measures.ts';
import type { Frames, Steel } from '../flow/steel.ts';
import { RATE_FLOOR } from '../flow/steel.ts';
import { type Stretch, type Touch, gapOf, outward } from './touching.ts';

/** Of the strength for each mm that one piece is pressed into another, or into a die; the onset is smoothed over so many mm. */
const STIFF = 2000;
const STIFF_DIE = 20_000;
const ONSET = 1e-3;
/** Slip at which friction is fully there; a die's speed is a half. */
const SLIP = 0.005;
/** Friction follows the push for so many rounds, then half, and then stays as it is: else it goes round and round. */
const FOLLOWED = 4;
const FOLLOWED_BY_HALVES = 16;
const MOST_ROUNDS = 60;
const MOST_TRIES = 14;
/** No velocity changes by more in a round. */
const MOST_CHANGE = 0.5;
const CONVERGED = 1e-4;
/** A balance farther off than this is none. */
const ACCEPTED = 1e-3;

/** A push for a distance, and how it changes with it: nothing beyond the onset, even within, then in proportion. */
function pushAt(gap: number, stiff: number): [push: number, slope: number, potential: number] {
  if (gap >= ONSET) return [0, 0, 0];
  if (gap > -ONSET) {
    const d = ONSET - gap;
    return [(stiff * d * d) / (4 * ONSET), (stiff * d) / (2 * ONSET), (stiff * d ** 3) / (12 * ONSET)];
  }
  return [-stiff * gap, stiff, stiff * ((gap * gap) / 2 + (ONSET * ONSET) / 6)];
}

/** Two places that have become one: what each of four nodes counts for, how far apart they were then, and for how much rim. */
export interface Weld extends Omit<Touch, 'nx' | 'ny'> {
  readonly dx: number;
  readonly dy: number;
}

/** The pieces as they stand when a step begins, what may touch within it, and what is welded. */
export interface Standing {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly touches: readonly Touch[];
  readonly welds: readonly Weld[];
  /** Where the dies stand at the end of the step, above and below the middle. mm */
  readonly dieMm: number;
  /** Of every node of the rim, how much of it lies across the press. mm */
  readonly across: Float64Array;
  readonly time: number;
}

/** How hard each possible touch is pushed and each weld (below 0 it is pulled), and each node against a die: stress. */
export interface Pushes {
  readonly touches: Float64Array;
  readonly welds: Float64Array;
  readonly upper: Float64Array;
  readonly lower: Float64Array;
}

export interface BalanceOptions {
  readonly exponent: number;
  readonly friction: number;
}

/** Velocities of several pieces in balance between flat dies: each goes by its own rate potential, and what touches pushes. */
export class Balance {
  private readonly steel: Steel;
  private readonly stretches: readonly Stretch[];
  private readonly rim: Int32Array;
  private readonly options: BalanceOptions;
  /** For two coupled stretches, which of the further elements they are. */
  private readonly links: ReadonlyMap<number, number>;
  private readonly frames: Frames;
  private readonly block = new Float64Array(64);
  rounds = 0;
  residual = 0;

  constructor(
    steel: Steel,
    stretches: readonly Stretch[],
    rim: Int32Array,
    links: ReadonlyMap<number, number>,
    options: BalanceOptions,
  ) {
    [this.steel, this.stretches, this.rim, this.links, this.options] = [
      steel,
      stretches,
      rim,
      links,
      options,
    ];
    const { nodes } = steel;
    this.frames = {
      framed: new Uint8Array(nodes),
      tx: new Float64Array(nodes).fill(1),
      ty: new Float64Array(nodes),
    };
  }

  /** By Newton's method from `v`, at once or by way of easier laws. Null where none is found. */
  find(standing: Standing, v: Float64Array, axial: number, rough: boolean): Pushes | null {
    const { steel, options } = this;
    const first = Float64Array.from(v);
    const eased = (by: number): void => {
      for (let m = 1; m > options.exponent; m *= by) {
        steel.exponent = m;
        this.newton(standing, v, axial, 1e-2);
      }
    };
    const truly = (): Pushes | null => {
      steel.exponent = options.exponent;
      const pushes = this.newton(standing, v, axial, CONVERGED);
      return this.residual <= ACCEPTED ? pushes : null;
    };
    if (rough) eased(0.3);
    const found = truly();
    if (found) return found;
    v.set(first);
    eased(0.6);
    return truly();
  }

  /** Newton's method from `v`, to so much of the largest force; null where the equations cannot be solved. */
  private newton(standing: Standing, v: Float64Array, axial: number, close: number): Pushes | null {
    const { steel, frames } = this;
    const { system } = steel.assembly;
    const { touches, dieMm } = standing;
    const floor = RATE_FLOOR / (2 * dieMm);
    const grip = 1e-6 * 30 * (floor / RATE_FLOOR) ** (steel.exponent - 1);
    const shear = shearOf(steel.exponent, 1 / (2 * dieMm));
    const gradient = new Float64Array(v.length);
    const forces = new Float64Array(v.length);
    const trial = new Float64Array(v.length);
    const none = (): Pushes => ({
      touches: new Float64Array(touches.length),
      welds: new Float64Array(standing.welds.length),
      upper: new Float64Array(steel.nodes),
      lower: new Float64Array(steel.nodes),
    });
    const [pushes, drags] = [none(), none()];
    const beside = { standing, drags, pushes, grip };
    for (let round = 0; ; round++) {
      const power = steel.potential(v, axial, floor, gradient, frames);
      forces.fill(0);
      this.besides(v, beside, null, forces, false);
      this.follow(drags, pushes, shear, round);
      forces.fill(0);
      const now = power + this.besides(v, beside, gradient, forces, true);
      let [off, most] = [0, 0];
      for (let d = 0; d < v.length; d++) {
        off = Math.max(off, Math.abs(gradient[d]));
        most = Math.max(most, Math.abs(forces[d]));
      }
      this.residual = off / Math.max(most, 1e-30);
      if ((round > 0 && this.residual < close) || round === MOST_ROUNDS) return pushes;
      if (!system.factor()) return null;
      this.rounds++;
      const step = gradient.map((g) => -g);
      system.solve(step);
      const slope = dot(gradient, step);
      let largest = 0;
      for (const s of step) largest = Math.max(largest, Math.abs(s));
      let length = Math.min(1, MOST_CHANGE / Math.max(largest, 1e-30));
      for (let tries = 0; tries < MOST_TRIES; tries++, length /= 2) {
        for (let d = 0; d < v.length; d++) trial[d] = v[d] + length * step[d];
        const there =
          steel.potential(trial, axial, floor, null, null) + this.besides(trial, beside, null, null, false);
        if (there <= now + 1e-4 * length * slope + 1e-12 * Math.abs(now)) break;
      }
      v.set(trial);
      if (-slope < 1e-14 * Math.abs(now) && round > FOLLOWED_BY_HALVES) return pushes;
    }
  }

  /** Friction for the pushes as they now are. */
  private follow(drags: Pushes, pushes: Pushes, shear: number, round: number): void {
    if (round > FOLLOWED_BY_HALVES) return;
    const part = round < FOLLOWED ? 1 : 0.5;
    for (const of of ['touches', 'upper', 'lower'] as const)
      pushes[of].forEach((push, i) => {
        const drag = this.options.friction * shear * Math.tanh(push / shear);
        drags[of][i] += part * (drag - drags[of][i]);
      });
  }

  /**
   * What is put into the balance beside the steel's own power: pushes, friction, welds, a faint grip. Its gradient, the forces
   * of what touches alone, and its second derivatives into the system, where they are asked for.
   */
  private besides(
    v: Float64Array,
    { standing, drags, pushes, grip }: { standing: Standing; drags: Pushes; pushes: Pushes; grip: number },
    gradient: Float64Array | null,
    forces: Float64Array | null,
    stiffen: boolean,
  ): number {
    const { stretches } = this;
    const { assembly } = this.steel;
    const { x, y, touches, welds, dieMm, across, time } = standing;
    const { values } = assembly.system;
    const { diagonal } = assembly;
    let sum = 0;
    for (let d = 0; d < v.length; d++) {
      sum += (grip * v[d] * v[d]) / 2;
      if (gradient) gradient[d] += grip * v[d];
      if (stiffen) values[diagonal[d]] += grip;
    }
    for (const node of this.rim) {
      const weight = across[node];
      if (weight <= 0) continue;
      for (const [side, of] of [
        [1, 'upper'],
        [-1, 'lower'],
      ] as const) {
        const gap = dieMm - side * (y[node] + time * v[2 * node + 1]);
        const [push, slope, potential] = pushAt(gap, STIFF_DIE);
        pushes[of][node] = push;
        if (push === 0) continue;
        const u = v[2 * node];
        const root = Math.sqrt(u * u + SLIP * SLIP);
        const drag = drags[of][node];
        sum += weight * (potential / time + drag * root);
        for (const into of [gradient, forces]) {
          if (!into) continue;
          into[2 * node] += (weight * drag * u) / root;
          into[2 * node + 1] += side * weight * push;
        }
        if (!stiffen) continue;
        values[diagonal[2 * node]] += (weight * drag * SLIP * SLIP) / root ** 3;
        values[diagonal[2 * node + 1]] += weight * slope * time;
      }
    }
    const put = (at: Touch | Weld, fx: number, fy: number): void => {
      const [a, b] = [stretches[at.first], stretches[at.second]];
      [a.from, a.to, b.from, b.to].forEach((node, k) => {
        for (const into of [gradient, forces]) {
          if (!into) continue;
          into[2 * node] += at.shares[k] * fx;
          into[2 * node + 1] += at.shares[k] * fy;
        }
      });
    };
    touches.forEach((at, i) => {
      const [a, b] = [stretches[at.first], stretches[at.second]];
      const { nx, ny, shares, weight } = at;
      const gap = gapOf(a, b, shares, nx, ny, x, y);
      const [ux, uy] = partingAt(a, b, shares, v);
      const [push, slope, potential] = pushAt(gap + time * (nx * ux + ny * uy), STIFF);
      pushes.touches[i] = push;
      if (push === 0) return;
      const [tx, ty] = [-ny, nx];
      const u = tx * ux + ty * uy;
      const root = Math.sqrt(u * u + SLIP * SLIP);
      const drag = drags.touches[i];
      sum += weight * (potential / time + drag * root);
      const along = (weight * drag * u) / root;
      put(at, -weight * push * nx + along * tx, -weight * push * ny + along * ty);
      if (!stiffen) return;
      const normal = weight * slope * time;
      const tangent = (weight * drag * SLIP * SLIP) / root ** 3;
      this.couple(
        at,
        normal * nx * nx + tangent * tx * tx,
        normal * nx * ny + tangent * tx * ty,
        normal * ny * ny + tangent * ty * ty,
      );
    });
    welds.forEach((at, i) => {
      const [a, b] = [stretches[at.first], stretches[at.second]];
      const { shares, weight } = at;
      const [ux, uy] = partingAt(a, b, shares, v);
      const gx = gapOf(a, b, shares, 1, 0, x, y) + time * ux - at.dx;
      const gy = gapOf(a, b, shares, 0, 1, x, y) + time * uy - at.dy;
      sum += (weight * STIFF * (gx * gx + gy * gy)) / 2 / time;
      const [nx, ny] = outward(a, x, y);
      pushes.welds[i] = -STIFF * (gx * nx + gy * ny);
      put(at, weight * STIFF * gx, weight * STIFF * gy);
      if (stiffen) this.couple(at, weight * STIFF * time, 0, weight * STIFF * time);
    });
    return sum;
  }

  /** Second derivatives of a touch: those by the distance, by x and y, spread over its four nodes. */
  private couple({ first, second, shares }: Touch | Weld, xx: number, xy: number, yy: number): void {
    const { block, frames, stretches } = this;
    const link = this.links.get(first * stretches.length + second);
    if (link === undefined) throw new Error('two stretches touch that are not coupled');
    for (let a = 0; a < 4; a++)
      for (let b = a; b < 4; b++) {
        const both = shares[a] * shares[b];
        block[16 * a + 2 * b] = both * xx;
        block[16 * a + 2 * b + 1] = both * xy;
        block[16 * a + 8 + 2 * b] = both * xy;
        block[16 * a + 8 + 2 * b + 1] = both * yy;
      }
    this.steel.assembly.add(link, block, frames);
  }
}

/** How fast the second of two stretches parts from the first at a point. */
function partingAt(a: Stretch, b: Stretch, [p, q, r, s]: Touch['shares'], v: Float64Array): [number, number] {
  const [i, j, k, l] = [2 * a.from, 2 * a.to, 2 * b.from, 2 * b.to];
  return [
    p * v[i] + q * v[j] + r * v[k] + s * v[l],
    p * v[i + 1] + q * v[j + 1] + r * v[k + 1] + s * v[l + 1],
  ];
}

/** The steel's own shear stress when its height goes by a share of itself. */
const shearOf = (exponent: number, rate: number): number => (2 * rate) ** exponent;

/** And its flow stress (Norton and Hoff's law in plane strain). */
export const flowStressOf = (exponent: number, rate: number): number =>
  Math.sqrt(3) * shearOf(exponent, rate);
