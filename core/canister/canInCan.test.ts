import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../billet/billet.ts';
import { findingsOf } from '../judgement/index.ts';
import { totalVolume } from '../materials/volumes.ts';
import { moveOf } from '../moves/index.ts';
import { sayStep, startFor, startsOf, withRemedy, withStarts } from '../plan/index.ts';
import { materialCode } from '../shop/shop.ts';
import { SOLID, balls, can, rods, shop } from '../tests/cans.ts';
import { codeAt } from '../billet/fields/field.ts';
import { evaluated, planOfLanes } from '../tests/plans.ts';
import { type Can, fillOf } from './can.ts';
import { type Insert } from './inserts.ts';

const INNER: Partial<Can> = {
  widthMm: 30,
  heightMm: 30,
  lengthMm: 94,
  wall: '316l',
  wallMm: 1,
  capMm: 1.5,
  powder: '15n20',
  release: 'none',
  inserts: [rods({ material: '52100', sizeMm: 8, count: 4, lay: 'rows' })],
};

const standing: Insert = balls({
  shape: 'bar',
  material: '1018',
  sizeMm: 1,
  count: 1,
  lay: 'rows',
  pieces: [{ lane: 'inner', piece: 1 }],
});

const nested = (inner: Partial<Can> = {}, insert = standing, ...more: [string, object][]) =>
  evaluated(
    planOfLanes({
      outer: [
        ['can', can({ lengthMm: 100, inserts: [insert] })],
        ['consolidate', SOLID],
      ],
      inner: [['can', can({ ...INNER, ...inner })], ...more],
    }),
  );

/** Volumes by code of what a billet's field shows, mm³. */
function shown(billet: Billet): Map<number, number> {
  const { widthMm, heightMm } = sizeOf(billet);
  const n = 120_000;
  const each = (widthMm * heightMm * billet.lengthMm) / n;
  const sums = new Map<number, number>();
  for (let i = 0; i < n; i++) {
    const [u, v, w] = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map(
      (k) => (0.5 + i * k) % 1,
    );
    const code = codeAt(billet.field, (u - 0.5) * widthMm, (v - 0.5) * heightMm, w * billet.lengthMm);
    sums.set(code, (sums.get(code) ?? 0) + each);
  }
  return sums;
}

