import { type Mesh, meshArea } from './mesh.ts';
import { SparseSystem, dissected } from './sparse.ts';
import { neighboursOf } from './mesh.ts';

/** A section on its way through the dies: the mesh as it is, and where each node stood at the start. mm */
export interface Section {
  readonly mesh: Mesh;
  readonly startX: Float64Array;
  readonly startY: Float64Array;
  /** Length over what it was at the start. */
  readonly lengthening: number;
  /** Share of solid in each element, where there is powder. */
  readonly density?: Float64Array | undefined;
}

/** How the bar lengthens: a share 1 − spread of the steel displaced goes along it, or of the height's own rate (only to compare with results made so). */
export interface AxialLaw {
  readonly by: 'displaced' | 'height';
  readonly spread: number;
}

export interface PressOptions {
  /** How the flow stress grows with the rate: σ ∝ ε̇^m. */
  readonly exponent: number;
  /** Friction factor of the dies, 0 … 1; sticking holds the steel where it touches. */
  readonly friction: number | 'sticking';
  readonly axial: AxialLaw;
  /** Height taken in one step, of the height there is. */
  readonly stepShare: number;
  /** Left and right ends of the section cannot move across: a closed die, to compare with closed forms. */
  readonly walled?: boolean | undefined;
  /** The bar is held so that it does not turn. */
  readonly held: boolean;
  /** Strength of the steel that stood at a point at the start, over that of the rest; 1 where it is not given. */
  readonly strength?: ((startX: number, startY: number) => number) | undefined;
  readonly cancelled?: (() => boolean) | undefined;
  readonly progress?: ((share: number) => void) | undefined;
}

/** How a pass went. */
export interface PressReport {
  readonly steps: number;
  /** Newton's iterations, each with one factoring. */
  readonly iterations: number;
  /** Worst residual at which an iteration was let go, of the forces. */
  readonly worstResidual: number;
  /** Shape of the worst element: 1 a square, towards 0 the thinner or more folded. */
  readonly worstElement: number;
  /** Floating point operations in factorings. */
  readonly flops: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly areaMm2: number;
  /** Area as the lengthening says it must be, of solid steel. */
  readonly areaTheoryMm2: number;
  readonly contactMm: number;
  /** Mean and least share of solid where there was powder; 1 where there was none. */
  readonly meanDensity: number;
  readonly leastDensity: number;
  /** Force on a die at the end, per mm of length, for a strength K = 1 at unit rate. */
  readonly forcePerMm: number;
}

export type PressOutcome =
  | { readonly ok: true; readonly section: Section; readonly report: PressReport }
  | {
      readonly ok: false;
      readonly why: 'cancelled' | 'no equilibrium' | 'folded';
      readonly report: Partial<PressReport>;
    };

/** Of the viscosity: how stiff the volume is held. */
const VOLUME_STIFFNESS = 2e5;
/** Denser than this powder is taken as solid: it no longer gives way in volume. */
const SOLID = 0.995;

/**
 * How a powder of a density stands against being pressed together, f², and how strong it is: S. Shima and M. Oyane, "Plasticity
 * theory for porous metals", Int. J. Mech. Sci. 18 (1976) 285–291, f = 1/(2.49 (1 − ρ)^0.514), strength ρ^2.5; recalled.
 */
export const porous = (density: number): { f2: number; strong: number } => ({
  f2: 1 / (2.49 * Math.max(1 - density, 1e-3) ** 0.514) ** 2,
  strong: Math.min(1, density) ** 2.5,
});

/** Of the height rate: the rate below which steel is taken as merely viscous. */
const RATE_FLOOR = 2e-3;
/** Of a die's speed: slip at which friction is fully there. */
const SLIP_FLOOR = 0.01;
const MOST_ITERATIONS = 40;
const MOST_CONTACT_ROUNDS = 14;
const MOST_HALVINGS = 7;
const CONVERGED = 1e-5;
/** mm. */
const TOUCHING = 1e-7;

/** Gauss points of a quadrilateral. */
const G = 1 / Math.sqrt(3);
const POINTS = [
  [-G, -G],
  [G, -G],
  [G, G],
  [-G, G],
] as const;

