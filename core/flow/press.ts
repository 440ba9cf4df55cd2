import { Contact } from './contact.ts';
import { type DiePair, FLAT_PAIR, facesOf, riseOf } from './dies.ts';
import { meshArea, worstShape } from './mesh.ts';
import { RATE_FLOOR, Steel } from './steel.ts';
import { frictionOn, meanTurning, spinOf } from './friction.ts';
import { type Axial, type PressOptions, type PressOutcome, type MeshedSection } from './pressing.ts';
import { dot, elementAreas, beyondDies, densities, spanOf, sumOver } from './measures.ts';

/** Of a die's speed: slip at which friction is fully there. */
const SLIP_FLOOR = 0.01;
const MOST_ITERATIONS = 40;
const MOST_CONTACT_ROUNDS = 14;
const MOST_HALVINGS = 7;
const CONVERGED = 1e-5;
/** And so far while it is still open which nodes touch. */
const NEARLY = 0.1;
/** A balance farther off than this is none: such velocities can be believed to look at and are millimetres wrong. */
const ACCEPTED = 1e-3;
/** A law from which a balance is found from any first guess, and is a good one for the true law. */
const EASY_EXPONENT = 0.6;
/** From it on by so much at a time, each to so far. */
const HARDER = 0.7;
const WELL_BEGUN = 1e-2;
/** mm. */
const TOUCHING = 1e-7;
/** Area that differs by more from what the lengthening says: the steel had nowhere to go. */
const FILLED = 1e-2;

/** Turned by more in one step a section would grow: it goes along straight lines. rad */
const MOST_SPIN = 0.04;

/** A mesh ready to be solved on, again and again as it moves. */
export class PressSolver {
  private readonly steel: Steel;
  private readonly rim: Int32Array;
  private readonly dies: DiePair;
  private readonly contact: Contact;
  readonly options: PressOptions;
  iterations = 0;
  worstResidual = 0;
  /** Of the last balance found. */
  private residual = 0;
  /** A clock, where the time spent in factoring is to be told: seconds. */
  clock: (() => number) | null = null;
  factorS = 0;

  constructor({ mesh, startX, startY, density }: MeshedSection, options: PressOptions) {
    this.options = options;
    this.rim = mesh.rim;
    this.dies = options.dies ?? FLAT_PAIR;
    const faces = [...facesOf(this.dies), ...(options.faces ?? [])];
    this.contact = new Contact(mesh.rim, mesh.x.length, faces);
    this.steel = new Steel(mesh, startX, startY, options.exponent);
    if (options.strength) this.steel.strengthBy(options.strength, startX, startY);
    if (density) this.steel.settle(density);
  }

  get flopsEach(): number {
    return this.steel.system.flops;
  }