describe('a can that stands in another with its powder loose', () => {
  it('goes in as it is, keeps its steel, and its emptiness counts with the other’s', () => {
    const e = nested();
    const loose = e.lanes[0].steps[0];
    expect(findingsOf(e, loose).filter((f) => f.severity === 'error')).toEqual([]);
    expect(findingsOf(e, loose).map((f) => f.code)).toContain('can in a can');
    const [inner, outer] = [e.lanes[1].ends[0], loose.after![0]];
    for (const id of ['15n20', '52100', '316l']) expect(outer.volumes[id]).toBeCloseTo(inner.volumes[id], 6);
    expect(volumeOf(outer)).toBeCloseTo(totalVolume(outer.volumes) + outer.can!.poresMm3, 3);
    const alone = can({ lengthMm: 100, inserts: [] });
    const left = fillOf(alone, shop.materials).poresMm3 - volumeOf(inner) * (1 - alone.tapDensity);
    expect(outer.can!.poresMm3).toBeCloseTo(left + inner.can!.poresMm3, 3);
    const [said] = sayStep(loose, e.shop).filter((s) => s.includes('filled can'));
    expect(said).toMatch(/^Stand the filled can in the room, 30 mm × 30 mm/);
  });

  it('is pressed solid with it: every steel as much as went in, the inner wall round its own powder', () => {
    const e = nested();
    const [loose, solid] = e.lanes[0].steps;
    expect(findingsOf(e, solid).filter((f) => f.severity === 'error')).toEqual([]);
    const billet = solid.after![0];
    expect(billet.can!.poresMm3).toBe(0);
    expect(volumeOf(billet)).toBeCloseTo(totalVolume(loose.after![0].volumes), 3);
    const there = shown(billet);
    for (const id of ['15n20', '52100', '316l'])
      expect((there.get(materialCode(shop, id)) ?? 0) / billet.volumes[id]).toBeCloseTo(1, 1);
    const n = 400;
    const { widthMm } = sizeOf(billet);
    const along = Array.from({ length: n }, (_, i) =>
      codeAt(billet.field, ((i + 0.5) / n - 0.5) * widthMm, 0.01, billet.lengthMm / 2),
    );
    const order = along.filter((code, i) => code !== along[i - 1]);
    const [wall, powder, innerWall, own] = ['1018', '1084', '316l', '15n20'].map((id) =>
      materialCode(shop, id),
    );
    expect(order.slice(0, 4)).toEqual([wall, powder, innerWall, own]);
    expect(order.slice(-4)).toEqual([own, innerWall, powder, wall]);
  });

  it('by the flow of the section it is not pressed: it is not even along', () => {
    const e = nested();
    const asked = { ...SOLID, reckoned: 'by flow' };
    const [{ after }] = e.lanes[0].steps;
    expect(moveOf('consolidate').flows!(after!, asked, shop)).toBeNull();
    expect(
      moveOf('consolidate')
        .check(after!, asked, shop)
        .map((f) => f.code),
    ).toContain('not even');
  });

  it('too long, it is not sawn: the outer one is made as deep; offcuts are not sawn off it either', () => {
    for (const [e, code] of [
      [nested({ lengthMm: 120 }), 'long can'],
      [nested({ lengthMm: 120.033 }), 'long can'],
      [nested({}, { ...standing, shape: 'offcuts', sizeMm: 8, count: 3 }), 'loose offcuts'],
    ] as const) {
      const [loose] = e.lanes[0].steps;
      const said = findingsOf(e, loose).find((f) => f.code === code)!;
      const mended = evaluated(withRemedy(e, loose, said.remedy!).plan);
      const [first] = mended.lanes[0].steps;
      expect(findingsOf(mended, first).filter((f) => f.severity === 'error')).toEqual([]);
    }
  });

  it('worked back from a goal it grows with the can that it stands in', () => {
    const plan = planOfLanes(
      {
        inner: [['can', can(INNER)]],
        outer: [
          ['can', can({ lengthMm: 100, inserts: [standing] })],
          ['consolidate', SOLID],
          ['draw', { shape: 'flat', widthMm: 38, thicknessMm: 12, heats: 1 }],
        ],
      },
      { goal: { lengthMm: 800, widthMm: 38, thicknessMm: 12 } },
    );
    expect(startsOf(plan).map((s) => s.laneId)).toEqual(['outer']);
    const found = startFor(plan);
    if (!found.ok) throw new Error(found.reason);
    const e = evaluated(withStarts(plan, found.starts));
    expect(e.goal.sizes!.lengthMm).toBeGreaterThanOrEqual(800);
    expect(e.goal.sizes!.lengthMm).toBeLessThan(806);
    expect(e.lanes[0].ends[0].lengthMm).toBeCloseTo(found.starts[0].value - 6, 6);
  });

  it('in a can that stands in a third it grows with both; a bar that is there keeps its length', () => {
    const middle = can({ ...INNER, widthMm: 44, heightMm: 44, lengthMm: 100, inserts: [standing] });
    const third = { ...standing, pieces: [{ lane: 'middle', piece: 1 }] };
    const plan = planOfLanes({
      inner: [['can', can({ ...INNER, lengthMm: 97 })]],
      middle: [['can', middle]],
      outer: [['can', can({ widthMm: 70, heightMm: 70, lengthMm: 106, inserts: [third] })]],
    });
    const [start] = startsOf(plan);
    const grown = withStarts(plan, [{ ...start, value: 206 }]);
    const long = grown.lanes.map((l) => (l.steps[0].parameters as Can).lengthMm);
    expect(long).toEqual([197, 200, 206]);
    const there = planOfLanes({
      inner: [
        ['stack', { layers: 5, pattern: [{ material: '1084', thicknessMm: 4 }], widthMm: 20, lengthMm: 300 }],
      ],
      outer: [['can', can({ lengthMm: 100, inserts: [standing] })]],
    });
    expect(withStarts(there, startsOf(there)).lanes).toEqual(there.lanes);
    expect(startsOf(there).map((s) => s.laneId)).toEqual(['inner', 'outer']);
  });

  it('goes in solid too, and then as a bar', () => {
    const e = nested({ lengthMm: 110 }, standing, ['consolidate', SOLID]);
    const [loose] = e.lanes[0].steps;
    expect(findingsOf(e, loose).map((f) => f.code)).not.toContain('can in a can');
    expect(sayStep(loose, e.shop).join(' ')).toContain('the finished bar');
  });
});
