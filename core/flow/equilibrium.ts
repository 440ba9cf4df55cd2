import type { Contact } from './contact.ts';
import { frictionOn, meanTurning } from './friction.ts';
import { dot } from './measures.ts';
import type { Axial, PressOptions } from './pressing.ts';
import { RATE_FLOOR, type Steel } from './steel.ts';
import { follow } from './symmetry.ts';

/** Slip at which friction is fully there: a hundredth of a die's speed, which is a half. */
const SLIP = 0.005;
const MOST_ITERATIONS = 40;
const MOST_TRIES = 14;
/** A balance farther off than this is none: such velocities can be believed to look at and are millimetres wrong. */
const ACCEPTED = 1e-3;
/** A law from which a balance is found from any first guess, and is a good one for the true law; and friction is so many times as gentle there. */
const EASY_EXPONENT = 1;
const GENTLE = 100;
/** From it on by so much at a time, or, where that mostly serves, by so much; each to so far. */
const HARDER = 0.7;
const QUICKLY_HARDER = 0.3;
const WELL_BEGUN = 1e-2;

/** Of a square: what a round of Newton's leaves of what was off, found by trying. */
const SQUARED = 3;
/** So near a balance it is asked whether the right nodes touch. */
const NEARLY = 0.1;

/** Where a section stands in a step, and how near the balance is to be found. */
export interface Moment {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly height: number;
  readonly close: number;
  /** The first guess is rough: by way of an easier law at once. */
  readonly rough: boolean;
  /** Asked once, when nearly there, with the forces: whether there is no sense in going on. */
  readonly pause?: ((forces: Float64Array) => boolean) | undefined;
}

/** Beside the steel: friction on each node, the handle that holds the section from turning, a faint grip on every node. */
interface Beside {
  readonly drag: Float64Array;
  /** A row by the nodes' own directions, and how hard it is held to. */
  readonly turn: Float64Array | null;
  readonly hold: number;
  readonly grip: number;
}

/**
 * Velocities in equilibrium by Newton's method on the rate potential: nodes that touch a die go with it and slide with friction,
 * the rest is free.
 */
export class Equilibrium {
  private readonly steel: Steel;
  private readonly contact: Contact;
  private readonly rim: Int32Array;
  private readonly options: PressOptions;
  /** Factorings so far. */
  factorings = 0;
  /** Of the last balance found, of the forces. */
  residual = 0;
  private slip = SLIP;
  /** The last balance was left when nearly found. */
  private paused = false;
  /** A clock, where the time spent in factoring is to be told: seconds. */
  clock: (() => number) | null = null;
  factorS = 0;

  constructor(steel: Steel, contact: Contact, rim: Int32Array, options: PressOptions) {
    [this.steel, this.contact, this.rim, this.options] = [steel, contact, rim, options];
  }

  /**
   * At once or, where that leads nowhere, by way of an easier law. `v`, by x and y, is the first guess and the answer, and so is
   * the rate along the bar where that is free; `held`: which unknowns the dies hold. The forces on the nodes by x and y; null
   * where no balance is found.
   */
  find(moment: Moment, v: Float64Array, held: () => Uint8Array, axial: Axial): Float64Array | null {
    const { steel, options } = this;
    const [first, rate] = [Float64Array.from(v), axial.rate];
    const truly = (): Float64Array | null => {
      steel.exponent = options.exponent;
      this.slip = SLIP;
      const forces = this.newton(moment, v, held(), axial);
      return forces && (this.paused || this.residual <= Math.max(moment.close, ACCEPTED)) ? forces : null;
    };
    /** Down from the easy law; the forces where it was left because other nodes touch. */
    const eased = (by: number): Float64Array | null => {
      const most = Math.log(EASY_EXPONENT / options.exponent);
      for (let exponent = EASY_EXPONENT; exponent > options.exponent; exponent *= by) {
        steel.exponent = exponent;
        this.slip = SLIP * GENTLE ** (Math.log(exponent / options.exponent) / most);
        const pause = exponent === EASY_EXPONENT ? moment.pause : undefined;
        const forces = this.newton({ ...moment, close: WELL_BEGUN, pause }, v, held(), axial);
        if (this.paused) return forces;
      }
      return null;
    };
    const forces = (moment.rough ? eased(QUICKLY_HARDER) : null) ?? truly();
    if (forces) return forces;
    v.set(first);
    axial.rate = rate;
    return eased(HARDER) ?? truly();
  }

