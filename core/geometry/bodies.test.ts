import { describe, expect, it } from 'vitest';
import { type Body, bodyGauge, bodyVolume, leastPitch, signedDistance, wireLength } from './bodies.ts';
import { type Outline, boundingBox, rectangle } from './outline.ts';

const spring = (wireMm: number, coilMm: number, pitchMm: number, turns: number) =>
  ({ kind: 'spring', wireMm, coilMm, pitchMm, lengthMm: turns * pitchMm }) as const;
const chain = { kind: 'chain', wireMm: 5, pitchMm: 18.5, insideMm: 7, lengthMm: 10 + 5 * 18.5 } as const;

/** The volume in which the gauge is below 1, by points spread evenly over a box. */
function sampled(body: Body, low: readonly number[], high: readonly number[], n = 400_000): number {
  let inside = 0;
  const step = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703];
  for (let i = 0; i < n; i++) {
    const [x, y, z] = low.map((l, k) => l + ((0.5 + i * step[k]) % 1) * (high[k] - l));
    if (bodyGauge(body, x, y, z) < 1) inside++;
  }
  return (inside / n) * low.reduce((v, l, k) => v * (high[k] - l), 1);
}

/** A rectangle with its corners rounded, in steps of a few degrees. */
function rounded(w: number, h: number, r: number): Outline {
  const corners: [number, number, number][] = [
    [w / 2 - r, h / 2 - r, 0],
    [-w / 2 + r, h / 2 - r, 90],
    [-w / 2 + r, -h / 2 + r, 180],
    [w / 2 - r, -h / 2 + r, 270],
  ];
  return corners.flatMap(([x, y, from]) =>
    Array.from({ length: 31 }, (_, i) => {
      const at = ((from + 3 * i) * Math.PI) / 180;
      return [x + r * Math.cos(at), y + r * Math.sin(at)] as const;
    }),
  );
}

describe('wire bodies', () => {
  // Handbook, inserts: closed forms worked out by hand.
  it('have the handbook’s volumes: springs, a round-link chain', () => {
    expect(bodyVolume(spring(1.2, 8, 2.5, 10))).toBeCloseTo(285.647, 2);
    expect(bodyVolume(spring(2, 12, 5, 8))).toBeCloseTo(955.779, 2);
    // EN 818 lists a 5 × 18.5 chain with about 0.5 kg/m; the handbook works out 0.506.
    expect(bodyVolume(chain) / 5).toBeCloseTo(1191.82, 1);
    expect(((bodyVolume(chain) / 5 / 18.5) * 7850) / 1e6).toBeCloseTo(0.506, 3);
  });

  it.each([
    ['100 × 60, r 15', rounded(100, 60, 15), 13527.2],
    ['100 × 60, sharp', rectangle(100, 60), 14476.5],
    [
      'a hollow pentagon',
      [
        [0, 0],
        [90, 0],
        [90, 50],
        [60, 30],
        [0, 50],
      ] as Outline,
      12611.2,
    ],
  ])('a rod bent inside %s has the handbook’s volume, and its field the same', (_name, outline, mm3) => {
    const rod = { kind: 'bent rod', wireMm: 8, outline } as const;
    expect(Math.abs(bodyVolume(rod) / mm3 - 1)).toBeLessThan(2e-4);
    const { minX, maxX, minY, maxY } = boundingBox(outline);
    expect(Math.abs(sampled(rod, [minX, minY, -4], [maxX, maxY, 4], 100_000) / mm3 - 1)).toBeLessThan(0.015);
  });

  it.each([
    ['a spring', spring(2, 12, 5, 8), 7, 40],
    ['a close spring', spring(1.2, 8, 2.5, 10), 4.6, 25],
    ['two springs in one another', { ...spring(2, 12, 5, 8), strands: 2 }, 7, 40],
    ['three', { ...spring(1.6, 10, 6, 7), strands: 3 }, 5.8, 42],
    ['a chain', chain, 8.5, 102.5],
  ] as const)('%s fills as much as its closed form says', (_name, body, r, long) => {
    const all = sampled(body, [-r, -r, -2], [r, r, long + 2]);
    expect(Math.abs(all / bodyVolume(body) - 1)).toBeLessThan(0.01);
  });

  it('the spring’s gauge is the distance to its line, looked for everywhere', () => {
    const s = spring(2, 12, 5, 8);
    for (let i = 0; i < 300; i++) {
      const [x, y, z] = [
        14 * ((i * 0.618) % 1) - 7,
        14 * ((i * 0.7548) % 1) - 7,
        5 + 30 * ((i * 0.5698) % 1),
      ];
      let least = Infinity;
      for (let k = 0; k <= 40_000; k++) {
        const at = (k / 40_000) * 8 * 2 * Math.PI;
        const d = Math.hypot(x - 6 * Math.cos(at), y - 6 * Math.sin(at), z - (5 * at) / (2 * Math.PI));
        least = Math.min(least, d);
      }
      const gauge = bodyGauge(s, x, y, z);
      // Near the axis two turns are about as near, and one or the other may be taken: both are far outside.
      if (least < 2.5) expect(gauge, `${x} ${y} ${z}`).toBeCloseTo(least, 2);
      else expect(gauge).toBeGreaterThan(2.4);
    }
  });

  it('turns clear each other from the handbook’s least rise on: p·cos γ = d', () => {
    for (const [d, D] of [
      [2, 12],
      [1.2, 8],
      [4, 9],
    ]) {
      const p = leastPitch(d, D);
      expect((p * Math.PI * D) / Math.hypot(Math.PI * D, p)).toBeCloseTo(d, 9);
      // Two in one another stand half a rise apart.
      const two = leastPitch(d, D, 2);
      expect(((two / 2) * Math.PI * D) / Math.hypot(Math.PI * D, two)).toBeCloseTo(d, 9);
      // Through the middle of the wire one turn above the other stands just its thickness away.
      expect(bodyGauge(spring(d, D, 1.001 * p, 8), D / 2, 0, 3.5 * 1.001 * p)).toBeGreaterThan(0.95);
    }
    expect(wireLength(spring(2, 12, 5, 1))).toBeCloseTo(Math.hypot(12 * Math.PI, 5), 9);
  });

  it('distances to an outline are negative inside', () => {
    expect(signedDistance(rectangle(10, 6), 0, 1)).toBeCloseTo(-2, 9);
    expect(signedDistance(rectangle(10, 6), 8, 0)).toBeCloseTo(3, 9);
  });
});
