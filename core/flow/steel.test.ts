import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rectangle } from '../geometry/outline.ts';
import { butterflyMesh, meshArea } from './mesh.ts';
import { type Frames, SOLID, Steel, porous } from './steel.ts';
import { strengthOver } from './strength.ts';
import { symmetryOf } from './symmetry.ts';

/** Of the rates met with here: far below what changes a potential's sixth digit. */
const FLOOR = 1e-4;

const mesh = butterflyMesh(rectangle(20, 14), 4, 2);
const nodes = mesh.x.length;

const none = symmetryOf(mesh, [], () => true);

function steel(exponent: number, density?: number, strength?: Float64Array): Steel {
  const made = new Steel(mesh, mesh.x, mesh.y, exponent, none, strength);
  expect(made.shape(mesh.x, mesh.y)).toBe(true);
  if (density !== undefined) made.settle(new Float64Array(made.elements).fill(density));
  return made;
}

/** Velocities that stretch by `e` across and `−e·share` upward, with something irregular over them. */
const velocities = (e: number, share: number, roughness = 0): Float64Array =>
  Float64Array.from({ length: 2 * nodes }, (_, d) => {
    const node = d >> 1;
    const even = d % 2 === 0 ? e * mesh.x[node] : -e * share * mesh.y[node];
    return even + roughness * Math.sin(7 * d + 1);
  });

const straight = (): Frames => ({
  framed: new Uint8Array(nodes),
  tx: new Float64Array(nodes).fill(1),
  ty: new Float64Array(nodes),
});

/** The second derivative by two unknowns as the system has it; 0 where no element holds both. */
function second(s: Steel, i: number, j: number): number {
  const apart = (s: Steel): boolean => {
    for (let e = 0; e < s.quads.length; e += 4) {
      const all = [...s.quads.subarray(e, e + 4)];
      if (all.includes(i >> 1) && all.includes(j >> 1)) return false;
    }
    return true;
  };
  return apart(s) ? 0 : s.assembly.system.values[s.assembly.system.slot(i, j)];
}

describe('the rate potential', () => {
  it.each([0.15, 0.4, 1])(
    'of an even plane flow is the power of Norton and Hoff’s law over m + 1, m = %d',
    (m) => {
      // D = diag(d, −d, 0): ε̇ = 2d/√3, η = K(√3 ε̇)^(m−1), power 2η D:D = 4ηd² over the area, K = 1.
      const d = 0.7;
      const power = 4 * (Math.sqrt(3) * ((2 * d) / Math.sqrt(3))) ** (m - 1) * d * d * meshArea(mesh);
      expect(steel(m).potential(velocities(d, 1), 0, FLOOR, null, null) * (m + 1)).toBeCloseTo(power, 4);
    },
  );

  it('free of shear along the bar is that of uniaxial pressing', () => {
    // D = diag(d/2, −d, d/2): ε̇ = d, D:D = 1.5 d².
    const [d, m] = [0.4, 0.2];
    const power = 2 * (Math.sqrt(3) * d) ** (m - 1) * 1.5 * d * d * meshArea(mesh);
    const v = velocities(d / 2, 2);
    expect(steel(m).potential(v, d / 2, FLOOR, null, null) * (m + 1)).toBeCloseTo(power, 4);
  });

  it('grows with the rates by their power m + 1', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        (m, faster) => {
          const s = steel(m);
          const v = velocities(0.3, 1, 0.02);
          const once = s.potential(v, 0.01, FLOOR, null, null);
          const more = s.potential(
            v.map((x) => faster * x),
            faster * 0.01,
            faster * FLOOR,
            null,
            null,
          );
          expect(more / once).toBeCloseTo(faster ** (m + 1), 6);
        },
      ),
      { numRuns: 20 },
    );
  });

  it('turned with the whole bar asks for no power but the floor’s', () => {
    const spin = Float64Array.from({ length: 2 * nodes }, (_, d) =>
      d % 2 === 0 ? -mesh.y[d >> 1] : mesh.x[d >> 1],
    );
    const s = steel(0.3);
    expect(s.potential(spin, 0, FLOOR, null, null)).toBeCloseTo(
      s.potential(new Float64Array(2 * nodes), 0, FLOOR, null, null),
      9,
    );
  });

  it('twice as strong on one half costs that half twice as much', () => {
    const strong = strengthOver(mesh.quads, mesh.x, mesh.y, (x) => (x > 0 ? 2 : 1));
    const [even, uneven] = [steel(0.3), steel(0.3, undefined, strong)];
    const v = velocities(0.5, 1);
    const ratio = uneven.potential(v, 0, FLOOR, null, null) / even.potential(v, 0, FLOOR, null, null);
    expect(ratio).toBeCloseTo(1.5, 6);
  });

  it('a folded element is told', () => {
    const s = new Steel(mesh, mesh.x, mesh.y, 0.3, none);
    expect(s.shape(mesh.x, mesh.y)).toBe(true);
    const folded = Float64Array.from(mesh.x);
    folded[12] = 30;
    expect(s.shape(folded, mesh.y)).toBe(false);
  });
});