/** A mesh ready to be solved on, again and again as it moves. */
export class PressSolver {
  private readonly quads: Int32Array;
  private readonly elements: number;
  private readonly nodes: number;
  private readonly system: SparseSystem;
  /** For every element, where its 8 × 8 entries are kept. */
  private readonly slots: Int32Array;
  private readonly diagonalSlots: Int32Array;
  private readonly rim: Int32Array;
  private readonly strength: Float64Array;
  // Per element and Gauss point: four derivatives by x, four by y, and the weight.
  private readonly dx: Float64Array;
  private readonly dy: Float64Array;
  private readonly weight: Float64Array;
  private readonly meanDx: Float64Array;
  private readonly meanDy: Float64Array;
  private readonly area: Float64Array;
  private readonly rate: Float64Array;
  /** Per element: f² of the powder (0 where it is solid) and its strength. */
  private readonly giving: Float64Array;
  private readonly porousStrength: Float64Array;
  readonly options: PressOptions;
  iterations = 0;
  worstResidual = 0;
  /** A clock, where the time spent in factoring is to be told: seconds. */
  clock: (() => number) | null = null;
  factorS = 0;

  constructor(section: Section, options: PressOptions) {
    const { mesh, startX, startY } = section;
    this.options = options;
    this.quads = mesh.quads;
    this.elements = mesh.quads.length / 4;
    this.nodes = mesh.x.length;
    this.rim = mesh.rim;
    const around = neighboursOf(mesh);
    this.system = new SparseSystem(around, dissected(mesh.x, mesh.y, around));
    this.slots = new Int32Array(this.elements * 64);
    for (let e = 0; e < this.elements; e++)
      for (let a = 0; a < 8; a++)
        for (let b = 0; b < 8; b++)
          this.slots[64 * e + 8 * a + b] = this.system.slot(
            2 * this.quads[4 * e + (a >> 1)] + (a & 1),
            2 * this.quads[4 * e + (b >> 1)] + (b & 1),
          );
    this.diagonalSlots = Int32Array.from({ length: 2 * this.nodes }, (_, d) => this.system.slot(d, d));
    this.strength = new Float64Array(4 * this.elements).fill(1);
    if (options.strength)
      for (let e = 0; e < this.elements; e++)
        for (let g = 0; g < 4; g++) {
          const [u, v] = POINTS[g];
          const shape = [(1 - u) * (1 - v), (1 + u) * (1 - v), (1 + u) * (1 + v), (1 - u) * (1 + v)];
          let [px, py] = [0, 0];
          for (let a = 0; a < 4; a++) {
            px += (shape[a] / 4) * startX[this.quads[4 * e + a]];
            py += (shape[a] / 4) * startY[this.quads[4 * e + a]];
          }
          this.strength[4 * e + g] = options.strength(px, py);
        }
    const points = 16 * this.elements;
    [this.dx, this.dy] = [new Float64Array(points), new Float64Array(points)];
    this.weight = new Float64Array(4 * this.elements);
    [this.meanDx, this.meanDy] = [new Float64Array(4 * this.elements), new Float64Array(4 * this.elements)];
    this.area = new Float64Array(this.elements);
    this.rate = new Float64Array(this.elements);
    this.giving = new Float64Array(this.elements);
    this.porousStrength = new Float64Array(this.elements).fill(1);
    if (section.density) this.settle(section.density);
  }

  /** Takes the densities as they now are. */
  private settle(density: Float64Array): void {
    density.forEach((rho, e) => {
      const { f2, strong } = porous(rho);
      this.giving[e] = rho < SOLID ? f2 : 0;
      this.porousStrength[e] = rho < SOLID ? strong : 1;
    });
  }

  get flopsEach(): number {
    return this.system.flops;
  }