  /** Newton's method from `v`; null where the equations cannot be solved. */
  private newton(
    { x, y, height, close, pause }: Moment,
    v: Float64Array,
    held: Uint8Array,
    axial: Axial,
  ): Float64Array | null {
    const { steel, contact, options } = this;
    const { nodes, symmetry } = steel;
    const { frames } = contact;
    const floor = RATE_FLOOR / height;
    contact.holdStill(symmetry, held);
    follow(symmetry, v);
    const beside = this.besideAt(x, y, held, floor);
    const lengths = contact.lengths(x, y);
    const gradient = new Float64Array(2 * nodes);
    const forces = new Float64Array(2 * nodes);
    const trial = new Float64Array(2 * nodes);
    const step = new Float64Array(2 * nodes);
    let stalled = false;
    let asked = pause;
    let power = steel.potential(v, axial.rate, floor, gradient, frames);
    let derived = true;
    for (let i = 0; ; i++) {
      forces.set(gradient);
      if (options.friction !== 'sticking') frictionOn(steel, this.rim, lengths, options, beside.drag);
      const now = power + this.besides(v, beside, gradient);
      contact.byFrames(gradient, false);
      let most = 0;
      let off = 0;
      for (let d = 0; d < 2 * nodes; d++) {
        if (held[d]) most = Math.max(most, Math.abs(gradient[d]));
        else off = Math.max(off, Math.abs(gradient[d]));
        step[d] = held[d] ? 0 : -gradient[d];
      }
      if (axial.free) off = Math.max(off, Math.abs(steel.along.force) / nodes);
      this.residual = off / Math.max(most, 1e-30);
      const nearly = i > 0 && (this.residual < NEARLY || stalled);
      this.paused = nearly && asked?.(forces) === true;
      if (nearly) asked = undefined;
      if (this.paused || (i > 0 && this.residual < close) || stalled || i === MOST_ITERATIONS) return forces;
      if (!derived) steel.potential(v, axial.rate, floor, gradient, frames);
      this.stiffen(v, beside);
      const towards = this.solved(step, held, axial, beside);
      if (!towards) return null;
      const { slope, axialStep } = towards;
      let rate = axial.rate;
      let length = 1;
      // The whole step mostly serves, and then its derivatives are the next round's, if there is to be one: the rounds square
      // what is still off.
      derived = SQUARED * this.residual ** 2 > close;
      for (let tries = 0; tries < MOST_TRIES; tries++, length /= 2) {
        for (let d = 0; d < 2 * nodes; d++) trial[d] = v[d] + length * step[d];
        rate = axial.rate + length * axialStep;
        const whole = tries === 0;
        power = steel.potential(
          trial,
          rate,
          floor,
          whole ? gradient : null,
          whole && derived ? frames : null,
        );
        const there = power + this.besides(trial, beside, null);
        if (there <= now + 1e-4 * length * slope + 1e-12 * Math.abs(now)) break;
      }
      if (length < 1) power = steel.potential(trial, rate, floor, gradient, frames);
      derived ||= length < 1;
      v.set(trial);
      axial.rate = rate;
      stalled = -slope < 1e-13 * Math.abs(now);
    }
  }

