import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../billet/billet.ts';
import { sectionPlane } from '../billet/face.ts';
import { findingsOf, judge } from '../judgement/index.ts';
import { massKg, totalVolume } from '../materials/volumes.ts';
import { withRemedy, withParameters } from '../plan/index.ts';
import { codeShares } from '../render/paint.ts';
import { makeShop, materialCode } from '../shop/shop.ts';
import { moveOf } from '../moves/index.ts';
import { evaluated, planOf, planOfLanes } from '../tests/plans.ts';
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
    const bad = evaluated(planOf(moves));
    const result = bad.lanes[0].steps.at(-1)!;
    const finding = findingsOf(bad, result).find((f) => f.code === code)!;
    expect(finding.text).toMatch(figure);
    const mended = evaluated(withRemedy(bad, result, finding.remedy!).plan);
    expect(
      mended.lanes[0].steps.flatMap((s) => findingsOf(mended, s)).filter((f) => f.code === code),
    ).toEqual([]);
  });

  it('two layers and no third are said to lie in order', () => {
    const e = evaluated(planOf([['can', can({ inserts: [balls({ sizeMm: 24, count: 4 })] })]]));
    expect(e.lanes[0].steps[0].findings.map((f) => f.code)).toContain('two layers');
  });

  it('inserts too large for the can, and walls that leave no room, stop it', () => {
    const codes = (p: Can) => evaluated(planOf([['can', p]])).lanes[0].steps[0].findings.map((f) => f.code);
    expect(codes(can({ inserts: [balls({ sizeMm: 80 })] }))).toContain('too large');
    expect(codes(can({ wallMm: 20, widthMm: 40 }))).toEqual(['no room']);
  });

  it('that run into each other are said to, and still shown', () => {
    const places = [
      { x: 0, y: 0, z: 50 },
      { x: 8, y: 0, z: 50 },
    ];
    const result = evaluated(
      planOf([['can', can({ inserts: [balls({ count: 2, lay: 'placed', places })] })]]),
    ).lanes[0].steps[0];
    expect(result.findings.find((f) => f.code === 'overlap')!.text).toContain('4 mm');
    expect(result.after).not.toBeNull();
  });
});

