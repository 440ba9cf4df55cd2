import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { planPasses, spreadCoefficient } from './spread.ts';

describe('spread under flat dies', () => {
  // Tomlinson and Stringer 1959 (value from memory of the paper), worked in handbook/mechanics.md.
  it.each([
    [0.5, 0.3065],
    [1, 0.446],
    [1.5, 0.5585],
  ])('at bite %d of the width is %d', (ratio, s) =>
    expect(spreadCoefficient(ratio * 40, 40)).toBeCloseTo(s, 6),
  );

  it('is held at the ends of the fitted range', () => {
    expect(spreadCoefficient(1, 100)).toBe(spreadCoefficient(30, 100));
    expect(spreadCoefficient(900, 100)).toBe(spreadCoefficient(190, 100));
  });
});

describe('spread as a shop finds it', () => {
  it('is so many times the relation’s, and never all of what is displaced', () => {
    expect(spreadCoefficient(20, 40, 1.2)).toBeCloseTo(1.2 * 0.3065, 6);
    expect(spreadCoefficient(60, 40, 2.5)).toBe(0.95);
  });

  it('brings a bar pressed on its height alone so much wider', () => {
    const wide = (spread: number) =>
      planPasses({ widthMm: 30, heightMm: 30 }, { widthMm: 90, heightMm: 20 }, 30, 0.4, 0, spread)
        .reachesWidthMm;
    // One pass: ln(w₁ ÷ 30) = times · S · ln(30 ÷ 20), S = 0.446 at a bite as long as the bar is wide.
    for (const times of [0.8, 1, 1.25])
      expect(Math.log(wide(times) / 30)).toBeCloseTo(times * 0.446 * Math.log(1.5), 6);
  });
});

describe('passes', () => {
  it('reach a square within a thousandth, no pass over the allowed reduction', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 0.95, noNaN: true }),
        fc.double({ min: 10, max: 80, noNaN: true }),
        (share, bite) => {
          const to = { widthMm: 60 * share, heightMm: 60 * share };
          const { passes } = planPasses({ widthMm: 60, heightMm: 60 }, to, bite, 0.15);
          const last = passes.at(-1)!;
          expect(Math.max(last.widthMm, last.heightMm)).toBeLessThanOrEqual(60 * share * 1.001 + 1e-9);
          let [w, h] = [60, 60];
          for (const p of passes) {
            const [was, is] = p.pressed === 'height' ? [h, p.heightMm] : [w, p.widthMm];
            expect(is / was).toBeGreaterThanOrEqual(0.85 - 1e-9);
            expect(p.widthMm * p.heightMm).toBeLessThan(w * h);
            [w, h] = [p.widthMm, p.heightMm];
          }
        },
      ),
    );
  });

  it('say how wide the bar comes out where spread alone does not reach the width asked for', () => {
    const plan = planPasses({ widthMm: 30, heightMm: 30 }, { widthMm: 80, heightMm: 5 }, 30, 0.15);
    expect(plan.reachesWidthMm).toBeLessThan(80);
    expect(plan.reachesWidthMm).toBeGreaterThan(40);
  });
});

it('stops lie on the shop’s divisions, but for the size that is asked for', () => {
  for (const divisionMm of [0.5, 1, 25.4 / 32]) {
    const plan = planPasses(
      { widthMm: 43.3, heightMm: 41.7 },
      { widthMm: 25.2, heightMm: 25.2 },
      30,
      0.15,
      divisionMm,
    );
    let last = { width: 43.3, height: 41.7 };
    for (const { pressed, stopMm } of plan.passes) {
      const steps = stopMm / divisionMm;
      if (Math.abs(stopMm - 25.2) > 1e-9) expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
      last = { ...last, [pressed]: stopMm };
    }
    expect(last.width).toBeCloseTo(25.2, 2);
    expect(last.height).toBeCloseTo(25.2, 2);
  }
});
