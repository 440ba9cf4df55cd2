import { Assembly } from '../flow/assembly.ts';
import { elementAreas, spanOf } from '../flow/measures.ts';
import { spreadCoefficient } from '../forging/spread.ts';
import { Steel } from '../flow/steel.ts';
import { type Symmetry, symmetryOf } from '../flow/symmetry.ts';
import { Balance, type BalanceOptions, type Pushes, type Weld, flowStressOf } from './balance.ts';
import type { LooseMesh } from './pieces.ts';
import { type Stretch, type Touch, coupledPairs, gapOf, stretchesOf, touchesOf } from './touching.ts';

/** Steps: at first, so many of so much, while the pieces come to lie against each other; then larger ones. mm */
const FIRST_STEP = 0.05;
const FIRST_STEPS = 6;
const STEP = 0.2;
/** Where the middle of a step is found to lie so near to where it was thought, nothing else touches there, mm. */
const NO_OTHER = 2e-3;
const MOST_HALVINGS = 6;
/** A seam pushed together by so much of the flow stress becomes one. */
const WELDS_AT = 0.3;
/** Of a stretch: so much of it lies against another piece where all of it does. */
const WHOLE = 0.9;

export interface LooseOptions extends BalanceOptions {
  /** Width of the dies along the bar, which decides how much of the steel displaced goes along it; held, nothing does. mm */
  readonly biteMm: number | 'held';
  /** Whether what is pressed together sticks for good. */
  readonly welds: boolean;
  /** Of each piece, over the mean of all. */
  readonly strengths?: readonly number[] | undefined;
}

/** What is seen at the end of a step. */
export interface LooseMoment {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly touches: readonly Touch[];
  readonly pushes: Pushes;
  /** Those there were during the step. */
  readonly welds: readonly Weld[];
  /** Between the dies, and how far these have come together in all. mm */
  readonly heightMm: number;
  readonly travelMm: number;
  readonly flowStress: number;
}

/** Several pieces between flat dies: pressed, turned, pressed. */
export class LoosePress {
  readonly mesh: LooseMesh;
  readonly stretches: readonly Stretch[];
  readonly x: Float64Array;
  readonly y: Float64Array;
  private readonly options: LooseOptions;
  private readonly strength: Float64Array;
  private readonly areas: Float64Array;
  private welds: readonly Weld[] = [];
  private steel!: Steel;
  private balance!: Balance;
  private links = new Map<number, number>();
  lengthening = 1;
  travelMm = 0;
  steps = 0;
  rounds = 0;
  worstResidual = 0;

  constructor(mesh: LooseMesh, options: LooseOptions) {
    [this.mesh, this.options] = [mesh, options];
    this.stretches = stretchesOf(mesh);
    [this.x, this.y] = [Float64Array.from(mesh.x), Float64Array.from(mesh.y)];
    this.areas = elementAreas(mesh.quads, this.x, this.y);
    this.strength = new Float64Array(mesh.quads.length);
    for (let e = 0; e < mesh.pieceOf.length; e++)
      this.strength.fill(options.strengths?.[mesh.pieceOf[e]] ?? 1, 4 * e, 4 * e + 4);
    this.couple();
  }

  /** The equations, with every pair of stretches that may come to touch. */
  private couple(): void {
    const { mesh, stretches, x, y, options } = this;
    const pairs = [...new Set([...this.links.keys(), ...coupledPairs(stretches, x, y)])];
    const elements = mesh.quads.length / 4;
    const quads = new Int32Array(mesh.quads.length + 4 * pairs.length);
    quads.set(mesh.quads);
    this.links = new Map();
    pairs.forEach((pair, k) => {
      const [a, b] = [stretches[Math.floor(pair / stretches.length)], stretches[pair % stretches.length]];
      quads.set([a.from, a.to, b.from, b.to], 4 * (elements + k));
      this.links.set(pair, elements + k);
    });
    const all = { ...mesh, quads };
    const none = (of: { x: Float64Array; y: Float64Array; quads: Int32Array }): Symmetry =>
      symmetryOf({ ...of, rim: mesh.rim }, [], () => false);
    this.steel = new Steel(
      mesh,
      x,
      y,
      options.exponent,
      none(mesh),
      this.strength,
      new Assembly(all, x, y, none(all)),
    );
    this.balance = new Balance(this.steel, stretches, mesh.rim, this.links, options);
  }

