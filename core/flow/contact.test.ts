import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rectangle } from '../geometry/outline.ts';
import { Contact } from './contact.ts';
import { type DiePair, FLAT, FLAT_PAIR, facesOf } from './dies.ts';
import { butterflyMesh } from './mesh.ts';

const V_PAIR: DiePair = {
  upper: { kind: 'V', angleDeg: 90 },
  lower: { kind: 'V', angleDeg: 90 },
  stopsMm: null,
};
const [W, H] = [20, 12];

function laid(pair: DiePair, turnDeg = 0, section = rectangle(W, H)) {
  const { x, y, rim } = butterflyMesh(section, 4, 2);
  const turn = (turnDeg * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return {
    x: x.map((px, i) => c * px - s * y[i]),
    y: y.map((py, i) => s * x[i] + c * py),
    rim: [...rim],
    contact: new Contact(rim, x.length, facesOf(pair)),
  };
}

const touching = ({ contact }: ReturnType<typeof laid>, held: Uint8Array) =>
  [...contact.frames.framed].flatMap((framed, node) => (framed && held[2 * node + 1] ? [node] : []));

describe('contact with flat dies', () => {
  it('takes on the two sides that lie on the dies and none of the others', () => {
    const on = laid(FLAT_PAIR);
    expect(on.contact.takeOn(on.x, on.y, H, 1e-9)).toBe(true);
    expect(on.contact.takeOn(on.x, on.y, H, 1e-9)).toBe(false);
    const held = on.contact.heldBy(on.x, on.y, new Float64Array(2 * on.x.length), 0.1, H, false);
    const wanted = on.rim.filter((node) => Math.abs(Math.abs(on.y[node]) - H / 2) < 1e-9);
    expect(touching(on, held)).toEqual(wanted.sort((a, b) => a - b));
    expect([...on.contact.onUpper()].every((node) => on.y[node] > 0)).toBe(true);
    on.contact.clear();
    expect([...on.contact.onUpper()]).toEqual([]);
  });

  it.each([
    ['that slide', false],
    ['that stick', true],
  ])('nodes %s are at the end of the step where the dies then are', (_name, sticking) => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 99 }),
        (time, seed) => {
          const on = laid(FLAT_PAIR);
          on.contact.takeOn(on.x, on.y, H, 1e-9);
          const v = Float64Array.from({ length: 2 * on.x.length }, (_, d) => Math.sin(seed * (d + 1)));
          const free = Float64Array.from(v);
          const endHeight = H - time;
          const held = on.contact.heldBy(on.x, on.y, v, time, endHeight, sticking);
          for (const node of on.rim) {
            if (!on.contact.frames.framed[node]) {
              expect(v[2 * node]).toBe(free[2 * node]);
              continue;
            }
            const side = Math.sign(on.y[node]);
            expect(on.y[node] + time * v[2 * node + 1]).toBeCloseTo((side * endHeight) / 2, 9);
            expect(held[2 * node + 1]).toBe(1);
            expect(held[2 * node]).toBe(sticking ? 1 : 0);
            expect(v[2 * node]).toBeCloseTo(sticking ? 0 : free[2 * node], 9);
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  it('directions by node and back are the same again', () => {
    const on = laid(V_PAIR, 45);
    on.contact.takeOn(on.x, on.y, (W + H) / Math.SQRT2, 1e-6);
    on.contact.heldBy(on.x, on.y, new Float64Array(2 * on.x.length), 0.1, 20, false);
    const v = Float64Array.from({ length: 2 * on.x.length }, (_, d) => Math.cos(3 * d));
    const there = Float64Array.from(v);
    on.contact.byFrames(there, false);
    expect(there.some((x, d) => Math.abs(x - v[d]) > 0.1)).toBe(true);
    on.contact.byFrames(there, true);
    there.forEach((x, d) => expect(x).toBeCloseTo(v[d], 12));
  });

  it('what is pulled is let go, what is pushed stays; what is kept can be gone back to', () => {
    const on = laid(FLAT_PAIR);
    on.contact.takeOn(on.x, on.y, H, 1e-9);
    const back = on.contact.kept();
    const upper = [...on.contact.onUpper()];
    // The steel’s own pull, as the gradient has it: a pushing upper die answers with a force downward.
    const forces = new Float64Array(2 * on.x.length);
    for (const node of on.rim)
      if (Math.abs(on.y[node]) > H / 2 - 1e-9) forces[2 * node + 1] = -Math.sign(on.y[node]);
    const released = new Uint8Array(on.x.length);
    expect(on.contact.letGo(on.x, on.y, forces, H, released)).toBe(false);
    const pulled = upper[2];
    forces[2 * pulled + 1] *= -1;
    expect(on.contact.letGo(on.x, on.y, forces, H, released)).toBe(true);
    expect([...on.contact.onUpper()]).toEqual(upper.filter((node) => node !== pulled));
    expect(released[pulled]).toBe(1);
    back();
    expect([...on.contact.onUpper()]).toEqual(upper);
  });

  it('what each node stands for adds up to what lies on the dies', () => {
    const on = laid(FLAT_PAIR);
    on.contact.takeOn(on.x, on.y, H, 1e-9);
    const all = on.contact.lengths(on.x, on.y).reduce((a, b) => a + b, 0);
    expect(all).toBeCloseTo(2 * W, 9);
  });
});

describe('contact with other dies', () => {
  it('a node in the bottom of a V lies on both its faces and goes straight with the die', () => {
    const on = laid(V_PAIR, 45, rectangle(W, W));
    const height = Math.max(...on.y) - Math.min(...on.y);
    // A square corner fits a V of 90° along both sides.
    on.contact.takeOn(on.x, on.y, height, 1e-6);
    const top = on.rim.reduce((best, node) => (on.y[node] > on.y[best] ? node : best));
    const v = new Float64Array(2 * on.x.length);
    const time = 0.2;
    const held = on.contact.heldBy(on.x, on.y, v, time, height - time, false);
    expect([held[2 * top], held[2 * top + 1]]).toEqual([1, 1]);
    expect(v[2 * top + 1]).toBeCloseTo(-0.5, 6);
  });

  it('side stops hold what comes to them and let it slide up and down', () => {
    const on = laid({ upper: FLAT, lower: FLAT, stopsMm: W });
    on.contact.takeOn(on.x, on.y, H + 5, 1e-9);
    const v = new Float64Array(2 * on.x.length).fill(1);
    const held = on.contact.heldBy(on.x, on.y, v, 0.1, H + 5, false);
    const sides = on.rim.filter((node) => Math.abs(Math.abs(on.x[node]) - W / 2) < 1e-9);
    expect(touching(on, held)).toEqual(sides.sort((a, b) => a - b));
    for (const node of sides) {
      expect(v[2 * node]).toBeCloseTo(0, 9);
      expect(v[2 * node + 1]).toBeCloseTo(1, 9);
    }
  });

  it.each([
    [
      'fullers',
      { upper: { kind: 'round', radiusMm: 8 }, lower: { kind: 'round', radiusMm: 8 }, stopsMm: null },
    ],
    ['a wedge', { upper: { kind: 'wedge', angleDeg: 60, tipMm: 3 }, lower: FLAT, stopsMm: null }],
  ] as [string, DiePair][])('what lies past %s is brought exactly onto it', (_name, pair) => {
    const on = laid(pair);
    const height = H - 1.5;
    on.contact.takeOn(on.x, on.y, height, 0);
    on.contact.ontoDies(on.x, on.y, height);
    const upper = [...on.contact.onUpper()];
    expect(upper.length).toBeGreaterThan(0);
    const faces = facesOf(pair);
    for (const node of upper) {
      const gaps = faces
        .filter((f) => f.of === 'upper')
        .map((f) => f.clear(on.x[node], on.y[node], height).gap);
      expect(Math.abs(Math.min(...gaps))).toBeLessThan(1e-9);
    }
  });
});
