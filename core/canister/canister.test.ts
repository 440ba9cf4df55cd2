import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../billet/billet.ts';
import { sectionPlane } from '../billet/face.ts';
import { judge } from '../judgement/index.ts';
import { massKg, totalVolume } from '../materials/volumes.ts';
import { withRemedy, withParameters } from '../plan/index.ts';
import { codeShares } from '../render/codes.ts';
import { materialCode } from '../shop/shop.ts';
import { evaluated, planOf } from '../tests/plans.ts';
import { type Can, fillOf, roomOf } from './can.ts';
import { passesTo, solidCan } from './consolidate.ts';
import { standing, worstOverlap } from './inserts.ts';
import { allPlaced, closeLayers, mostThatLie } from './layout.ts';
import { poured } from './packing.ts';
import { shop, can, balls, rods, gently, SOLID, pressedWhole, sampledShares } from '../tests/cans.ts';

/** Random cans with what fits in them. */
const anyCan: fc.Arbitrary<Can> = fc
  .record({
    widthMm: fc.double({ min: 40, max: 90, noNaN: true }),
    heightMm: fc.double({ min: 40, max: 90, noNaN: true }),
    lengthMm: fc.double({ min: 60, max: 200, noNaN: true }),
    wallMm: fc.double({ min: 2, max: 5, noNaN: true }),
    capMm: fc.double({ min: 2, max: 6, noNaN: true }),
    tapDensity: fc.double({ min: 0.5, max: 0.65, noNaN: true }),
    shape: fc.constantFrom('ball', 'rod', 'square bar', 'strip'),
    sizeMm: fc.double({ min: 6, max: 14, noNaN: true }),
    lay: fc.constantFrom('rows', 'hexagonal'),
    share: fc.double({ min: 0.1, max: 1, noNaN: true }),
  })
  .map(({ shape, sizeMm, lay, share, ...box }) => {
    const base = can({ ...box, inserts: [] });
    const insert = balls({ shape, sizeMm, lay, ...(shape === 'strip' ? { thicknessMm: sizeMm / 3 } : {}) });
    const most = mostThatLie(insert, roomOf(base));
    const count = Math.max(1, Math.floor(most * share));
    return { ...base, inserts: most > 0 ? [{ ...insert, count }] : [] };
  });

const polygon = (points: readonly (readonly [number, number])[]): number =>
  points.reduce((sum, [x, y], i) => {
    const [x1, y1] = points[(i + 1) % points.length];
    return sum + (x * y1 - x1 * y) / 2;
  }, 0);

describe('figures of the handbook, canister', () => {
  const powder = { widthMm: 60, heightMm: 60, lengthMm: 126, wallMm: 3, capMm: 3, fillFactor: 0.62 };

  it('a 60 mm can with a 3 mm wall and powder at 0.62 alone goes to 49.92 mm [calc]', () => {
    const solid = solidCan(powder, { endMm: 0, sides: 'two ways' });
    expect(solid.widthMm).toBeCloseTo(49.92, 2);
    expect(solid.heightMm).toBeCloseTo(49.92, 2);
  });

  it('the picture scales by √φ = 0.787 both ways, or by φ one way [std]', () => {
    expect(solidCan(powder, { endMm: 0, sides: 'two ways' }).scaleX).toBeCloseTo(0.787, 3);
    expect(solidCan(powder, { endMm: 0, sides: 'one way' })).toMatchObject({ scaleX: 1, scaleY: 0.62 });
  });

  it('layers that fit a depth: 1 + ⌊(D − d)/(d√(2/3))⌋ [std]', () => {
    expect([9.9, 10, 18.1, 18.2, 26.4].map((depth) => closeLayers(depth, 10))).toEqual([0, 1, 1, 2, 3]);
  });

  it.each([
    ['rows', Math.PI / 4],
    ['hexagonal', Math.PI / Math.sqrt(12)],
  ] as const)(
    'circles in the plane laid %s come to the known fraction in a large section [std]',
    (lay, fraction) => {
      const room = { widthMm: 400, heightMm: 400, depthMm: 10 };
      const most = mostThatLie(rods({ sizeMm: 4, lay }), room);
      const seen = (most * Math.PI * 4) / (400 * 400);
      expect(seen).toBeLessThanOrEqual(fraction + 1e-9);
      // Walls cost about half a row all round.
      expect(seen).toBeGreaterThan(fraction - 0.02);
    },
  );

  it('equal balls shaken into a large box pack to 0.60–0.66 [pub: random close packing, Scott 1960; Bernal and Mason 1960]', () => {
    const n = 800;
    const { rounds } = poured(
      Array.from({ length: n }, () => 0.5),
      { widthMm: 8, heightMm: 8, depthMm: 30 },
      [],
      1,
    );
    const level = rounds.map((b) => b.z).sort((a, b) => a - b)[Math.floor(0.8 * n)];
    let inside = 0;
    const tries = 20_000;
    for (let i = 0; i < tries; i++) {
      const [u, v, w] = [0.8191725, 0.6710436, 0.5497005].map((r) => (0.5 + i * r) % 1);
      const [x, y, z] = [6 * (u - 0.5), 6 * (v - 0.5), 1 + w * (level - 2)];
      if (rounds.some((b) => (b.x - x) ** 2 + (b.y - y) ** 2 + (b.z - z) ** 2 < 0.25)) inside++;
    }
    expect(inside / tries).toBeGreaterThan(0.6);
    expect(inside / tries).toBeLessThan(0.66);
  });

  it('a can of powder 50–60 mm across wants 20–30 min [trade]', () => {
    const minutes = (side: number) => {
      const e = evaluated(
        planOf(
          [
            ['can', can({ widthMm: side, heightMm: side, lengthMm: 300 })],
            ['consolidate', SOLID],
          ],
          {
            shop: {},
          },
        ),
      );
      const hot = evaluated({
        ...e.plan,
        lanes: [
          {
            ...e.plan.lanes[0],
            steps: e.plan.lanes[0].steps.map((s, i) =>
              i === 1 ? withParameters(s, { ...SOLID, heats: 1 }) : s,
            ),
          },
        ],
      });
      const figure = judge(hot, hot.lanes[0].steps[1]).figures.find((f) => f.id === 'soak')!;
      return Number(/(\d+) min/.exec(figure.value)![1]);
    };
    expect(minutes(55)).toBeGreaterThanOrEqual(18);
    expect(minutes(55)).toBeLessThanOrEqual(32);
    expect(minutes(75)).toBeGreaterThan(minutes(55));
  });
});

