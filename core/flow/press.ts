import { Contact } from './contact.ts';
import { type DiePair, FLAT_PAIR, facesOf } from './dies.ts';
import { meshArea, worstShape } from './mesh.ts';
import { Equilibrium } from './equilibrium.ts';
import { spinOf } from './friction.ts';
import { SOLID, Steel } from './steel.ts';
import { type Mirror, type Symmetry, evened, symmetryOf } from './symmetry.ts';
import { meanOf, strengthOver } from './strength.ts';
import { WAYS, keepPushes } from './traction.ts';
import { type Axial, type PressOptions, type PressOutcome, type MeshedSection } from './pressing.ts';
import {
  elementAreas,
  beyondDies,
  densities,
  laidBetween,
  roomBetween,
  spanOf,
  sumOver,
} from './measures.ts';

const MOST_CONTACT_ROUNDS = 14;
const MOST_HALVINGS = 7;
const CONVERGED = 1e-5;
/** mm. */
const TOUCHING = 1e-7;
/** Area that differs by more from what the lengthening says: the steel had nowhere to go. */
const FILLED = 1e-2;
/** Of the room between dies that leave no way out: fuller than this no press fills it; and so full that a failure is that. */
const FULL = 1.001;
const NEARLY_FULL = 0.95;
const FAILURES: ReadonlySet<string> = new Set(['folded', 'thin', 'no equilibrium']);

/** Area that strays by more in a step: the section set off another way than it came, and the step is too large for that. */
const MOST_STRAYED = 5e-4;
/** Of a step: smaller ones do not cure it. */
const LEAST_TO_STRAY = 0.1;

/** Turned by more in one step a section would grow: it goes along straight lines. rad */
const MOST_SPIN = 0.04;
/** Strengths that differ by less are one, where two elements are to stand for one another. */
const ALIKE = 2e-3;

/** A section between the dies, ready to be pressed. */
export class PressSolver {
  private readonly section: MeshedSection;
  private readonly steel: Steel;
  private readonly rim: Int32Array;
  private readonly dies: DiePair;
  private readonly contact: Contact;
  private readonly options: PressOptions;
  readonly equilibrium: Equilibrium;
  /** Where the nodes lie when the dies come to rest on the section, and how far apart these then are. mm */
  private readonly laid: { readonly x: Float64Array; readonly y: Float64Array; readonly from: number };
  worstResidual = 0;

  constructor(section: MeshedSection, options: PressOptions) {
    const { mesh, startX, startY, density } = section;
    [this.section, this.options] = [section, options];
    this.rim = mesh.rim;
    this.dies = options.dies ?? FLAT_PAIR;
    this.laid = laidBetween(mesh, this.dies);
    const faces = [...facesOf(this.dies), ...(options.faces ?? [])];
    this.contact = new Contact(mesh.rim, mesh.x.length, faces);
    const own = options.strength && strengthOver(mesh.quads, startX, startY, options.strength);
    const heat = options.harder && strengthOver(mesh.quads, mesh.x, mesh.y, options.harder);
    const strength = own && heat ? own.map((v, i) => v * heat[i]) : (own ?? heat);
    const like = (of: Float64Array | undefined, a: number, b: number, each: number): boolean =>
      !of || Math.abs(meanOf(of, a, each) - meanOf(of, b, each)) < ALIKE;
    const symmetry = symmetryOf({ ...mesh, ...this.laid }, this.mirrors(), (a, b) =>
      [like(strength, a, b, 4), like(density, a, b, 1)].every(Boolean),
    );
    evened(symmetry, this.laid);
    this.steel = new Steel(mesh, startX, startY, options.exponent, symmetry, strength);
    if (density) this.steel.settle(density);
    this.equilibrium = new Equilibrium(this.steel, this.contact, mesh.rim, options);
  }

  /** Which parts of the section stand for one another. */
  get symmetry(): Symmetry {
    return this.steel.symmetry;
  }

  /** What the dies leave as it is: all of them stand straight; left and right may be unlike only where the bar may topple. */
  private mirrors(): Mirror[] {
    const { options, dies } = this;
    if (options.faces) return [];
    const even = JSON.stringify(dies.upper) === JSON.stringify(dies.lower);
    if (!options.held) return even ? ['halfTurn'] : [];
    return even ? ['leftRight', 'upDown', 'halfTurn'] : ['leftRight'];
  }

