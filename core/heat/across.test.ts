import { describe, expect, it } from 'vitest';
import { type Outline, rectangle, regularPolygon } from '../geometry/outline.ts';
import { heatAcross } from './across.ts';
import { radiationWm2K } from './cooling.ts';
import { heatingOf } from './soak.ts';

const square = rectangle(40, 40);

describe('heat across a section a while after the fire', () => {
  it('is a bar’s heating turned round: middle and edge as the series of Incropera and DeWitt have them', () => {
    for (const seconds of [2, 8, 30]) {
      const at = heatAcross(square, 1200, seconds);
      const cooling = heatingOf({
        widthMm: 40,
        heightMm: 40,
        fromC: 1200,
        fireC: 20,
        surfaceWm2K: radiationWm2K(1200),
      });
      expect(at(0, 0)).toBeCloseTo(cooling.centreC(seconds), 1);
      expect(at(20, 20)).toBeCloseTo(cooling.edgeC(seconds), 1);
    }
  });

  it('of a round goes by the cylinder', () => {
    const at = heatAcross(regularPolygon(64, Math.PI * 400), 1200, 10);
    const cooling = heatingOf({
      round: true,
      widthMm: 40,
      heightMm: 40,
      fromC: 1200,
      fireC: 20,
      surfaceWm2K: radiationWm2K(1200),
    });
    expect(at(0, 0)).toBeCloseTo(cooling.centreC(10), 0);
    expect(at(0, 20)).toBeCloseTo(cooling.edgeC(10), 0);
    expect(at(12, 9)).toBeCloseTo(at(-9, 12), 6);
  });

  it('goes with the section: on its corner a square has cold corners there', () => {
    const [straight, tipped] = [
      square,
      square.map(([x, y]): [number, number] => [(x - y) * Math.SQRT1_2, (x + y) * Math.SQRT1_2]),
    ].map((of: Outline) => heatAcross(of, 1200, 6));
    expect(tipped(0, 20 * Math.SQRT2)).toBeCloseTo(straight(20, 20), 6);
    expect(tipped(Math.SQRT2 * 10, Math.SQRT2 * 10)).toBeCloseTo(straight(20, 0), 6);
    expect(straight(20, 20)).toBeLessThan(straight(20, 0));
    expect(straight(20, 0)).toBeLessThan(straight(0, 0));
  });

  it('loses in its first seconds what a black-body of emissivity 0.8 sends out (Stefan and Boltzmann)', () => {
    const seconds = 3;
    const at = heatAcross(square, 1180, seconds);
    const n = 60;
    let sum = 0;
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) sum += at(((i + 0.5) / n - 0.5) * 40, ((j + 0.5) / n - 0.5) * 40);
    // Over 4 sides of 40 mm, in 1600 mm² of 4.94 MJ/m³K; the skin's own cooling slows it by a few per cent.
    const lost = (radiationWm2K(1180) * 1160 * 4 * 0.04 * seconds) / (0.0016 * 7600 * 650);
    expect((1180 - sum / n ** 2) / lost).toBeGreaterThan(0.93);
    expect((1180 - sum / n ** 2) / lost).toBeLessThan(1.001);
  });

  it('straight from the fire it is of one heat', () => {
    expect(heatAcross(square, 1200, 0)(20, 20)).toBe(1200);
  });
});
