import { describe, expect, it } from 'vitest';
import { probit } from 'simple-statistics';
import { seeded } from '../canister/packing.ts';
import { type Prior, type Seen, estimated, halfBand } from './estimate.ts';

const PRIOR: Prior = { value: 10, sure: 2, spread: 1 };

const normals = (seed: number) => {
  const random = seeded(seed);
  return () => probit(Math.min(1 - 1e-9, Math.max(1e-9, random())));
};

describe('a number that is learned', () => {
  it('is the table’s as long as nothing was measured', () => {
    expect(estimated(PRIOR, [])).toEqual({ ...PRIOR, count: 0, wild: 0 });
  });

  it('moves as the conjugate update of a normal mean has it, where errors are known and far larger than the spread', () => {
    // μ₁ = (μ₀/τ² + Σyᵢ/σ²) / (1/τ² + n/σ²) and 1/τ₁² = 1/τ² + n/σ² (A. Gelman et al., Bayesian Data Analysis, 2.5; from memory).
    const prior = { value: 10, sure: 2, spread: 1e-4 };
    const seen = [11.2, 11.9, 12.4, 11.5].map((value) => ({ value, error: 1 }));
    const precision = 1 / 4 + 4;
    const { value, sure } = estimated(prior, seen);
    expect(value).toBeCloseTo((10 / 4 + 47) / precision, 2);
    // The spread is only guessed from few: a little less sure, as Student's t has it, and never surer.
    expect(sure).toBeGreaterThanOrEqual(1 / Math.sqrt(precision) - 1e-6);
    expect(sure).toBeLessThan(1.3 / Math.sqrt(precision));
  });

  it('is hardly moved by one wild entry among ten', () => {
    const seen: Seen[] = [11.8, 12.1, 12.3, 11.9, 12, 12.2, 11.7, 12.1, 12].map((value) => ({
      value,
      error: 0.1,
    }));
    const plain = estimated(PRIOR, seen);
    const slipped = estimated(PRIOR, [...seen, { value: 120, error: 0.1 }]);
    expect(Math.abs(slipped.value - plain.value)).toBeLessThan(plain.sure / 2);
    expect(slipped.spread).toBeLessThan(1.2 * plain.spread);
    expect(slipped.wild).toBeGreaterThan(0.95);
    expect(plain.wild).toBeLessThan(0.5);
  });

  it('is not made surer by measuring more where all measurements may be wrong alike', () => {
    const seen = Array.from({ length: 200 }, () => ({ value: 12, error: 0.1, shared: 0.4 }));
    expect(estimated(PRIOR, seen).sure).toBeGreaterThan(0.4);
  });

  it('takes “at most” for what it is: between nothing said and the value itself', () => {
    const known = [12, 12.6, 11.4, 12.2].map((value) => ({ value, error: 0.1 }));
    const atMost = Array.from({ length: 6 }, () => ({ value: 11, error: 0.1, isAtMost: true }));
    const as = (seen: readonly Seen[]) => estimated(PRIOR, seen).value;
    expect(as([...known, ...atMost])).toBeLessThan(as(known));
    // Taken for the value it would be pulled less far than by knowing that it lay below.
    expect(as([...known, ...atMost])).toBeLessThan(
      as([...known, ...atMost.map((s) => ({ ...s, isAtMost: false }))]),
    );
    // An upper bound far above says nothing.
    expect(as([...known, { value: 40, error: 0.1, isAtMost: true }])).toBeCloseTo(as(known), 1);
  });

  it('lies within two of its own spreads in nine of ten of 400 made-up shops, one entry in twenty a slip', () => {
    let [within, learned, table] = [0, 0, 0];
    for (let shop = 0; shop < 400; shop++) {
      const normal = normals(shop + 1);
      const truth = PRIOR.value + PRIOR.sure * normal();
      const seen = Array.from({ length: 24 }, (_, i): Seen => {
        const value = truth + PRIOR.spread * normal() + 0.3 * normal();
        return { value: i % 20 === 7 ? value * 1.5 : value, error: 0.3 };
      });
      const { value, sure } = estimated(PRIOR, seen);
      if (Math.abs(value - truth) <= 2 * sure) within++;
      learned += Math.abs(value - truth);
      table += Math.abs(PRIOR.value - truth);
    }
    expect(within).toBeGreaterThan(360);
    expect(learned).toBeLessThan(table / 3);
  });

  it('promises a band as wide as a new measurement differs', () => {
    // Eight of ten of a normal number lie within 1.2816 standard deviations: any table of the normal distribution.
    expect(halfBand({ value: 0, sure: 3, spread: 4 }, 0.8)).toBeCloseTo(1.2816 * 5, 1);
    expect(halfBand({ value: 0, sure: 0, spread: 0 }, 0.8, 2)).toBeCloseTo(1.2816 * 2, 2);
  });
});
