import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { centreLines, pieceLength, pieceStations, sawMarks } from '../geometry/cutting.ts';
import { addVolumes, totalVolume } from '../materials/volumes.ts';
import { makeShop } from '../shop/shop.ts';
import { boughtVolume } from '../moves/index.ts';
import {
  FLOWS,
  anyPlan,
  cutInto,
  drawSquare,
  evaluated,
  fourWay,
  planOf,
  planOfLanes,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { divisionMm } from '../units/length.ts';
import {
  asPlanned,
  PLAN_VERSION,
  type Plan,
  allSteps,
  allStarts,
  cutFromSections,
  cutList,
  ifOnlySoLong,
  readPlan,
  roundsAffordable,
  startFor,
  startsOf,
  steelIn,
  waterfall,
  withStarts,
} from './index.ts';

const DEMO = new URL('../../server/demo/', import.meta.url);
const demos = readdirSync(DEMO).filter((f) => f.endsWith('.json'));
const demo = (file: string): Plan => {
  const read = readPlan(JSON.parse(readFileSync(new URL(file, DEMO), 'utf8')));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.plan;
};

describe('the cut list', () => {
  it.each(demos)(
    '%s: all that is cut weighs what the plan takes in, and comes out of the bars bought',
    (file) => {
      const evaluation = evaluated(demo(file));
      const rows = cutList(evaluation);
      const volume = rows.reduce((sum, r) => sum + boughtVolume(r) * r.count, 0);
      expect(volume / totalVolume(steelIn(evaluation))).toBeCloseTo(1, 9);
      for (const section of cutFromSections(rows, [], evaluation.shop)) {
        expect(section.cutting.missing).toEqual([]);
        const sawn = section.cutting.bars.flatMap((b) => b.piecesMm).length;
        expect(sawn).toBe(section.rows.reduce((sum, r) => sum + r.count, 0));
      }
    },
  );

  const plan = planOf([stackOf(6, 40, 3, 240)]);
  it('strips of one size are one row, bought in as few bars as will do', () => {
    const evaluation = evaluated(plan);
    const rows = cutList(evaluation);
    expect(rows.map((r) => [r.material, r.count, r.lengthMm])).toEqual([
      ['1084', 3, 240],
      ['15n20', 3, 240],
    ]);
    const [section] = cutFromSections(rows, [], evaluation.shop);
    expect(section.buy).toEqual([{ lengthMm: 1000, count: 1, price: null }]);
    expect(section.cutting.bars[0].restMm).toBeCloseTo(1000 - 3 * 241, 9);
  });

  it('takes from the rack first, and buys packages at the least price', () => {
    const materials = [
      {
        ...makeShop().materials.find((m) => m.id === '1084')!,
        packages: [
          { widthMm: 40, thicknessMm: 3, lengthMm: 500, price: 9 },
          { widthMm: 40, thicknessMm: 3, lengthMm: 1000, price: 15 },
          { widthMm: 50, thicknessMm: 3, lengthMm: 1000, price: 1 },
        ],
      },
    ];
    const evaluation = evaluated(planOf([stackOf(6, 40, 3, 240)], { materials }));
    const rack = [{ id: 'r1', material: '1084', widthMm: 40, thicknessMm: 3, lengthMm: 260, count: 1 }];
    const [section] = cutFromSections(cutList(evaluation), rack, evaluation.shop);
    expect(section.take).toEqual([{ id: 'r1', restMm: expect.closeTo(19, 6) }]);
    expect(section.buy).toEqual([{ lengthMm: 500, count: 1, price: 9 }]);
    const [without] = cutFromSections(cutList(evaluation), [], evaluation.shop);
    expect(without.buy).toEqual([{ lengthMm: 1000, count: 1, price: 15 }]);
  });
});

describe('where the steel goes', () => {
  it.each(demos)('%s: what comes in less every cause is the finished bar', (file) => {
    const { parts, finishedKg } = waterfall(evaluated(demo(file)));
    expect(parts.reduce((sum, p) => sum + p.kg, 0)).toBeCloseTo(finishedKg, 9);
  });

  it('pieces of other bars that nobody lays are left over', () => {
    const bar = [stackOf(8, 30, 3, 200), weldIt, drawSquare(20), cutInto(3)] as const;
    const laid = ['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['one'] }] as const;
    const { parts, finishedKg } = waterfall(evaluated(planOfLanes({ one: bar, both: [laid] })));
    expect(parts.find((p) => p.what.startsWith('Left over'))!.kg).toBeLessThan(-0.1);
    expect(parts.reduce((sum, p) => sum + p.kg, 0)).toBeCloseTo(finishedKg, 9);
  });

  it('holds over random plans', () =>
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const evaluation = evaluated(plan);
        if (!evaluation.goal.bar) return;
        const { parts, finishedKg } = waterfall(evaluation);
        expect(parts.reduce((sum, p) => sum + p.kg, 0)).toBeCloseTo(finishedKg, 9);
      }),
      { numRuns: 25 },
    ));
});