  /** Turns everything by a quarter, counter-clockwise. */
  turn(): void {
    const { x, y } = this;
    for (let i = 0; i < x.length; i++) [x[i], y[i]] = [-y[i], x[i]];
    this.welds = this.welds.map((weld) => ({ ...weld, dx: -weld.dy, dy: weld.dx }));
  }

  /** How high everything stands, and how wide, mm. */
  get heightMm(): number {
    const [low, high] = spanOf(this.mesh.rim, this.y);
    return high - low;
  }

  get widthMm(): number {
    const [left, right] = spanOf(this.mesh.rim, this.x);
    return right - left;
  }

  /** Presses to a height, or until whoever is shown the steps has seen enough (true). Why it could not, or nothing. */
  press(toMm: number, seen: (moment: LooseMoment) => boolean): 'no balance' | null {
    const { x, y, options, mesh } = this;
    const [low, high] = spanOf(mesh.rim, y);
    const { biteMm } = options;
    const spread = biteMm === 'held' ? 1 : spreadCoefficient(biteMm, this.widthMm);
    for (let i = 0; i < y.length; i++) y[i] -= (low + high) / 2;
    let height = high - low;
    const v = new Float64Array(2 * x.length);
    let axial = 0;
    let share = 1;
    for (let step = 0; height > toMm + 1e-9;) {
      const wanted = (step < FIRST_STEPS ? FIRST_STEP : STEP) * share;
      const dh = height - toMm < 1.3 * wanted ? height - toMm : wanted;
      if (step === 0) for (let i = 0; i < x.length; i++) v[2 * i + 1] = -y[i] / height;
      const speeds = Float64Array.from(v);
      const done = this.stepped(v, height, dh, axial, step === 0);
      if (!done) {
        v.set(speeds);
        share /= 2;
        if (share < 2 ** -MOST_HALVINGS) return 'no balance';
        continue;
      }
      height -= dh;
      this.travelMm += dh;
      this.lengthening *= Math.exp(axial * dh);
      step++;
      this.steps++;
      share = Math.min(1, share * 1.6);
      axial = (1 - spread) * this.thinning(v);
      const welds = this.welds;
      if (options.welds) this.welds = [...welds, ...this.fresh(done.touches, done.pushes, 1 / height)];
      const enough = seen({
        ...done,
        x,
        y,
        welds,
        heightMm: height,
        travelMm: this.travelMm,
        flowStress: flowStressOf(options.exponent, 1 / height),
      });
      if (enough) return null;
    }
    return null;
  }