  /**
   * Solves for Newton's step: the forces that are left in, by the nodes' own directions, the step by x and y out in their place;
   * what the potential changes by along it, and the step of the rate along the bar. Null where there is none.
   */
  private solved(
    step: Float64Array,
    held: Uint8Array,
    axial: Axial,
    { turn, hold }: Beside,
  ): { slope: number; axialStep: number } | null {
    const { steel, contact } = this;
    const { assembly, symmetry } = steel;
    const { system } = assembly;
    assembly.hold(held);
    const began = this.clock?.() ?? 0;
    if (!system.factor()) return null;
    this.factorings++;
    if (this.clock) this.factorS += this.clock() - began;
    const turning = turn && assembly.led(turn);
    const turned = turning && Float64Array.from(turning);
    if (turned) system.solve(turned);
    /** With the last factors, the held turning taken in (Sherman and Morrison's formula). */
    const solve = (right: Float64Array): Float64Array => {
      system.solve(right);
      if (!turning || !turned) return right;
      const share = (hold * dot(turning, right)) / (1 + hold * dot(turning, turned));
      for (let d = 0; d < right.length; d++) right[d] -= share * turned[d];
      return right;
    };
    const left = assembly.led(step);
    const answer = solve(Float64Array.from(left));
    let axialStep = 0;
    let slope = 0;
    if (axial.free) {
      const { force, stiffness, coupling } = steel.along;
      contact.byFrames(coupling, false);
      for (let d = 0; d < held.length; d++) if (held[d]) coupling[d] = 0;
      const own = assembly.led(coupling);
      const way = solve(Float64Array.from(own));
      axialStep = (-force - dot(own, answer)) / (stiffness - dot(own, way));
      for (let d = 0; d < answer.length; d++) answer[d] -= axialStep * way[d];
      slope += force * axialStep;
    }
    slope -= dot(left, answer);
    assembly.spread(answer, step);
    contact.byFrames(step, true);
    follow(symmetry, step);
    return { slope, axialStep };
  }

  private besideAt(x: Float64Array, y: Float64Array, held: Uint8Array, floor: number): Beside {
    const { steel, contact, options } = this;
    const hold = 10 * 3 * (floor / RATE_FLOOR) ** (steel.exponent - 1);
    // What is its own image in a mirror cannot turn.
    const mirrored = steel.symmetry.mirrors.some((mirror) => mirror !== 'halfTurn');
    const turn = options.held && !mirrored ? meanTurning(contact, x, y, held) : null;
    return { drag: new Float64Array(steel.nodes), turn, hold, grip: 1e-7 * hold };
  }

  /** What is put into the balance beside the steel's own power, and its gradient where it is asked for. */
  private besides(
    v: Float64Array,
    { drag, turn, hold, grip }: Beside,
    gradient: Float64Array | null,
  ): number {
    const { contact, slip } = this;
    const { tx, ty } = contact.frames;
    let sum = 0;
    for (const node of this.rim) {
      if (drag[node] === 0) continue;
      const u = tx[node] * v[2 * node] + ty[node] * v[2 * node + 1] - contact.slide[node];
      const root = Math.sqrt(u * u + slip * slip);
      sum += drag[node] * root;
      if (!gradient) continue;
      gradient[2 * node] += (drag[node] * u * tx[node]) / root;
      gradient[2 * node + 1] += (drag[node] * u * ty[node]) / root;
    }
    for (let d = 0; d < v.length; d++) {
      sum += (grip * v[d] * v[d]) / 2;
      if (gradient) gradient[d] += grip * v[d];
    }
    if (!turn) return sum;
    const own = Float64Array.from(v);
    contact.byFrames(own, false);
    const spin = dot(turn, own);
    if (gradient) {
      for (let d = 0; d < own.length; d++) own[d] = hold * spin * turn[d];
      contact.byFrames(own, true);
      for (let d = 0; d < own.length; d++) gradient[d] += own[d];
    }
    return sum + (hold * spin * spin) / 2;
  }

  /** Its second derivatives into the system, but for the turning's, which would fill it. */
  private stiffen(v: Float64Array, { drag, grip }: Beside): void {
    const { steel, contact, slip } = this;
    const { diagonal, system, symmetry } = steel.assembly;
    const { values } = system;
    const { followers } = symmetry;
    const { tx, ty } = contact.frames;
    diagonal.forEach((at, d) => {
      if (at >= 0) values[at] += followers[d >> 1] * grip;
    });
    for (const node of this.rim) {
      if (drag[node] === 0 || followers[node] === 0) continue;
      const u = tx[node] * v[2 * node] + ty[node] * v[2 * node + 1] - contact.slide[node];
      values[diagonal[2 * node]] +=
        (followers[node] * drag[node] * slip * slip) / (u * u + slip * slip) ** 1.5;
    }
  }
}
