import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { REACH } from '../canister/offcuts.ts';
import { seeded } from '../canister/packing.ts';
import { type Facets, anyTurn, corners, facetsGauge, lying, measured, offcut } from './offcut.ts';

const box = (a: number, b: number, c: number): Facets => [
  [1, 0, 0, a / 2],
  [-1, 0, 0, a / 2],
  [0, 1, 0, b / 2],
  [0, -1, 0, b / 2],
  [0, 0, 1, c / 2],
  [0, 0, -1, c / 2],
];

/** Points spread evenly over a cube about the middle (Roberts). */
const spread = (n: number, half: number): number[][] =>
  Array.from({ length: n }, (_, i) =>
    [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map(
      (k) => (2 * ((0.5 + i * k) % 1) - 1) * half,
    ),
  );

describe('bodies of flat faces', () => {
  it('are measured exactly: a box, and one whose corner is cut off', () => {
    const whole = measured(box(2, 3, 4));
    expect(whole.volume).toBeCloseTo(24, 9);
    expect(whole.farthest).toBeCloseTo(Math.hypot(1, 1.5, 2), 9);
    whole.middle.forEach((at) => expect(at).toBeCloseTo(0, 9));
    // Through the middles of the three edges at a corner of a cube of 2: a tetrahedron of 1/6, its middle 0.75 out each way.
    const cut = measured([...box(2, 2, 2), [1, 1, 1, 2].map((v) => v / Math.sqrt(3)) as never]);
    expect(cut.volume).toBeCloseTo(8 - 1 / 6, 9);
    cut.middle.forEach((at) => expect(at).toBeCloseTo((-(1 / 6) * 0.75) / (8 - 1 / 6), 9));
  });

  it('as offcuts have the volume of a ball 1 across about the middle of their mass, however they lie, and their field the same', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const random = seeded(seed);
        const own = lying(offcut(random), anyTurn(random), 10);
        const { volume, middle, farthest } = measured(own);
        expect(farthest).toBeLessThan(REACH * 10);
        expect(volume).toBeCloseTo((Math.PI / 6) * 1000, 6);
        middle.forEach((at) => expect(at).toBeCloseTo(0, 6));
        for (const p of corners(own)) expect(facetsGauge(own, p[0], p[1], p[2])).toBeCloseTo(1, 6);
        const half = 1.01 * farthest;
        const n = 20_000;
        const inside = spread(n, half).filter(([x, y, z]) => facetsGauge(own, x, y, z) < 1).length;
        expect(Math.abs(((inside / n) * (2 * half) ** 3) / volume - 1)).toBeLessThan(0.04);
      }),
      { numRuns: 60 },
    );
  });
});