  /** Derivatives of the shape functions at every Gauss point. False where an element is folded. */
  private shape(x: Float64Array, y: Float64Array): boolean {
    const { quads, dx, dy, weight, meanDx, meanDy, area } = this;
    meanDx.fill(0);
    meanDy.fill(0);
    for (let e = 0; e < this.elements; e++) {
      const [a, b, c, d] = [quads[4 * e], quads[4 * e + 1], quads[4 * e + 2], quads[4 * e + 3]];
      let whole = 0;
      for (let g = 0; g < 4; g++) {
        const [u, v] = POINTS[g];
        const nu = [-(1 - v) / 4, (1 - v) / 4, (1 + v) / 4, -(1 + v) / 4];
        const nv = [-(1 - u) / 4, -(1 + u) / 4, (1 + u) / 4, (1 - u) / 4];
        const xu = nu[0] * x[a] + nu[1] * x[b] + nu[2] * x[c] + nu[3] * x[d];
        const yu = nu[0] * y[a] + nu[1] * y[b] + nu[2] * y[c] + nu[3] * y[d];
        const xv = nv[0] * x[a] + nv[1] * x[b] + nv[2] * x[c] + nv[3] * x[d];
        const yv = nv[0] * y[a] + nv[1] * y[b] + nv[2] * y[c] + nv[3] * y[d];
        const det = xu * yv - xv * yu;
        if (!(det > 0)) return false;
        weight[4 * e + g] = det;
        whole += det;
        for (let k = 0; k < 4; k++) {
          const at = 16 * e + 4 * g + k;
          dx[at] = (yv * nu[k] - yu * nv[k]) / det;
          dy[at] = (xu * nv[k] - xv * nu[k]) / det;
          meanDx[4 * e + k] += det * dx[at];
          meanDy[4 * e + k] += det * dy[at];
        }
      }
      for (let k = 0; k < 4; k++) {
        meanDx[4 * e + k] /= whole;
        meanDy[4 * e + k] /= whole;
      }
      area[e] = whole;
    }
    return true;
  }

