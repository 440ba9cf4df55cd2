import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { outlineArea } from '../geometry/outline.ts';
import { moveOf } from '../moves/index.ts';
import { sectionPlane } from '../billet/face.ts';
import { findingsOf } from '../judgement/index.ts';
import { scaleVolumes, totalVolume } from '../materials/volumes.ts';
import { sayStep, withRemedy } from '../plan/index.ts';
import { codeShares } from '../render/codes.ts';
import { materialCode } from '../shop/shop.ts';
import { evaluated, planOf, planOfLanes } from '../tests/plans.ts';
import { fillOf, roomOf } from './can.ts';
import {
  type Insert,
  halfSizes,
  insertVolume,
  overlapMm,
  standing,
  teethOn,
  worstOverlap,
} from './inserts.ts';
import { allPlaced, mostThatLie, placesOf } from './layout.ts';
import { TOUCHING, poured } from './packing.ts';
import { shop, can, balls, rods, gently, SOLID } from '../tests/cans.ts';

describe('strips and blades', () => {
  const room = { widthMm: 60, heightMm: 60, depthMm: 100 };
  const strip = rods({ shape: 'strip', sizeMm: 30, thicknessMm: 2, count: 1 });

  it('hold as much steel bowed as flat, and take up more height', () => {
    expect(insertVolume(strip, room)).toBeCloseTo(30 * 2 * 100, 9);
    expect(insertVolume({ ...strip, bowMm: 8 }, room)).toBeCloseTo(30 * 2 * 100, 9);
    expect(halfSizes({ ...strip, bowMm: 8 })).toEqual([15, 5]);
    expect(mostThatLie({ ...strip, bowMm: 8 }, room)).toBeLessThan(mostThatLie(strip, room));
  });

  it('bowed along come out of the press with the bow’s ends at the caps, and as much steel', () => {
    const given = can({
      lengthMm: 100,
      inserts: [{ ...strip, sizeMm: 24, thicknessMm: 4, bowMm: 10, bowed: 'along' }],
    });
    const e = evaluated(
      planOf([
        ['can', given],
        ['consolidate', SOLID],
      ]),
    );
    const [loose, solid] = e.lanes[0].steps.map((s) => s.after![0]);
    const bright = materialCode(shop, '15n20');
    for (const billet of [loose, solid]) {
      const n = 60;
      const { heightMm } = sizeOf(billet);
      const [from, to] = [billet.can!.capAMm + 0.5, billet.lengthMm - billet.can!.capBMm - 0.5];
      /** How high the strip stands at a place along, over the axis. */
      const middle = (share: number): number => {
        const z = from + share * (to - from);
        const ys = Array.from({ length: 400 }, (_, j) => (j / 399 - 0.5) * heightMm);
        const met = ys.filter((y) => codeAt(billet.field, 0, y, z) === bright);
        return met.reduce((sum, y) => sum + y / met.length, 0);
      };
      const shares = Array.from({ length: n }, (_, i) => (i + 0.5) / n);
      // A parabola through −5, 5, −5 as laid; all of it nearer to the axis once the room has closed.
      const top = middle(0.5);
      expect(top).toBeGreaterThan(2);
      for (const s of shares) expect(middle(s)).toBeCloseTo(top * (1 - 2 * (2 * s - 1) ** 2), 0);
    }
    expect(solid.volumes['15n20']).toBeCloseTo(loose.volumes['15n20'], 6);
  });

  it('bowed, each is told by its place however many there are: which bow up is told by their order', () => {
    const nine = { ...strip, sizeMm: 24, count: 9, bowMm: 2 };
    const told = (insert: Insert) =>
      sayStep(evaluated(planOf([['can', can({ inserts: [insert] })]])).lanes[0].steps[0], shop).join(' ');
    expect(told(nine).match(/mm × [\d.]+ mm/g)!.length).toBeGreaterThanOrEqual(9);
    expect(told(nine)).not.toContain('where the section shows them');
    expect(told({ ...nine, bowMm: 0 })).toContain('where the section shows them');
  });

  it('lose half the depth of their teeth, whole ones on every length', () => {
    const blade: Insert = { ...strip, shape: 'saw blade', toothMm: 6, teethMm: 9 };
    expect(insertVolume(blade, room)).toBeCloseTo((30 - 3) * 2 * 100, 9);
    expect(teethOn(blade, 100)).toEqual({ count: 11, share: 0.2 });
    expect(insertVolume({ ...blade, shape: 'strip' }, room)).toBeCloseTo(30 * 2 * 100, 9);
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

  /** A bar of stripes, drawn or knocked round, beside the lane of a can. */
  const withOther = (inserts: object[], ...more: [string, object][]) =>
    evaluated(
      planOfLanes({
        can: [
          ['can', can({ lengthMm: 100, inserts: inserts as Insert[] })],
          ['consolidate', SOLID],
        ],
        other: [
          [
            'stack',
            {
              layers: 7,
              pattern: [
                { material: '316l', thicknessMm: 4 },
                { material: '15n20', thicknessMm: 2 },
              ],
              widthMm: 30,
              lengthMm: 400,
            },
          ],
          ['weld', { heats: 1, temperatureC: 1200 }],
          ['draw', { shape: 'square', sideMm: 20, heats: 1 }],
          ...more,
        ],
      }),
    );
  const ofOther = (some: Partial<Insert>) =>
    rods({ sizeMm: 1, lay: 'rows', count: 1, pieces: [{ lane: 'other', piece: 1 }], ...some });

  it('a finished bar of another lane stands in the can with its picture, and is taken from that lane', () => {
    const e = withOther([ofOther({ shape: 'bar' })]);
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

  it('a round bar stands in the can as a round, with powder in its corners', () => {
    const e = withOther([ofOther({ shape: 'bar' })], ['corners', { shape: 'round', heats: 0 }]);
    const loose = e.lanes[0].steps[0];
    expect(loose.findings.filter((f) => f.severity === 'error')).toEqual([]);
    const bar = e.lanes[1].ends[0];
    const billet = loose.after![0];
    for (const id of ['316l', '15n20'])
      expect(billet.volumes[id]).toBeCloseTo((bar.volumes[id] * 94) / bar.lengthMm, 3);
    const shares = codeShares(billet, sectionPlane(billet, 50));
    const own = ['316l', '15n20'].reduce((sum, id) => sum + (shares.get(materialCode(shop, id)) ?? 0), 0);
    expect(own / [...shares.values()].reduce((a, b) => a + b, 0)).toBeCloseTo(
      outlineArea(bar.outline) / outlineArea(billet.outline),
      2,
    );
  });

  it.each([
    ['a square bar', []],
    ['a round one that lumps of their size reach out of', [['corners', { shape: 'round', heats: 0 }]]],
  ] as [string, [string, object][]][])(
    'offcuts of %s keep its picture, lie anyhow, and take its steel in its shares',
    (_what, more) => {
      const e = withOther([ofOther({ shape: 'offcuts', sizeMm: 12, count: 20, lay: 'hexagonal' })], ...more);
      const [loose, solid] = e.lanes[0].steps;
      expect(loose.findings.filter((f) => f.severity === 'error')).toEqual([]);
      const [bar, billet] = [e.lanes[1].ends[0], loose.after![0]];
      const lumps = 20 * (4 / 3) * Math.PI * 6 ** 3;
      const share = bar.volumes['15n20'] / totalVolume(bar.volumes);
      expect(billet.volumes['15n20']).toBeCloseTo(lumps * share, 3);
      expect(totalVolume(loose.losses[0].volumes)).toBeCloseTo(totalVolume(bar.volumes) - lumps, 3);
      let met = 0;
      let bright = 0;
      const n = 60_000;
      for (let i = 0; i < n; i++) {
        const [x, y, z] = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map(
          (k) => ((0.5 + i * k) % 1) - 0.5,
        );
        const { widthMm, heightMm } = sizeOf(billet);
        const code = codeAt(billet.field, x * widthMm, y * heightMm, (z + 0.5) * billet.lengthMm);
        if (code === materialCode(shop, '15n20')) bright++;
        if (code === materialCode(shop, '15n20') || code === materialCode(shop, '316l')) met++;
      }
      expect((met / n) * volumeOf(billet)).toBeCloseTo(lumps, -3);
      expect(bright / met).toBeGreaterThan(0.7 * share);
      expect(bright / met).toBeLessThan(1.3 * share);
      expect(volumeOf(solid.after![0]) / totalVolume(solid.after![0].volumes)).toBeCloseTo(1, 6);
      const [said] = sayStep(loose, e.shop).filter((s) => s.includes('other bars'));
      expect(said).toMatch(/^Saw 1 piece of other bars \(.+\) into pieces about 12 mm across/);
    },
  );

  it('says how many offcuts the pieces make', () => {
    const few = withOther([ofOther({ shape: 'offcuts', sizeMm: 30, count: 40, lay: 'placed', places: [] })]);
    const [loose] = few.lanes[0].steps;
    const said = findingsOf(few, loose).find((f) => f.code === 'too few offcuts')!;
    const mended = evaluated(withRemedy(few, loose, said.remedy!).plan);
    const left = findingsOf(mended, mended.lanes[0].steps[0]);
    expect(left.map((f) => f.code)).not.toContain('too few offcuts');
    // They are of no one steel.
    expect(left.find((f) => f.severity === 'error')?.text).toContain('Patterned offcuts');
  });

  it('a bar that winds about its middle stands in powder too', () => {
    const bar = withOther([ofOther({ shape: 'bar' })]).lanes[1].ends[0];
    const outline = [
      [-9, -9],
      [9, -9],
      [9, 9],
      [5, 9],
      [5, -5],
      [-9, -5],
    ] as const;
    const share = outlineArea(outline) / outlineArea(bar.outline);
    const winding = { ...bar, outline, volumes: scaleVolumes(bar.volumes, share) };
    const p = can({ lengthMm: 100, inserts: [ofOther({ shape: 'bar' })] });
    const move = moveOf('can');
    expect(move.check([winding], p, shop).filter((f) => f.severity === 'error')).toEqual([]);
    const [billet] = move.apply([winding], p, shop).after;
    const powder = materialCode(shop, p.powder);
    let [met, n] = [0, 0];
    for (let x = -8.75; x < 9; x += 0.5)
      for (let y = -8.75; y < 9; y += 0.5) {
        n++;
        if (codeAt(billet.field, x, y, 50) !== powder) met++;
      }
    expect((met / n) * 18 * 18).toBeCloseTo(outlineArea(outline), 6);
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
