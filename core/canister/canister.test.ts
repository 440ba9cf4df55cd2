import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../billet/billet.ts';
import { sectionPlane } from '../billet/face.ts';
import { findingsOf, judge } from '../judgement/index.ts';
import { massKg, totalVolume } from '../materials/volumes.ts';
import { evaluate, withRemedy } from '../plan/index.ts';
import { codeShares } from '../render/paint.ts';
import { makeShop, materialCode } from '../shop/shop.ts';
import { moveOf } from '../steps/index.ts';
import { planOf } from '../tests/plans.ts';
import { type Can, canSchema, fillOf, roomOf } from './can.ts';
import { passesTo, solidCan } from './consolidate.ts';
import {
  type Insert,
  allPlaced,
  closeLayers,
  mostThatLie,
  overlapMm,
  placesOf,
  standing,
  worstOverlap,
} from './inserts.ts';
import { TOUCHING, poured } from './packing.ts';

const shop = makeShop();
const BOX = moveOf('can').begin([], shop) as Can;
const can = (some: Partial<Can> = {}): Can => canSchema.parse({ ...BOX, ...some });
const balls = (some: Partial<Insert> = {}): Insert => ({
  shape: 'ball',
  material: '52100',
  sizeMm: 12,
  count: 20,
  lay: 'hexagonal',
  ...some,
});
const rods = (some: Partial<Insert> = {}): Insert =>
  balls({ shape: 'rod', material: '15n20', sizeMm: 6, ...some });
/** A first press that any can bears. */
const gently = (p: Can) => ({
  ...SOLID,
  endMm: Math.min(4, 0.4 * roomOf(p).depthMm * (1 - fillOf(p, shop.materials).fillFactor)),
});
const SOLID = { endMm: 4, sides: 'two ways', passMm: 2.5, heats: 0, temperatureC: 1200 } as const;

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
      const e = evaluate(
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
      const hot = evaluate({
        ...e.plan,
        lanes: [
          {
            ...e.plan.lanes[0],
            steps: e.plan.lanes[0].steps.map((s, i) =>
              i === 1 ? { ...s, parameters: { ...SOLID, heats: 1 } } : s,
            ),
          },
        ],
      });
      const figure = judge(hot, hot.lanes[0].steps[1]).figures.find((f) => f.what === 'Hot through in')!;
      return Number(/(\d+) min/.exec(figure.value)![1]);
    };
    expect(minutes(55)).toBeGreaterThanOrEqual(18);
    expect(minutes(55)).toBeLessThanOrEqual(32);
    expect(minutes(75)).toBeGreaterThan(minutes(55));
  });
});