  /**
   * The rate potential at velocities `v` (two a node), its gradient, and, where asked, its second derivatives into the system.
   * `axial` is the rate along the bar.
   */
  private potential(
    v: Float64Array,
    axial: number,
    floor: number,
    gradient: Float64Array | null,
    second: boolean,
  ): number {
    const { quads, dx, dy, weight, meanDx, meanDy, area, rate, strength, system, giving, porousStrength } =
      this;
    const { exponent: m } = this.options;
    const values = system.values;
    // σ = 3η ε̇ with η = K(√3 ε̇)^(m−1).
    const c = 3 * Math.sqrt(3) ** (m - 1);
    const stiff = VOLUME_STIFFNESS * c * (floor / RATE_FLOOR) ** (m - 1);
    const floor2 = floor * floor;
    if (gradient) gradient.fill(0);
    if (second) values.fill(0);
    let sum = 0;
    const block = new Float64Array(64);
    const whole = new Float64Array(8);
    const volume = new Float64Array(8);
    for (let e = 0; e < this.elements; e++) {
      if (second) block.fill(0);
      const n0 = 4 * e;
      let mean = axial;
      for (let k = 0; k < 4; k++) {
        const d = 2 * quads[n0 + k];
        mean += meanDx[n0 + k] * v[d] + meanDy[n0 + k] * v[d + 1];
      }
      const f2 = giving[e];
      const soft = porousStrength[e];
      let average = 0;
      for (let g = 0; g < 4; g++) {
        const at = 16 * e + 4 * g;
        let d1 = 0;
        let d2 = 0;
        let shear = 0;
        for (let k = 0; k < 4; k++) {
          const d = 2 * quads[n0 + k];
          d1 += dx[at + k] * v[d];
          d2 += dy[at + k] * v[d + 1];
          shear += dy[at + k] * v[d] + dx[at + k] * v[d + 1];
        }
        const third = (d1 + d2 + axial) / 3;
        const [s1, s2, s3] = [d1 - third, d2 - third, axial - third];
        const square = (2 / 3) * (s1 * s1 + s2 * s2 + s3 * s3 + (shear * shear) / 2);
        const q = square + f2 * mean * mean + floor2;
        const w = weight[n0 + g];
        const strong = c * soft * strength[n0 + g];
        const power = q ** ((m - 1) / 2);
        average += Math.sqrt(q) / 4;
        sum += (w * strong * power * q) / (m + 1);
        if (!gradient) continue;
        const first = w * strong * power * 0.5;
        const [g1, g2, g3] = [(4 / 3) * s1, (4 / 3) * s2, (2 / 3) * shear];
        for (let k = 0; k < 4; k++) {
          const d = 2 * quads[n0 + k];
          gradient[d] += first * (g1 * dx[at + k] + g3 * dy[at + k]);
          gradient[d + 1] += first * (g2 * dy[at + k] + g3 * dx[at + k]);
          if (f2 > 0) {
            gradient[d] += first * 2 * f2 * mean * meanDx[n0 + k];
            gradient[d + 1] += first * 2 * f2 * mean * meanDy[n0 + k];
          }
        }
        if (!second) continue;
        const bend = (first * (m - 1)) / (2 * q);
        const h11 = first * (8 / 9) + bend * g1 * g1;
        const h12 = first * (-4 / 9) + bend * g1 * g2;
        const h13 = bend * g1 * g3;
        const h22 = first * (8 / 9) + bend * g2 * g2;
        const h23 = bend * g2 * g3;
        const h33 = first * (2 / 3) + bend * g3 * g3;
        if (f2 > 0) {
          // Powder: the volume's own part, and what it has in common with the shape's.
          for (let k = 0; k < 4; k++) {
            whole[2 * k] = g1 * dx[at + k] + g3 * dy[at + k];
            whole[2 * k + 1] = g2 * dy[at + k] + g3 * dx[at + k];
            volume[2 * k] = meanDx[n0 + k];
            volume[2 * k + 1] = meanDy[n0 + k];
          }
          const both = 2 * f2 * mean;
          for (let a = 0; a < 8; a++)
            for (let b = a & ~1; b < 8; b++)
              block[8 * a + b] +=
                (first * 2 * f2 + bend * both * both) * volume[a] * volume[b] +
                bend * both * (whole[a] * volume[b] + volume[a] * whole[b]);
        }
        for (let a = 0; a < 4; a++) {
          const ax = dx[at + a];
          const ay = dy[at + a];
          // Rows of Bᵀ·H for the two unknowns of this node.
          const u1 = ax * h11 + ay * h13;
          const u2 = ax * h12 + ay * h23;
          const u3 = ax * h13 + ay * h33;
          const v1 = ay * h12 + ax * h13;
          const v2 = ay * h22 + ax * h23;
          const v3 = ay * h23 + ax * h33;
          for (let b = a; b < 4; b++) {
            const bx = dx[at + b];
            const by = dy[at + b];
            const row = 16 * a + 2 * b;
            block[row] += u1 * bx + u3 * by;
            block[row + 1] += u2 * by + u3 * bx;
            block[row + 8] += v1 * bx + v3 * by;
            block[row + 9] += v2 * by + v3 * bx;
          }
        }
      }
      rate[e] = average;
      if (f2 > 0) {
        if (second) this.scatter(e, block);
        continue;
      }
      const press = stiff * area[e];
      sum += (press * mean * mean) / 2;
      if (!gradient) continue;
      for (let k = 0; k < 4; k++) {
        const d = 2 * quads[n0 + k];
        gradient[d] += press * mean * meanDx[n0 + k];
        gradient[d + 1] += press * mean * meanDy[n0 + k];
      }
      if (!second) continue;
      for (let a = 0; a < 4; a++)
        for (let b = a; b < 4; b++) {
          const row = 16 * a + 2 * b;
          block[row] += press * meanDx[n0 + a] * meanDx[n0 + b];
          block[row + 1] += press * meanDx[n0 + a] * meanDy[n0 + b];
          block[row + 8] += press * meanDy[n0 + a] * meanDx[n0 + b];
          block[row + 9] += press * meanDy[n0 + a] * meanDy[n0 + b];
        }
      this.scatter(e, block);
    }
    return sum;
  }

  /** An element's entries into the system. */
  private scatter(e: number, block: Float64Array): void {
    const { slots, system } = this;
    for (let a = 0; a < 8; a++)
      for (let b = a; b < 8; b++) system.values[slots[64 * e + 8 * a + b]] += block[8 * a + b];
  }

