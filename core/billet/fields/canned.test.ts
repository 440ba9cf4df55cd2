import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { reachFor } from '../../canister/flattened.ts';
import { SAME_PLACE, codeAt } from './field.ts';
import { CannedField, type CannedParts, type InsertSpot, gauge } from './canned.ts';

const WALL = 1;
const POWDER = 2;
const spot = (x: number, y: number, some: Partial<InsertSpot> = {}): InsertSpot => ({
  x,
  y,
  z: 0,
  halfX: 5,
  halfY: 5,
  round: true,
  ball: false,
  code: 3,
  ...some,
});
const parts = (spots: InsertSpot[], reach = 1): CannedParts => ({
  halfWidthMm: 20,
  halfHeightMm: 15,
  fromMm: 3,
  toMm: 63,
  wallCode: WALL,
  powderCode: POWDER,
  spots,
  reach,
});

const anySpot: fc.Arbitrary<InsertSpot> = fc
  .record({
    x: fc.double({ min: -18, max: 18, noNaN: true }),
    y: fc.double({ min: -13, max: 13, noNaN: true }),
    z: fc.double({ min: 5, max: 60, noNaN: true }),
    halfX: fc.double({ min: 1, max: 6, noNaN: true }),
    halfY: fc.double({ min: 1, max: 6, noNaN: true }),
    kind: fc.constantFrom('ball', 'rod', 'strip'),
    code: fc.integer({ min: 3, max: 9 }),
  })
  .map(({ kind, halfX, halfY, ...rest }) => ({
    ...rest,
    halfX,
    halfY: kind === 'strip' ? halfY : halfX,
    round: kind !== 'strip',
    ball: kind === 'ball',
  }));

const anyPoint = fc.tuple(
  fc.double({ min: -24, max: 24, noNaN: true }),
  fc.double({ min: -19, max: 19, noNaN: true }),
  fc.double({ min: 0, max: 66, noNaN: true }),
);

describe('a can as a field', () => {
  it('is wall outside the room and at both caps, powder within, and inserts in that', () => {
    const field = new CannedField(
      parts([spot(0, 0), spot(10, 0, { round: false, halfX: 2, halfY: 4, code: 4 })]),
    );
    for (const [x, y, z, code] of [
      [21, 0, 30, WALL],
      [0, -16, 30, WALL],
      [0, 0, 2, WALL],
      [0, 0, 64, WALL],
      [-15, 10, 30, POWDER],
      [3, 3, 30, 3],
      [4, 4, 30, POWDER],
      [11.9, 3.9, 30, 4],
      [12.1, 3.9, 30, POWDER],
    ])
      expect(codeAt(field, x, y, z), `${x} ${y} ${z}`).toBe(code);
  });

  it('a ball is round along the can too', () => {
    const field = new CannedField(parts([spot(0, 0, { ball: true, z: 30 })]));
    expect(codeAt(field, 0, 0, 34.9)).toBe(3);
    expect(codeAt(field, 0, 0, 35.1)).toBe(POWDER);
    expect(codeAt(field, 3.6, 0, 33.6)).toBe(POWDER);
  });

  it('finds the same insert by its cells as by asking all of them', () =>
    fc.assert(
      fc.property(
        fc.array(anySpot, { maxLength: 25 }),
        fc.double({ min: 1, max: 1.6, noNaN: true }),
        fc.array(anyPoint, { minLength: 40, maxLength: 40 }),
        (spots, reach, points) => {
          const field = new CannedField(parts(spots, reach));
          for (const [x, y, z] of points) {
            const outside = Math.abs(x) >= 20 || Math.abs(y) >= 15 || z <= 3 || z >= 63;
            const nearest = spots.reduce<{ g: number; code: number }>(
              (best, s) => (gauge(s, x, y, z) < best.g ? { g: gauge(s, x, y, z), code: s.code } : best),
              { g: reach, code: POWDER },
            );
            expect(codeAt(field, x, y, z)).toBe(outside ? WALL : nearest.code);
          }
        },
      ),
    ));

  it('seen through a stretch is the stretched can', () => {
    const field = new CannedField(parts([spot(4, 2)]));
    const wide = field.through({ ...SAME_PLACE, kx: 0.5, kz: 2, tz: 10 });
    expect(codeAt(wide, 8, 2, 10)).toBe(codeAt(field, 4, 2, 30));
    expect(codeAt(wide, 41, 0, 10)).toBe(WALL);
  });
});

describe('inserts that flatten against each other', () => {
  const whole = 40 * 30;
  it('stay as they are where nothing touches', () => {
    const apart = [spot(-8, 0), spot(8, 0)];
    expect(reachFor(apart, 20, 15, 0, 60, (2 * Math.PI * 25) / whole)).toBe(1);
  });

  it('of two that overlap, reach so much further that together they keep their area', () => {
    const near = [spot(-3, 0), spot(3, 0)];
    const share = (2 * Math.PI * 25) / whole;
    const reach = reachFor(near, 20, 15, 0, 60, share);
    expect(reach).toBeGreaterThan(1.05);
    // Against the lens of two circles: area of the union of two discs of radius R, 6 apart.
    const r = 5 * reach;
    const lens = 2 * r * r * Math.acos(3 / r) - 3 * Math.sqrt(4 * r * r - 36);
    expect((2 * Math.PI * r * r - lens) / (2 * Math.PI * 25)).toBeCloseTo(1, 1);
  });
});