  /** Presses down to a height between the middles of the dies. */
  press(toMm: number): PressOutcome {
    const { section, options, rim, steel, dies, contact, equilibrium } = this;
    const { nodes, symmetry } = steel;
    const x = Float64Array.from(this.laid.x);
    const y = Float64Array.from(this.laid.y);
    const { from } = this.laid;
    const [left, right] = spanOf(rim, x);
    let height = from;
    let lengthening = section.lengthening;
    let theory = section.areaMm2 ?? meshArea({ ...section.mesh, x, y });
    const v = new Float64Array(2 * nodes);
    for (let i = 0; i < nodes; i++) [v[2 * i], v[2 * i + 1]] = [x[i] / from, -y[i] / from];
    contact.clear();
    const before = elementAreas(this.steel.quads, x, y);
    const density = section.density && Float64Array.from(section.density);
    const strain = Float64Array.from(section.strain ?? new Float64Array(steel.elements));
    const pushes = Float64Array.from(section.pushes ?? new Float64Array(WAYS * steel.elements));
    // Mass is kept: an element is as much denser as it has become smaller.
    const denser = (px: Float64Array, py: Float64Array, longer: number): void => {
      if (!density) return;
      elementAreas(this.steel.quads, px, py).forEach(
        (a, e) => (density[e] = (section.density![e] * before[e]) / (a * longer)),
      );
      steel.settle(density);
    };
    // Solid steel keeps its area to what the lengthening leaves: what an element strays is made good over the next whole step.
    // In a can its density tells how far that is; powder that has become solid is no longer pressed together, nor given back room.
    const scale = section.areaMm2 ? section.areaMm2 / meshArea({ ...section.mesh, x, y }) : 1;
    const strayed = (dh: number): Float64Array => {
      const span = Math.max(dh, options.stepShare * height);
      if (density)
        return density.map((rho, e) => {
          const over = Math.log(rho) / span;
          return section.density![e] >= SOLID ? over : Math.max(0, over);
        });
      return elementAreas(steel.quads, x, y).map(
        (a, e) => Math.log((scale * before[e] * section.lengthening) / lengthening / a) / span,
      );
    };
    let steps = 0;
    let force = 0;
    const here = (): MeshedSection => ({
      ...section,
      mesh: { ...section.mesh, x, y },
      lengthening,
      areaMm2: section.areaMm2 && theory,
      density,
      strain,
      pushes,
    });
    const solid = density === undefined;
    const fills = (at: number): number => (solid ? theory / roomBetween(dies, at) : 0);
    const fail = (why: (PressOutcome & { ok: false })['why']): PressOutcome => ({
      ok: false,
      why: FAILURES.has(why) && fills(height) > NEARLY_FULL ? 'filled' : why,
      section: here(),
      report: {
        steps,
        iterations: equilibrium.factorings,
        flops: equilibrium.factorings * steel.assembly.system.flops,
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
      if (by !== 'free' && fills(height - dh) * Math.exp(-axialOf(x, y, height, height - dh) * dh) > FULL)
        return fail('filled');
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
        steel.astray.fill(0);
        contact.takeOn(x, y, half, 0);
        axial.rate = by === 'free' ? 0.5 / height : axialOf(x, y, height, half);
        if (!this.touching(x, y, x, y, v, dh / 2, half, axial, height, 1e3 * CONVERGED, true)) {
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
      steel.astray.set(strayed(dh));
      if (ok) denser(mx, my, (lengthening / section.lengthening) * Math.exp((axial.rate * dh) / 2));
      const forces = ok ? this.touching(mx, my, x, y, v, dh, end, axial, half, CONVERGED, false) : null;
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
      const went = meshArea({ ...section.mesh, x: nx, y: ny }) / meshArea({ ...section.mesh, x, y });
      if (solid && share > LEAST_TO_STRAY && Math.abs(Math.log(went) + axial.rate * dh) > MOST_STRAYED) {
        again();
        continue;
      }
      this.worstResidual = Math.max(this.worstResidual, equilibrium.residual);
      contact.ontoDies(nx, ny, end);
      share = Math.min(1, share * 1.6);
      const e = axial.rate;
      x.set(nx);
      y.set(ny);
      evened(symmetry, { x, y });
      height = end;
      lengthening *= Math.exp(e * dh);
      denser(x, y, lengthening / section.lengthening);
      theory *= Math.exp(-e * dh);
      for (let k = 0; k < steel.elements; k++) strain[k] += steel.rate[k] * dh;
      keepPushes(steel, { x: section.startX, y: section.startY }, { x: mx, y: my }, v, e, pushes);
      steps++;
      force = sumOver(contact.onUpper(), (node) => Math.abs(forces[2 * node + 1]));
      options.progress?.((from - height) / (from - toMm));
      if (solid && Math.abs(meshArea(here().mesh) / theory - 1) > FILLED) return fail('filled');
      const shape = worstShape(here().mesh);
      if (shape <= 0) return fail('folded');
      if (options.leastShape && height > toMm + 1e-9 && shape < options.leastShape) return fail('thin');
    }
    const lengths = this.contact.lengths(x, y);
    const [leftmost, rightmost] = spanOf(rim, x);
    const done = here();
    return {
      ok: true,
      section: done,
      report: {
        steps,
        iterations: equilibrium.factorings,
        worstResidual: this.worstResidual,
        worstElement: worstShape(done.mesh),
        flops: equilibrium.factorings * steel.assembly.system.flops,
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
    rough: boolean,
  ): Float64Array | null {
    const { contact, options, equilibrium } = this;
    const released = new Uint8Array(x.length);
    const held = () => contact.heldBy(fromX, fromY, v, time, endHeight, options.friction === 'sticking');
    const otherwise = (forces: Float64Array): boolean => {
      const ends = (of: Float64Array, k: 0 | 1) => of.map((p, i) => p + v[2 * i + k] * time);
      const [ex, ey] = [ends(fromX, 0), ends(fromY, 1)];
      const less = contact.letGo(ex, ey, forces, endHeight, released);
      const more = contact.takeOn(ex, ey, endHeight, -TOUCHING, released);
      return less || more;
    };
    const moment = { x, y, height, close, rough };
    for (let round = 0; round < MOST_CONTACT_ROUNDS; round++) {
      let changed = false;
      const forces = equilibrium.find({ ...moment, pause: (f) => (changed = otherwise(f)) }, v, held, axial);
      if (!forces) return null;
      if (!changed && !otherwise(forces)) return forces;
    }
    return equilibrium.find(moment, v, held, axial);
  }
}