  /**
   * Velocities in equilibrium: nodes that touch a die go with it (`touch`: 1 the upper, −1 the lower, 0 free; `fixed`: their
   * speed), slide with friction, the rest is free. `v` is the first guess and the answer. Null where no equilibrium is found.
   */
  private equilibrium(
    x: Float64Array,
    y: Float64Array,
    v: Float64Array,
    touch: Int8Array,
    fixed: (node: number) => number,
    axial: number,
    heightRate: number,
    height: number,
    close: number,
  ): Float64Array | null {
    const { options, nodes, rim, system } = this;
    const floor = (RATE_FLOOR * heightRate) / height;
    const slip = (SLIP_FLOOR * heightRate) / 2;
    const sticking = options.friction === 'sticking';
    const drag = new Float64Array(nodes);
    const held = new Uint8Array(2 * nodes);
    for (const node of rim)
      if (touch[node] !== 0) {
        held[2 * node + 1] = 1;
        v[2 * node + 1] = fixed(node);
        if (sticking) {
          held[2 * node] = 1;
          v[2 * node] = 0;
        }
      }
    if (options.walled) {
      const [left, right] = [Math.min(...rim.map((k) => x[k])), Math.max(...rim.map((k) => x[k]))];
      for (const node of rim)
        if (x[node] < left + TOUCHING || x[node] > right - TOUCHING) {
          held[2 * node] = 1;
          v[2 * node] = 0;
        }
    }
    const lengths = this.contactLengths(x, touch);
    const turn = options.held ? this.turning(x, y, held) : null;
    const gradient = new Float64Array(2 * nodes);
    const hold = 10 * 3 * (floor / RATE_FLOOR) ** (options.exponent - 1);
    const grip = 1e-7 * hold;
    const friction = (vel: Float64Array, grad: Float64Array | null, second: boolean): number => {
      let sum = 0;
      for (const node of rim) {
        if (drag[node] === 0) continue;
        const u = vel[2 * node];
        const root = Math.sqrt(u * u + slip * slip);
        sum += drag[node] * root;
        if (grad) grad[2 * node] += (drag[node] * u) / root;
        if (second)
          system.values[this.diagonalSlots[2 * node]] += (drag[node] * slip * slip) / (root * root * root);
      }
      for (let d = 0; d < 2 * nodes; d++) {
        sum += (grip * vel[d] * vel[d]) / 2;
        if (grad) grad[d] += grip * vel[d];
        if (second) system.values[this.diagonalSlots[d]] += grip;
      }
      if (turn) {
        const spin = dot(turn, vel);
        sum += (hold * spin * spin) / 2;
        if (grad) for (let d = 0; d < 2 * nodes; d++) grad[d] += hold * spin * turn[d];
      }
      return sum;
    };
    const trial = new Float64Array(2 * nodes);
    const step = new Float64Array(2 * nodes);
    let last = Infinity;
    for (let i = 0; i < MOST_ITERATIONS; i++) {
      this.iterations++;
      let now = this.potential(v, axial, floor, gradient, true);
      if (!sticking) this.dragOf(lengths, drag);
      now += friction(v, gradient, true);
      let forces = 0;
      let off = 0;
      for (let d = 0; d < 2 * nodes; d++) {
        if (held[d]) forces = Math.max(forces, Math.abs(gradient[d]));
        else off = Math.max(off, Math.abs(gradient[d]));
        step[d] = held[d] ? 0 : -gradient[d];
      }
      last = off / Math.max(forces, 1e-30);
      if (last < close && i > 0) break;
      this.fix(held);
      const began = this.clock?.() ?? 0;
      if (!system.factor()) return null;
      if (this.clock) this.factorS += this.clock() - began;
      system.solve(step);
      if (turn) {
        const s = Float64Array.from(turn);
        for (let d = 0; d < 2 * nodes; d++) if (held[d]) s[d] = 0;
        const own = Float64Array.from(s);
        system.solve(s);
        const share = (hold * dot(own, step)) / (1 + hold * dot(own, s));
        for (let d = 0; d < 2 * nodes; d++) step[d] -= share * s[d];
      }
      let slope = 0;
      for (let d = 0; d < 2 * nodes; d++) if (!held[d]) slope += gradient[d] * step[d];
      let length = 1;
      for (let tries = 0; tries < 14; tries++, length /= 2) {
        for (let d = 0; d < 2 * nodes; d++) trial[d] = v[d] + length * step[d];
        const there = this.potential(trial, axial, floor, null, false) + friction(trial, null, false);
        if (there <= now + 1e-4 * length * slope + 1e-12 * Math.abs(now)) break;
      }
      v.set(trial);
      if (-slope < 1e-13 * Math.abs(now)) break;
    }
    this.worstResidual = Math.max(this.worstResidual, last);
    this.potential(v, axial, floor, gradient, false);
    return gradient;
  }

