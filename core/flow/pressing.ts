import { type DiePair, type DieFace } from './dies.ts';
import { type Mesh } from './mesh.ts';

/** A section on its way through the dies: the mesh as it is, and where each node stood at the start. mm */
export interface MeshedSection {
  readonly mesh: Mesh;
  readonly startX: Float64Array;
  readonly startY: Float64Array;
  /** Length over what it was at the start. */
  readonly lengthening: number;
  /** Area of solid steel as the lengthening says it must be; that of the mesh where it is not given. */
  readonly areaMm2?: number | undefined;
  /** Share of solid in each element, where there is powder. */
  readonly density?: Float64Array | undefined;
  /** Strain each element has been through, and the greatest push it has seen across each of its planes, in units of the strength. */
  readonly strain?: Float64Array | undefined;
  readonly pushes?: Float64Array | undefined;
}

/**
 * How the bar lengthens: a share 1 − spread of the steel displaced goes along it, or of the height's own rate (only to compare
 * with results made so); or freely, so that no force is left along it.
 */
export interface AxialLaw {
  readonly by: 'displaced' | 'height' | 'free';
  readonly spread: number;
}

/** The rate along the bar; free, it is found with the velocities. */
export interface Axial {
  rate: number;
  readonly free: boolean;
}

export interface PressOptions {
  /** How the flow stress grows with the rate: σ ∝ ε̇^m. */
  readonly exponent: number;
  /** Friction factor of the dies, 0 … 1; sticking holds the steel where it touches. */
  readonly friction: number | 'sticking';
  readonly axial: AxialLaw;
  /** Height taken in one step, of the height there is. */
  readonly stepShare: number;
  /** Flat ones where it is not given. */
  readonly dies?: DiePair | undefined;
  /** Further faces, to compare with closed forms. */
  readonly faces?: readonly DieFace[] | undefined;
  /** The bar is held so that it does not turn. */
  readonly held: boolean;
  /** Strength of the steel that stood at a point at the start, over that of the rest; 1 where it is not given. */
  readonly strength?: ((startX: number, startY: number) => number) | undefined;
  /** And how many times that where it lies when the pass begins, for its heat. */
  readonly harder?: ((x: number, y: number) => number) | undefined;
  /** When an element becomes worse than this, pressing stops, so that it can be given a new grid. */
  readonly leastShape?: number | undefined;
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
  /** How far the dies came together. */
  readonly closedMm: number;
  /** How often the section was given a new grid. */
  readonly regrids: number;
}

export type PressOutcome =
  | { readonly ok: true; readonly section: MeshedSection; readonly report: PressReport }
  | {
      readonly ok: false;
      readonly why: 'cancelled' | 'no equilibrium' | 'folded' | 'thin' | 'filled' | 'too wide';
      /** As far as it came. */
      readonly section: MeshedSection;
      readonly report: Pick<
        PressReport,
        'steps' | 'iterations' | 'flops' | 'worstResidual' | 'heightMm' | 'closedMm'
      >;
    };
