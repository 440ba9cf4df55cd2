import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { bodyVolume } from '../geometry/bodies.ts';
import type { Outline } from '../geometry/outline.ts';
import { MOVES } from '../moves/index.ts';
import { addVolumes, totalVolume } from '../materials/volumes.ts';
import { sentencesOf } from '../instruct/words.ts';
import { sayStep } from '../plan/index.ts';
import { materialCode } from '../shop/shop.ts';
import { balls, can, rods, shop } from '../tests/cans.ts';
import { evaluated, planOf } from '../tests/plans.ts';
import { fillOf, roomOf } from './can.ts';
import { type Insert, bodyOf, worstOverlap } from './inserts.ts';
import { allPlaced, insideBent, layOut, mostThatLie } from './layout.ts';
import { pouredKinds } from './packing.ts';
import { freed } from './placing.ts';

/** A blade seen from the side, one unit long. */
const BLADE: [number, number][] = [
  [-0.5, -0.1],
  [0.2, -0.12],
  [0.45, -0.02],
  [0.5, 0.06],
  [0.3, 0.1],
  [-0.5, 0.1],
];
const bent = (some: Partial<Insert> = {}): Insert => rods({ shape: 'bent rod', sizeMm: 6, lay: 'rim', count: 2, ...some }); // prettier-ignore
const flat = (inserts: Insert[] = []) =>
  can({ shape: 'free', outline: BLADE, widthMm: 186, lengthMm: 18, wallMm: 6, capMm: 3, inserts });
const work = (p: unknown, pressing: object = {}) => {
  const [loose] = MOVES.can.apply([], MOVES.can.parameters.parse(p), shop).after;
  const begin = MOVES.consolidate.begin([loose], shop);
  return evaluated(
    planOf([
      ['can', p],
      ['consolidate', { ...begin, heats: 0, ...pressing }],
    ]),
  );
};