  /** Rows and columns of what is held are put to the unit matrix. */
  private fix(held: Uint8Array): void {
    const { quads, slots, system, diagonalSlots } = this;
    const { values } = system;
    for (let e = 0; e < this.elements; e++) {
      let any = false;
      for (let a = 0; a < 4; a++) any ||= held[2 * quads[4 * e + a]] + held[2 * quads[4 * e + a] + 1] > 0;
      if (!any) continue;
      for (let a = 0; a < 8; a++)
        for (let b = a; b < 8; b++) {
          const i = 2 * quads[4 * e + (a >> 1)] + (a & 1);
          const j = 2 * quads[4 * e + (b >> 1)] + (b & 1);
          if (i !== j && (held[i] || held[j])) values[slots[64 * e + 8 * a + b]] = 0;
        }
    }
    for (let d = 0; d < held.length; d++) if (held[d]) values[diagonalSlots[d]] = 1;
  }

  /** What of the rim each touching node stands for, mm. */
  private contactLengths(x: Float64Array, touch: Int8Array): Float64Array {
    const lengths = new Float64Array(this.nodes);
    this.rim.forEach((node, i) => {
      const next = this.rim[(i + 1) % this.rim.length];
      if (touch[node] === 0 || touch[node] !== touch[next]) return;
      const half = Math.abs(x[next] - x[node]) / 2;
      lengths[node] += half;
      lengths[next] += half;
    });
    return lengths;
  }

  /** Friction on each touching node at the rates of the elements about it: τ = m_f·K·(√3 ε̇)^m. */
  private dragOf(lengths: Float64Array, drag: Float64Array): void {
    const { quads, rate, options } = this;
    const sums = new Float64Array(this.nodes);
    const counts = new Float64Array(this.nodes);
    for (let e = 0; e < this.elements; e++)
      for (let a = 0; a < 4; a++) {
        const node = quads[4 * e + a];
        if (lengths[node] === 0) continue;
        const g = 4 * e + a;
        sums[node] +=
          this.porousStrength[e] * this.strength[g] * (Math.sqrt(3) * rate[e]) ** options.exponent;
        counts[node]++;
      }
    for (const node of this.rim)
      drag[node] =
        lengths[node] > 0 ? ((options.friction as number) * lengths[node] * sums[node]) / counts[node] : 0;
  }

  /** Mean turning of the section as a row over the velocities. */
  private turning(x: Float64Array, y: Float64Array, held: Uint8Array): Float64Array {
    const row = new Float64Array(2 * this.nodes);
    let inertia = 0;
    for (let i = 0; i < this.nodes; i++) inertia += x[i] * x[i] + y[i] * y[i];
    for (let i = 0; i < this.nodes; i++) {
      if (!held[2 * i]) row[2 * i] = -y[i] / Math.sqrt(inertia);
      if (!held[2 * i + 1]) row[2 * i + 1] = x[i] / Math.sqrt(inertia);
    }
    return row;
  }

  /** Area that the dies sweep in closing from where the section now stands to `height` apart: what of it lies beyond. mm² */
  private displaced(x: Float64Array, y: Float64Array, upper: number, lower: number): number {
    let beyond = 0;
    const { rim } = this;
    for (let i = 0; i < rim.length; i++) {
      const [p, q] = [rim[i], rim[(i + 1) % rim.length]];
      // Counter-clockwise the top runs from right to left.
      beyond += (x[p] - x[q]) * (over(y[p], y[q], upper) - under(y[p], y[q], lower));
    }
    return beyond;
  }