describe('over random cans', () => {
  it('powder, inserts and box are the full weight; pressed solid the weight is the same, the density 1, and volumes add', () => {
    fc.assert(
      fc.property(anyCan, fc.constantFrom('two ways', 'one way'), (p, sides) => {
        const fill = fillOf(p, shop.materials);
        const parts =
          fill.powderKg +
          fill.inserts.reduce((sum, i) => sum + i.kg, 0) +
          massKg({ [p.wall]: fill.wallMm3 }, shop.materials);
        expect(Math.abs(parts / fill.fullKg - 1)).toBeLessThan(1e-9);
        const e = evaluated(
          planOf([
            ['can', p],
            ['consolidate', { ...gently(p), sides }],
          ]),
        );
        const [loose] = e.lanes[0].steps[0].after!;
        const [solid] = e.lanes[0].steps[1].after!;
        expect(
          Math.abs((totalVolume(loose.volumes) + loose.can!.poresMm3) / volumeOf(loose) - 1),
        ).toBeLessThan(1e-9);
        expect(massKg(solid.volumes, shop.materials)).toBeCloseTo(fill.fullKg, 9);
        expect(Math.abs(totalVolume(solid.volumes) / volumeOf(solid) - 1)).toBeLessThan(1e-9);
        expect(solid.can!.poresMm3).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  it('the picture of the solid can agrees with its masses', () => {
    fc.assert(
      fc.property(anyCan, (p) => {
        const [solid] = evaluated(
          planOf([
            ['can', p],
            ['consolidate', SOLID],
          ]),
        ).lanes[0].ends;
        const shares = new Map<number, number>();
        const slices = 24;
        for (let k = 0; k < slices; k++)
          for (const [code, share] of codeShares(
            solid,
            sectionPlane(solid, ((k + 0.5) / slices) * solid.lengthMm),
            4000,
          ))
            shares.set(code, (shares.get(code) ?? 0) + share / slices);
        for (const [id, mm3] of Object.entries(solid.volumes))
          expect(
            Math.abs((shares.get(materialCode(shop, id)) ?? 0) - mm3 / totalVolume(solid.volumes)),
            id,
          ).toBeLessThan(0.03);
      }),
      { numRuns: 12 },
    );
  });

  it('passes lead down to the solid size, none larger than allowed, the sides in turn', () => {
    fc.assert(
      fc.property(anyCan, fc.double({ min: 0.5, max: 5, noNaN: true }), (p, passMm) => {
        const before = { ...p, fillFactor: fillOf(p, shop.materials).fillFactor };
        const solid = solidCan(before, gently(p));
        const passes = passesTo(before, solid, 'two ways', passMm);
        const now = { width: p.widthMm, height: p.heightMm };
        for (const { side, stopMm } of passes) {
          expect(now[side] - stopMm).toBeLessThanOrEqual(passMm + 1e-9);
          now[side] = stopMm;
        }
        // A can full of bars has nothing to give: pressed end to end it only grows wider.
        expect(now.width).toBeCloseTo(Math.min(p.widthMm, solid.widthMm), 5);
        expect(now.height).toBeCloseTo(Math.min(p.heightMm, solid.heightMm), 5);
      }),
      { numRuns: 60 },
    );
  });
});

describe('cans of every shape', () => {
  const wedge: [number, number][] = [
    [-0.5, -0.3],
    [0.5, -0.3],
    [0.2, 0.3],
    [0, 0.05],
    [-0.2, 0.3],
  ];
  it.each([
    ['a round tube', can({ shape: 'tube', widthMm: 60 })],
    ['a free outline with a notch', can({ shape: 'free', widthMm: 70, outline: wedge })],
  ])('%s: inside area × depth, mass kept, solid afterwards', (_name, p) => {
    const fill = fillOf(p, shop.materials);
    const inside = p.shape === 'tube' ? (Math.PI * 54 ** 2) / 4 : 64 ** 2 * polygon(wedge);
    expect(fill.roomMm3 / (inside * 120)).toBeCloseTo(1, 3);
    const [loose, solid] = pressedWhole(p);
    const before = loose.after![0];
    const after = solid.after![0];
    expect(volumeOf(before)).toBeCloseTo(totalVolume(before.volumes) + before.can!.poresMm3, 3);
    expect(massKg(before.volumes, shop.materials)).toBeCloseTo(fill.fullKg, 9);
    expect(massKg(after.volumes, shop.materials)).toBeCloseTo(fill.fullKg, 6);
    expect(volumeOf(after) / totalVolume(after.volumes)).toBeCloseTo(1, 6);
  });

  it('a tube takes rods around its rim and balls that stay inside when poured', () => {
    const p = can({ shape: 'tube', widthMm: 60, inserts: [rods({ lay: 'rim', count: 12, sizeMm: 6 })] });
    const room = roomOf(p);
    const placed = allPlaced(p.inserts, room);
    expect(placed).toHaveLength(12);
    for (const { x, y } of placed) expect(Math.hypot(x, y)).toBeCloseTo(27 - 3, 1);
    expect(worstOverlap(placed, room)).toBeNull();
    const { rounds } = poured(
      Array.from({ length: 30 }, () => 5),
      room,
      standing(placed),
      3,
    );
    for (const { x, y } of rounds) expect(Math.hypot(x, y)).toBeLessThan(27 - 5 + 0.1);
  });
});

describe('a can pressed by the flow of its section', () => {
  it('keeps its mass, comes out as large as volumes say, and says how dense the powder became', () => {
    const p = can({
      widthMm: 40,
      heightMm: 40,
      lengthMm: 60,
      inserts: [rods({ sizeMm: 8, lay: 'rows', count: 1 })],
    });
    const plan = (reckoned: string) =>
      planOf([
        ['can', p],
        ['consolidate', { ...SOLID, passMm: 4, reckoned }],
      ]);
    const [byVolumes, byFlow] = ['by volumes', 'by flow'].map(
      (how) => evaluated(plan(how)).lanes[0].steps[1],
    );
    const [a, b] = [byVolumes.after![0], byFlow.after![0]];
    expect(massKg(b.volumes, shop.materials)).toBeCloseTo(massKg(a.volumes, shop.materials), 9);
    expect(volumeOf(b) / totalVolume(b.volumes)).toBeCloseTo(1, 6);
    expect(Math.abs(sizeOf(b).widthMm / sizeOf(a).widthMm - 1)).toBeLessThan(0.06);
    expect(byFlow.findings.map((f) => f.code)).toContain('flow');
    // So lightly pressed the corners stay powder, and it is said.
    const notSolid = byFlow.findings.find((f) => f.code === 'not solid');
    expect(notSolid?.severity).toBe('warning');
    expect(notSolid?.text).toMatch(
      /powder comes to \d+\.\d % of solid on average and \d+\.\d % where it is least/,
    );
    // The rod keeps its steel, as far as elements of its own size tell it from the powder.
    const share = (bar: Billet) =>
      sampledShares(bar).get(materialCode(shop, '15n20'))! * sizeOf(bar).widthMm * sizeOf(bar).heightMm;
    expect(Math.abs(share(b) / share(a) - 1)).toBeLessThan(0.06);
  });

  it('is only for cans that are the same all along; balls are sent back to volumes, by one press', () => {
    const e = evaluated(
      planOf([
        ['can', can({ inserts: [balls({ count: 4 })] })],
        ['consolidate', { ...SOLID, reckoned: 'by flow' }],
      ]),
    );
    const [finding] = e.lanes[0].steps[1].findings;
    expect(finding.code).toBe('not even');
    const mended = evaluated(withRemedy(e, e.lanes[0].steps[1], finding.remedy!).plan);
    expect(mended.lanes[0].steps[1].after).not.toBeNull();
  });
});
