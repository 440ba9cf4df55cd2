import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { coolingSeconds } from '../heat/cooling.ts';
import { HOT_STEEL } from '../heat/soak.ts';
import { rectangle } from '../geometry/outline.ts';
import { evaluate } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { READY, planOf } from '../tests/plans.ts';
import { heatAfter, soakOf } from './fire.ts';

const shop = makeShop();
const [bar] = evaluate(planOf([...READY.press])).lanes[0].steps.at(-1)!.after!;
const sized = (widthMm: number, heightMm: number, lengthMm = 1000): Billet => ({
  ...bar,
  outline: rectangle(widthMm, heightMm),
  lengthMm,
});

describe('what a bar falls to out of the fire', () => {
  it('a 50 mm square some 3 K in the first second from 1180 °C, a 25 mm one some 6.5 (handbook, heat)', () => {
    expect(1180 - heatAfter(sized(50, 50), 1180, 1)).toBeGreaterThan(2.7);
    expect(1180 - heatAfter(sized(50, 50), 1180, 1)).toBeLessThan(3.5);
    expect(1180 - heatAfter(sized(25, 25), 1180, 1)).toBeGreaterThan(5.7);
    expect(1180 - heatAfter(sized(25, 25), 1180, 1)).toBeLessThan(7);
  });

  it('is where the time in hand ends', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 80 }),
        fc.integer({ min: 8, max: 80 }),
        fc.integer({ min: 700, max: 1150 }),
        (w, h, toC) => {
          const of = sized(w, h);
          const thicknessMm = (w * h) / (2 * (w + h));
          const seconds = coolingSeconds({ thicknessMm, heatJm3K: HOT_STEEL.heatJm3K }, 1200, toC);
          expect(heatAfter(of, 1200, seconds)).toBeCloseTo(toC, 6);
        },
      ),
    );
  });

  it('falls on and on, never below the cold of space, and by nothing in no time', () => {
    const of = sized(20, 20);
    expect(heatAfter(of, 1200, 0)).toBeCloseTo(1200, 9);
    const falls = [1, 5, 20, 100, 1e4, 1e7].map((s) => heatAfter(of, 1200, s));
    falls.slice(1).forEach((c, i) => expect(c).toBeLessThan(falls[i]));
    expect(falls.at(-1)!).toBeGreaterThan(-273.15);
  });

  it('the flatter a bar of one section area, the faster', () => {
    const after = (w: number) => heatAfter(sized(w, 900 / w), 1200, 10);
    for (const w of [30, 40, 60, 90]) expect(after(w + 10)).toBeLessThan(after(w));
  });
});

describe('how long a bar soaks', () => {
  it('longer the thicker it is, the hotter the fire must bring it; a short one less', () => {
    expect(soakOf(sized(40, 40), 1200, shop)).toBeGreaterThan(1.5 * soakOf(sized(20, 20), 1200, shop));
    expect(soakOf(sized(40, 40, 45), 1200, shop)).toBeLessThan(soakOf(sized(40, 40), 1200, shop));
    const eager = makeShop({ forge: { ...shop.forge, surfaceWm2K: 2 * shop.forge.surfaceWm2K } });
    expect(soakOf(sized(40, 40), 1200, eager)).toBeLessThan(soakOf(sized(40, 40), 1200, shop));
    const careful = makeShop({ forge: { ...shop.forge, withinK: shop.forge.withinK / 4 } });
    expect(soakOf(sized(40, 40), 1200, careful)).toBeGreaterThan(soakOf(sized(40, 40), 1200, shop));
  });

  it('a can of loose powder longer than when it is solid, though it is larger and lighter then', () => {
    const [loose] = evaluate(planOf([...READY.consolidate])).lanes[0].steps.at(-1)!.after!;
    const { widthMm, heightMm } = sizeOf(loose);
    const solid = { ...sized(widthMm, heightMm, loose.lengthMm) };
    expect(soakOf(loose, 1150, shop)).toBeGreaterThan(soakOf(solid, 1150, shop));
  });

  it('is the same answer when asked again', () => {
    const of = sized(33, 33);
    expect(soakOf(of, 1190, shop)).toBe(soakOf(of, 1190, shop));
  });
});