const anyDisplay = fc.constantFrom(
  ...([16, 32, 64] as const).map((division) => ({ unit: 'in' as const, division })),
  ...([0.1, 0.5, 1] as const).map((division) => ({ unit: 'mm' as const, division })),
);

it('saw marks: rounded as they add up, no piece differs by more than one division, and all together are the bar', () =>
  fc.assert(
    fc.property(
      fc.record({
        lengthMm: fc.double({ min: 150, max: 900, noNaN: true }),
        pieces: fc.integer({ min: 1, max: 12 }),
        kerfMm: fc.double({ min: 0, max: 3, noNaN: true }),
        cropAMm: fc.constantFrom(0, 6.35, 10),
        cropBMm: fc.constantFrom(0, 8, 12.7),
      }),
      anyDisplay,
      (cut, display) => {
        fc.pre(pieceLength(cut) > 3);
        const { marksMm, largestDifferenceMm } = sawMarks(cut, display);
        const division = divisionMm(display);
        for (const mark of marksMm)
          expect(Math.abs(mark / division - Math.round(mark / division))).toBeLessThan(1e-6);
        // The crops are the first and last lengths; the pieces lie between.
        const starts = [0, ...marksMm.map((mm) => mm + cut.kerfMm)];
        const stops = [...marksMm, cut.lengthMm];
        const all = stops.map((mm, i) => mm - starts[i]);
        const kerfs = marksMm.length * cut.kerfMm;
        expect(all.reduce((sum, mm) => sum + mm, 0) + kerfs).toBeCloseTo(cut.lengthMm, 6);
        const pieces = all.slice(cut.cropAMm > 0 ? 1 : 0, cut.cropBMm > 0 ? -1 : undefined);
        expect(pieces).toHaveLength(cut.pieces);
        expect(Math.max(...pieces) - Math.min(...pieces)).toBeLessThanOrEqual(division + 1e-9);
        expect(largestDifferenceMm).toBeCloseTo(Math.max(...pieces) - Math.min(...pieces), 9);
        const lines = centreLines(cut, display);
        pieceStations(cut).forEach((s, i) => {
          expect(Math.abs(pieces[i] - (s.toMm - s.fromMm))).toBeLessThan(division + 1e-9);
          expect(Math.abs(lines[i] - (s.toMm + s.fromMm) / 2)).toBeLessThanOrEqual(division / 2 + 1e-9);
        });
      },
    ),
    { numRuns: 1000 },
  ));

