import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wholePercents } from './percent.ts';

describe('whole percents', () => {
  it('add up to 100 and are never off by one or more', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 1e-6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 9 }),
        (shares) => {
          const whole = shares.reduce((a, b) => a + b, 0);
          const percents = wholePercents(shares);
          expect(percents.reduce((a, b) => a + b, 0)).toBe(100);
          percents.forEach((n, i) => expect(Math.abs(n - (100 * shares[i]) / whole)).toBeLessThan(1));
        },
      ),
    );
  });

  it('69.5 and 30.5 are not 70 and 31', () => {
    expect(wholePercents([69.5, 30.5])).toEqual([70, 30]);
    expect(wholePercents([])).toEqual([]);
    expect(wholePercents([0, 0])).toEqual([0, 0]);
  });
});