  /**
   * Velocities in equilibrium: nodes that touch a die go with it and slide with friction, the rest is free. `v` is the first
   * guess and the answer, and so is the rate along the bar where that is free. The forces on the nodes by x and y; null where
   * no equilibrium is found.
   */
  private equilibrium(
    x: Float64Array,
    y: Float64Array,
    v: Float64Array,
    held: Uint8Array,
    axial: Axial,
    height: number,
    close: number,
  ): Float64Array | null {
    const { options, rim, steel, contact } = this;
    const { frames, slide } = contact;
    const { nodes, system, diagonal } = steel;
    const { tx, ty } = frames;
    const floor = RATE_FLOOR / height;
    const slip = SLIP_FLOOR / 2;
    const sticking = options.friction === 'sticking';
    const drag = new Float64Array(nodes);
    const lengths = this.contact.lengths(x, y);
    const turn = options.held ? meanTurning(contact, x, y, held) : null;
    const gradient = new Float64Array(2 * nodes);
    const hold = 10 * 3 * (floor / RATE_FLOOR) ** (steel.exponent - 1);
    const grip = 1e-7 * hold;
    /** The turning row is by the nodes' own directions. */
    const own = new Float64Array(2 * nodes);
    const friction = (vel: Float64Array, grad: Float64Array | null, second: boolean): number => {
      let sum = 0;
      for (const node of rim) {
        if (drag[node] === 0) continue;
        const u = tx[node] * vel[2 * node] + ty[node] * vel[2 * node + 1] - slide[node];
        const root = Math.sqrt(u * u + slip * slip);
        sum += drag[node] * root;
        if (grad) {
          grad[2 * node] += (drag[node] * u * tx[node]) / root;
          grad[2 * node + 1] += (drag[node] * u * ty[node]) / root;
        }
        if (second) system.values[diagonal[2 * node]] += (drag[node] * slip * slip) / (root * root * root);
      }
      for (let d = 0; d < 2 * nodes; d++) {
        sum += (grip * vel[d] * vel[d]) / 2;
        if (grad) grad[d] += grip * vel[d];
        if (second) system.values[diagonal[d]] += grip;
      }
      if (turn) {
        own.set(vel);
        this.contact.byFrames(own, false);
        const spin = dot(turn, own);
        sum += (hold * spin * spin) / 2;
        if (grad) {
          for (let d = 0; d < 2 * nodes; d++) own[d] = hold * spin * turn[d];
          this.contact.byFrames(own, true);
          for (let d = 0; d < 2 * nodes; d++) grad[d] += own[d];
        }
      }
      return sum;
    };
    /** Solves with the last factors, the held turning taken in (Sherman and Morrison's formula). */
    const solveHeld = (right: Float64Array): void => {
      system.solve(right);
      if (!turn) return;
      const s = Float64Array.from(turn);
      system.solve(s);
      const share = (hold * dot(turn, right)) / (1 + hold * dot(turn, s));
      for (let d = 0; d < 2 * nodes; d++) right[d] -= share * s[d];
    };
    const trial = new Float64Array(2 * nodes);
    const step = new Float64Array(2 * nodes);
    let last = Infinity;
    for (let i = 0; i < MOST_ITERATIONS; i++) {
      this.iterations++;
      let now = steel.potential(v, axial.rate, floor, gradient, frames);
      if (!sticking) frictionOn(steel, rim, lengths, options, drag);
      now += friction(v, gradient, true);
      this.contact.byFrames(gradient, false);
      let forces = 0;
      let off = 0;
      let slope = 0;
      for (let d = 0; d < 2 * nodes; d++) {
        if (held[d]) forces = Math.max(forces, Math.abs(gradient[d]));
        else off = Math.max(off, Math.abs(gradient[d]));
        step[d] = held[d] ? 0 : -gradient[d];
      }
      if (axial.free) off = Math.max(off, Math.abs(steel.along.force) / x.length);
      last = off / Math.max(forces, 1e-30);
      if (last < close && i > 0) break;
      steel.hold(held);
      const began = this.clock?.() ?? 0;
      if (!system.factor()) return null;
      if (this.clock) this.factorS += this.clock() - began;
      solveHeld(step);
      let axialStep = 0;
      if (axial.free) {
        const { force, stiffness, coupling } = steel.along;
        this.contact.byFrames(coupling, false);
        for (let d = 0; d < 2 * nodes; d++) own[d] = held[d] ? 0 : coupling[d];
        const answer = Float64Array.from(own);
        solveHeld(answer);
        axialStep = (-force - dot(own, step)) / (stiffness - dot(own, answer));
        for (let d = 0; d < 2 * nodes; d++) step[d] -= axialStep * answer[d];
        slope += force * axialStep;
      }
      for (let d = 0; d < 2 * nodes; d++) if (!held[d]) slope += gradient[d] * step[d];
      this.contact.byFrames(step, true);
      let length = 1;
      let rate = axial.rate;
      for (let tries = 0; tries < 14; tries++, length /= 2) {
        for (let d = 0; d < 2 * nodes; d++) trial[d] = v[d] + length * step[d];
        rate = axial.rate + length * axialStep;
        const there = steel.potential(trial, rate, floor, null, null) + friction(trial, null, false);
        if (there <= now + 1e-4 * length * slope + 1e-12 * Math.abs(now)) break;
      }
      v.set(trial);
      axial.rate = rate;
      if (-slope < 1e-13 * Math.abs(now)) break;
    }
    this.residual = last;
    steel.potential(v, axial.rate, floor, gradient, null);
    return gradient;
  }

  /** Velocities in equilibrium to `close`, at once or, where that leads nowhere, by way of an easier law. The forces; null where there are none. */
  private balance(
    x: Float64Array,
    y: Float64Array,
    v: Float64Array,
    held: () => Uint8Array,
    axial: Axial,
    height: number,
    close: number,
  ): Float64Array | null {
    const { steel, options } = this;
    const [first, rate] = [Float64Array.from(v), axial.rate];
    const at = (exponent: number, to: number): Float64Array | null => {
      steel.exponent = exponent;
      return this.equilibrium(x, y, v, held(), axial, height, to);
    };
    const enough = Math.max(close, ACCEPTED);
    const forces = at(options.exponent, close);
    if (forces && this.residual <= enough) return forces;
    v.set(first);
    axial.rate = rate;
    let exponent = EASY_EXPONENT;
    for (; exponent > options.exponent; exponent *= HARDER) at(exponent, WELL_BEGUN);
    const again = at(options.exponent, close);
    return again && this.residual <= enough ? again : null;
  }