/** Two or three bars, cut and laid together, ground, welded and drawn: what is free is drawn by lot. */
const anyLanes = fc
  .record({
    layers: fc.integer({ min: 4, max: 14 }),
    widthMm: fc.double({ min: 26, max: 44, noNaN: true }),
    lengths: fc.array(fc.double({ min: 60, max: 400, noNaN: true }), { minLength: 2, maxLength: 3 }),
    goalMm: fc.double({ min: 60, max: 900, noNaN: true }),
    display: anyDisplay,
    free: fc.constantFrom<readonly string[]>(
      ['length'],
      ['length', 'width'],
      ['thickness'],
      ['layers'],
      ['width', 'layers'],
    ),
  })
  .map(({ layers, widthMm, lengths, goalMm, display, free }) => {
    const lanes = Object.fromEntries(
      lengths.map(
        (mm, i) =>
          [`bar${i}`, [stackOf(layers, widthMm, 3, mm), weldIt, drawSquare(18), cutInto(2)]] as const,
      ),
    );
    const from = Object.keys(lanes);
    const laid = ['assemble', { columns: from.length, rows: 1, layout: 'alike', from }] as const;
    return planOfLanes(
      { ...lanes, all: [laid, weldIt, ['draw', { shape: 'flat', widthMm: 30, thicknessMm: 6, heats: 2 }]] },
      {
        goal: { lengthMm: goalMm, widthMm: 30, thicknessMm: 6 },
        shop: { lengths: display },
        free: Object.fromEntries(from.map((id) => [`${id}1`, free])),
      },
    );
  });

describe('working backward', () => {
  it.each(demos)('%s: backward, then forward, meets the goal', (file) => {
    // What is done is not worked backward: the plan as it was planned is.
    const plan = asPlanned(demo(file));
    const answer = startFor(plan, FLOWS);
    expect(answer.ok).toBe(true);
    if (!answer.ok) return;
    const { goal } = evaluated(withStarts(plan, answer.starts));
    expect(goal.bar!.lengthMm).toBeGreaterThanOrEqual(plan.goal.lengthMm - divisionMm(plan.shop.lengths));
  });

  it(
    'over 200 random plans of several bars, by whichever numbers are free, or says what stands in the way',
    () =>
      fc.assert(
        fc.property(anyLanes, (plan) => {
          const answer = startFor(plan, FLOWS);
          if (!answer.ok) return expect(answer.reason.length).toBeGreaterThan(20);
          expect(answer.starts.map((s) => `${s.stepId} ${s.number}`)).toEqual(
            startsOf(plan).map((s) => `${s.stepId} ${s.number}`),
          );
          const found = withStarts(plan, answer.starts);
          expect(readPlan(found).ok).toBe(true);
          expect(evaluated(found).goal.bar!.lengthMm).toBeGreaterThanOrEqual(plan.goal.lengthMm - 1e-9);
          // What is held stays as it was.
          const held = (p: Plan) => allStarts(p).filter((s) => !plan.free![s.stepId].includes(s.number));
          expect(held(found)).toEqual(held(plan));
          // And none could be a division less.
          answer.starts.forEach((start, i) => {
            const step = start.whole ? 1 : divisionMm(plan.shop.lengths);
            const less = answer.starts.map((s, k) => (k === i ? { ...s, value: s.value - step } : s));
            if (less[i].value < 1) return;
            const short = evaluated(withStarts(plan, less)).goal.bar?.lengthMm ?? 0;
            expect(short).toBeLessThan(plan.goal.lengthMm);
          });
        }),
        { numRuns: 200 },
      ),
    240_000,
  );

  it('says so when every number is held', () => {
    const plan = planOf([stackOf(6), weldIt, drawSquare(18)], { free: { s1: [] } });
    expect(startFor(plan, FLOWS)).toMatchObject({ ok: false, reason: expect.stringMatching(/held/) });
  });

  it('a count grows in whole layers', () => {
    const plan = planOf([stackOf(4, 40, 3, 200), weldIt, drawSquare(15)], {
      free: { s1: ['layers'] },
      goal: { lengthMm: 700, widthMm: 15, thicknessMm: 15 },
    });
    const answer = startFor(plan, FLOWS);
    expect(answer).toMatchObject({ ok: true, starts: [{ number: 'layers', whole: true }] });
    if (!answer.ok) return;
    const [{ value }] = answer.starts;
    expect(Number.isInteger(value)).toBe(true);
    const reach = (layers: number) =>
      evaluated(withStarts(plan, [{ ...answer.starts[0], value: layers }])).goal.bar!.lengthMm;
    expect(reach(value)).toBeGreaterThanOrEqual(700);
    expect(reach(value - 1)).toBeLessThan(700);
  });
});

