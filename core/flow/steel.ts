import { type Mesh } from './mesh.ts';
import { Assembly } from './assembly.ts';
import { BY_U, BY_V } from './pattern.ts';
import { type Symmetry, shareOut } from './symmetry.ts';

/** Of the viscosity: how stiff the volume is held. */
const VOLUME_STIFFNESS = 2e5;
/** Denser than this powder is taken as solid: it no longer gives way in volume. */
export const SOLID = 0.995;
/** Of the height rate: the rate below which steel is taken as merely viscous. */
export const RATE_FLOOR = 2e-3;

/**
 * How a powder of a density stands against being pressed together, f², and how strong it is: S. Shima and M. Oyane, "Plasticity
 * theory for porous metals", Int. J. Mech. Sci. 18 (1976) 285–291, f = 1/(2.49 (1 − ρ)^0.514), strength ρ^2.5; recalled.
 */
export const porous = (density: number): { f2: number; strong: number } => ({
  f2: 1 / (2.49 * Math.max(1 - density, 1e-3) ** 0.514) ** 2,
  strong: Math.min(1, density) ** 2.5,
});

/** Directions of nodes that do not go by x and y: a tangent (tx, ty) first, the normal (−ty, tx) second. */
export interface Frames {
  readonly framed: Uint8Array;
  readonly tx: Float64Array;
  readonly ty: Float64Array;
}

/**
 * The steel of a mesh: its rate potential ∫ K ε̇^(m+1)/(m+1), with what holds its volume, and the first and second derivatives
 * by the velocities of the nodes. Powder gives way in volume as its density lets it.
 */
export class Steel {
  readonly quads: Int32Array;
  readonly elements: number;
  readonly nodes: number;
  readonly assembly: Assembly;
  /** How the stress grows with the rate. */
  exponent: number;
  readonly symmetry: Symmetry;
  /** Strength against the mean, four Gauss points an element. */
  readonly strength: Float64Array;
  /** What each solid element's volume is to change by, against what the rate along the bar makes of it: what it has strayed. */
  readonly astray: Float64Array;
  /** Mean rate of strain of each element at the last velocities asked for. */
  readonly rate: Float64Array;
  /** Pressure in each element at the last velocities asked for, in units of the strength. */
  readonly pressure: Float64Array;
  readonly porousStrength: Float64Array;
  /** What the last potential changes by with the rate along the bar: the force along it, and how both change with it. */
  readonly along: { force: number; stiffness: number; readonly coupling: Float64Array };
  // Per element and Gauss point: four derivatives by x, four by y, and the weight.
  private readonly dx: Float64Array;
  private readonly dy: Float64Array;
  private readonly weight: Float64Array;
  private readonly meanDx: Float64Array;
  private readonly meanDy: Float64Array;
  private readonly area: Float64Array;
  /** Per element: f² of the powder, 0 where it is solid. */
  private readonly giving: Float64Array;
  private readonly block = new Float64Array(64);
  private readonly shapeRates = new Float64Array(8);
  private readonly volumeRates = new Float64Array(8);

  /** `strength`: of every element at its four Gauss points; all alike where it is not given. `assembly`: where more than the elements are coupled. */
  constructor(
    mesh: Mesh,
    startX: Float64Array,
    startY: Float64Array,
    exponent: number,
    symmetry: Symmetry,
    strength?: Float64Array,
    assembly = new Assembly(mesh, startX, startY, symmetry),
  ) {
    this.quads = mesh.quads;
    this.elements = mesh.quads.length / 4;
    this.nodes = mesh.x.length;
    this.exponent = exponent;
    this.symmetry = symmetry;
    this.assembly = assembly;
    const { elements } = this;
    this.strength = strength ?? new Float64Array(4 * elements).fill(1);
    [this.dx, this.dy] = [new Float64Array(16 * elements), new Float64Array(16 * elements)];
    this.weight = new Float64Array(4 * elements);
    [this.meanDx, this.meanDy] = [new Float64Array(4 * elements), new Float64Array(4 * elements)];
    this.area = new Float64Array(elements);
    this.rate = new Float64Array(elements);
    this.pressure = new Float64Array(elements);
    this.astray = new Float64Array(elements);
    this.giving = new Float64Array(elements);
    this.porousStrength = new Float64Array(elements).fill(1);
    this.along = { force: 0, stiffness: 0, coupling: new Float64Array(2 * this.nodes) };
  }