  /** Presses from where the section stands down to a height. */
  press(section: Section, toMm: number): PressOutcome {
    const { options, nodes, rim } = this;
    const x = Float64Array.from(section.mesh.x);
    const y = Float64Array.from(section.mesh.y);
    const extent = (of: Float64Array): [number, number] => {
      let [low, high] = [Infinity, -Infinity];
      for (const node of rim) [low, high] = [Math.min(low, of[node]), Math.max(high, of[node])];
      return [low, high];
    };
    const [bottom, top] = extent(y);
    const middle = (bottom + top) / 2;
    for (let i = 0; i < nodes; i++) y[i] -= middle;
    const from = top - bottom;
    let height = from;
    let lengthening = section.lengthening;
    const firstArea = meshArea({ ...section.mesh, x, y });
    let theory = firstArea;
    const v = new Float64Array(2 * nodes);
    for (let i = 0; i < nodes; i++) [v[2 * i], v[2 * i + 1]] = [x[i] / from, -y[i] / from];
    const touch = new Int8Array(nodes);
    const before = this.elementAreas(x, y);
    const first = section.density;
    const density = first && Float64Array.from(first);
    // Mass is kept: an element is as much denser as it has become smaller.
    const denser = (px: Float64Array, py: Float64Array, longer: number): void => {
      if (!density || !first) return;
      this.elementAreas(px, py).forEach((a, e) => (density[e] = (first[e] * before[e]) / (a * longer)));
      this.settle(density);
    };
    let steps = 0;
    let force = 0;
    const fail = (why: 'cancelled' | 'no equilibrium' | 'folded'): PressOutcome => ({
      ok: false,
      why,
      report: { steps, iterations: this.iterations, worstResidual: this.worstResidual, heightMm: height },
    });
    let share = 1;
    while (height > toMm + 1e-9) {
      if (options.cancelled?.()) return fail('cancelled');
      const take = Math.min(height - toMm, options.stepShare * height * share);
      // So that the last step is no sliver.
      const dh = height - toMm - take < 0.3 * take ? height - toMm : take;
      const half = height - dh / 2;
      const end = height - dh;
      const axialOf = (px: Float64Array, py: Float64Array, h0: number, h1: number): number => {
        const { by, spread } = options.axial;
        // Exactly what the law comes to over the step.
        if (by === 'height') return ((1 - spread) * Math.log(h0 / h1)) / (h0 - h1);
        const whole = meshArea({ ...section.mesh, x: px, y: py });
        return ((1 - spread) * this.displaced(px, py, h1 / 2, -h1 / 2)) / whole / (h0 - h1);
      };
      // Time runs with the height: one unit is one mm of closing.
      for (const node of rim)
        if (y[node] >= height / 2 - TOUCHING) touch[node] = 1;
        else if (y[node] <= -height / 2 + TOUCHING) touch[node] = -1;
      const touchedBefore = Int8Array.from(touch);
      const speedBefore = Float64Array.from(v);
      /** A step that does not work is taken again at half its size, from where it began. */
      const again = (): boolean => {
        touch.set(touchedBefore);
        v.set(speedBefore);
        denser(x, y, lengthening / section.lengthening);
        share /= 2;
        return share >= 2 ** -MOST_HALVINGS;
      };
      // To the middle of the step by the last step's velocities, which are as good as a solution there; the first has none.
      if (steps === 0) {
        if (!this.shape(x, y)) return fail('folded');
        const e1 = axialOf(x, y, height, half);
        if (!this.touching(x, y, y, v, touch, half / 2, dh / 2, e1, height, 1e3 * CONVERGED)) {
          if (!again()) return fail('no equilibrium');
          continue;
        }
      }
      const mx = x.map((p, i) => p + (v[2 * i] * dh) / 2);
      const my = y.map((p, i) => (touch[i] !== 0 ? (touch[i] * half) / 2 : p + (v[2 * i + 1] * dh) / 2));
      const ok = this.shape(mx, my);
      if (ok) denser(mx, my, lengthening / section.lengthening);
      const e2 = ok ? axialOf(mx, my, half, end) : 0;
      const e = options.axial.by === 'height' ? axialOf(mx, my, height, end) : e2;
      const forces = ok ? this.touching(mx, my, y, v, touch, end / 2, dh, e, half, CONVERGED) : null;
      const nx = forces ? x.map((p, i) => p + v[2 * i] * dh) : x;
      const ny = forces ? y.map((p, i) => p + v[2 * i + 1] * dh) : y;
      if (!forces || !this.shape(nx, ny)) {
        if (!again()) return fail(forces || !ok ? 'folded' : 'no equilibrium');
        continue;
      }
      share = Math.min(1, share * 1.6);
      x.set(nx);
      y.set(ny);
      height = end;
      lengthening *= Math.exp(e * dh);
      denser(x, y, lengthening / section.lengthening);
      theory *= Math.exp(-e * dh);
      steps++;
      force = 0;
      for (const node of rim) if (touch[node] > 0) force += Math.abs(forces[2 * node + 1]);
      options.progress?.((from - height) / (from - toMm));
    }
    const [left, right] = extent(x);
    const after = this.elementAreas(x, y);
    const lengths = this.contactLengths(x, touch);
    let contactMm = 0;
    for (const node of rim) if (touch[node] > 0) contactMm += lengths[node];
    return {
      ok: true,
      section: { ...section, mesh: { ...section.mesh, x, y }, lengthening, density },
      report: {
        steps,
        iterations: this.iterations,
        worstResidual: this.worstResidual,
        worstElement: worstShape({ ...section.mesh, x, y }),
        flops: this.iterations * this.system.flops,
        widthMm: right - left,
        heightMm: height,
        areaMm2: meshArea({ ...section.mesh, x, y }),
        areaTheoryMm2: theory,
        ...densities(first, density, after),
        contactMm,
        forcePerMm: force,
      },
    };
  }