describe('inserts', () => {
  it('laid in order stay inside the can and out of each other', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('rows', 'hexagonal', 'rim'),
        fc.constantFrom('ball', 'rod'),
        fc.double({ min: 3, max: 20, noNaN: true }),
        (lay, shape, sizeMm) => {
          const room = { widthMm: 61, heightMm: 47, depthMm: 90 };
          const insert = balls({ shape, sizeMm, lay, count: 2000 });
          const count = Math.max(1, mostThatLie(insert, room));
          const placed = allPlaced([{ ...insert, count }], room);
          expect(placed.length).toBeLessThanOrEqual(count);
          expect(placed.length).toBeGreaterThan(0);
          expect(worstOverlap(placed, room)).toBeNull();
        },
      ),
      { numRuns: 60 },
    );
  });

  it('poured among rods round the rim settle without running into anything, the same way for the same seed', () => {
    const room = roomOf(can());
    const rim = rods({ sizeMm: 4, lay: 'rim', count: 40 });
    const fixed = standing(allPlaced([rim], room));
    const first = poured(
      Array.from({ length: 80 }, () => 4),
      room,
      fixed,
      7,
    );
    expect(first.overlap).toBeLessThan(3 * TOUCHING);
    expect(
      poured(
        Array.from({ length: 80 }, () => 4),
        room,
        fixed,
        7,
      ),
    ).toEqual(first);
    expect(
      poured(
        Array.from({ length: 80 }, () => 4),
        room,
        fixed,
        8,
      ).rounds,
    ).not.toEqual(first.rounds);
    const lying = balls({
      sizeMm: 8,
      count: 80,
      lay: 'placed',
      places: first.rounds.map(({ x, y, z }) => ({ x, y, z })),
    });
    expect(worstOverlap(allPlaced([rim, lying], room), room)).toBeNull();
    // Poured, they lie at the bottom: the near end of a can that stands.
    const middle = first.rounds.reduce((sum, b) => sum + b.z, 0) / 80;
    expect(middle).toBeLessThan(room.depthMm / 2);
  });

  it('say so when more are poured than there is room for', () => {
    const { overlap } = poured(
      Array.from({ length: 60 }, () => 10),
      { widthMm: 54, heightMm: 54, depthMm: 60 },
      [],
      1,
    );
    expect(overlap).toBeGreaterThan(10 * TOUCHING);
  });

  it('of square and round section know how far they run into each other', () => {
    const at = (insert: Insert, x: number, y: number) =>
      allPlaced([{ ...insert, count: 1, lay: 'placed', places: [{ x, y, z: 0 }] }], roomOf(can()))[0];
    const square = at(rods({ shape: 'square bar', sizeMm: 10 }), 0, 0);
    expect(overlapMm(square, at(rods({ sizeMm: 6 }), 7, 0))).toBeCloseTo(1, 9);
    expect(overlapMm(square, at(rods({ sizeMm: 6 }), 9, 0))).toBeLessThan(0);
    expect(overlapMm(square, at(rods({ shape: 'square bar', sizeMm: 4 }), 6.5, 0))).toBeCloseTo(0.5, 9);
  });
});

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
        const e = evaluate(
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
        const [solid] = evaluate(
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

describe('each mistake with a can', () => {
  const press = (some: object = {}) => ['consolidate', { ...SOLID, ...some }] as const;
  const TABLE: [what: string, moves: Parameters<typeof planOf>[0], code: string, figure: RegExp][] = [
    ['more balls than fit', [['can', can({ inserts: [balls({ count: 2000 })] })]], 'too many', /: \d+ do/],
    [
      'balls that do not nest',
      [
        [
          'can',
          can({
            inserts: [
              balls({ count: 5 }),
              balls({ sizeMm: 6, count: 1, lay: 'placed', places: [{ x: 20, y: 20, z: 100 }] }),
            ],
          }),
        ],
      ],
      'do not nest',
      /4\.97 mm/,
    ],
    [
      'inserts at a flat wall',
      [['can', can({ inserts: [rods({ count: 81, sizeMm: 6, lay: 'rows' })] })]],
      'flat wall',
      /flat wall/,
    ],
    ['no vent', [['can', can({ vent: 'none' })]], 'no vent', /burst/],
    ['a vent at the hand', [['can', can({ vent: 'handle end' })]], 'vent at the hand', /hand/],
    ['a wide vent', [['can', can({ ventMm: 4 })]], 'wide vent', /4 mm/],
    [
      'a can too wide for its depth',
      [['can', can({ widthMm: 150, heightMm: 50 })]],
      'too wide',
      /3\.0 times/,
    ],
    ['loose caps', [['can', can()], press({ endMm: 0 })], 'loose caps', /end to end/],
    ['deep dents', [['can', can()], press({ passMm: 8 })], 'deep dent', /8 mm/],
    ['pressed too far', [['can', can()], press({ endMm: 90 })], 'too far', /45\.5 mm/],
    [
      'drawn while it is loose',
      [
        ['can', can()],
        ['draw', { shape: 'square', sideMm: 40, heats: 1 }],
      ],
      'powder',
      /loose powder/,
    ],
  ];

  it.each(TABLE)('%s: is found with its figure, and its remedy clears it', (_, moves, code, figure) => {
    const bad = evaluate(planOf(moves));
    const result = bad.lanes[0].steps.at(-1)!;
    const finding = findingsOf(bad, result).find((f) => f.code === code)!;
    expect(finding.text).toMatch(figure);
    const mended = evaluate(withRemedy(bad, result, finding.remedy!).plan);
    expect(
      mended.lanes[0].steps.flatMap((s) => findingsOf(mended, s)).filter((f) => f.code === code),
    ).toEqual([]);
  });

  it('two layers and no third are said to lie in order', () => {
    const e = evaluate(planOf([['can', can({ inserts: [balls({ sizeMm: 24, count: 4 })] })]]));
    expect(e.lanes[0].steps[0].findings.map((f) => f.code)).toContain('two layers');
  });

  it('inserts too large for the can, and walls that leave no room, stop it', () => {
    const codes = (p: Can) => evaluate(planOf([['can', p]])).lanes[0].steps[0].findings.map((f) => f.code);
    expect(codes(can({ inserts: [balls({ sizeMm: 80 })] }))).toContain('too large');
    expect(codes(can({ wallMm: 20, widthMm: 40 }))).toEqual(['no room']);
  });

  it('that run into each other are said to, and still shown', () => {
    const places = [
      { x: 0, y: 0, z: 50 },
      { x: 8, y: 0, z: 50 },
    ];
    const result = evaluate(planOf([['can', can({ inserts: [balls({ count: 2, lay: 'placed', places })] })]]))
      .lanes[0].steps[0];
    expect(result.findings.find((f) => f.code === 'overlap')!.text).toContain('4 mm');
    expect(result.after).not.toBeNull();
  });
});

it('after the press the caps are cropped and the can is taken off: what is left is what was inside', () => {
  const p = can({ inserts: [rods({ count: 20, sizeMm: 8 })] });
  const e = evaluate(
    planOf([
      ['can', p],
      ['consolidate', SOLID],
      ['crop', { endAMm: 8, endBMm: 8 }],
      ['peel', { how: 'peel' }],
      ['draw', { shape: 'square', sideMm: 25, heats: 0 }],
    ]),
  );
  const steps = e.lanes[0].steps;
  expect(steps[1].after![0].can).toBeDefined();
  expect(steps[2].after![0].can).toBeUndefined();
  const [bare] = steps[3].after!;
  const wall = bare.volumes[p.wall] ?? 0;
  expect(wall / totalVolume(bare.volumes)).toBeLessThan(0.01);
  expect(sizeOf(e.goal.bar!).widthMm).toBeCloseTo(25, 6);
  expect(placesOf(p.inserts[0], roomOf(p))).toHaveLength(20);
});