it('after the press the caps are cropped and the can is taken off: what is left is what was inside', () => {
  const p = can({ inserts: [rods({ count: 20, sizeMm: 8 })] });
  const e = evaluated(
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

/** A can pressed solid after a few moves: what went in and what is there. */
function pressedWhole(p: Can, more: Parameters<typeof planOf>[0] = []) {
  const e = evaluated(planOf([['can', p], ['consolidate', gently(p)], ...more]));
  return e.lanes[0].steps;
}
const sampledShares = (billet: Billet) => codeShares(billet, sectionPlane(billet, billet.lengthMm / 2));

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

const polygon = (points: readonly (readonly [number, number])[]): number =>
  points.reduce((sum, [x, y], i) => {
    const [x1, y1] = points[(i + 1) % points.length];
    return sum + (x * y1 - x1 * y) / 2;
  }, 0);

describe('powders in a picture', () => {
  const square: [number, number][] = [
    [-0.5, -0.5],
    [0.5, -0.5],
    [0.5, 0.5],
    [-0.5, 0.5],
  ];
  const picture = {
    name: 'square',
    drawn: [{ powder: '15n20', region: [square] }],
    place: { on: 'can' as const, x: 5, y: -3, widthMm: 20, turnDeg: 0, mirrored: false, columns: 1, rows: 1 },
    walked: null,
    form: { wallMm: 0.6, lipMm: 3, bridgeMm: 3, baseMm: 0, handle: true, leftIn: false, leastMm: 2 },
  };

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

  it('say when they are of one kind, beyond the wall, too thin, or not walked back', () => {
    const codes = (some: Partial<Can>) =>
      evaluated(planOf([['can', can(some)]])).lanes[0].steps[0].findings.map((f) => f.code);
    expect(codes({ picture })).not.toContain('one powder');
    expect(codes({ picture, powder: '15n20' })).toContain('one powder');
    expect(codes({ picture: { ...picture, place: { ...picture.place, x: 25 } } })).toContain(
      'beyond the wall',
    );
    expect(codes({ picture: { ...picture, place: { ...picture.place, widthMm: 1.2 } } })).toContain(
      'too thin to fill',
    );
    expect(codes({ picture: { ...picture, place: { ...picture.place, on: 'top' } } })).toContain(
      'not walked back',
    );
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

describe('inserts of every kind', () => {
  it('cut lengths with gaps weigh what their lengths together do', () => {
    const p = can({ inserts: [rods({ cutMm: 20, gapMm: 5, count: 9, lay: 'rows' })] });
    // 120 mm takes five lengths of 20 with four gaps of 5 between them.
    expect(fillOf(p, shop.materials).inserts[0].mm3).toBeCloseTo(9 * Math.PI * 9 * 100, 3);
    const bar = evaluated(planOf([['can', p]])).lanes[0].steps[0].after![0];
    const at = (z: number) =>
      codeShares(bar, sectionPlane(bar, z), 20_000).get(materialCode(shop, '15n20')) ?? 0;
    expect(at(3 + 10)).toBeGreaterThan(0);
    expect(at(3 + 22.5)).toBe(0);
  });

  it('balls in beds lie in layers as far apart as said', () => {
    const bed = balls({ lay: 'rows', count: 2000, bedMm: 30 });
    const heights = new Set(placesOf(bed, roomOf(can())).map((b) => b.z));
    expect([...heights].sort((a, b) => a - b)).toEqual([6, 36, 66, 96]);
  });

  it('rods along the picture’s outline stand on it', () => {
    const side = 20;
    const square: [number, number][] = [
      [-0.5, -0.5],
      [0.5, -0.5],
      [0.5, 0.5],
      [-0.5, 0.5],
    ];
    const p = can({
      picture: {
        name: 's',
        drawn: [{ powder: '15n20', region: [square] }],
        place: { on: 'can', x: 0, y: 0, widthMm: side, turnDeg: 0, mirrored: false, columns: 1, rows: 1 },
        walked: null,
        form: { wallMm: 1, lipMm: 0, bridgeMm: 0, baseMm: 0, handle: false, leftIn: false, leastMm: 2 },
      },
      inserts: [rods({ lay: 'outline', sizeMm: 3, count: 16 })],
    });
    const placed = allPlaced(p.inserts, roomOf(p));
    expect(placed).toHaveLength(16);
    for (const { x, y } of placed) expect(Math.max(Math.abs(x), Math.abs(y))).toBeCloseTo(10, 3);
  });

  it('a finished bar of another lane stands in the can with its picture, and is taken from that lane', () => {
    const stack = {
      layers: 7,
      pattern: [
        { material: '1084', thicknessMm: 4 },
        { material: '15n20', thicknessMm: 2 },
      ],
      widthMm: 30,
      lengthMm: 200,
    };
    const bars = rods({
      shape: 'bar',
      sizeMm: 1,
      lay: 'rows',
      count: 1,
      pieces: [{ lane: 'other', piece: 1 }],
    });
    const e = evaluated(
      planOfLanes({
        can: [
          ['can', can({ lengthMm: 100, inserts: [bars] })],
          ['consolidate', SOLID],
        ],
        other: [
          ['stack', stack],
          ['weld', { heats: 1, temperatureC: 1200 }],
          ['draw', { shape: 'square', sideMm: 20, heats: 1 }],
        ],
      }),
    );
    const [loose, solid] = e.lanes[0].steps;
    expect(loose.findings.filter((f) => f.severity === 'error')).toEqual([]);
    const bar = e.lanes[1].ends[0];
    const used = 94 / bar.lengthMm;
    expect(loose.after![0].volumes['15n20']).toBeCloseTo(bar.volumes['15n20'] * used, 3);
    // Steel in less steel lost is what is there.
    const lost = totalVolume(loose.losses[0].volumes);
    expect(lost).toBeCloseTo(totalVolume(bar.volumes) * (1 - used), 3);
    const shares = codeShares(loose.after![0], sectionPlane(loose.after![0], 50));
    const bright = shares.get(materialCode(shop, '15n20'))!;
    const all = [...shares.values()].reduce((a, b) => a + b, 0);
    expect(bright / all).toBeCloseTo(((bar.volumes['15n20'] / totalVolume(bar.volumes)) * 400) / 3600, 2);
    expect(volumeOf(solid.after![0]) / totalVolume(solid.after![0].volumes)).toBeCloseTo(1, 6);
  });

  it('too few made ready is said, with a remedy that mends it', () => {
    const plan = planOf([
      ['can', can({ inserts: [rods({ count: 9, lay: 'rows', readyCount: 5 })], readyKg: { '1084': 0.4 } })],
    ]);
    const e = evaluated(plan);
    const short = e.lanes[0].steps[0].findings.filter((f) => f.code === 'not enough');
    expect(short.map((f) => f.text)).toEqual([
      '5 15N20 rods are ready and 9 go in: 4 more.',
      expect.stringMatching(/400 g of 1084 powder are on the shelf/),
    ]);
    for (const finding of short) {
      const mended = evaluated(withRemedy(e, e.lanes[0].steps[0], finding.remedy!).plan);
      const left = mended.lanes[0].steps[0].findings.filter((f) => f.code === 'not enough');
      expect(left.map((f) => f.parameter)).not.toContain(finding.parameter);
    }
  });

  it('ends that were not cropped are said before the can comes off, with the crop as remedy', () => {
    const e = evaluated(
      planOf([
        ['can', can()],
        ['consolidate', gently(can())],
        ['peel', { how: 'peel' }],
      ]),
    );
    const [, , peel] = e.lanes[0].steps;
    const [finding] = findingsOf(e, peel).filter((f) => f.code === 'uncropped');
    const mended = evaluated(withRemedy(e, peel, finding.remedy!).plan);
    expect(mended.lanes[0].steps.map((s) => s.step.kind)).toEqual(['can', 'consolidate', 'crop', 'peel']);
    expect(findingsOf(mended, mended.lanes[0].steps[3]).map((f) => f.code)).not.toContain('uncropped');
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
  }, 60_000);

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