  /** Presses from where the section stands down to a height between the middles of the dies. */
  press(section: MeshedSection, toMm: number): PressOutcome {
    const { options, rim, steel, dies, contact } = this;
    const { nodes } = steel;
    const x = Float64Array.from(section.mesh.x);
    const y = Float64Array.from(section.mesh.y);
    // The dies come to rest on the section, and it lies in their middle.
    let [top, bottom] = [-Infinity, Infinity];
    const [left, right] = spanOf(rim, x);
    const shaped = dies.upper.kind !== 'flat' || dies.lower.kind !== 'flat' || dies.stopsMm !== null;
    const across = shaped ? (left + right) / 2 : 0;
    for (let i = 0; i < nodes; i++) x[i] -= across;
    for (const node of rim) {
      top = Math.max(top, y[node] - riseOf(dies.upper, x[node]));
      bottom = Math.min(bottom, y[node] + riseOf(dies.lower, x[node]));
    }
    for (let i = 0; i < nodes; i++) y[i] -= (bottom + top) / 2;
    const from = top - bottom;
    let height = from;
    let lengthening = section.lengthening;
    const firstArea = meshArea({ ...section.mesh, x, y });
    let theory = firstArea;
    const v = new Float64Array(2 * nodes);
    for (let i = 0; i < nodes; i++) [v[2 * i], v[2 * i + 1]] = [x[i] / from, -y[i] / from];
    contact.clear();
    const before = elementAreas(this.steel.quads, x, y);
    const density = section.density && Float64Array.from(section.density);
    const strain = Float64Array.from(section.strain ?? new Float64Array(steel.elements));
    const bonding = Float64Array.from(section.bonding ?? new Float64Array(steel.elements));
    // Mass is kept: an element is as much denser as it has become smaller.
    const denser = (px: Float64Array, py: Float64Array, longer: number): void => {
      if (!density) return;
      elementAreas(this.steel.quads, px, py).forEach(
        (a, e) => (density[e] = (section.density![e] * before[e]) / (a * longer)),
      );
      steel.settle(density);
    };
    let steps = 0;
    let force = 0;
    const here = (): MeshedSection => ({
      ...section,
      mesh: { ...section.mesh, x, y },
      lengthening,
      density,
      strain,
      bonding,
    });
    const fail = (why: (PressOutcome & { ok: false })['why']): PressOutcome => ({
      ok: false,
      why,
      section: here(),
      report: {
        steps,
        iterations: this.iterations,
        flops: this.iterations * steel.system.flops,
        worstResidual: this.worstResidual,
        heightMm: height,
        closedMm: from - height,
      },
    });
    const { by, spread } = options.axial;
    const axial: Axial = { rate: 0, free: by === 'free' };
    const axialOf = (px: Float64Array, py: Float64Array, h0: number, h1: number): number => {
      if (by === 'free') return axial.rate;
      // Exactly what the law comes to over the step.
      if (by === 'height') return ((1 - spread) * Math.log(h0 / h1)) / (h0 - h1);
      const whole = meshArea({ ...section.mesh, x: px, y: py });
      return ((1 - spread) * beyondDies(this.rim, this.dies, px, py, h1)) / whole / (h0 - h1);
    };
    if (dies.stopsMm !== null && right - left > dies.stopsMm + 1e-3) return fail('too wide');
    let share = 1;
    while (height > toMm + 1e-9) {
      if (options.cancelled?.()) return fail('cancelled');
      const take = Math.min(height - toMm, options.stepShare * height * share);
      // So that the last step is no sliver.
      const dh = height - toMm - take < 0.3 * take ? height - toMm : take;
      const half = height - dh / 2;
      const end = height - dh;
      // Time runs with the height: one unit is one mm of closing.
      contact.takeOn(x, y, height, TOUCHING);
      const [backToContact, speeds] = [contact.kept(), Float64Array.from(v)];
      /** A step that does not work is taken again at half its size, from where it began. */
      const again = (): boolean => {
        backToContact();
        v.set(speeds);
        denser(x, y, lengthening / section.lengthening);
        share /= 2;
        return share >= 2 ** -MOST_HALVINGS;
      };
      // To the middle of the step by the last step's velocities, which are as good as a solution there; the first has none.
      if (steps === 0) {
        if (!steel.shape(x, y)) return fail('folded');
        axial.rate = by === 'free' ? 0.5 / height : axialOf(x, y, height, half);
        if (!this.touching(x, y, x, y, v, dh / 2, half, axial, height, 1e3 * CONVERGED)) {
          if (!again()) return fail('no equilibrium');
          continue;
        }
      }
      const mx = x.map((p, i) => p + (v[2 * i] * dh) / 2);
      const my = y.map((p, i) => p + (v[2 * i + 1] * dh) / 2);
      contact.ontoDies(mx, my, half);
      const ok = steel.shape(mx, my);
      const e2 = ok ? axialOf(mx, my, half, end) : 0;
      axial.rate = by === 'height' ? axialOf(mx, my, height, end) : e2;
      if (ok) denser(mx, my, (lengthening / section.lengthening) * Math.exp((axial.rate * dh) / 2));
      const forces = ok ? this.touching(mx, my, x, y, v, dh, end, axial, half, CONVERGED) : null;
      if (forces && Math.abs(spinOf(mx, my, v)) * dh > MOST_SPIN && share > 2 ** -MOST_HALVINGS) {
        again();
        continue;
      }
      const nx = forces ? x.map((p, i) => p + v[2 * i] * dh) : x;
      const ny = forces ? y.map((p, i) => p + v[2 * i + 1] * dh) : y;
      if (!forces || !steel.shape(nx, ny)) {
        if (!again()) return fail(forces || !ok ? 'folded' : 'no equilibrium');
        continue;
      }
      this.worstResidual = Math.max(this.worstResidual, this.residual);
      contact.ontoDies(nx, ny, end);
      share = Math.min(1, share * 1.6);
      const e = axial.rate;
      x.set(nx);
      y.set(ny);
      height = end;
      lengthening *= Math.exp(e * dh);
      denser(x, y, lengthening / section.lengthening);
      theory *= Math.exp(-e * dh);
      for (let k = 0; k < steel.elements; k++) {
        strain[k] += steel.rate[k] * dh;
        bonding[k] = Math.max(bonding[k], steel.pressure[k]);
      }
      steps++;
      force = sumOver(contact.onUpper(), (node) => Math.abs(forces[2 * node + 1]));
      options.progress?.((from - height) / (from - toMm));
      if (!density && Math.abs(meshArea(here().mesh) / theory - 1) > FILLED) return fail('filled');
      if (options.leastShape && height > toMm + 1e-9 && worstShape(here().mesh) < options.leastShape)
        return fail('thin');
    }
    const lengths = this.contact.lengths(x, y);
    const [leftmost, rightmost] = spanOf(rim, x);
    const done = here();
    return {
      ok: true,
      section: done,
      report: {
        steps,
        iterations: this.iterations,
        worstResidual: this.worstResidual,
        worstElement: worstShape(done.mesh),
        flops: this.iterations * steel.system.flops,
        widthMm: rightmost - leftmost,
        heightMm: height,
        areaMm2: meshArea(done.mesh),
        areaTheoryMm2: theory,
        ...densities(section.density, density, elementAreas(this.steel.quads, x, y)),
        contactMm: sumOver(contact.onUpper(), (node) => lengths[node]),
        forcePerMm: force,
        closedMm: from - height,
        regrids: 0,
      },
    };
  }

