import { describe, expect, it } from 'vitest';
import { type Blade, PROFILES, bladeFit, bladeFrom, groundBlade } from '../../blade/index.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { facePlane } from '../../billet/face.ts';
import { codeAt } from '../../billet/fields/field.ts';
import { totalVolume } from '../../materials/volumes.ts';
import { allSteps, evaluate, lastReached, withRecords } from '../../plan/index.ts';
import { sampleCodes } from '../../render/codes.ts';
import { materialCode } from '../../shop/shop.ts';
import { cameOf } from '../../tests/records.ts';
import { type Move, planOf, stackOf, weldIt } from '../../tests/plans.ts';
import { type ShapeParameters, forgedFor, hammered } from './shape.ts';

const flat = (widthMm: number, thicknessMm: number): Move => [
  'draw',
  { shape: 'flat', widthMm, thicknessMm, heats: 0 },
];

/** A chef's blade, w 52 at its middle: a rectangle tells the handbook's figures best. */
const CHEF: Blade = {
  ...bladeFrom(PROFILES[0], 400, 60, 4),
  lengthMm: 200,
  heightMm: 52,
  tangLengthMm: 60,
  tangHeightMm: 20,
  spineMm: 3,
  tipMm: 3,
  edgeMm: 0.3,
  bevel: 'full',
};
const straight = {
  outline: [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as Blade['outline'],
};
const shapedAs = (more: Partial<ShapeParameters>, blade: Blade = CHEF): Move => [
  'shape',
  { ...forgedFor(blade, 8), overMm: 0, heats: 0, tip: 'as it is', ...more },
];
/** A core of a third of the thickness between two outsides. */
const CORED: Move[] = [
  [
    'stack',
    {
      layers: 3,
      pattern: [
        { material: '1018', thicknessMm: 12 },
        { material: '80crv2', thicknessMm: 12 },
      ],
      widthMm: 50,
      lengthMm: 200,
    },
  ],
  ['weld', { heats: 1, temperatureC: 1200 }],
];
/** A strip of tool steel along one side. */
const striped = (stripMm: number): Move[] => [
  [
    'stack',
    {
      layers: 2,
      pattern: [
        { material: '1018', thicknessMm: 38 - stripMm },
        { material: '80crv2', thicknessMm: stripMm },
      ],
      widthMm: 20,
      lengthMm: 400,
    },
  ],
  ['weld', { heats: 1, temperatureC: 1200 }],
  // The strip lay on top: on its side it is the edge.
  ['turn', { to: 'turned 90°' }],
  flat(38, 8),
];

function worked(moves: readonly Move[]): { bar: Billet; e: ReturnType<typeof evaluate> } {
  const e = evaluate(planOf(moves, { shop: { scalePerHeat: 0 } }));
  const stopped = allSteps(e).find((s) => !s.after);
  if (stopped) throw new Error(`${stopped.step.kind}: ${stopped.findings.map((f) => f.text).join()}`);
  return { bar: e.goal.bar!, e };
}

describe('a blade forged to shape', () => {
  it('of a core between edge and grind shows the band that the handbook reckons, and less than when it is only ground', () => {
    const scaleFree = { shop: { scalePerHeat: 0 } };
    const shownMm = (moves: readonly Move[], blade: Blade) => {
      const e = evaluate(planOf(moves, scaleFree));
      const bar = e.goal.bar!;
      const { plane, heightMm } = groundBlade(bar, blade, 'right');
      const rows = 4000;
      // Half-way along the blade.
      const at = {
        ...plane,
        origin: [plane.origin[0], plane.origin[1], blade.heelMm + blade.lengthMm / 2] as const,
        widthMm: 0.1,
        surface: (_s: number, t: number) =>
          plane.surface!((4 + blade.tangLengthMm + blade.lengthMm / 2) / plane.widthMm, t),
      };
      const codes = sampleCodes(bar, at, 1, rows);
      const core = materialCode(e.shop, '80crv2');
      return (codes.filter((c) => c === core).length / rows) * heightMm;
    };
    // w 52, te 1.8, ts 3.5, c ⅓, e 0.3, s 3.0: 7.31 mm forged, 17.98 mm ground from 3.7 mm (the handbook, shaping).
    const blade = { ...CHEF, ...straight, heelMm: 60 };
    const forged = [...CORED, flat(40, 6), shapedAs({ ...straight, spineMm: 3.5, tipMm: 3.5, edgeMm: 1.8 })];
    expect(shownMm(forged, blade)).toBeCloseTo(7.31, 1);
    const long: Move[] = [...CORED, flat(53, 3.7)];
    expect(shownMm(long, { ...blade, heelMm: 70 })).toBeCloseTo(17.98, 1);
  });

  it.each([
    [2, 4.352],
    [4, 8.298],
    [8, 15.324],
  ])('an edge strip of %f mm comes to %f mm, and follows the edge to the tip', (stripMm, isMm) => {
    const { bar, e } = worked([
      ...striped(stripMm),
      shapedAs({ ...straight, spineMm: 4.25, tipMm: 4.25, edgeMm: 1.8 }),
    ]);
    const strip = materialCode(e.shop, '80crv2');
    const { lo, hi } = bar.blank!.forged.sectionAt(160);
    const many = 5200;
    let wide = 0;
    for (let i = 0; i < many; i++)
      if (codeAt(bar.field, lo + ((i + 0.5) / many) * (hi - lo), 0, 160) === strip) wide++;
    expect((wide / many) * 52).toBeCloseTo(isMm, 1);
    // Of a pointed blade it lies along the edge all the way.
    const pointed = worked([...striped(stripMm), shapedAs({ spineMm: 4.25, tipMm: 3, edgeMm: 1.8 })]).bar;
    for (const back of [2, 10, 30, 100]) {
      const z = pointed.lengthMm - back;
      const there = pointed.blank!.forged.sectionAt(z);
      expect(codeAt(pointed.field, there.lo + 0.05, 0, z), String(back)).toBe(strip);
      expect(codeAt(pointed.field, there.hi - 0.05, 0, z), String(back)).not.toBe(strip);
    }
  });

  it('a rim all round follows the outline, on the edge and on the spine, to the tip', () => {
    const rimmed: Move[] = [
      stackOf(9, 30, 3, 300),
      ['weld', { heats: 1, temperatureC: 1200 }],
      flat(34, 10),
      ['laminate', { where: 'rim all round', material: '80crv2', thicknessMm: 2 }],
      ['weld', { heats: 1, temperatureC: 1200 }],
      flat(38, 8),
      shapedAs({ spineMm: 4.25, tipMm: 3, edgeMm: 1.8 }),
    ];
    const { bar, e } = worked(rimmed);
    const rim = materialCode(e.shop, '80crv2');
    for (const back of [2, 8, 20, 60, 120, 200]) {
      const z = bar.lengthMm - back;
      const { lo, hi } = bar.blank!.forged.sectionAt(z);
      const at = (share: number) => codeAt(bar.field, lo + share * (hi - lo), 0, z);
      expect([at(0.004), at(0.996)], String(back)).toEqual([rim, rim]);
      expect(at(0.5), String(back)).not.toBe(rim);
    }
  });

  it('says what spread the handbook reckons for such widths', () => {
    // For 38 × 8 and a mean thickness of 3.025: S 0.3 → 50.87 mm (the handbook, shaping).
    const { bar } = worked([
      ...striped(4),
      shapedAs({ ...straight, heightMm: 50.87, spineMm: 4.25, tipMm: 4.25, edgeMm: 1.8 }),
    ]);
    const { forged, heelMm } = bar.blank!;
    const { spread, lengthening } = hammered(forged, heelMm);
    expect(spread).toBeCloseTo(0.3, 2);
    expect(lengthening[0]).toBeCloseTo(1.975, 2);
  });

  it('only ground, the edge cuts through the strip near the tip; forged, it does not', () => {
    const blade: Blade = { ...CHEF, heelMm: 61, lengthMm: 200, heightMm: 50 };
    const edgeOf = (moves: readonly Move[], heelMm: number) => {
      const { bar, e } = worked(moves);
      return bladeFit(bar, { ...blade, heelMm }, e.shop).edge['80crv2'] ?? 0;
    };
    const ground = [...striped(4), flat(52, 4.4)];
    const forged = [...striped(4), shapedAs({ ...forgedFor(blade, 8), tip: 'as it is', heats: 0 }, blade)];
    // Where the outline turns up more steeply than 45° the blank is fuller, and what is ground off there is strip.
    expect(edgeOf(forged, blade.tangLengthMm + 1)).toBeGreaterThan(0.97);
    expect(edgeOf(ground, 70)).toBeLessThan(0.9);
  });

  it('fits its blade with what was left on it, and says where it is short', () => {
    const blade: Blade = { ...CHEF, heelMm: 61 };
    const { bar, e } = worked([...striped(4), ['shape', { ...forgedFor(blade, 8), heats: 0 }]]);
    const fit = bladeFit(bar, blade, e.shop);
    expect(fit.pastTipMm).toBeCloseTo(1, 6);
    expect(fit.behindTangMm).toBeCloseTo(1, 6);
    expect(fit.besideMm).toBeGreaterThan(0.95);
    expect(fit.thickerMm).toBeGreaterThan(0.3);
    expect(bladeFit(bar, { ...blade, spineMm: 5 }, e.shop).thickerMm).toBeLessThan(0);
    // A tang that was made higher since is short of steel as well.
    expect(bladeFit(bar, { ...blade, tangHeightMm: 40 }, e.shop).besideMm).toBeLessThan(0);
    // The goal is the bar that it was forged of.
    expect(e.goal.spare!.widthMm + e.plan.goal.widthMm).toBeCloseTo(
      sizeOf(lastReached(e)!.before[0]).widthMm,
      1,
    );
  });

  it('leaves a bolster as it was forged, beside the tang and as thick as the bar', () => {
    const blade: Blade = { ...CHEF, heelMm: 61 };
    const seen = (bolsterMm: number) => {
      const { bar } = worked([...striped(4), ['shape', { ...forgedFor(blade, 8), heats: 0, bolsterMm }]]);
      const { plane } = groundBlade(bar, blade, 'right');
      const codes = sampleCodes(bar, plane, 268, 60);
      // Behind the heel, high over the tang.
      return Array.from({ length: 60 }, (_, u) => codes[12 * 268 + 4 + u]).filter((c) => c > 0).length;
    };
    expect(seen(0)).toBe(0);
    expect(seen(10)).toBeGreaterThan(9);
  });

  it('keeps its steel, and says what is cut off at both ends', () => {
    for (const tip of ['as it is', 'spine', 'edge', 'both'] as const) {
      const e = evaluate(
        planOf([stackOf(12, 50, 2, 300), weldIt, flat(36, 8), ['shape', { ...forgedFor(CHEF, 8), tip }]]),
      );
      const step = allSteps(e).at(-1)!;
      const [blank] = step.after!;
      expect(totalVolume(blank.volumes) / blank.blank!.forged.volumeMm3).toBeCloseTo(1, 9);
      expect(step.findings.map((f) => f.code)).toContain('bar left over');
      const drawn = step.findings.some((f) => f.code === 'drawn out at the tip');
      expect(drawn, tip).toBe(tip === 'as it is');
      if (tip === 'spine') {
        // Common practice: the tip’s angle is cut beforehand. The handbook’s chef’s blade: 2.4–2.9 instead of 6.5 to 31.
        const { forged } = blank.blank!;
        const body = forged.lengtheningAt(150);
        for (const back of [2, 5, 10, 20])
          expect(forged.lengtheningAt(forged.lengthMm - back) / body, `${back}`).toBeLessThan(1.9);
      }
    }
  });

  it('refuses what the bar has no steel for, with the nearest that can be done', () => {
    const wide: Move[] = [stackOf(12, 50, 2, 300), weldIt];
    const of = (more: Partial<ShapeParameters>, bar: Move = flat(36, 8)) => {
      const e = evaluate(planOf([...wide, bar, shapedAs(more)]));
      return { e, findings: allSteps(e).at(-1)!.findings };
    };
    const code = (more: Partial<ShapeParameters>, bar?: Move) => of(more, bar).findings.map((f) => f.code);
    expect(code({ spineMm: 9 })).toEqual(['thicker than the bar']);
    expect(code({ edgeMm: 5, spineMm: 4 })).toEqual(['edge thicker']);
    expect(code({ bolsterMm: 60 })).toEqual(['bolster']);
    expect(code({ heightMm: 95, spineMm: 6 })).toContain('spreads more than dies do');
    expect(code({ heightMm: 30 })).toContain('blows on the edge');
    const broad: Blade['outline'] = [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ];
    expect(code({ outline: broad, tip: 'spine' })).toContain('no cut wanted');
    const short = of({ lengthMm: 1800, spineMm: 8, tipMm: 8 });
    expect(short.findings[0].code).toBe('too little steel');
    expect(short.findings[0].remedy).toBeDefined();
    // What is forged is drawn and sawn no more.
    const after = evaluate(
      planOf([...wide, flat(36, 8), shapedAs({}), ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }]]),
    );
    expect(
      allSteps(after)
        .at(-1)!
        .findings.map((f) => f.code),
    ).toEqual(['is a blank']);
  });

  it('of a blank nothing measured changes the shape; it is kept, and said', () => {
    const plan = planOf([stackOf(12, 50, 2, 300), weldIt, flat(36, 8), ['shape', forgedFor(CHEF, 7.8)]]);
    const planned = evaluate(plan);
    const { step } = allSteps(planned).at(-1)!;
    const came = evaluate(withRecords(plan, [cameOf(step.id, [{ piece: '1', widthMm: 30, lengthMm: 200 }])]));
    const result = allSteps(came).at(-1)!;
    expect(result.findings.map((f) => f.code)).toContain('blank measured');
    expect(came.goal.bar!.blank!.forged.lengthMm).toBe(planned.goal.bar!.blank!.forged.lengthMm);
  });

  it('is seen from its four long sides, and nothing beside it', () => {
    const { bar } = worked([...striped(6), ['shape', { ...forgedFor(CHEF, 8), heats: 0, tip: 'as it is' }]]);
    const seen = (['top', 'bottom', 'left', 'right'] as const).map((face) => {
      const codes = sampleCodes(bar, facePlane(bar, face), 300, 60);
      return {
        face,
        steels: new Set(codes.filter((c) => c > 0)),
        share: codes.filter((c) => c > 0).length / codes.length,
      };
    });
    const [top, bottom, edge, spine] = seen;
    expect(top.share).toBeCloseTo(bottom.share, 2);
    expect(top.share).toBeGreaterThan(0.5);
    expect(top.share).toBeLessThan(0.95);
    // The strip alone makes the edge, the other steel alone the spine, each as thin as it is there.
    expect([edge.steels.size, spine.steels.size]).toEqual([1, 1]);
    expect([...edge.steels][0]).not.toBe([...spine.steels][0]);
    expect(edge.share).toBeLessThan(spine.share);
    expect(spine.share).toBeGreaterThan(0.6);
  });
});
