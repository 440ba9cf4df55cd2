import fc from 'fast-check';
import { expect, it } from 'vitest';
import { keptValue, readingSchema } from './reading.ts';
import { SIMULATED, readingOf } from './simulated.ts';

const AT = '2026-03-02T09:00:00Z';
const reading = (some: object) =>
  readingSchema.safeParse({
    instrument: 'Caliper',
    quantity: 'length',
    value: 25.3,
    unit: 'mm',
    at: AT,
    ...some,
  });

it('a reading is taken in any unit of its quantity, and kept in one', () => {
  const kept = (some: object) => keptValue(reading(some).data!);
  expect(kept({ unit: 'in', value: 1 })).toBe(25.4);
  expect(kept({ quantity: 'mass', unit: 'g', value: 1420 })).toBeCloseTo(1.42, 12);
  // The international pound, 0.45359237 kg exactly (1959).
  expect(kept({ quantity: 'mass', unit: 'lb', value: 1 })).toBe(0.453_592_37);
  expect(kept({ quantity: 'temperature', unit: 'F', value: 2192 })).toBeCloseTo(1200, 9);
});

it('what is no reading is refused with the field that is wrong', () => {
  const wrong = (some: object) => reading(some).error!.issues[0];
  expect(wrong({ unit: 'kg' })).toMatchObject({
    path: ['unit'],
    message: 'unit is not one of this quantity',
  });
  expect(wrong({ value: '25' }).message).toContain('value must be a number');
  expect(wrong({ at: 'now' }).message).toContain('at must be an instant');
});

it('simulated ones scatter about the truth as far as they say, on the steps of their display', () => {
  fc.assert(
    fc.property(fc.constantFrom(...SIMULATED), fc.nat(), (of, seed) => {
      let state = seed;
      // A generator of Lehmer’s kind: 16807 modulo 2³¹ − 1.
      const chance = () => (state = (16_807 * (state + 1)) % 2_147_483_647) / 2_147_483_647;
      const truth = (of.least + of.most) / 2;
      const values = Array.from({ length: 400 }, () => readingOf(of, truth, AT, chance).value);
      const mean = values.reduce((a, b) => a + b, 0) / values.length;
      const spread = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
      expect(Math.abs(mean - truth)).toBeLessThan(of.noise / 3 + of.resolution / 2);
      expect(spread).toBeLessThan(1.3 * Math.hypot(of.noise, of.resolution));
      for (const v of values)
        expect(Math.abs(v / of.resolution - Math.round(v / of.resolution))).toBeLessThan(1e-6);
    }),
    { numRuns: 30 },
  );
});