  /** One step; `v` is the first guess and the answer. */
  private stepped(
    v: Float64Array,
    height: number,
    dh: number,
    axial: number,
    rough: boolean,
  ): { touches: readonly Touch[]; pushes: Pushes } | null {
    const { x, y, mesh, areas } = this;
    const half = (of: Float64Array, k: 0 | 1) => of.map((p, i) => p + (v[2 * i + k] * dh) / 2);
    let pushes: Pushes | null = null;
    let touches: readonly Touch[] = [];
    // The middle of the step is first guessed by the last velocities, then by those found.
    for (let round = 0, [mx, my] = [half(x, 0), half(y, 1)]; round < 2; round++) {
      const welded = new Set(this.welds.map((w) => w.first * this.stretches.length + w.second));
      touches = touchesOf(this.stretches, mx, my).filter(
        (t) => !welded.has(t.first * this.stretches.length + t.second),
      );
      if (touches.some((t) => !this.links.has(t.first * this.stretches.length + t.second))) this.couple();
      const { steel, balance } = this;
      if (!steel.shape(mx, my)) return null;
      const now = elementAreas(mesh.quads, x, y);
      steel.astray.set(now.map((a, e) => Math.log(areas[e] / this.lengthening / a) / Math.max(dh, STEP)));
      const before = balance.rounds;
      pushes = balance.find(
        {
          x,
          y,
          touches,
          welds: this.welds,
          dieMm: (height - dh) / 2,
          across: this.across(mx),
          time: dh,
        },
        v,
        axial,
        rough && round === 0,
      );
      this.rounds += balance.rounds - before;
      if (!pushes) return null;
      const [nx, ny] = [half(x, 0), half(y, 1)];
      if (mx.every((p, i) => Math.abs(p - nx[i]) + Math.abs(my[i] - ny[i]) < NO_OTHER)) break;
      [mx, my] = [nx, ny];
    }
    this.worstResidual = Math.max(this.worstResidual, this.balance.residual);
    const [ex, ey] = [x.map((p, i) => p + v[2 * i] * dh), y.map((p, i) => p + v[2 * i + 1] * dh)];
    if (!this.steel.shape(ex, ey)) return null;
    x.set(ex);
    y.set(ey);
    return { touches, pushes: pushes! };
  }

  /** Of every node of the rim, half of its two stretches as they lie across the press. */
  private across(x: Float64Array): Float64Array {
    const across = new Float64Array(x.length);
    for (const { from, to } of this.stretches) {
      const half = Math.abs(x[to] - x[from]) / 2;
      across[from] += half;
      across[to] += half;
    }
    return across;
  }

  /** How fast the steel gets thinner in the mean, by its elements' own heights. */
  private thinning(v: Float64Array): number {
    const { x, y, mesh } = this;
    const { quads } = mesh;
    let [sum, whole] = [0, 0];
    for (let n = 0; n < quads.length; n += 4) {
      const [a, b, c, d] = quads.subarray(n, n + 4);
      sum += (x[c] - x[a]) * (v[2 * d + 1] - v[2 * b + 1]) - (x[d] - x[b]) * (v[2 * c + 1] - v[2 * a + 1]);
      whole += (x[c] - x[a]) * (y[d] - y[b]) - (x[d] - x[b]) * (y[c] - y[a]);
    }
    return -sum / whole;
  }

  /** What is pressed together hard enough along the whole of a stretch has become one with what lies against it there. */
  private fresh(touches: readonly Touch[], pushes: Pushes, rate: number): Weld[] {
    const { stretches, x, y, options, welds } = this;
    const enough = WELDS_AT * flowStressOf(options.exponent, rate);
    const all = stretches.map(() => ({ covered: 0, pushed: 0, apart: false }));
    const add = ({ first, second, weight }: Touch | Weld, push: number, touching: boolean): void => {
      for (const stretch of [all[first], all[second]]) {
        stretch.covered += weight;
        stretch.pushed += weight * push;
        stretch.apart ||= !touching;
      }
    };
    touches.forEach((t, i) => add(t, pushes.touches[i], pushes.touches[i] > 0));
    welds.forEach((w, i) => add(w, pushes.welds[i], true));
    const becomes = all.map(({ covered, pushed, apart }, k) => {
      const { from, to } = stretches[k];
      const length = Math.hypot(x[to] - x[from], y[to] - y[from]);
      return !apart && covered > WHOLE * length && pushed > enough * covered;
    });
    return touches.flatMap((t): Weld[] => {
      if (!becomes[t.first] && !becomes[t.second]) return [];
      const { first, second, shares, weight, nx, ny } = t;
      // Along the seam they stay where they are; across it they go on pushing as they do.
      const slid = gapOf(stretches[first], stretches[second], shares, -ny, nx, x, y);
      return [{ first, second, shares, weight, dx: -slid * ny, dy: slid * nx }];
    });
  }
}