describe('what if', () => {
  const long = planOf(
    [
      stackOf(12, 40, 3, 900),
      weldIt,
      drawSquare(26),
      cutInto(4),
      ['grind', { topMm: 0.4, bottomMm: 0.4, leftMm: 0.4, rightMm: 0.4 }],
      fourWay('mirrored'),
      weldIt,
      drawSquare(26),
    ],
    {
      goal: { lengthMm: 200, widthMm: 26, thicknessMm: 26 },
    },
  );

  it('every further round halves the elements and costs its crops, kerfs, grinding and scale', () => {
    const answers = roundsAffordable(evaluated(long));
    expect(answers.map((a) => a.rounds)).toEqual([0, 1, 2, 3, 4]);
    for (let i = 1; i < 3; i++) {
      expect(answers[i].bandMm / answers[i - 1].bandMm).toBeGreaterThan(0.45);
      expect(answers[i].bandMm / answers[i - 1].bandMm).toBeLessThan(0.55);
      expect(answers[i].lengthMm).toBeLessThan(answers[i - 1].lengthMm);
    }
    for (const a of answers) expect(a.reached).toBe(evaluated(a.plan).goal.reached);
  });

  it('a bar only so long comes to less, by the moves that follow', () => {
    const evaluation = evaluated(long);
    const drawn = allSteps(evaluation)[2];
    const half = ifOnlySoLong(evaluation, drawn, drawn.after![0].lengthMm / 2)!;
    expect(half.goal.bar!.lengthMm).toBeLessThan(evaluation.goal.bar!.lengthMm / 2);
    expect(half.goal.bar!.lengthMm).toBeGreaterThan(evaluation.goal.bar!.lengthMm / 3);
    expect(ifOnlySoLong(evaluation, drawn, drawn.after![0].lengthMm * 2)).toBeNull();
    expect(totalVolume(addVolumes(...half.lanes[0].ends.map((b) => b.volumes)))).toBeGreaterThan(0);
  });
});

it('a plan file of version 1 is brought up to date; one of the future is refused', () => {
  const old = { ...JSON.parse(JSON.stringify(planOf([stackOf(5)]))), version: 1 };
  expect(readPlan(old)).toMatchObject({ ok: true, plan: { version: PLAN_VERSION } });
  const usual = planOf([
    stackOf(5),
    weldIt,
    ['draw', { shape: 'square', sideMm: 12, heats: 1, reckoned: 'usual' }],
  ]);
  const written = JSON.stringify(usual).replace('"usual"', '"ideal"');
  expect(readPlan({ ...JSON.parse(written), version: 2 })).toEqual({ ok: true, plan: usual });
  expect(readPlan({ ...old, version: 99 })).toMatchObject({
    ok: false,
    problems: [
      {
        path: 'version',
        message: expect.stringContaining('version 99 is newer than this Retablo reads (5)'),
      },
    ],
  });
});

it('every plan is the same after a file, in every unit setting', () =>
  fc.assert(
    fc.property(
      anyPlan,
      anyDisplay,
      fc.constantFrom('kg', 'lb'),
      fc.constantFrom('C', 'F'),
      (plan, lengths, masses, temperatures) => {
        const shown = { ...plan, shop: { ...plan.shop, lengths, masses, temperatures } } as Plan;
        const read = readPlan(JSON.parse(JSON.stringify(shown)));
        expect(read).toEqual({ ok: true, plan: shown });
        if (read.ok) expect({ ...read.plan, shop: plan.shop }).toEqual(plan);
      },
    ),
    { numRuns: 40 },
  ));