  /** Takes the densities as they now are. */
  settle(density: Float64Array): void {
    density.forEach((rho, e) => {
      const { f2, strong } = porous(rho);
      this.giving[e] = rho < SOLID ? f2 : 0;
      this.porousStrength[e] = rho < SOLID ? strong : 1;
    });
  }

  /** Derivatives of the shape functions at every Gauss point. False where an element is folded. */
  shape(x: Float64Array, y: Float64Array): boolean {
    const { quads, dx, dy, weight, meanDx, meanDy, area } = this;
    const { elements, times } = this.symmetry;
    meanDx.fill(0);
    meanDy.fill(0);
    for (let one = 0; one < elements.length; one++) {
      const e = elements[one];
      const often = times[one];
      const a = quads[4 * e];
      const b = quads[4 * e + 1];
      const c = quads[4 * e + 2];
      const d = quads[4 * e + 3];
      let whole = 0;
      for (let g = 0; g < 4; g++) {
        const nu = BY_U[g];
        const nv = BY_V[g];
        const xu = nu[0] * x[a] + nu[1] * x[b] + nu[2] * x[c] + nu[3] * x[d];
        const yu = nu[0] * y[a] + nu[1] * y[b] + nu[2] * y[c] + nu[3] * y[d];
        const xv = nv[0] * x[a] + nv[1] * x[b] + nv[2] * x[c] + nv[3] * x[d];
        const yv = nv[0] * y[a] + nv[1] * y[b] + nv[2] * y[c] + nv[3] * y[d];
        const det = xu * yv - xv * yu;
        if (!(det > 0)) return false;
        weight[4 * e + g] = often * det;
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
      area[e] = often * whole;
    }
    return true;
  }

  /**
   * The rate potential at velocities `v` (two a node, by x and y), `axial` the rate along the bar; its gradient, and, where
   * frames are given, its second derivatives into the system, by the nodes' own directions.
   */
  potential(
    v: Float64Array,
    axial: number,
    floor: number,
    gradient: Float64Array | null,
    frames: Frames | null,
  ): number {
    const { quads, dx, dy, weight, meanDx, meanDy, area, rate, strength, giving, porousStrength, block } =
      this;
    const m = this.exponent;
    // σ = 3η ε̇ with η = K(√3 ε̇)^(m−1).
    const c = 3 * Math.sqrt(3) ** (m - 1);
    const stiff = VOLUME_STIFFNESS * c * (floor / RATE_FLOOR) ** (m - 1);
    const floor2 = floor * floor;
    const bent = (m - 1) / 2;
    const { along, assembly, astray, symmetry } = this;
    const { elements, stands } = symmetry;
    if (gradient) {
      gradient.fill(0);
      [along.force, along.stiffness] = [0, 0];
    }
    if (frames) {
      assembly.system.values.fill(0);
      along.coupling.fill(0);
    }
    let sum = 0;
    for (let one = 0; one < elements.length; one++) {
      const e = elements[one];
      const n0 = 4 * e;
      if (frames) block.fill(0);
      let mean = axial;
      for (let k = 0; k < 4; k++) {
        const d = 2 * quads[n0 + k];
        mean += meanDx[n0 + k] * v[d] + meanDy[n0 + k] * v[d + 1];
      }
      const f2 = giving[e];
      const soft = c * porousStrength[e];
      let average = 0;
      let pressing = 0;
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
        const s1 = d1 - third;
        const s2 = d2 - third;
        const s3 = axial - third;
        const square = (2 / 3) * (s1 * s1 + s2 * s2 + s3 * s3 + (shear * shear) / 2);
        const q = square + f2 * mean * mean + floor2;
        const w = weight[n0 + g];
        // Twice as quick as a power.
        const power = Math.exp(bent * Math.log(q));
        const strong = soft * strength[n0 + g] * power;
        average += Math.sqrt(q);
        pressing -= strong * f2 * mean;
        sum += (w * strong * q) / (m + 1);
        if (!gradient) continue;
        const first = w * strong * 0.5;
        const g1 = (4 / 3) * s1;
        const g2 = (4 / 3) * s2;
        const g3 = (2 / 3) * shear;
        const both = 2 * f2 * mean;
        const g0 = (4 / 3) * s3 + both;
        along.force += first * g0;
        for (let k = 0; k < 4; k++) {
          const d = 2 * quads[n0 + k];
          gradient[d] += first * (g1 * dx[at + k] + g3 * dy[at + k] + both * meanDx[n0 + k]);
          gradient[d + 1] += first * (g2 * dy[at + k] + g3 * dx[at + k] + both * meanDy[n0 + k]);
        }
        if (!frames) continue;
        const bend = (first * (m - 1)) / (2 * q);
        const h11 = first * (8 / 9) + bend * g1 * g1;
        const h12 = first * (-4 / 9) + bend * g1 * g2;
        const h13 = bend * g1 * g3;
        const h22 = first * (8 / 9) + bend * g2 * g2;
        const h23 = bend * g2 * g3;
        const h33 = first * (2 / 3) + bend * g3 * g3;
        along.stiffness += first * (8 / 9 + 2 * f2) + bend * g0 * g0;
        for (let k = 0; k < 4; k++) {
          const d = 2 * quads[n0 + k];
          const volume = first * 2 * f2 + bend * g0 * both;
          const c1 = first * (-4 / 9) + bend * g0 * g1;
          const c2 = first * (-4 / 9) + bend * g0 * g2;
          const c3 = bend * g0 * g3;
          along.coupling[d] += c1 * dx[at + k] + c3 * dy[at + k] + volume * meanDx[n0 + k];
          along.coupling[d + 1] += c2 * dy[at + k] + c3 * dx[at + k] + volume * meanDy[n0 + k];
        }
        if (f2 > 0) this.givingWay(e, at, [g1, g2, g3], first * 2 * f2 + bend * both * both, bend * both);
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
          for (let b = a, row = 18 * a; b < 4; b++, row += 2) {
            const bx = dx[at + b];
            const by = dy[at + b];
            block[row] += u1 * bx + u3 * by;
            block[row + 1] += u2 * by + u3 * bx;
            block[row + 8] += v1 * bx + v3 * by;
            block[row + 9] += v2 * by + v3 * bx;
          }
        }
      }
      rate[e] = average / 4;
      this.pressure[e] = pressing / 4;
      if (!(f2 > 0)) {
        mean -= astray[e];
        const press = stiff * area[e];
        this.pressure[e] = -stiff * mean;
        sum += (press * mean * mean) / 2;
        along.force += press * mean;
        if (frames) {
          along.stiffness += press;
          for (let k = 0; k < 4; k++) {
            const d = 2 * quads[n0 + k];
            along.coupling[d] += press * meanDx[n0 + k];
            along.coupling[d + 1] += press * meanDy[n0 + k];
          }
        }
        if (gradient)
          for (let k = 0; k < 4; k++) {
            const d = 2 * quads[n0 + k];
            gradient[d] += press * mean * meanDx[n0 + k];
            gradient[d + 1] += press * mean * meanDy[n0 + k];
          }
        if (frames)
          for (let a = 0; a < 4; a++)
            for (let b = a; b < 4; b++) {
              const row = 16 * a + 2 * b;
              block[row] += press * meanDx[n0 + a] * meanDx[n0 + b];
              block[row + 1] += press * meanDx[n0 + a] * meanDy[n0 + b];
              block[row + 8] += press * meanDy[n0 + a] * meanDx[n0 + b];
              block[row + 9] += press * meanDy[n0 + a] * meanDy[n0 + b];
            }
      }
      if (frames) assembly.add(one, block, frames);
    }
    if (gradient) shareOut(symmetry, gradient);
    if (frames) shareOut(symmetry, along.coupling);
    if (symmetry.mirrors.length > 0)
      for (let e = 0; e < this.elements; e++) {
        rate[e] = rate[stands[e]];
        this.pressure[e] = this.pressure[stands[e]];
      }
    return sum;
  }

  /** Powder: the volume's own part of the second derivatives, and what it has in common with the shape's. */
  private givingWay(
    e: number,
    at: number,
    [g1, g2, g3]: readonly [number, number, number],
    own: number,
    common: number,
  ): void {
    const { dx, dy, meanDx, meanDy, block, shapeRates, volumeRates } = this;
    for (let k = 0; k < 4; k++) {
      shapeRates[2 * k] = g1 * dx[at + k] + g3 * dy[at + k];
      shapeRates[2 * k + 1] = g2 * dy[at + k] + g3 * dx[at + k];
      volumeRates[2 * k] = meanDx[4 * e + k];
      volumeRates[2 * k + 1] = meanDy[4 * e + k];
    }
    for (let a = 0; a < 8; a++)
      for (let b = a & ~1; b < 8; b++)
        block[8 * a + b] +=
          own * volumeRates[a] * volumeRates[b] +
          common * (shapeRates[a] * volumeRates[b] + volumeRates[a] * shapeRates[b]);
  }
}