  /**
   * Equilibrium with the right nodes touching: those that would pass a die by the end are taken on, those that are pulled are
   * let go. `fromX`, `fromY`: where the nodes stood at the step's start. The forces; null where none is found.
   */
  private touching(
    x: Float64Array,
    y: Float64Array,
    fromX: Float64Array,
    fromY: Float64Array,
    v: Float64Array,
    time: number,
    endHeight: number,
    axial: Axial,
    height: number,
    close: number,
  ): Float64Array | null {
    const { contact, options } = this;
    const released = new Uint8Array(x.length);
    const held = () => contact.heldBy(fromX, fromY, v, time, endHeight, options.friction === 'sticking');
    const solve = (to: number) => this.balance(x, y, v, held, axial, height, to);
    let nearly = Math.max(close, NEARLY);
    for (let round = 0; round < MOST_CONTACT_ROUNDS; round++) {
      const forces = solve(nearly);
      if (!forces) return null;
      const ends = (of: Float64Array, k: 0 | 1) => of.map((p, i) => p + v[2 * i + k] * time);
      const [ex, ey] = [ends(fromX, 0), ends(fromY, 1)];
      let changed = contact.letGo(ex, ey, forces, endHeight, released);
      if (contact.takeOn(ex, ey, endHeight, -TOUCHING, released)) changed = true;
      if (!changed && nearly <= close) return forces;
      if (!changed) nearly = close;
    }
    return solve(close);
  }
}