describe('a can built round a shape', () => {
  it('has a rod of tool steel bent round inside it, by its closed form', () => {
    const p = flat([bent({ count: 2 })]);
    const fill = fillOf(p, shop.materials);
    expect(fill.inserts[0].mm3).toBeCloseTo(2 * bodyVolume(bodyOf(p.inserts[0], roomOf(p), 0)!), 6);
    // As much edge steel as is seen of it.
    const [loose] = MOVES.can.apply([], p, shop).after;
    const code = materialCode(shop, p.inserts[0].material);
    const { widthMm, heightMm, depthMm } = roomOf(p);
    let [met, all] = [0, 0];
    for (let i = 0; i < 60_000; i++) {
      const at = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map(
        (k) => ((0.5 + i * k) % 1) - 0.5,
      );
      all++;
      if (codeAt(loose.field, at[0] * widthMm, at[1] * heightMm, p.capMm + (at[2] + 0.5) * depthMm) === code)
        met++;
    }
    expect(Math.abs(((met / all) * widthMm * heightMm * depthMm) / fill.inserts[0].mm3 - 1)).toBeLessThan(
      0.04,
    );
  });

  it('takes as many rods, one above another, as its depth holds', () => {
    expect(mostThatLie(bent(), roomOf(flat()))).toBe(2);
    expect(mostThatLie(bent({ sizeMm: 4 }), roomOf(flat()))).toBe(3);
  });

  it('rods of two kinds share its depth, none in another', () => {
    const kinds = [bent({ sizeMm: 4, count: 1 }), bent({ sizeMm: 3, count: 2 })];
    const [one, two] = layOut(kinds, roomOf(flat()));
    // 12 mm deep: 4 + 3 + 3 and two gaps of 1.
    expect([...one, ...two].map(({ z }) => z)).toEqual([2, 6.5, 10.5]);
    expect(layOut([bent({ sizeMm: 6, count: 2 }), bent({ sizeMm: 3, count: 1 })], roomOf(flat()))[1]).toEqual(
      [],
    );
    const codes = (inserts: Insert[]) =>
      MOVES.can.check([], flat(inserts), shop).map((f) => [f.severity, f.code] as const);
    expect(codes([bent({ sizeMm: 6, count: 2 }), bent({ sizeMm: 3, count: 1 })])).toContainEqual([
      'error',
      'too large',
    ]);
  });

  it('a ball set by hand into a bent rod is found', () => {
    const { widthMm } = roomOf(flat());
    const at = (x: number) =>
      MOVES.can
        .check(
          [],
          flat([bent(), balls({ sizeMm: 4, count: 1, lay: 'placed', places: [{ x, y: 0, z: 3 }] })]),
          shop,
        )
        .some((f) => f.code === 'overlap');
    expect(at(0)).toBe(false);
    expect(at(4 - widthMm / 2)).toBe(true);
  });

  it('keeps balls in two beds inside the rods, and pours them there', () => {
    const bed = balls({ sizeMm: 3, count: 2000, lay: 'rows', bedMm: 6 });
    const inserts = [bent(), bed];
    const most = mostThatLie(bed, roomOf(flat()), [inserts[0]]);
    const p = flat([bent(), { ...bed, count: most }]);
    const lying = allPlaced(p.inserts, roomOf(p)).filter((q) => q.insert.shape === 'ball');
    expect(lying).toHaveLength(most);
    expect(new Set(lying.map((q) => q.z))).toEqual(new Set([1.5, 7.5]));
    const inside = insideBent(p.inserts, roomOf(p));
    expect(worstOverlap(lying, inside)).toBeNull();
    const poured = pouredKinds([{ radiusMm: 1.5, count: 60 }], { ...inside }, [], 1, 1);
    expect(poured.overlap).toBeLessThan(0.01);
  });

  it('is pressed flat in small steps, caps to the dies, its mass kept and its outline the face', () => {
    const e = work(flat([bent()]));
    const [, pressed] = e.lanes[0].steps;
    const bar = pressed.after![0];
    const mass = (v: readonly Readonly<Record<string, number>>[]) => totalVolume(addVolumes(...v));
    expect(
      mass(pressed.after!.map((b) => b.volumes)) / mass(pressed.before.map((b) => b.volumes)),
    ).toBeCloseTo(1, 9);
    expect(volumeOf(bar) / totalVolume(bar.volumes)).toBeCloseTo(1, 6);
    expect(bar.outline).toHaveLength(pressed.before[0].outline.length);
    const said = sayStep(pressed, e.shop).join(' ');
    expect(said).toContain('its caps to the dies');
    expect(said).not.toContain('sides in turn');
    expect(pressed.findings.map((f) => f.code)).not.toContain('end takes all');
  });

  it('pressed on its narrow sides is warned of, with the way that works', () => {
    const [, pressed] = work(flat(), { endMm: 0 }).lanes[0].steps;
    const found = pressed.findings.find((f) => f.code === 'flat can');
    expect(found?.remedy).toMatchObject({ label: 'Press the caps alone' });
  });

  // Handbook, inserts: 100 × 60 r 15, depth 12, wall 12, rim 12, powder 0.62: pressed to 9.34 it bulges by 3.07.
  it('comes to the handbook’s height and bulge where the inside alone closes', () => {
    const r = 15;
    const corners: Outline = [[35, 15, 0], [-35, 15, 90], [-35, -15, 180], [35, -15, 270]].flatMap(([x, y, from]) =>
      Array.from({ length: 31 }, (_, i) => {
        const at = ((from + 3 * i) * Math.PI) / 180;
        return [x + r * Math.cos(at), y + r * Math.sin(at)] as const;
      }),
    ); // prettier-ignore
    const outline = corners.map(([x, y]) => [x / 100, y / 100] as [number, number]);
    const p = can({
      shape: 'free',
      outline,
      widthMm: 124,
      wallMm: 12,
      lengthMm: 18,
      capMm: 3,
      tapDensity: 0.62,
      inserts: [bent({ sizeMm: 12, count: 1 })],
    });
    const [loose, pressed] = work(p).lanes[0].steps;
    const [before, bar] = [loose.after![0], pressed.after![0]];
    expect(bar.lengthMm - 2 * bar.can!.capAMm).toBeCloseTo(9.34, 2);
    const bulge = (sizeOf(bar).widthMm - sizeOf(before).widthMm) / 2;
    // Its bulge is (A′ − A)/P, of first order; corners that grow with it take π·b² of that.
    expect(Math.abs(bulge - 3.07)).toBeLessThan(0.09);
  });
});