  private elementAreas(x: Float64Array, y: Float64Array): number[] {
    const areas: number[] = [];
    for (let e = 0; e < this.quads.length; e += 4) {
      const [a, b, c, d] = this.quads.subarray(e, e + 4);
      areas.push(((x[c] - x[a]) * (y[d] - y[b]) - (x[d] - x[b]) * (y[c] - y[a])) / 2);
    }
    return areas;
  }

  /**
   * Equilibrium with the right nodes touching: those that would pass a die by the end are taken on, those that are pulled are
   * let go. `from` is where the nodes stood at the step's start, `plane` half the height at its end. The forces; null where none is found.
   */
  private touching(
    x: Float64Array,
    y: Float64Array,
    from: Float64Array,
    v: Float64Array,
    touch: Int8Array,
    plane: number,
    time: number,
    axial: number,
    height: number,
    close: number,
  ): Float64Array | null {
    const fixed = (node: number): number => (touch[node] * plane - from[node]) / time;
    const released = new Uint8Array(this.nodes);
    for (let round = 0; round < MOST_CONTACT_ROUNDS; round++) {
      const forces = this.equilibrium(x, y, v, touch, fixed, axial, 1, height, close);
      if (!forces) return null;
      let largest = 0;
      for (const node of this.rim)
        if (touch[node] !== 0) largest = Math.max(largest, Math.abs(forces[2 * node + 1]));
      let changed = false;
      for (const node of this.rim) {
        if (touch[node] !== 0) {
          // A die can only push: down from above, up from below.
          if (forces[2 * node + 1] * touch[node] > 1e-6 * largest) {
            touch[node] = 0;
            released[node]++;
            changed = true;
          }
        } else if (released[node] < 2) {
          const there = from[node] + v[2 * node + 1] * time;
          const side = there > plane + TOUCHING ? 1 : there < -plane - TOUCHING ? -1 : 0;
          if (side !== 0) {
            touch[node] = side;
            changed = true;
          }
        }
      }
      if (!changed) return forces;
    }
    return this.equilibrium(x, y, v, touch, fixed, axial, 1, height, close);
  }
}

/** Worst corner of all elements: 2·(a × b)/(a² + b²) of the edges that meet there. */
function worstShape({ x, y, quads }: Mesh): number {
  let worst = 1;
  for (let e = 0; e < quads.length; e += 4)
    for (let k = 0; k < 4; k++) {
      const [p, q, r] = [quads[e + ((k + 3) % 4)], quads[e + k], quads[e + ((k + 1) % 4)]];
      const [ax, ay, bx, by] = [x[r] - x[q], y[r] - y[q], x[p] - x[q], y[p] - y[q]];
      worst = Math.min(worst, (2 * (ax * by - ay * bx)) / (ax * ax + ay * ay + bx * bx + by * by));
    }
  return worst;
}

/** Mean and least of what was powder, by area. */
function densities(
  first: Float64Array | undefined,
  now: Float64Array | undefined,
  areas: readonly number[],
): { meanDensity: number; leastDensity: number } {
  let [sum, whole, least] = [0, 0, 1];
  now?.forEach((rho, e) => {
    if (first![e] >= SOLID) return;
    sum += Math.min(1, rho) * areas[e];
    whole += areas[e];
    least = Math.min(least, rho);
  });
  return { meanDensity: whole > 0 ? sum / whole : 1, leastDensity: least };
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
};

/** Mean over an edge of how far it lies above a level; below counts as 0. */
function over(a: number, b: number, level: number): number {
  const [p, q] = [a - level, b - level];
  if (p <= 0 && q <= 0) return 0;
  if (p >= 0 && q >= 0) return (p + q) / 2;
  const high = Math.max(p, q);
  return (high * high) / (2 * Math.abs(p - q));
}

const under = (a: number, b: number, level: number): number => over(-a, -b, -level);
