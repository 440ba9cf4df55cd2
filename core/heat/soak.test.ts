import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cooledTo, coolingRate, coolingSeconds } from './cooling.ts';
import { carbonDiffusivity, carbonReachMm } from './diffusion.ts';
import {
  HOT_STEEL,
  cylinderTerms,
  heatingOf,
  seriesAt,
  slabTerms,
  soakSeconds,
  sphereTerms,
} from './soak.ts';

describe('roots and constants at Bi = 1', () => {
  // Values from memory of Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, table 5.1.
  it.each([
    ['slab', slabTerms, 0.8603, 1.1191],
    ['cylinder', cylinderTerms, 1.2558, 1.2071],
    ['sphere', sphereTerms, 1.5708, 1.2732],
  ] as const)('%s', (_name, terms, zeta, c) => {
    const first = terms(1);
    expect(first.zeta[0]).toBeCloseTo(zeta, 4);
    expect(first.centre[0]).toBeCloseTo(c, 4);
  });

  it.each([
    ['slab', slabTerms],
    ['cylinder', cylinderTerms],
    ['sphere', sphereTerms],
  ] as const)('%s starts at the first temperature all through', (_name, terms) => {
    expect(seriesAt(terms(0.5), 'centre', 0.003)).toBeCloseTo(1, 3);
  });
});

/** The same bar by explicit finite differences over a quarter of the section: a second method, independent of the series. */
function byDifferences(sideMm: number, fromC: number, fireC: number, h: number, seconds: number) {
  const n = 20;
  const dx = sideMm / 2000 / n;
  const { kWmK, heatJm3K } = HOT_STEEL;
  const dt = (0.2 * dx * dx * heatJm3K) / kWmK;
  let now = new Float64Array((n + 1) * (n + 1)).fill(fromC);
  const steps = Math.round(seconds / dt);
  // Cells of half width stand at the planes of symmetry and at the surface, so that heat is kept exactly.
  const size = (i: number) => (i === 0 || i === n ? 0.5 : 1);
  for (let s = 0; s < steps; s++) {
    const next = new Float64Array(now.length);
    for (let j = 0; j <= n; j++)
      for (let i = 0; i <= n; i++) {
        const at = j * (n + 1) + i;
        let gain = 0;
        const from = (other: number, face: number) => (gain += kWmK * face * (now[other] - now[at]));
        if (i > 0) from(at - 1, size(j));
        if (i < n) from(at + 1, size(j));
        if (j > 0) from(at - n - 1, size(i));
        if (j < n) from(at + n + 1, size(i));
        if (i === n) gain += h * dx * size(j) * (fireC - now[at]);
        if (j === n) gain += h * dx * size(i) * (fireC - now[at]);
        next[at] = now[at] + (dt * gain) / (heatJm3K * dx * dx * size(i) * size(j));
      }
    now = next;
  }
  return { centreC: now[0], edgeC: now[now.length - 1] };
}

describe('a bar in the forge', () => {
  const bar = { widthMm: 50, heightMm: 50, fromC: 20, fireC: 1200, surfaceWm2K: 300 };

  it.each([60, 300, 900])('series and finite differences agree after %i s', (seconds) => {
    const series = heatingOf(bar);
    const differences = byDifferences(50, 20, 1200, 300, seconds);
    expect(Math.abs(series.centreC(seconds) - differences.centreC)).toBeLessThan(2);
    expect(Math.abs(series.edgeC(seconds) - differences.edgeC)).toBeLessThan(2);
  });

  it('a badly conducting bar twice as wide waits nearly four times as long', () => {
    const conduction = { ...HOT_STEEL, kWmK: 2.8 };
    const wait = (mm: number) => soakSeconds({ ...bar, widthMm: mm, heightMm: mm, conduction }, 20);
    const ratio = wait(150) / wait(75);
    expect(ratio).toBeGreaterThan(3.3);
    expect(ratio).toBeLessThan(4);
  });

  it('the time answered is the time at which the middle is there', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 8, max: 120, noNaN: true }),
        fc.double({ min: 5, max: 80, noNaN: true }),
        (mm, k) => {
          const one = { ...bar, widthMm: mm, heightMm: mm * 0.7 };
          const s = soakSeconds(one, k);
          expect(1200 - heatingOf(one).centreC(s)).toBeCloseTo(k, 6);
          expect(heatingOf(one).edgeC(s)).toBeGreaterThanOrEqual(heatingOf(one).centreC(s) - 1e-9);
        },
      ),
      { numRuns: 40 },
    ));

  it('a round one is hot sooner than a square one as wide, later than a square one of its section', () => {
    const round = soakSeconds({ ...bar, round: true }, 20);
    expect(round).toBeLessThan(soakSeconds(bar, 20));
    const side = 50 * Math.sqrt(Math.PI / 4);
    expect(round).toBeGreaterThan(soakSeconds({ ...bar, widthMm: side, heightMm: side }, 20) * 0.95);
    // One term of the long cylinder, Bi = 1: ζ₁ 1.2558, C₁ 1.2071 (Incropera & DeWitt, table 5.1, values from memory).
    const surfaceWm2K = HOT_STEEL.kWmK / 0.025;
    const at = heatingOf({ ...bar, surfaceWm2K, round: true });
    const fourier = (s: number) => ((HOT_STEEL.kWmK / HOT_STEEL.heatJm3K) * s) / 0.025 ** 2;
    for (const s of [60, 200])
      expect((1200 - at.centreC(s)) / 1180).toBeCloseTo(1.2071 * Math.exp(-(1.2558 ** 2) * fourier(s)), 2);
  });

  it('a short bar is hot sooner than a long one', () => {
    expect(soakSeconds({ ...bar, lengthMm: 50 }, 20)).toBeLessThan(soakSeconds(bar, 20));
  });
});

describe('from the fire to the dies', () => {
  const square = (mm: number) => ({ thicknessMm: mm / 4, heatJm3K: HOT_STEEL.heatJm3K });

  it('50 mm square falls about 3 K/s from 1180 °C, 25 mm about 6.5 (handbook, heat)', () => {
    expect(coolingRate(square(50), 1180)).toBeCloseTo(3.3, 1);
    expect(coolingRate(square(25), 1180)).toBeCloseTo(6.55, 1);
  });

  it('the closed form is the integral of the rate', () => {
    let c = 1180;
    for (let i = 0; i < 20_000; i++) c -= coolingRate(square(40), c) * 0.001;
    expect(cooledTo(square(40), 1180, 20)).toBeCloseTo(c, 2);
    expect(coolingSeconds(square(40), 1180, c)).toBeCloseTo(20, 3);
  });
});

describe('carbon between layers', () => {
  it('wanders as the handbook reckons (diffusion data from memory of Callister)', () => {
    expect(carbonDiffusivity(1150) / 8.5e-11).toBeCloseTo(1, 2);
    expect(carbonDiffusivity(1000) / 1.95e-11).toBeCloseTo(1, 2);
    expect(carbonReachMm(1150, 3600)).toBeCloseTo(0.553, 3);
  });
});