describe.each([
  ['solid steel', undefined],
  ['powder of 0.7', 0.7],
  ['powder of 0.95', 0.95],
])('derivatives for %s', (_name, density) => {
  const m = 0.3;
  const v = velocities(0.4, density === undefined ? 1 : 0.4, 0.05);
  const axial = 0.03;
  const STEP = 1e-6;
  const without = (i: number, step: number) => v.map((x, d) => (d === i ? x + step : x));

  it('the gradient is what the potential changes by, also with the rate along the bar', () => {
    const s = steel(m, density);
    const gradient = new Float64Array(2 * nodes);
    s.potential(v, axial, FLOOR, gradient, null);
    const { force } = s.along;
    const at = (w: Float64Array, a: number) => s.potential(w, a, FLOOR, null, null);
    const scale = Math.max(...gradient.map(Math.abs), Math.abs(force));
    for (let d = 0; d < 2 * nodes; d += 5) {
      const slope = (at(without(d, STEP), axial) - at(without(d, -STEP), axial)) / (2 * STEP);
      expect(Math.abs(slope - gradient[d]) / scale).toBeLessThan(1e-6);
    }
    const slope = (at(v, axial + STEP) - at(v, axial - STEP)) / (2 * STEP);
    expect(Math.abs(slope - force) / scale).toBeLessThan(1e-6);
  });

  it('the second derivatives are what the gradient changes by, and so is what couples it to the bar', () => {
    const s = steel(m, density);
    const gradient = new Float64Array(2 * nodes);
    s.potential(v, axial, FLOOR, gradient, straight());
    const seconds = new Map<string, number>();
    const asked = [0, 13, 26, 2 * nodes - 4, 2 * nodes - 1];
    for (const i of asked)
      for (let j = 0; j < 2 * nodes; j++) seconds.set(`${i} ${j}`, second(s, Math.min(i, j), Math.max(i, j)));
    const coupling = Float64Array.from(s.along.coupling);
    const { stiffness } = s.along;
    const scale = Math.max(...[...seconds.values()].map(Math.abs));
    const gradientAt = (w: Float64Array, a: number) => {
      const g = new Float64Array(2 * nodes);
      s.potential(w, a, FLOOR, g, null);
      return { g, force: s.along.force };
    };
    for (const i of asked) {
      const [up, down] = [gradientAt(without(i, STEP), axial), gradientAt(without(i, -STEP), axial)];
      for (let j = 0; j < 2 * nodes; j++) {
        const change = (up.g[j] - down.g[j]) / (2 * STEP);
        expect(Math.abs(change - seconds.get(`${i} ${j}`)!) / scale).toBeLessThan(1e-5);
      }
      expect(Math.abs((up.force - down.force) / (2 * STEP) - coupling[i]) / scale).toBeLessThan(1e-5);
    }
    const [up, down] = [gradientAt(v, axial + STEP), gradientAt(v, axial - STEP)];
    expect(Math.abs((up.force - down.force) / (2 * STEP) / stiffness - 1)).toBeLessThan(1e-5);
  });

  it('by a node’s own directions they are those by x and y, turned', () => {
    const s = steel(m, density);
    const node = mesh.rim[3];
    const gradient = new Float64Array(2 * nodes);
    s.potential(v, axial, FLOOR, gradient, straight());
    const pick = () =>
      [0, 1].map((a) => [0, 1].map((b) => second(s, 2 * node + Math.min(a, b), 2 * node + Math.max(a, b))));
    const plain = pick();
    const turned = straight();
    const [c, sine] = [Math.cos(0.6), Math.sin(0.6)];
    turned.framed[node] = 1;
    [turned.tx[node], turned.ty[node]] = [c, sine];
    s.potential(v, axial, FLOOR, gradient, turned);
    const own = pick();
    const along = c * c * plain[0][0] + 2 * c * sine * plain[0][1] + sine * sine * plain[1][1];
    expect(own[0][0] / along).toBeCloseTo(1, 9);
    expect(own[0][0] + own[1][1]).toBeCloseTo(plain[0][0] + plain[1][1], 3);
    // What is held is out of the system: ones on the diagonal, nothing beside them.
    const held = new Uint8Array(2 * nodes);
    held[2 * node] = 1;
    s.assembly.hold(held);
    expect(second(s, 2 * node, 2 * node)).toBe(1);
    expect(second(s, 2 * node, 2 * node + 1)).toBe(0);
    expect(second(s, 2 * node + 1, 2 * node + 1)).toBe(own[1][1]);
  });
});

describe('powder', () => {
  it('stands the less against being pressed together the looser it lies, and is nearly solid where it is called so', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.4, max: 0.99, noNaN: true }),
        fc.double({ min: 0.001, max: 0.3, noNaN: true }),
        (density, more) => {
          const [loose, dense] = [porous(density), porous(Math.min(0.994, density + more))];
          expect(dense.f2).toBeGreaterThan(loose.f2);
          expect(dense.strong).toBeGreaterThanOrEqual(loose.strong);
        },
      ),
    );
    expect(porous(1).strong).toBe(1);
    expect(SOLID).toBeGreaterThan(0.99);
  });

  it('gives way in volume at a cost that solid steel would not let pass', () => {
    const closing = velocities(-0.2, -1);
    const [loose, dense, solid] = [steel(0.3, 0.6), steel(0.3, 0.95), steel(0.3)].map((s) =>
      s.potential(closing, 0, FLOOR, null, null),
    );
    expect(loose).toBeLessThan(dense);
    expect(dense).toBeLessThan(solid / 100);
  });
});