describe('springs, chain, bowed strips and blades in powder', () => {
  it.each([
    ['springs', { shape: 'springs', sizeMm: 14, wireMm: 2, pitchMm: 5 }],
    ['springs in one another', { shape: 'springs', sizeMm: 14, wireMm: 2, pitchMm: 6, strands: 2 }],
    ['bowed strips', { shape: 'strip', sizeMm: 24, thicknessMm: 3, bowMm: 6 }],
    [
      'toothed blades',
      { shape: 'saw blade', sizeMm: 24, thicknessMm: 3, toothMm: 6, teethMm: 9, bowMm: 2, cutMm: 30 },
    ],
    ['chain', { shape: 'chain', sizeMm: 17, wireMm: 5, pitchMm: 18.5 }],
  ] as const)(
    '%s weigh what their wire or sheet does, and keep their volume when the can is pressed solid',
    (_what, some) => {
      const p = can({ inserts: [rods({ ...some, count: 4, lay: 'rows' })] });
      const fill = fillOf(p, shop.materials);
      const e = work(p);
      const [bar] = e.lanes[0].ends;
      const code = materialCode(shop, p.inserts[0].material);
      const { minX, maxX, minY, maxY } = bar.outline.reduce(
        (b, [x, y]) => ({
          minX: Math.min(b.minX, x),
          maxX: Math.max(b.maxX, x),
          minY: Math.min(b.minY, y),
          maxY: Math.max(b.maxY, y),
        }),
        { minX: 0, maxX: 0, minY: 0, maxY: 0 },
      );
      let met = 0;
      const n = 60_000;
      for (let i = 0; i < n; i++) {
        const at = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map((k) => (0.5 + i * k) % 1);
        if (
          codeAt(
            bar.field,
            minX + at[0] * (maxX - minX),
            minY + at[1] * (maxY - minY),
            at[2] * bar.lengthMm,
          ) === code
        )
          met++;
      }
      const seen = (met / n) * (maxX - minX) * (maxY - minY) * bar.lengthMm;
      expect(Math.abs(seen / fill.inserts[0].mm3 - 1)).toBeLessThan(0.06);
    },
  );
});

describe('balls that were poured', () => {
  const said = (...poured: (number | undefined)[]) => {
    const kinds = poured.map((how, i) =>
      balls({
        sizeMm: 6 - 2 * i,
        count: 1,
        lay: 'placed',
        places: [{ x: 10 * i, y: 0, z: 20 }],
        ...(how !== undefined && { poured: how }),
      }),
    );
    return sentencesOf(MOVES.can.does([], can({ inserts: kinds }), shop), shop)
      .filter((s) => s.includes('1 ball'))
      .join(' ');
  };
  it('are said to be poured as they were, not set in as the section shows', () => {
    expect(said(1, 1)).toMatch(/Pour in 1 ball.*mixed with the other sizes.*Pour in 1 ball.*mixed with/);
    expect(said(3, 3)).toContain('in 3 lifts, in each of them by turns with the other sizes');
    expect(said(0, 0)).toContain('at once');
    expect(said(0, 0)).not.toContain('other sizes');
    expect(said(undefined)).toContain('as the section shows');
  });

  it('are no longer so once one is moved by hand', () => {
    const insert = balls({ count: 1, lay: 'placed', poured: 1, places: [{ x: 0, y: 0, z: 20 }] });
    expect(freed(insert, insert.places!).poured).toBeUndefined();
  });
});
