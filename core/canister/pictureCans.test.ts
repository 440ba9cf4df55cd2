import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { volumeOf } from '../billet/billet.ts';
import { massKg, totalVolume } from '../materials/volumes.ts';
import { materialCode } from '../shop/shop.ts';
import { fillOf, roomOf } from './can.ts';
import { type Insert } from './inserts.ts';
import { allPlaced } from './layout.ts';
import { shop, can, filledSquare, rods, pressedWhole, sampledShares } from '../tests/cans.ts';

describe('powders in a picture', () => {
  const picture = filledSquare;

  it('weigh what their areas say: 20 × 20 mm of a 54 mm room', () => {
    const { powders, fullKg, powderKg } = fillOf(can({ picture }), shop.materials);
    const share = new Map(powders.map((p) => [p.powder, p]));
    expect(share.get('15n20')!.areaMm2).toBeCloseTo(400, 3);
    expect(share.get('1084')!.areaMm2).toBeCloseTo(54 * 54 - 400, 3);
    expect(share.get('15n20')!.solidMm3).toBeCloseTo(400 * 120 * 0.62, 1);
    expect(powders.reduce((s, p) => s + p.kg, 0)).toBeCloseTo(powderKg, 9);
    expect(fullKg).toBeGreaterThan(powderKg);
  });

  it('give way to inserts that stand in them', () => {
    const rod = rods({ sizeMm: 6, lay: 'placed', count: 1, places: [{ x: 5, y: -3, z: 0 }] });
    const { powders } = fillOf(can({ picture, inserts: [rod] }), shop.materials);
    expect(powders.find((p) => p.powder === '15n20')!.solidMm3).toBeCloseTo(
      (400 - Math.PI * 9) * 120 * 0.62,
      0,
    );
  });

  it('are in the steel where they were filled, in the shares they were weighed, loose and solid', () => {
    const steps = pressedWhole(can({ picture }));
    for (const { after } of steps) {
      const bar = after![0];
      const bright = sampledShares(bar).get(materialCode(shop, '15n20'))!;
      const dark = sampledShares(bar).get(materialCode(shop, '1084'))!;
      expect(bright / (bright + dark)).toBeCloseTo(400 / (54 * 54), 2);
    }
  });

  it('keep mass over random cans with pictures and inserts: full = box + powders + inserts, volumes add when solid', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 45, noNaN: true }),
        fc.double({ min: -10, max: 10, noNaN: true }),
        fc.integer({ min: 0, max: 30 }),
        fc.constantFrom('rod', 'ball', 'chain', 'saw blade'),
        fc.constantFrom('box', 'tube'),
        (widthMm, x, count, shape, made) => {
          const inserts: Insert[] =
            count > 0
              ? [{ shape, material: '52100', sizeMm: 8, thicknessMm: 2, count, lay: 'rows' } as Insert]
              : [];
          const p = can({
            shape: made,
            picture: { ...picture, place: { ...picture.place, widthMm, x } },
            inserts,
          });
          const lying = allPlaced(p.inserts, roomOf(p)).length;
          if (lying < count) return;
          const fill = fillOf(p, shop.materials);
          const box = fill.wallMm3 * 1e-9 * shop.materials.find((m) => m.id === '1018')!.densityKgM3;
          const parts =
            box + fill.powders.reduce((s, q) => s + q.kg, 0) + fill.inserts.reduce((s, q) => s + q.kg, 0);
          expect(parts).toBeCloseTo(fill.fullKg, 9);
          const [, solid] = pressedWhole(p);
          const bar = solid.after![0];
          expect(volumeOf(bar) / totalVolume(bar.volumes)).toBeCloseTo(1, 6);
          expect(massKg(bar.volumes, shop.materials)).toBeCloseTo(fill.fullKg, 6);
        },
      ),
      { numRuns: 25 },
    );
  });
});
